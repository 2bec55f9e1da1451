"""A server of its own with the demo scene, and a client that edits it as the browser does."""

from __future__ import annotations

import contextlib
import http.client
import os
import re
import signal
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
import numpy as np
import orjson

from eddyfield.store.server_process import end, servers_of
from eddyfield.web.packing import CODES
from eddyfield.web.part_changes import changed_by

ROOT = Path(__file__).resolve().parents[1]
FRONT_END = Path(os.environ.get("EDDYFIELD_VAR", ROOT / "var")) / "front-end"


DTYPES = {code: f"<{kind}" for kind, code in CODES.items()}


class Refused(Exception):
    """The server answered with an error."""

    def __init__(self, status: int, text: str) -> None:
        super().__init__(text)
        self.status = status


class Client:
    """The demo scene, in the hands of one browser."""

    def __init__(self, host: str, token: str, var: Path, scene_id: str | None = None) -> None:
        self.var = var
        self._connection = http.client.HTTPConnection(host)
        self._connection.request("GET", f"/sign-in?token={token}")
        answer = self._connection.getresponse()
        answer.read()
        cookie = (answer.getheader("Set-Cookie") or "").split(";")[0]
        self._headers = {"Cookie": cookie, "Origin": f"http://{host}"}
        self.scene_id = scene_id or orjson.loads(self._ask("GET", "/api/scenes"))["scenes"][0]["id"]
        self.parts: dict[str, Any] = {}
        self._view: dict[str, object] = {}
        self._keep(self._take(self._ask("POST", f"/api/scenes/{self.scene_id}/view", {"view": {}})))
        self._view = {"thing_id": self.scene["characters"][0]["id"], "joint": "hips" if scene_id else "lantern"}

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
        view = {
            "known_parts": held,
            "cameras_of_revision": self.scene["revision"],
            "judged": False,
            "takes_changes": True,
            **self._view,
        }
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
        self._of_cameras = {
            name for view in scene["cameras"] for name in (view, self.parts[view]["path"], self.parts[view]["channels"])
        }

    def _take(self, answer: bytes) -> dict[str, Any]:
        state = msgpack.unpackb(answer, ext_hook=lambda code, data: np.frombuffer(data, DTYPES[code]))
        for name, part in state["parts"].items():
            self.parts[name] = changed_by(self.parts[part["base"]], part) if part.get("kind") == "change" else part
        scene: dict[str, Any] = state["scene"]
        scene["cut"] = self.parts[scene["shots"]]["shots"]
        return scene

    def _ask(self, method: str, path: str, body: object = None) -> bytes:
        self._connection.request(method, path, orjson.dumps(body), self._headers)
        answer = self._connection.getresponse()
        data = answer.read()
        if answer.status >= 400:
            raise Refused(answer.status, f"{path}: {answer.status} {data[:300]!r}")
        return data

    def look(self) -> None:
        """Take up what others have made of the scene."""
        body = {"view": {"known_parts": list(self.parts), "judged": False}}
        self._keep(self._take(self._ask("POST", f"/api/scenes/{self.scene_id}/view", body)))

    def view(self) -> dict[str, Any]:
        """The scene as it is stored."""
        body = {"view": {"known_parts": list(self.parts)}}
        return self._take(self._ask("POST", f"/api/scenes/{self.scene_id}/view", body))

    def raw(self, method: str, path: str, data: bytes, headers: dict[str, str] | None = None) -> tuple[int, bytes]:
        """Any request at all: its status, and what came back."""
        self._connection.request(method, path, data, {**self._headers, **(headers or {})})
        answer = self._connection.getresponse()
        return answer.status, answer.read()


class Served:
    """The application in a folder, as its own command serves it; it can be killed and started again."""

    def __init__(self, var: Path, demo: bool = True) -> None:
        self.var, self._demo = var, demo
        self.process: subprocess.Popen[bytes] | None = None
        if not (var / "front-end").exists():
            (var / "front-end").symlink_to(FRONT_END)

    def begin(self) -> None:
        """Start the command, and wait for nothing."""
        environment = {**os.environ, "EDDYFIELD_VAR": str(self.var), "PYTHONPATH": str(ROOT / "src")}
        command = [sys.executable, "-m", "eddyfield", "serve", *(["--demo"] if self._demo else []), "--port", "0"]
        with (self.var / "log").open("w") as out:
            self.process = subprocess.Popen(command, env=environment, stderr=out, stdout=out, start_new_session=True)

    def wait(self, seconds: float = 60) -> tuple[str, str]:
        """The host and the token, once it answers."""
        assert self.process is not None
        until = time.monotonic() + seconds
        log = self.var / "log"
        while not (found := re.search(r"ready: open http://([\d.]+:\d+)/sign-in\?token=(\S+)", log.read_text())):
            if self.process.poll() is not None or time.monotonic() > until:
                raise RuntimeError(f"it does not start:\n{log.read_text()}")
            time.sleep(0.05)
        return found[1], found[2]

    def start(self) -> Client:
        self.begin()
        return Client(*self.wait(), self.var)

    def kill(self) -> None:
        """As by a power cut, but for the database, which is a process of its own."""
        assert self.process is not None
        with contextlib.suppress(ProcessLookupError):
            os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait(10)

    def stop(self) -> None:
        if self.process is not None:
            self.process.terminate()
            try:
                self.process.wait(30)
            except subprocess.TimeoutExpired:
                self.kill()

    def database_pids(self) -> list[int]:
        return servers_of(self.var.resolve() / "database" / "data")


@contextlib.contextmanager
def served_in(demo: bool = True) -> Iterator[Served]:
    """A folder for an application of its own; whatever runs there is gone afterwards."""
    with tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as folder:
        var = Path(folder)
        var.chmod(0o755)  # the database's user has to pass
        application = Served(var, demo)
        try:
            yield application
        finally:
            application.stop()
            for pid in application.database_pids():
                end(pid)


@contextlib.contextmanager
def served() -> Iterator[Client]:
    """Serve the demo for as long as the block lasts."""
    with served_in() as application:
        yield application.start()
