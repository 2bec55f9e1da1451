"""Cameras of a file as cameras of the scene: the same picture on every frame, with few keys."""

from __future__ import annotations

import uuid
from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest

from eddyfield.core.bake import Baker
from eddyfield.core.edits.file_cameras import BringFileCamera
from eddyfield.core.edits.placing_things import PlaceThing
from eddyfield.core.errors import DomainError
from eddyfield.core.optics.lens import DeliveryFrame
from eddyfield.core.rig.source import RigSource
from eddyfield.core.scene import Scene
from eddyfield.demo import mill_race
from eddyfield.formats import gltf
from tests.formats.builders import Gltf, walker

from .scenery import DIGESTS, SCENE

ODA = SCENE.characters[0]
WALKER = RigSource("f" * 64, "gltf")
NEW = str(uuid.UUID(int=5))
FIRST = SCENE.frames.first


def shot(**more: object) -> Gltf:
    """A walker with a camera that pans and zooms beside it for four seconds."""
    g = walker()
    turns = [[0, np.sin(a / 2), 0, np.cos(a / 2)] for a in (0.0, 0.3, -0.2)]
    g.json["animations"] = []
    g.animate(
        (0, "translation", [0, 4], [[0, 1, 0], [4, 1, 0]], "LINEAR"),
        (3, "translation", [0, 4], [[0, 1, 5], [4, 1, 5]], "LINEAR"),
        (3, "rotation", [0, 2, 4], turns, "LINEAR"),
    )
    return g


def zooming(g: Gltf) -> Gltf:
    animation = g.json["animations"][0]
    animation["samplers"].append(
        {"input": g.accessor([0, 4]), "output": g.accessor([[0.7], [0.35]]), "interpolation": "LINEAR"}
    )
    pointer = {"KHR_animation_pointer": {"pointer": "/cameras/0/perspective/yfov"}}
    animation["channels"].append({"sampler": 3, "target": {"path": "pointer", "extensions": pointer}})
    return g


def working(scene: Scene, g: Gltf) -> Baker:
    rig = gltf.read(g.glb(), with_mesh=True)

    def rig_of(source: RigSource) -> object:
        return rig if source == WALKER else mill_race.demo_rig(DIGESTS[source.digest])

    return Baker(scene, rig_of, {})  # type: ignore[arg-type]


PERFORMANCE = replace(ODA.performance, source=WALKER)
WITH_WALKER = replace(
    SCENE, characters=(*SCENE.characters, replace(ODA, id="walker", name="Walker", performance=PERFORMANCE))
)


@pytest.mark.parametrize("zooms", [False, True])
@pytest.mark.parametrize("error_px", [0.1, None])
def test_the_picture_is_that_of_the_file(zooms: bool, error_px: float | None) -> None:
    g = zooming(shot()) if zooms else shot()
    work = working(WITH_WALKER, g)
    edit = BringFileCamera(camera_id=NEW, thing_id="walker", camera="Lens", error_px=error_px)
    scene = edit.apply(WITH_WALKER, work)
    camera = scene.camera(NEW)
    path = working(scene, g).camera_path(camera)
    # By the file's own words: the place goes from x 0 to 4, the turn is a slerp about y, the field of view is linear.
    t = np.arange(SCENE.frames.count) / 24
    at = np.clip(t, 0, 4)
    angle = np.interp(at, [0, 2, 4], [0.0, 0.3, -0.2])
    fov = np.interp(at, [0, 4], [0.7, 0.35]) if zooms else np.full(len(t), 0.7)
    points = np.array([[1.0, 1.2, 0.0], [3.0, 0.5, 0.5], [2.0, 2.0, -1.0]])
    seen = points[None] - np.stack([at, np.ones_like(at), np.full_like(at, 5.0)], axis=-1)[:, None]
    c, s = np.cos(-angle)[:, None], np.sin(-angle)[:, None]
    x, y, z = c * seen[..., 0] + s * seen[..., 2], seen[..., 1], -s * seen[..., 0] + c * seen[..., 2]
    slope = 1080 / 2 / np.tan(fov / 2)[:, None]
    wanted = np.stack([960 + x / -z * slope, 540 - y / -z * slope], axis=-1)
    off = np.abs(path.project(np.broadcast_to(points, (len(t), 3, 3))).pixels - wanted).max()
    assert off < (1e-3 if error_px is None else 0.25), "0.1 px at the subjects, which these points lie around"
    keys = len(camera.channels["pan"].keys)
    assert keys == SCENE.frames.count if error_px is None else keys < SCENE.frames.count / 2


def test_it_stands_where_its_file_was_placed_and_keeps_its_field_in_any_frame() -> None:
    g = shot()
    moved = PlaceThing(thing_id="walker", values={"x": 10.0, "turn": 90.0}, time=Fraction(FIRST)).apply(WITH_WALKER)
    scene = BringFileCamera(camera_id=NEW, thing_id="walker", camera="Lens", error_px=None).apply(
        moved, working(moved, g)
    )
    for delivery in (DeliveryFrame(), DeliveryFrame(1080, 1920), DeliveryFrame(2048, 858)):
        framed = replace(scene, delivery=delivery)
        path = working(framed, g).camera_path(framed.camera(NEW))
        assert np.allclose(path.world_from_camera[0, :3, 3], [15.0, 1.0, 0.0], atol=1e-6)
        lens = path.lens.pixels_per_slope(delivery)[1]
        assert np.allclose(2 * np.degrees(np.arctan(delivery.height / 2 / np.asarray(lens))), np.degrees(0.7))


def test_one_that_is_not_there_is_refused_and_one_that_stands_has_no_keys() -> None:
    g = shot()
    g.json["animations"] = []
    work = working(WITH_WALKER, g)
    with pytest.raises(DomainError, match="no camera “Wide”"):
        BringFileCamera(camera_id=NEW, thing_id="walker", camera="Wide").apply(WITH_WALKER, work)
    scene = BringFileCamera(camera_id=NEW, thing_id="walker", camera="Lens").apply(WITH_WALKER, work)
    assert not scene.camera(NEW).keyed
