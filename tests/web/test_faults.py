"""Short forms of the probes in ``benchmarks/faults``: kills, nonsense, bombs and dawdlers against the served application."""

from __future__ import annotations

import http.client
import socket
import time
from collections.abc import Iterator
from typing import Any

import pytest

from benchmarks.faults import bombs, dawdlers, kills
from benchmarks.faults.fuzz import fuzz
from benchmarks.served import Client, Refused, Served, served_in
from eddyfield.web.patient_worker import HEAD_SECONDS

from .conftest import ORIGIN, Api


def test_a_first_start_that_is_cut_short_does_not_block_the_next() -> None:
    assert kills.first_starts(2, seed=11).wrong == []


def test_a_killed_database_comes_back_by_itself_with_every_acknowledged_edit() -> None:
    assert kills.databases(2).wrong == []


def test_a_killed_server_goes_on_with_every_acknowledged_edit() -> None:
    assert kills.servers(2).wrong == []


def test_nonsense_is_refused_and_never_an_error_of_the_servers_own(api: Api, demo: str) -> None:
    whole = api.view(demo)
    scene = {**whole["scene"], "cameras": [whole["parts"][name] for name in whole["scene"]["cameras"]]}

    def ask(method: str, path: str, data: bytes, headers: dict[str, str]) -> tuple[int, bytes]:
        answer = api.client.open(path, method=method, data=data, headers={**ORIGIN, **headers})
        return answer.status_code, answer.data

    assert fuzz(400, ask, demo, scene, seed=5).wrong == []


@pytest.fixture(scope="module")
def served() -> Iterator[tuple[Served, Client]]:
    with served_in() as application:
        yield application, application.start()


def test_bombs_are_refused_in_little_time_and_memory(served: tuple[Served, Client]) -> None:
    application, client = served
    assert application.process is not None
    for name, data in bombs.bombs().items():
        began = time.monotonic()
        status, said = bombs.upload(client, name, data)
        assert status == (200 if name == "often.gltf" else 422), (name, said[:200])
        assert time.monotonic() - began < bombs.MOST_SECONDS, name
    assert bombs.peak_mb(application.process.pid) < bombs.MOST_MB


@pytest.mark.parametrize("sent", [b"", dawdlers.HALF_HEAD, b"POST /api/uploads HTTP/1.1\r\nContent-Length: 9\r\n\r\n"])
def test_dawdlers_stop_nobody_else(served: tuple[Served, Client], sent: bytes) -> None:
    _, client = served
    host, port = client._connection.host, client._connection.port
    connections = dawdlers._held(host, port, sent, 40)
    began = time.monotonic()
    client.view()
    assert time.monotonic() - began < HEAD_SECONDS - 2, "it did not wait for one of them to be given up"
    for connection in connections:
        connection.close()


def test_a_head_that_comes_in_pieces_is_answered(served: tuple[Served, Client]) -> None:
    _, client = served
    host, port = client._connection.host, client._connection.port
    with socket.create_connection((host, port), timeout=10) as connection:
        for piece in (b"GET / HT", b"TP/1.1\r\nHost: ", f"{host}:{port}\r\n".encode(), b"\r\n"):
            connection.sendall(piece)
            time.sleep(0.05)
        assert connection.recv(15).startswith(b"HTTP/1.1 200")


def _stalled_uploads(client: Client, count: int) -> list[socket.socket]:
    host, port = client._connection.host, client._connection.port
    head = (
        f"POST /api/uploads HTTP/1.1\r\nHost: {host}:{port}\r\nOrigin: http://{host}:{port}\r\n"
        f"Cookie: {client._headers['Cookie']}\r\nContent-Type: multipart/form-data; boundary=b\r\n"
        "Content-Length: 100000\r\n\r\n--b"
    )
    return dawdlers._held(host, port, head.encode(), count)


def test_slow_uploads_hold_no_place_of_those_that_have_arrived(served: tuple[Served, Client]) -> None:
    _, client = served
    connections = _stalled_uploads(client, 6)
    for _ in range(6):
        client._connection.close()  # by another connection each time: either process may have got the others
        status, said = bombs.upload(client, "a.bvh", b"HIERARCHY")
        assert status == 422, said
    for connection in connections:
        connection.close()


def test_more_uploads_than_are_taken_at_once_are_told_so(served: tuple[Served, Client]) -> None:
    _, client = served
    connections = _stalled_uploads(client, 30)  # two processes take eight each
    until = time.monotonic() + 15  # on a busy machine it takes a while until all of them are being listened to
    while True:
        client._connection.close()
        status, said = bombs.upload(client, "a.bvh", b"HIERARCHY")
        if status == 429:
            break
        assert time.monotonic() < until, (status, said)
    assert b"in a moment" in said
    for connection in connections:
        connection.close()


def test_cookies_are_named_by_the_port_and_two_servers_do_not_sign_each_other_out(
    served: tuple[Served, Client],
) -> None:
    _, client = served
    assert client._headers["Cookie"].startswith(f"eddyfield-{client._connection.port}=")


def test_a_renewed_address_signs_everybody_else_out_in_every_process(served: tuple[Served, Client]) -> None:
    application, client = served
    host = f"{client._connection.host}:{client._connection.port}"
    other = Client(host, (application.var / "sign-in-token").read_text(), application.var)
    address, headers = _renewed(other)
    assert address.startswith(f"http://{host}/sign-in?token=")
    for _ in range(6):  # both processes
        with pytest.raises(Refused) as refused:
            Client(host, "wrong", application.var)
        assert refused.value.status in (401, 403)
        client._connection.close()
        with pytest.raises(Refused) as refused:
            client.view()
        assert refused.value.status == 401
        other._headers["Cookie"] = headers
        other.view()
    fresh = Client(host, address.split("token=")[1], application.var)
    client._headers = fresh._headers
    client.view()


