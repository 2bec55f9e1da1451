"""A server of its own with the demo scene, and a client that edits it as the browser does."""

from __future__ import annotations

import contextlib
import http.client
import os
import re
import subprocess
import sys
import tempfile
import time
import uuid
from collections.abc import Iterator
from pathlib import Path
from time import perf_counter
from typing import Any

import msgpack
import orjson

ROOT = Path(__file__).resolve().parents[1]


class Client:
    """The demo scene, in the hands of one browser."""

    def __init__(self, host: str, token: str, var: Path) -> None:
        self.var = var
        self._connection = http.client.HTTPConnection(host)
        self._connection.request("GET", f"/sign-in?token={token}")
        answer = self._connection.getresponse()
        answer.read()
        cookie = (answer.getheader("Set-Cookie") or "").split(";")[0]
        self._headers = {"Cookie": cookie, "Origin": f"http://{host}"}
        self.scene_id = orjson.loads(self._ask("GET", "/api/scenes"))["scenes"][0]["id"]
        self.parts: dict[str, Any] = {}
        self._view: dict[str, object] = {}
        self._keep(self._take(self._ask("POST", f"/api/scenes/{self.scene_id}/view", {"view": {}})))
        self._view = {"character_id": self.scene["characters"][0]["id"], "joint": "lantern"}

    @property
    def cameras(self) -> list[dict[str, Any]]:
        return [self.parts[name] for name in self.scene["cameras"]]

    def edit(self, **edit: object) -> float:
        """Seconds from the edit, saved, to its answer unpacked."""
        return self._change("edits", edit, {"revision": self.scene["revision"], "request_id": str(uuid.uuid4())})

    def preview(self, **edit: object) -> float:
        """The same for an edit that is shown while it is in the hand."""
        return self._change("preview", edit, {})

    def _change(self, way: str, edit: dict[str, object], more: dict[str, object]) -> float:
        held = [name for name in self.parts if name not in self._of_cameras]
        view = {"held": held, "cameras_of_revision": self.scene["revision"], **self._view}
        body = {**more, "edit": edit, "view": view}
        began = perf_counter()
        answer = self._ask("POST", f"/api/scenes/{self.scene_id}/{way}", body)
        scene = self._take(answer)
        took = perf_counter() - began
        if way == "edits":
            self._keep(scene)
        return took

    def _keep(self, scene: dict[str, Any]) -> None:
        self.scene = scene
        self._of_cameras = {name for view in scene["cameras"] for name in (view, self.parts[view]["path"])}

    def _take(self, answer: bytes) -> dict[str, Any]:
        state = msgpack.unpackb(answer)
        self.parts.update(state["parts"])
        scene: dict[str, Any] = state["scene"]
        return scene

    def _ask(self, method: str, path: str, body: object = None) -> bytes:
        self._connection.request(method, path, orjson.dumps(body), self._headers)
        answer = self._connection.getresponse()
        data = answer.read()
        if answer.status >= 400:
            raise RuntimeError(f"{path}: {answer.status} {data[:300]!r}")
        return data


@contextlib.contextmanager
def served() -> Iterator[Client]:
    """Serve the demo for as long as the block lasts."""
    with tempfile.TemporaryDirectory() as folder:
        var = Path(folder)
        var.chmod(0o755)  # the database's user has to pass
        (var / "front-end").symlink_to(ROOT / "var" / "front-end")
        environment = {**os.environ, "EDDYFIELD_VAR": folder, "PYTHONPATH": str(ROOT / "src")}
        log = var / "log"
        with log.open("w") as out:
            command = [sys.executable, "-m", "eddyfield", "serve", "--demo", "--port", "0"]
            server = subprocess.Popen(command, env=environment, stderr=out)
        try:
            while not (found := re.search(r"http://([\d.]+:\d+)/sign-in\?token=(\S+)", log.read_text())):
                if server.poll() is not None:
                    raise RuntimeError(log.read_text())
                time.sleep(0.1)
            yield Client(found[1], found[2], var)
        finally:
            server.terminate()
            server.wait(20)
