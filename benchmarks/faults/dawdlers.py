"""Clients that send slowly or not at all: everybody else is served meanwhile."""

from __future__ import annotations

import socket
import threading
import time
from urllib.parse import urlsplit

from benchmarks.served import Client, served_in

from .report import Report, seconds

MOST_SECONDS = 2.0
HALF_HEAD = b"GET /api/scenes HTTP/1.1\r\nHost: "


def half_sent(count: int) -> Report:
    """Half a head each, without a cookie; then bodies that stall; then more uploads than are taken at once."""
    report = Report("requests beside dawdlers")
    with served_in() as application:
        client = application.start()
        host, port = client._connection.host, client._connection.port
        cookie = client._headers["Cookie"]
        body = (
            f"POST /api/uploads HTTP/1.1\r\nHost: {host}:{port}\r\nOrigin: http://{host}:{port}\r\n"
            "Content-Type: multipart/form-data; boundary=b\r\nContent-Length: 1000000\r\n"
        )
        for what, sent in (
            ("half a head", HALF_HEAD),
            ("nothing", b""),
            ("a body that stalls, not signed in", f"{body}\r\n--b".encode()),
            ("a body that stalls, signed in", f"{body}Cookie: {cookie}\r\n\r\n--b".encode()),
        ):
            with_them = _held(host, port, sent, count if "signed in" not in what or "not" in what else 12)
            _served_beside(client, report, what)
            for connection in with_them:
                connection.close()
    return report


def _held(host: str, port: int, sent: bytes, count: int) -> list[socket.socket]:
    connections = []
    for _ in range(count):
        connection = socket.create_connection((host, port), timeout=5)
        connection.sendall(sent)
        connections.append(connection)
    time.sleep(0.3)
    return connections


def _served_beside(client: Client, report: Report, what: str) -> None:
    took = []
    for _ in range(5):
        began = time.monotonic()
        client.view()
        took.append(time.monotonic() - began)
        report.tried += 1
    if max(took) > MOST_SECONDS:
        report.wrong.append(f"beside {what}: {max(took):.1f} s")
    report.figures[f"beside {what}"] = seconds(took)


def many_uploads(count: int, size_bytes: int) -> Report:
    """So many files at once: the Desk answers meanwhile, and what is too much is told so."""
    report = Report("the Desk beside uploads")
    with served_in() as application:
        client = application.start()
        address = urlsplit(f"http://{client._connection.host}:{client._connection.port}")
        statuses: list[int] = []

        def bring_in() -> None:
            from .bombs import upload

            own = Client(address.netloc, application.wait()[1], application.var)
            statuses.append(upload(own, "a.bvh", b"HIERARCHY\n" + b"x" * size_bytes)[0])

        threads = [threading.Thread(target=bring_in) for _ in range(count)]
        for thread in threads:
            thread.start()
        _served_beside(client, report, "uploads")
        for thread in threads:
            thread.join()
        report.figures["statuses"] = " ".join(f"{s}: {statuses.count(s)}" for s in sorted(set(statuses)))
        report.wrong += [f"status {s}" for s in statuses if s >= 500]
    return report
