"""Streams of what changes, opened and left by the dozen: whoever asks afterwards is answered."""

from __future__ import annotations

import socket
import time

from benchmarks.served import served_in

from .report import Report, seconds


def opened_and_left(count: int, requests: int) -> Report:
    report, took = Report("requests after streams"), []
    with served_in() as application:
        client = application.start()
        host, port = client._connection.host, client._connection.port
        head = f"GET /api/events HTTP/1.1\r\nHost: {host}:{port}\r\nCookie: {client._headers['Cookie']}\r\n\r\n"
        for _ in range(2):
            streams = []
            for _ in range(count):
                stream = socket.create_connection((host, port), timeout=5)
                stream.sendall(head.encode())
                streams.append(stream)
            time.sleep(0.5)
            for stream in streams:
                stream.close()
        for _ in range(requests):
            began = time.monotonic()
            report.tried += 1
            status, said = client.raw("GET", "/api/scenes", b"")
            took.append(time.monotonic() - began)
            if status != 200:
                report.wrong.append(f"{status}: {said[:100]!r}")
    report.figures["each took"] = seconds(took)
    return report
