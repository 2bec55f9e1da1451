"""Requests that make no sense: none may end in an error of the server's own, and none that is refused may change anything."""

from __future__ import annotations

import http.client
import random
import uuid
from collections import Counter
from collections.abc import Callable
from typing import Any

import orjson

from benchmarks.served import served_in

from .bombs import peak_mb
from .report import Report

Ask = Callable[[str, str, bytes, dict[str, str]], tuple[int, bytes]]
NONSENSE: tuple[Any, ...] = (
    None, True, -1, 0, 1, 2**31, 2**63, 10**30, -1e308, 1.5, "", "x", "x" * 70_000, "\0", "’\u202e", "../..", "%s",
    "' OR 1=1 --", [], [[]], {}, {"a": 1}, [1] * 5000, "1/0", "9" * 400, "00000000-0000-0000-0000-000000000000",
)  # fmt: skip
METHODS = ("GET", "POST", "PUT", "DELETE", "PATCH", "HEAD")


def requests(count: int, seed: int = 4) -> Report:
    """Against a served application of its own."""
    with served_in() as application:
        client = application.start()
        scene = {**client.scene, "cameras": client.cameras}
        own = client.scene_id

        def ask(method: str, path: str, data: bytes, headers: dict[str, str]) -> tuple[int, bytes]:
            for _ in range(2):  # a connection may have been closed since, as after a body that nobody read
                try:
                    return client.raw(method, path, data, headers)
                except (http.client.HTTPException, OSError) as error:
                    client._connection.close()
                    said = repr(error).encode()
            return 0, said

        report = fuzz(count, ask, own, scene, seed)
        assert application.process is not None
        report.figures["memory at most"] = f"{peak_mb(application.process.pid)} MB"
        return report


def fuzz(count: int, ask: Ask, scene_id: str, scene: dict[str, Any], seed: int) -> Report:
    """So many requests on a scene, as ``ask`` sends them."""
    rng, report, statuses = random.Random(seed), Report("fuzzed requests"), Counter[int]()
    edits, revision = known_edits(scene), int(scene["revision"])
    for _ in range(count):
        method, path, data, headers = _request(rng, scene_id, edits, revision)
        status, said = ask(method, path, data, headers)
        if status == 409:  # so that most edits get as far as being made
            revision = orjson.loads(said)["revision"] or revision
        statuses[status] += 1
        report.tried += 1
        if status >= 500 or status == 0:
            report.wrong.append(f"{status} {method} {path[:120]} {data[:200]!r}: {said[:160]!r}")
    report.figures["statuses"] = " ".join(f"{status}: {n}" for status, n in sorted(statuses.items()))
    return report


def known_edits(scene: dict[str, Any]) -> list[dict[str, Any]]:
    """Edits that make sense, as a start for such as do not."""
    camera, character = scene["cameras"][0]["id"], scene["characters"][0]["id"]
    pose = {"x": 0, "y": 1, "z": 5, "pan": 0, "tilt": 0, "roll": 0, "focal_mm": 35}
    body = {"kind": "body", "owner_id": character}
    return [
        {"edit": "place camera", "camera_id": camera, "pose": pose, "frame": 1010},
        {"edit": "set camera key", "camera_id": camera, "time": "1010"},
        {"edit": "set camera values", "camera_id": camera, "values": {"roll": 3}},
        {"edit": "delete camera keys", "keys": {"camera_id": camera, "times": ["1010"]}},
        {"edit": "lock camera", "camera_id": camera, "locks": ["place"]},
        {"edit": "rename camera", "camera_id": camera, "name": "A"},
        {"edit": "copy camera", "camera_id": camera, "new_id": str(uuid.uuid4())},
        {"edit": "copy camera", "camera_id": camera, "new_id": camera.upper()},
        {"edit": "make camera", "camera_id": str(uuid.uuid4()), "pose": pose, "frame": 1010},
        {"edit": "make face camera", "camera_id": camera, "character_id": character, "frame": 1010},
        {"edit": "mount camera", "camera_id": camera, "mount": {"kind": "orbit", "pivot": body}, "frame": 1010},
        {"edit": "aim camera", "camera_id": camera, "aim": {"targets": [{"subjects": [body]}]}, "frame": 1010},
        {"edit": "hold framing", "camera_id": camera, "framing": {"subjects": [body]}, "frame": 1010},
        {"edit": "bake camera", "camera_id": camera, "first": 1001, "last": 1096, "error_px": 1.0},
        {"edit": "save view", "camera_id": camera, "view_id": str(uuid.uuid4()), "name": "V", "time": "1010"},
        {"edit": "step poses", "character_id": character, "stepping": {"step": 2}},
        {"edit": "ride", "character_id": character, "ride": {"way": "rigid", "anchor": "hips"}},
        {"edit": "rename scene", "name": "S"},
        {"edit": "set play range", "first": 1001, "last": 1096},
        {"edit": "want room", "room": {"headroom_least": 0.02, "headroom_most": 0.3, "lead_least": 0.3}},
    ]  # fmt: skip


