"""Talks to the server that runs on this machine, signed in with the token that lies below var/."""

from __future__ import annotations

import hmac
import os
import secrets
import uuid
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

import msgpack
import requests

from eddyfield.core.errors import DomainError
from eddyfield.web.proof import proof

from .arguments import UsageError

SERVING = "serving"
"""The file below var/ that says where a server answers while it runs."""
TIMEOUT_S = 120
AGAIN = 5


class RunningServer:
    """A session with it. Raises ``UsageError`` where none runs, and ``DomainError`` for what it refuses."""

    def __init__(self, who: str) -> None:
        var = Path(os.environ.get("EDDYFIELD_VAR", "var"))
        try:
            self._address = (var / SERVING).read_text().strip()
            token = (var / "sign-in-token").read_text()
        except OSError:
            raise UsageError("Eddyfield does not run here.", "Start it with ./eddyfield start, or demo.") from None
        self._session = requests.Session()
        self._session.trust_env = False  # it is on this machine: nothing stands between
        self._session.headers["Origin"] = self._address
        self.window_id = str(uuid.uuid4())
        challenge = secrets.token_urlsafe(24)
        shown = self._ask("GET", "/api/proof", params={"challenge": challenge}).text
        port = urlsplit(self._address).port or 0
        if not hmac.compare_digest(shown.encode(), proof(token, challenge, port).encode()):
            raise UsageError(
                f"What answers at {self._address} is not the Eddyfield that was started here.",
                "Start it with ./eddyfield start, or demo.",
            )
        self._ask("GET", "/sign-in", params={"token": token}, allow_redirects=False)
        self._ask("PUT", "/api/access", json={"name": who})

    def _ask(self, method: str, path: str, **more: Any) -> requests.Response:
        try:
            answer = self._session.request(method, self._address + path, timeout=TIMEOUT_S, **more)
        except requests.RequestException:
            raise UsageError("Eddyfield does not answer.", "Start it with ./eddyfield start, or demo.") from None
        if answer.status_code >= 400:
            try:
                message, remedy = (str(answer.json()[part]) for part in ("message", "remedy"))
            except (ValueError, KeyError, TypeError):
                message, remedy = f"The server answered {answer.status_code}.", "Look at what it printed."
            raise Refused(answer.status_code, message, remedy)
        return answer

    def scene_id(self, name: str) -> str:
        """Of the scene with this name or id. Raises ``DomainError`` for none, or several."""
        scenes = self._ask("GET", "/api/scenes").json()["scenes"]
        found = [s for s in scenes if name in (s["name"], s["id"])]
        if len(found) == 1:
            return str(found[0]["id"])
        if found:
            raise DomainError(f"{len(found)} scenes are called “{name}”.", f"Name one by its id: {found[0]['id']}, ...")
        there = ", ".join(f"“{s['name']}”" for s in scenes[:6]) or "none"
        raise DomainError(f"There is no scene “{name}”.", f"Scenes are {there}.")

    def scene(self, scene_id: str) -> dict[str, Any]:
        """As it stands: its revision, and what is in it."""
        view = {"view": {"judged": False, "window_id": self.window_id}}
        answer = self._ask("POST", f"/api/scenes/{scene_id}/view", json=view)
        unpacked = msgpack.unpackb(answer.content, ext_hook=lambda code, data: None, strict_map_key=False)
        self._known = list(unpacked["parts"])
        scene: dict[str, Any] = unpacked["scene"]
        return scene

    def shots(self, scene_id: str) -> list[dict[str, Any]]:
        """The shots of its cut, each with its name, camera, first and last frame, length and transition."""
        return list(self._ask("GET", f"/api/scenes/{scene_id}/cut").json()["shots"])

    def upload(self, file: Path) -> dict[str, Any]:
        """What was found in a file, and in what lies beside it."""
        beside = (
            [] if file.suffix.lower() != ".gltf" else [f for f in file.parent.iterdir() if f.suffix.lower() in BESIDE]
        )
        try:
            files = [("files", (f.name, f.read_bytes())) for f in (file, *beside)]
        except OSError as error:
            raise DomainError(f"“{file}” cannot be read: {error.strerror}.", "Give the path of a file.") from None
        found: dict[str, Any] = self._ask("POST", "/api/uploads", files=files).json()
        return found

    def next_version(self, scene_id: str, found: dict[str, Any], thing_id: str | None) -> dict[str, Any]:
        """Whose next version a file is, what that makes better and worse, and the edit that brings it in."""
        request = {
            "digest": found["digest"],
            "format": found["format"],
            "file_name": found["file_name"],
            "thing_id": thing_id,
        }
        told: dict[str, Any] = self._ask("POST", f"/api/scenes/{scene_id}/next-version", json=request).json()
        return told

    def edit(self, scene_id: str, edit: dict[str, Any], remark: str = "") -> None:
        """Make an edit on the scene as it stands, again where somebody else was quicker."""
        request_id = str(uuid.uuid4())
        for left in reversed(range(AGAIN)):
            revision = self.scene(scene_id)["revision"]
            view = {"judged": False, "window_id": self.window_id, "known_parts": self._known}
            body = {"revision": revision, "request_id": request_id, "edit": edit, "remark": remark, "view": view}
            try:
                self._ask("POST", f"/api/scenes/{scene_id}/edits", json=body)
                return
            except Refused as refused:
                if refused.status != 409 or not left:
                    raise


BESIDE = (".bin", ".png", ".jpg", ".jpeg", ".webp")


class Refused(DomainError):
    """What the server refuses, with its status."""

    def __init__(self, status: int, message: str, remedy: str) -> None:
        super().__init__(message, remedy)
        self.status = status
