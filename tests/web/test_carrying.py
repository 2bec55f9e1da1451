"""What carries the parts: packing, memory, generated types; requests at random; and a server that is killed."""

from __future__ import annotations

import contextlib
import http.client
import os
import re
import signal
import subprocess
import sys
import threading
import time
import uuid
from pathlib import Path
from typing import Any

import msgpack
import numpy as np
import orjson
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from eddyfield.store.database import Database
from eddyfield.store.scenes import Scenes
from eddyfield.web import parts
from eddyfield.web.answers import ANSWERS
from eddyfield.web.generate_types import TARGET, combined_schema, generated
from eddyfield.web.packing import pack
from eddyfield.web.parts import PARTS, StrobingFigures
from eddyfield.web.requests import EditRequest
from eddyfield.web.rigs import PartMemory, size_of

from .conftest import DTYPES, Api

ROOT = Path(__file__).resolve().parents[2]


def test_arrays_travel_raw_and_keep_their_kind() -> None:
    arrays = [np.arange(5, dtype=d) for d in ("<f4", "<i4", "u1", "<u2", "<u4", "<f8")]
    figures = StrobingFigures(
        strobes=True,
        rms_px=1.5,
        max_px=None,
        max_frame=None,
        reversals=[3],
        over_threshold=0,
        feet_slide_m=None,
        feet_slide_px=None,
        legs_stretch=None,
        feet_missed_m=None,
    )
    packed = pack({"arrays": arrays, "figures": figures, "number": np.float64(2.5)})
    found = msgpack.unpackb(packed, ext_hook=lambda code, data: np.frombuffer(data, DTYPES[code]))
    for sent, came in zip(arrays, found["arrays"], strict=True):
        assert came.dtype == sent.dtype
        assert came.tolist() == sent.tolist()
    assert found["figures"]["rms_px"] == 1.5
    with pytest.raises(TypeError):
        pack({"what": object()})


def test_memory_forgets_what_was_used_least_lately() -> None:
    memory = PartMemory(3_700)
    for name in "abc":
        memory[name] = np.zeros(125)  # 1000 bytes each, and some for the rest
    assert memory.get("a") is not None
    memory["d"] = np.zeros(125)
    assert set(memory) == {"a", "c", "d"}
    memory["huge"] = np.zeros(10_000)
    assert "huge" not in memory, "one that is too large is not kept, and drives nothing out"
    assert set(memory) == {"a", "c", "d"}
    for name in "acd":
        del memory[name]
    assert len(memory) == 0
    with pytest.raises(KeyError):
        del memory["huge"]
    assert size_of((np.zeros(10), {"a": np.zeros(5)})) > 120


def test_the_browsers_types_are_current_and_complete() -> None:
    source = generated()
    assert TARGET.read_text() == source
    for model in (*ANSWERS, *PARTS, EditRequest):
        assert f"export interface {model.__name__} " in source
    assert "Float32Array" in source
    assert len(combined_schema()["$defs"]) > 30  # type: ignore[arg-type]


ids = st.one_of(st.text(max_size=40), st.uuids().map(str), st.none(), st.integers())
numbers = st.one_of(st.integers(-(10**12), 10**12), st.floats(), st.text(max_size=8), st.none(), st.booleans())
subjects = st.lists(st.fixed_dictionaries({"kind": st.sampled_from(["point", "joint", "body", "object"]),
    "owner_id": ids, "joint": st.text(max_size=5), "offset": st.lists(numbers, min_size=2, max_size=3)}), max_size=3)  # fmt: skip
targets = st.fixed_dictionaries({"targets": st.lists(st.fixed_dictionaries({"subjects": subjects, "first": numbers}),
    max_size=3)})  # fmt: skip