def _request(
    rng: random.Random, scene_id: str, edits: list[dict[str, Any]], revision: int
) -> tuple[str, str, bytes, dict[str, str]]:
    scene = rng.choice([scene_id] * 8 + [scene_id.upper(), str(uuid.uuid4()), "x", "..", "%00"])
    if rng.random() < 0.75:
        way = rng.choice(["edits"] * 4 + ["preview", "view", "undo", "redo"])
        body: Any = {"revision": rng.choice([revision] * 8 + [1, 10**6]), "request_id": str(uuid.uuid4()), "view": {}}
        if way in ("edits", "preview"):
            body["edit"] = rng.choice(edits)
        if way in ("preview", "view"):
            body.pop("revision"), body.pop("request_id")
        for _ in range(rng.randint(0, 3)):
            body = _spoilt(rng, body)
        data = orjson.dumps(_sendable(body))
        if rng.random() < 0.05:
            data = data[: rng.randint(0, len(data))]
        return "POST", f"/api/scenes/{scene}/{way}", data, {}
    path = rng.choice([
        "/api/scenes", f"/api/scenes/{scene}/thumbnail", f"/api/scenes/{scene}/exports/notes", "/sign-in?token=x",
        f"/api/scenes/{scene}/exports/arc.csv?character=x&joint=y&frozen={rng.choice(['', 'x', '-1', '9' * 30])}",
        f"/api/scenes/{scene}/exports/slip.csv", f"/api/scenes/{scene}/exports/shot.glb", f"/scenes/{scene}",
        "/api/uploads", f"/api/scenes/{scene}/restore", "/api/nothing", "/assets/../secret",
    ])  # fmt: skip
    method = rng.choice(METHODS)
    if method == "DELETE" and path == f"/api/scenes/{scene}":
        method = "GET"
    data = b"" if method in ("GET", "HEAD") else rng.choice([b"", b"\x89PNG\r\n\x1a\n", b"{}", rng.randbytes(200)])
    kind = rng.choice(["application/json", "multipart/form-data; boundary=x", "multipart/form-data", "text/plain"])
    return method, path, data, {"Content-Type": kind}


def _spoilt(rng: random.Random, value: Any) -> Any:
    """A copy with one part taken out, replaced or added, somewhere."""
    if isinstance(value, dict) and value and rng.random() < 0.8:
        key = rng.choice(list(value))
        changed = dict(value)
        choice = rng.random()
        if choice < 0.6:
            changed[key] = _spoilt(rng, value[key])
        elif choice < 0.75:
            del changed[key]
        elif choice < 0.9:
            changed[key] = rng.choice(NONSENSE)
        else:
            changed["more"] = rng.choice(NONSENSE)
        return changed
    if isinstance(value, list) and value and rng.random() < 0.6:
        return [_spoilt(rng, v) if rng.random() < 0.5 else v for v in value]
    return rng.choice(NONSENSE)


def _sendable(value: Any) -> Any:
    """Whole numbers that JSON's writer refuses as the nearest it takes."""
    if isinstance(value, bool) or not isinstance(value, int):
        if isinstance(value, dict):
            return {k: _sendable(v) for k, v in value.items()}
        return [_sendable(v) for v in value] if isinstance(value, list) else value
    return value if abs(value) < 2**63 else float(value)
