"""The application on the real database, and a browser's side of its requests."""

from __future__ import annotations

import io
import uuid
from collections.abc import Callable
from pathlib import Path
from typing import Any

import msgpack
import numpy as np
import pytest
from flask import Flask
from flask.testing import FlaskClient
from werkzeug.test import TestResponse

from eddyfield.demo.load import load_demo
from eddyfield.store.database import Database
from eddyfield.web.access import Token
from eddyfield.web.app import Settings, create_app

ORIGIN = {"Origin": "http://localhost"}
DTYPES = {1: "<f4", 2: "<i4", 3: "u1", 4: "<u2", 5: "<u4", 6: "<f8"}


class Api:
    """A signed-in client that unpacks answers."""

    def __init__(self, client: FlaskClient) -> None:
        self.client = client
        self.client.get("/sign-in?token=open")

    def post(self, path: str, body: Any) -> TestResponse:
        return self.client.post(path, json=body, headers=ORIGIN)

    def view(self, scene_id: str, **view: Any) -> dict[str, Any]:
        return self.unpacked(self.post(f"/api/scenes/{scene_id}/view", {"view": view}))

    def edit(self, scene_id: str, revision: int, /, view: dict[str, Any] | None = None, **edit: Any) -> TestResponse:
        body = {"revision": revision, "request_id": str(uuid.uuid4()), "edit": edit, "view": view or {}}
        return self.post(f"/api/scenes/{scene_id}/edits", body)

    def camera(self, scene_id: str, place: int = 0) -> dict[str, Any]:
        """What is known of a camera."""
        whole = self.view(scene_id)
        view: dict[str, Any] = whole["parts"][whole["scene"]["cameras"][place]]
        return view

    def bring_in(self, *files: tuple[bytes, str]) -> Any:
        return self.client.post(
            "/api/uploads", data={"files": [(io.BytesIO(data), name) for data, name in files]}, headers=ORIGIN
        )

    @staticmethod
    def unpacked(answer: TestResponse) -> dict[str, Any]:
        assert answer.status_code == 200, answer.data[:300]
        return msgpack.unpackb(
            answer.data, ext_hook=lambda code, data: np.frombuffer(data, DTYPES[code]), strict_map_key=False
        )


@pytest.fixture(scope="session")
def front_end(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """What stands for the built pages."""
    made = tmp_path_factory.mktemp("front-end")
    (made / "index.html").write_text("<html>page</html>")
    (made / "assets").mkdir()
    return made


@pytest.fixture
def make_client(database: Database, front_end: Path) -> Callable[..., FlaskClient]:
    def make(**settings: Any) -> FlaskClient:
        return create_app(database, Settings(front_end, b"secret", Token(None, "open"), **settings)).test_client()

    return make


@pytest.fixture(scope="session")
def application(database: Database, front_end: Path) -> Flask:
    """One application for all tests that ask for nothing special: what it has read and baked it need not again."""
    return create_app(database, Settings(front_end, b"secret", Token(None, "open")))


@pytest.fixture
def api(application: Flask) -> Api:
    return Api(application.test_client())


@pytest.fixture
def demo(database: Database, api: Api) -> str:
    """The demo scene's id, with all edits of earlier tests undone."""
    scene_id = load_demo(database)
    scene = api.view(scene_id, judged=False)["scene"]
    while scene["undo"]:
        body = {"revision": scene["revision"], "view": {"judged": False}}
        scene = api.unpacked(api.post(f"/api/scenes/{scene_id}/undo", body))["scene"]
    return scene_id
