"""Files come in: what they become, and what is refused."""

from __future__ import annotations

import io
from collections.abc import Callable

import numpy as np
import pytest
from flask.testing import FlaskClient

from eddyfield.core.cameras.placement import body_points
from eddyfield.core.optics.lens import inside_frame
from eddyfield.core.time.frames import seconds_at
from eddyfield.demo import mill_race
from eddyfield.store.blobs import Blobs
from eddyfield.store.database import Database
from eddyfield.store.scenes import Scenes
from eddyfield.web.rigs import PartMemory, Rigs
from eddyfield.web.scene_views import SceneViews
from eddyfield.web.sounds import Sounds
from tests.formats.builders import BVH, walker
from tests.formats.test_looks_and_shapes import png, quad

from .conftest import ORIGIN, Api


@pytest.mark.parametrize(
    ("files", "scale", "height"),
    [
        ([(mill_race.oda_glb(), "oda.glb")], 1.0, 1.75),
        ([(BVH.encode(), "walk.bvh")], 0.01, 0.9),
        (
            [(BVH.replace("10 -5", "0.10 -0.05").replace("-85", "-1.85").replace(" 90", " 1.9").encode(), "m.bvh")],
            1.0,
            1.9,
        ),
    ],
    ids=["glb", "bvh in centimetres", "bvh in metres"],
)
def test_a_rig_becomes_a_scene_whose_camera_fits(
    api: Api, database: Database, files: list[tuple[bytes, str]], scale: float, height: float
) -> None:
    found = api.bring_in(*files).json
    assert found["proposed_scale"] == scale
    assert found["height_units"] * scale == pytest.approx(height, abs=0.35)
    request = {"digest": found["digest"], "format": found["format"], "name": "Test rig", "scale": scale, "start": 11}
    made = api.post("/api/scenes", request)
    assert made.status_code == 200, made.data
    scene = Scenes(database).get(made.json["id"]).scene
    assert scene.frames.first == 11
    memory = PartMemory(2**26)
    baker = SceneViews(Rigs(Blobs(database), memory), Sounds(Blobs(database), memory), memory).baker(scene)
    rig = baker.rig(scene.characters[0])
    seconds = seconds_at(scene.frames.frames(), 11, scene.rate)
    seen = baker.camera_path(scene.cameras[0]).project(body_points(rig, seconds))
    assert inside_frame(seen, scene.delivery).all()
    share = np.abs(seen.pixels / [1920, 1080] * 2 - 1)
    assert share.max() == pytest.approx(0.93, abs=1e-4), "inside action safe, and filling it"
    shown = api.view(scene.id)["scene"]
    assert shown["characters"][0]["name"] == "Test rig"


def test_a_gltf_comes_with_its_buffer(api: Api) -> None:
    g = walker()
    assert "did not come with it" in api.bring_in((g.text("walk.bin"), "walk.gltf")).json["message"]
    found = api.bring_in((g.text("walk.bin"), "walk.gltf"), (bytes(g.data), "walk.bin")).json
    assert found["joints"] == 2
    assert (
        api.post("/api/scenes", {"digest": found["digest"], "format": "gltf", "name": "W", "scale": 1}).status_code
        == 200
    )


@pytest.mark.parametrize(
    ("name", "data", "says"),
    [
        ("a.txt", b"x", "no kind"),
        ("a.glb", b"glTF", "cut off"),
        ("a.bvh", b"nothing", "no BVH"),
        ("", b"", "one file"),
    ],
)
def test_bad_uploads_are_refused_and_nothing_is_kept(
    api: Api, database: Database, name: str, data: bytes, says: str
) -> None:
    def count() -> int:
        with database.transaction() as cursor:
            cursor.execute("SELECT COUNT(*) AS n FROM blob_file")
            return int(cursor.fetchone()["n"])

    before = count()
    answer = api.bring_in(*([(data, name)] if name else []))
    assert answer.status_code == 422
    assert says in answer.json["message"]
    assert count() == before


def test_uploads_have_a_limit(make_client: Callable[..., FlaskClient]) -> None:
    api = Api(make_client(upload_limit_mb=1))
    answer = api.bring_in((b"x" * 2_000_000, "big.glb"))
    assert answer.status_code == 413
    assert "1 MB" in answer.json["message"]


def test_a_gltf_comes_in_with_its_buffer_and_images_beside_it(api: Api) -> None:
    g = quad()
    picture = png(4, 4)
    g.json["images"] = [{"uri": "cloth.png"}]
    files = [(io.BytesIO(g.text("square.bin")), "square.gltf"), (io.BytesIO(bytes(g.data)), "square.bin"),
             (io.BytesIO(picture), "cloth.png")]  # fmt: skip
    answer = api.client.post("/api/uploads", data={"files": files}, headers=ORIGIN)
    assert answer.status_code == 200, answer.text
    assert answer.json is not None
    assert (answer.json["likely"], answer.json["triangles"]) == ("prop", 2)
    without = [(io.BytesIO(g.text("square.bin")), "square.gltf"), (io.BytesIO(bytes(g.data)), "square.bin")]
    refused = api.client.post("/api/uploads", data={"files": without}, headers=ORIGIN)
    assert "cloth.png" in refused.text


def test_json_that_nothing_asks_for_is_not_read(api: Api, demo: str) -> None:
    answer = api.client.post(f"/api/scenes/{demo}/view", data=b"[" + b"0," * (9 * 2**20) + b"0]", headers=ORIGIN)
    assert answer.status_code == 413
    assert "larger than 16 MB" in answer.json["message"]