edits = st.one_of(
    st.fixed_dictionaries({"edit": st.just("place camera"), "camera_id": ids, "pose": st.dictionaries(
        st.sampled_from(["x", "y", "z", "pan", "tilt", "roll", "focal_mm", "q"]), numbers)}),
    st.fixed_dictionaries({"edit": st.just("set camera key"), "camera_id": ids, "time": numbers}),
    st.fixed_dictionaries({"edit": st.just("delete camera keys"), "keys": st.fixed_dictionaries({"camera_id": ids,
        "times": st.lists(numbers, max_size=3)})}),
    st.fixed_dictionaries(
        {
            "edit": st.just("step poses"), "character_id": ids,
            "stepping": st.fixed_dictionaries({"step": numbers, "offset": numbers}),
        }
    ),
    st.fixed_dictionaries(
        {
            "edit": st.just("ride"), "character_id": ids,
            "ride": st.fixed_dictionaries({"way": st.text(max_size=9), "weight": numbers}),
        }
    ),
    st.fixed_dictionaries({"edit": st.just("set play range"), "first": numbers, "last": numbers}),
    st.fixed_dictionaries({"edit": st.sampled_from(["set camera values", "key camera values"]), "camera_id": ids,
        "values": st.dictionaries(st.sampled_from(["x", "focus_m", "aperture", "rail", "aim_weight", "q"]), numbers),
        "time": st.just("1001")}),
    st.fixed_dictionaries({"edit": st.just("mount camera"), "camera_id": ids, "frame": numbers, "mount": st.one_of(
        st.fixed_dictionaries({"kind": st.just("rail"), "closed": st.booleans(),
            "points": st.lists(st.lists(st.floats(-9, 9), min_size=3, max_size=3), max_size=4)}),
        st.fixed_dictionaries({"kind": st.sampled_from(["orbit", "carried", "trailing", "q"]), "half_life_s": numbers}),
        st.fixed_dictionaries({"kind": st.just("crane"), "base": st.lists(numbers, max_size=4), "heading": numbers}))}),
    st.fixed_dictionaries({"edit": st.sampled_from(["aim camera", "focus camera", "hold framing"]), "camera_id": ids,
        "frame": st.integers(900, 1200), "framing": st.fixed_dictionaries({"subjects": subjects, "x": numbers}),
        "aim": targets, "focus": targets}).map(lambda e: {k: v for k, v in e.items() if k in ("edit", "camera_id", "frame",
        {"aim camera": "aim", "focus camera": "focus"}.get(e["edit"], "framing"))}),
    st.fixed_dictionaries({"edit": st.just("bake camera"), "camera_id": ids, "first": st.integers(900, 1200),
        "last": st.integers(900, 1200), "error_px": st.one_of(st.none(), st.floats(-1, 5))}),
    st.fixed_dictionaries({"edit": st.just("set delivery frame"),
        "delivery": st.fixed_dictionaries({"width": numbers, "height": numbers})}),
    st.dictionaries(st.text(max_size=9), numbers, max_size=4),
)  # fmt: skip


