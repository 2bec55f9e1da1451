"""Windows are told of each other's changes: by a stream of events, with places of its own, that ends when it should."""

from __future__ import annotations

import json
import threading
import time
import uuid
from collections.abc import Callable, Iterator

import pytest
from flask.testing import FlaskClient

from eddyfield.store.changes import Changes
from eddyfield.store.database import Database, Unavailable
from eddyfield.web import event_streams
from eddyfield.web.event_streams import EventStreams, TooManyStreams

from .conftest import ORIGIN, Api

ADA = str(uuid.uuid4())


def events(stream: Iterator[bytes]) -> Iterator[tuple[str, dict[str, object]]]:
    """Its events, without the words that say that it is still there."""
    for block in stream:
        lines = dict(line.split(": ", 1) for line in block.decode().splitlines() if ": " in line and line[0] != ":")
        if "event" in lines or b"event:" in block:
            yield lines["event"], json.loads(lines.get("data") or "{}")


def renamed(api: Api, scene_id: str, name: str) -> int:
    view = {"window_id": ADA}
    revision = api.view(scene_id)["scene"]["revision"]
    body = {
        "revision": revision,
        "request_id": str(uuid.uuid4()),
        "edit": {"edit": "rename scene", "name": name},
        "view": view,
    }
    return int(api.unpacked(api.post(f"/api/scenes/{scene_id}/edits", body))["scene"]["revision"])


def test_a_change_is_told_with_who_made_it_within_half_a_second(api: Api, demo: str) -> None:
    assert api.client.put("/api/access", json={"name": "  Ada \n Lind "}, headers=ORIGIN).status_code == 204
    assert api.client.get("/api/access").json == {"name": "Ada Lind"}
    answer = api.client.get("/api/events")
    assert answer.content_type.startswith("text/event-stream")
    told = events(iter(answer.response))  # type: ignore[arg-type]
    assert next(told) == ("listening", {})
    revision = renamed(api, demo, "Told")
    kind, change = next(told)
    assert (kind, change) == (
        "changed",
        {
            "scene_id": demo,
            "revision": revision,
            "way": "done",
            "edit": "rename scene",
            "who": "Ada Lind",
            "window_id": ADA,
            "remark": "",
        },
    )
    answer.close()


def test_limits_are_told_with_who_set_them(api: Api, demo: str) -> None:
    name = api.client.get("/api/access").json["name"]
    answer = api.client.get("/api/events")
    told = (event for kind, event in events(iter(answer.response)) if kind == "limits")  # type: ignore[arg-type]
    for values, was in (({"slide_m": 0.2}, {}), ({}, {"slide_m": 0.2})):
        body = {"values": values, "was": was, "window_id": ADA}
        assert api.client.put("/api/limits", json=body, headers=ORIGIN).status_code == 200
    assert next(told) == {"who": name, "window_id": ADA}
    answer.close()


def test_undo_asks_before_it_takes_back_what_others_did(api: Api, demo: str) -> None:
    renamed(api, demo, "One")
    scene = api.view(demo, window_id=str(uuid.uuid4()))["scene"]
    assert scene["undo"] == "rename scene"
    body = {"revision": scene["revision"], "view": {"window_id": str(uuid.uuid4())}}
    asked = api.post(f"/api/scenes/{demo}/undo", body)
    assert (asked.status_code, asked.json["asks"], asked.json["remedy"]) == (428, True, "Undo that one?")  # type: ignore[index]
    assert "rename scene" in asked.json["message"]  # type: ignore[index]
    assert api.unpacked(api.post(f"/api/scenes/{demo}/undo", {**body, "of_others": True}))["scene"]["name"] != "One"


def test_streams_have_their_places_and_give_them_back(database: Database) -> None:
    streams = EventStreams([Changes(database)], 2)
    first, second = streams.listen(), streams.listen()
    next(first), next(second)
    with pytest.raises(TooManyStreams):
        streams.listen()
    first.close()
    third = streams.listen()
    assert next(third).startswith(b"retry")
    streams.close()
    assert list(second) == []
    assert list(third) == []


def test_a_stream_that_nobody_reads_gives_its_place_back(make_client: Callable[..., FlaskClient]) -> None:
    """As one that is only asked about (HEAD), or whose window is gone before the first word."""
    api = Api(make_client(streams_at_once=1))
    for _ in range(3):
        answer = api.client.head("/api/events")
        assert answer.status_code == 200
        answer.close()


def test_too_many_windows_are_told_so(make_client: Callable[..., FlaskClient]) -> None:
    api = Api(make_client(streams_at_once=0))
    assert api.client.get("/api/events").status_code == 503


def test_whoever_is_not_signed_in_hears_nothing(make_client: Callable[..., FlaskClient]) -> None:
    assert make_client().get("/api/events").status_code == 401


def test_a_stream_outlives_a_database_that_is_away(monkeypatch: pytest.MonkeyPatch, database: Database) -> None:
    changes = Changes(database)
    streams = EventStreams([changes], 2)
    monkeypatch.setattr(event_streams, "AFTER_A_FAULT_SECONDS", 0.01)
    monkeypatch.setattr(event_streams, "STILL_THERE_SECONDS", 0.05)
    away = threading.Event()
    asked, really = [], changes.new

    def new() -> object:
        asked.append(away.is_set())
        if away.is_set():
            raise Unavailable("gone") if len(asked) % 2 else RuntimeError("what nobody thought of")
        return really()

    monkeypatch.setattr(changes, "new", new)
    stream = streams.listen()
    next(stream)
    away.set()
    until = time.monotonic() + 10
    while asked.count(True) < 3 and time.monotonic() < until:
        assert next(stream) == b": still there\n\n"
    away.clear()
    before = len(asked)
    while len(asked) < before + 2 and time.monotonic() < until:
        next(stream)
    assert asked.count(True) >= 3
    assert not asked[-1]
    streams.close()
    assert list(stream) == []


def test_who_takes_nothing_is_let_go(database: Database) -> None:
    streams = EventStreams([Changes(database)], 2)
    stream = streams.listen()
    next(stream)
    (listener,) = streams._listeners
    for _ in range(event_streams.MOST_WAITING + 1):
        event_streams._put(listener, None)
    assert list(stream) == []