def _renewed(client: Client) -> tuple[str, str]:
    client._connection.request("POST", "/api/renew-address", b"", client._headers)
    answer: http.client.HTTPResponse = client._connection.getresponse()
    cookie = (answer.getheader("Set-Cookie") or "").split(";")[0]
    return answer.read().decode(), cookie


def test_signing_out_ends_the_session(api: Api) -> None:
    assert api.client.get("/api/scenes").status_code == 200
    assert api.client.post("/api/sign-out", headers=ORIGIN).status_code == 204
    assert api.client.get("/api/scenes").status_code == 401


def test_ids_used_elsewhere_are_refused_and_change_nothing(api: Api, demo: str, database: Any) -> None:
    scene = api.view(demo)["scene"]
    camera, other = api.camera(demo), api.camera(demo, 1)["id"]
    for new_id, status in ((other, 422), (other.upper(), 422)):
        answer = api.edit(demo, scene["revision"], edit="copy camera", camera_id=camera["id"], new_id=new_id)
        assert answer.status_code == status, answer.data
    # The id of a saved view is taken all over the database.
    view_id = "12345678-1234-4123-8123-123456789abc"
    saved = api.edit(
        demo, scene["revision"], edit="save view", camera_id=camera["id"], view_id=view_id, name="A", time="1010"
    )
    revision = api.unpacked(saved)["scene"]["revision"]
    loud = api.edit(demo, revision, edit="save view", camera_id=other, view_id=view_id.upper(), name="A", time="1010")
    assert loud.status_code == 422, "the database does not tell capitals apart"
    again = api.edit(demo, revision, edit="save view", camera_id=other, view_id=view_id, name="A", time="1010")
    assert again.status_code == 409
    assert again.json is not None
    assert "used elsewhere" in again.json["message"]
    assert api.view(demo)["scene"]["revision"] == revision
    long = api.edit(demo, revision, edit="rename scene", name="x" * 70_000)
    assert long.status_code == 400


def test_a_picture_for_no_scene_is_not_taken(api: Api) -> None:
    png = b"\x89PNG\r\n\x1a\n"
    path = "/api/scenes/99999999-9999-4999-8999-999999999999/thumbnail"
    assert api.client.put(path, data=png, headers=ORIGIN).status_code == 404


def test_what_cannot_be_shown_is_not_stored(api: Api, demo: str) -> None:
    scene = api.view(demo)["scene"]
    oda = scene["characters"][0]["id"]
    answer = api.edit(
        demo, scene["revision"], edit="ride", character_id=oda, ride={"way": "rigid", "anchor": "no such joint"}
    )
    assert answer.status_code == 422
    after = api.view(demo)["scene"]
    assert after["revision"] == scene["revision"]
    body = {
        "revision": scene["revision"], "request_id": "22222222-2222-4222-8222-222222222222",
        "edit": {"edit": "rename scene", "name": "Stored and answered"},
        "view": {"thing_id": oda, "joint": "no such joint"},
    }  # fmt: skip
    answered = api.unpacked(api.post(f"/api/scenes/{demo}/edits", body))["scene"]
    assert answered["name"] == "Stored and answered"
    assert "no such joint" in answered["fallbacks"][0]


def test_an_undo_that_is_sent_again_is_done_once(api: Api, demo: str) -> None:
    revision = api.view(demo)["scene"]["revision"]
    for name in ("One", "Two"):
        revision = api.unpacked(api.edit(demo, revision, edit="rename scene", name=name))["scene"]["revision"]
    body = {"revision": revision, "request_id": "33333333-3333-4333-8333-333333333333"}
    first = api.unpacked(api.post(f"/api/scenes/{demo}/undo", body))["scene"]
    second = api.unpacked(api.post(f"/api/scenes/{demo}/undo", body))["scene"]
    assert (first["name"], first["revision"]) == (second["name"], second["revision"]) == ("One", revision + 1)


def test_a_reading_that_cannot_be_worked_out_says_so_and_stops_nothing(
    api: Api, demo: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(*_: object) -> None:
        raise ZeroDivisionError("nothing to divide by")

    monkeypatch.setattr("eddyfield.core.readings.scene_readings.camera_readings", broken)
    scene = api.view(demo)["scene"]
    assert [r["note"] for r in scene["readings"] if r["kind"] == "cannot_be_judged"]
    assert api.edit(demo, scene["revision"], edit="rename scene", name="Goes on").status_code == 200


def test_a_full_disk_is_said_before_and_told_apart(make_client: Any, tmp_path: Any, demo: str) -> None:
    from eddyfield.store.disk import Disk

    full = Api(make_client(disk=Disk(tmp_path, least_mb=2**40, low_mb=2**41)))
    assert "full" in full.client.get("/api/scenes").json["warning"]  # type: ignore[index]
    scene = full.view(demo)["scene"]
    answer = full.edit(demo, scene["revision"], edit="rename scene", name="No room")
    assert answer.status_code == 507
    assert answer.json is not None
    assert "disk is full" in answer.json["message"]
    picture = full.client.put(f"/api/scenes/{demo}/thumbnail", data=b"\x89PNG\r\n\x1a\n", headers=ORIGIN)
    assert (picture.status_code, "disk is full" in picture.json["message"]) == (507, True)
    low = Api(make_client(disk=Disk(tmp_path, least_mb=0, low_mb=2**41)))
    assert "nearly full" in low.client.get("/api/scenes").json["warning"]  # type: ignore[index]
    assert low.edit(demo, scene["revision"], edit="rename scene", name="Room").status_code == 200