@settings(max_examples=120, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(edits, numbers, st.booleans(), st.data())
def test_no_request_breaks_the_server(
    api: Api, demo: str, edit: dict[str, Any], revision: Any, real: bool, data: st.DataObject
) -> None:
    scene = api.view(demo)["scene"]
    if real:  # with the names of things that there are
        edit = {**edit, **({"camera_id": api.camera(demo, -1)["id"]} if "camera_id" in edit else {})}
        edit = {**edit, **({"character_id": scene["characters"][0]["id"]} if "character_id" in edit else {})}
        revision = scene["revision"]
    body = {"revision": revision, "request_id": str(uuid.uuid4()), "edit": edit, "view": {}}
    text = orjson.dumps(body, option=orjson.OPT_NON_STR_KEYS) if data.draw(st.booleans()) else str(body).encode()
    answer = api.client.post(f"/api/scenes/{demo}/edits", data=text, headers={"Origin": "http://localhost"})
    assert answer.status_code in (200, 400, 409, 422), answer.data[:200]
    if answer.status_code != 200:
        assert answer.json["message"]  # type: ignore[index]
        assert api.view(demo)["scene"]["revision"] == scene["revision"], "what is refused changes nothing"


def test_answers_count_as_what_they_hold(api: Api, demo: str) -> None:
    """The bound on memory goes by what answers hold, which are no arrays and no dataclasses."""
    part = parts.MotionPart(
        skin=np.zeros((100, 40, 16), np.float32),
        joints=np.zeros((100, 47, 3), np.float32),
        shapes=np.zeros((100, 0), np.float32),
    )
    assert size_of(part) >= part.skin.nbytes + part.joints.nbytes
    memory = PartMemory(1_000_000)
    for n in range(200):
        memory[f"answer {n}"] = part
    assert memory.held_bytes <= 1_000_000
    assert len(memory) == 1_000_000 // size_of(part) or len(memory) <= 4


@pytest.mark.parametrize("joint", ["nobody", "", "lantern'; DROP TABLE scene; --", "x" * 1500])
def test_a_view_of_a_joint_that_there_is_not_falls_back_and_says_so(api: Api, demo: str, joint: str) -> None:
    character = api.view(demo)["scene"]["characters"][0]["id"]
    scene = api.view(demo, thing_id=character, joint=joint)["scene"]
    assert scene["arc"] is None
    assert "no joint" in scene["fallbacks"][0]
    edited = api.edit(demo, scene["revision"], edit="rename scene", name="Kept all the same")
    assert edited.status_code == 200
    gone = api.view(demo, thing_id=str(uuid.uuid4()), joint=joint)["scene"]
    assert (gone["arc"], len(gone["fallbacks"])) == (None, 1)
    assert api.post(f"/api/scenes/{demo}/view", {"view": {"joint": "x" * 5000}}).status_code == 400


def test_names_are_carried_as_they_are_and_never_as_sql_or_html(api: Api, demo: str) -> None:
    for name in (
        "“Über” die Brücke",
        "'; DELETE FROM scene; --",
        "<script>alert(1)</script>",
        "%s %d \\ \\0",
        "渡し守",
    ):
        scene = api.view(demo)["scene"]
        told = api.unpacked(api.edit(demo, scene["revision"], edit="rename scene", name=name))
        assert told["scene"]["name"] == name
        listed = api.client.get("/api/scenes")
        assert listed.content_type == "application/json"
        assert name in [s["name"] for s in listed.json["scenes"]]  # type: ignore[index]


def test_answers_are_shut_against_framing_and_guessing(api: Api) -> None:
    page = api.client.get("/")
    assert "default-src 'self'" in page.headers["Content-Security-Policy"]
    for answer in (page, api.client.get("/api/scenes")):
        assert answer.headers["X-Content-Type-Options"] == "nosniff"
        assert answer.headers["X-Frame-Options"] == "DENY"
    assert api.client.get("/api/scenes").headers["Cache-Control"] == "no-store"
    assert api.client.get("/api/nothing").status_code in (401, 404)


def test_a_killed_server_loses_no_acknowledged_edit(database: Database, database_server: Any, tmp_path: Path) -> None:
    (tmp_path / "front-end").mkdir()
    environment = {
        **os.environ, "PYTHONPATH": str(ROOT / "src"), "EDDYFIELD_VAR": str(tmp_path),
        "EDDYFIELD_DATABASE_URL": database_server.start().url,
    }  # fmt: skip
    log = tmp_path / "log"
    with log.open("w") as out:
        command = [sys.executable, "-m", "eddyfield", "serve", "--demo", "--port", "0"]
        server = subprocess.Popen(command, env=environment, stderr=out, start_new_session=True)
    until = time.monotonic() + 30
    while not (found := re.search(r"http://([\d.]+:\d+)/sign-in\?token=(\S+)", log.read_text())):
        assert time.monotonic() < until, log.read_text()
        time.sleep(0.05)
    connection = http.client.HTTPConnection(found[1], timeout=10)
    connection.request("GET", f"/sign-in?token={found[2]}")
    answer = connection.getresponse()
    answer.read()
    headers = {"Cookie": (answer.getheader("Set-Cookie") or "").split(";")[0], "Origin": f"http://{found[1]}"}

    def ask(path: str, body: object) -> Any:
        connection.request("POST", path, orjson.dumps(body), headers)
        return msgpack.unpackb(connection.getresponse().read())

    connection.request("GET", "/api/scenes", headers=headers)
    scene_id = next(
        s["id"] for s in orjson.loads(connection.getresponse().read())["scenes"] if s["characters"] == ["Oda", "Quill"]
    )
    revision = ask(f"/api/scenes/{scene_id}/view", {"view": {}})["scene"]["revision"]
    acknowledged = (revision, "")
    threading.Timer(2.0, lambda: os.killpg(server.pid, signal.SIGKILL)).start()
    with contextlib.suppress(OSError, http.client.HTTPException):
        for number in range(3000):
            name = f"Named {number}"
            edit = {"edit": "rename scene", "name": name}
            body = {"revision": acknowledged[0], "request_id": str(uuid.uuid4()), "edit": edit, "view": {}}
            acknowledged = (ask(f"/api/scenes/{scene_id}/edits", body)["scene"]["revision"], name)
    server.wait(10)
    assert acknowledged[0] > revision + 2
    stored = Scenes(database).get(scene_id)
    assert stored.revision in (acknowledged[0], acknowledged[0] + 1)
    if stored.revision == acknowledged[0]:
        assert stored.scene.name == acknowledged[1]
