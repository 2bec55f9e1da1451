"""An edit over HTTP, durably saved, to the changed parts in the client's hands; against a bare commit to the database."""

from __future__ import annotations

import http.client
import os
import re
import subprocess
import sys
import tempfile
import time
import uuid
from pathlib import Path
from statistics import median, quantiles
from time import perf_counter

import msgpack
import orjson

from eddyfield.store.database import Database
from eddyfield.store.server import DatabaseServer

from .timing import show

ROOT = Path(__file__).resolve().parents[1]
EDITS = 200


def run() -> None:
    with tempfile.TemporaryDirectory() as folder:
        var = Path(folder)
        (var / "front-end").symlink_to(ROOT / "var" / "front-end")
        environment = {**os.environ, "EDDYFIELD_VAR": folder, "PYTHONPATH": str(ROOT / "src")}
        log = var / "log"
        with log.open("w") as out:
            command = [sys.executable, "-m", "eddyfield", "serve", "--demo", "--port", "0"]
            server = subprocess.Popen(command, env=environment, stderr=out)
        try:
            while not (found := re.search(r"http://([\d.]+:\d+)/sign-in\?token=(\S+)", log.read_text())):
                time.sleep(0.1)
            _measure(found[1], found[2], var)
        finally:
            server.terminate()
            server.wait(20)


def _measure(host: str, token: str, var: Path) -> None:
    connection = http.client.HTTPConnection(host)
    connection.request("GET", f"/sign-in?token={token}")
    answer = connection.getresponse()
    answer.read()
    headers = {"Cookie": (answer.getheader("Set-Cookie") or "").split(";")[0], "Origin": f"http://{host}"}

    def ask(method: str, path: str, body: object = None) -> bytes:
        connection.request(method, path, orjson.dumps(body), headers)
        return connection.getresponse().read()

    scene_id = orjson.loads(ask("GET", "/api/scenes"))["scenes"][0]["id"]
    state = msgpack.unpackb(ask("POST", f"/api/scenes/{scene_id}/view", {"view": {}}))
    held, revision = list(state["parts"]), state["scene"]["revision"]
    character, camera = state["scene"]["characters"][0]["id"], state["scene"]["cameras"][0]["id"]
    times = []
    for number in range(EDITS):
        edit: dict[str, object] = {"edit": "lock camera", "camera_id": camera, "locked": False}
        if number:
            pose = {"x": -5 + number / 100, "y": 1, "z": 2, "pan": 90, "tilt": 0, "roll": 0, "focal_mm": 35}
            edit = {"edit": "set camera key", "camera_id": camera, "time": str(1001 + number % 96), "pose": pose}
        view = {"held": held[-60:], "character_id": character, "joint": "lantern"}
        body = {"revision": revision, "request_id": str(uuid.uuid4()), "edit": edit, "view": view}
        began = perf_counter()
        state = msgpack.unpackb(ask("POST", f"/api/scenes/{scene_id}/edits", body))
        times.append(perf_counter() - began)
        revision = state["scene"]["revision"]
        held += list(state["parts"])
    bare = _bare_commits(var)
    p95 = quantiles(times, n=20)[-1]
    show("a camera key over HTTP, saved, to the changed parts", median(times))
    print(f"    p95 {1000 * p95:.2f} ms")
    print(
        f"    a bare durable commit: {1000 * bare:.2f} ms; the whole edit takes {median(times) / bare:.1f} times as long"
    )


def _bare_commits(var: Path) -> float:
    database = Database(DatabaseServer(var / "database").start().url)
    with database.transaction() as cursor:
        cursor.execute("CREATE TABLE IF NOT EXISTS bare (n INT)")
    times = []
    for number in range(EDITS):
        began = perf_counter()
        with database.transaction() as cursor:
            cursor.execute("INSERT INTO bare VALUES (%s)", (number,))
        times.append(perf_counter() - began)
    return median(times)
