"""Edits of a stretch of a camera leave all outside it as it was, between keys as well."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest

from eddyfield.core import edits
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.cameras.subjects import Subject
from eddyfield.core.edits.camera_keys import ChosenKeys
from eddyfield.core.edits.edit import Edit
from eddyfield.core.edits.even_camera import EvenCameraOut
from eddyfield.core.edits.key_tools import EvenSpeed, ReduceCameraKeys, SmoothCameraKeys
from eddyfield.core.edits.steady_size import SteadySize
from eddyfield.core.errors import DomainError
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.dividing import replaced_within
from eddyfield.core.time.keys import Key
from eddyfield.demo.mill_race import ODA

from .scenery import SCENE, baker

CAMERA = "00000000-0000-4000-8000-00000000f4ee"
TIMES = np.arange(1001, 1097, 0.31)


def keyed(**channels: list[tuple[float, float, str]]) -> Scene:
    """A free camera that looks at Oda from the side, with keys of its own: time, value, shape."""
    plain = Camera(CAMERA, "Free").channels
    still = {"x": -4.0, "y": 1.4, "z": 3.0, "pan": 78.0, "tilt": -3.0, "focal_mm": 40.0}
    made = {name: Channel(value) for name, value in still.items()} | {
        name: Channel(0.0, tuple(Key(Fraction(t).limit_denominator(8), v, s) for t, v, s in keys))
        for name, keys in channels.items()
    }
    return edits.add_camera(SCENE, Camera(CAMERA, "Free", channels=plain.having(**made)))


def done(scene: Scene, edit: Edit) -> Scene:
    return edit.apply(scene, baker(scene))


def assert_same_outside(before: Scene, after: Scene, first: float, last: float) -> None:
    outside = (first > TIMES) | (last < TIMES)
    one, other = before.camera(CAMERA), after.camera(CAMERA)
    for name in one.channels:
        was, now = one.channels[name].at(TIMES)[outside], other.channels[name].at(TIMES)[outside]
        np.testing.assert_allclose(now, was, rtol=0, atol=1e-9, err_msg=name)


ZOOMING = keyed(focal_mm=[(1003, 35.0, "ease"), (1090, 85.0, "ease")])
PANNING = keyed(pan=[(1003, 70.0, "ease"), (1050, 86.0, "smooth"), (1090, 75.0, "ease")])


@pytest.mark.parametrize(("fades", "step"), [(0, False), (6, False), (0, True), (6, True)])
def test_a_size_is_steadied_on_its_frames_alone(fades: int, step: bool) -> None:
    steady = done(ZOOMING, SteadySize(camera_id=CAMERA, on_frame=1040, ratio=1.05, fades=fades, step=step))
    assert_same_outside(ZOOMING, steady, 1040 - fades - 2, 1040 + fades + 2)
    focal = [s.camera(CAMERA).channels["focal_mm"].at(1040.0) for s in (ZOOMING, steady)]
    assert focal[1] / focal[0] == pytest.approx(1.05**0.5 if step else 1.05)


def test_an_end_of_the_scene_is_steadied_as_well() -> None:
    steady = done(ZOOMING, SteadySize(camera_id=CAMERA, on_frame=1001, ratio=1.05))
    assert_same_outside(ZOOMING, steady, 1000, 1003)


def test_a_jolt_of_a_pan_is_evened_out_on_its_frames_alone() -> None:
    pan = PANNING.camera(CAMERA).channels["pan"]
    values = [float(pan.at(t)) for t in (1030, 1031, 1032)]
    jolt = [Key(Fraction(1030 + n), v + (2.0 if n == 1 else 0.0), "linear") for n, v in enumerate(values)]
    camera = PANNING.camera(CAMERA)
    jolted = PANNING.with_camera(replace(camera, channels=camera.channels.having(pan=replaced_within(pan, jolt))))
    even = done(jolted, EvenCameraOut(camera_id=CAMERA, on_frame=1031))
    assert_same_outside(jolted, even, 1029, 1033)
    assert float(even.camera(CAMERA).channels["pan"].at(1031.0)) == pytest.approx(values[1], abs=0.02)


@pytest.mark.parametrize("after", ["linear", "hold", "smooth", "ease", "jump"])
def test_what_follows_the_chosen_keys_stays_whatever_its_shape(after: str) -> None:
    scene = keyed(
        x=[(1005, -4.0, "ease"), (1020, -3.2, "smooth"), (1030, -3.0, "smooth"), (1040, -1.8, after), (1060, -2.6, "smooth"),
           (1080, -2.0, "ease")],
    )  # fmt: skip
    chosen = ChosenKeys(CAMERA, tuple(Fraction(t) for t in (1005, 1020, 1030, 1040)))
    for edit in (
        ReduceCameraKeys(keys=chosen, error_px=2.0),
        EvenSpeed(keys=chosen),
        SmoothCameraKeys(keys=chosen, strength=8),
    ):
        assert_same_outside(scene, done(scene, edit), 1005, 1040)


def test_an_even_speed_is_even_where_the_old_move_hurried() -> None:
    scene = keyed(
        x=[(1005, -6.0, "ease"), (1040, -5.5, "linear"), (1043, -1.5, "smooth"), (1080, -1.0, "ease")],
        z=[(1005, 3.0, "ease"), (1040, 3.4, "smooth"), (1043, 6.0, "smooth"), (1080, 6.2, "ease")],
    )
    even = done(scene, EvenSpeed(keys=ChosenKeys(CAMERA)))
    way = baker(even).camera(even.camera(CAMERA)).pose[1005 - 1001 : 1080 - 1000, :3]
    speeds = np.linalg.norm(np.diff(way, axis=0), axis=1)
    assert speeds.max() / speeds.min() < 1.03, f"{speeds.max() / speeds.min():.3f}"


def test_an_orbit_takes_the_place_of_the_chord_and_of_nothing_else() -> None:
    scene = keyed(
        x=[(1003, -5.0, "smooth"), (1020, -4.0, "ease"), (1060, 3.5, "linear"), (1090, 5.0, "ease")],
        z=[(1003, 2.0, "smooth"), (1020, 2.0, "ease"), (1060, 4.0, "linear"), (1090, 4.0, "ease")],
        pan=[(1003, 70.0, "smooth"), (1020, 78.0, "ease"), (1060, -60.0, "hold"), (1090, -70.0, "ease")],
        focal_mm=[(1010, 35.0, "smooth"), (1050, 50.0, "smooth"), (1090, 40.0, "smooth")],
    )
    round_her = done(
        scene, edits.OrbitInstead(camera_id=CAMERA, first=1020, last=1060, subject=Subject("joint", ODA, "hips"))
    )
    assert_same_outside(scene, round_her, 1020, 1060)
    assert round_her.camera(CAMERA).channels["focal_mm"] == scene.camera(CAMERA).channels["focal_mm"]
    hips = baker().joint_frames(ODA, "hips", "motion")[19:60, :3, 3]
    away = np.linalg.norm(baker(round_her).camera(round_her.camera(CAMERA)).pose[19:60, :3] - hips, axis=1)
    assert away.min() > 0.99 * min(away[0], away[-1]), "it no longer cuts through the circle"


def test_what_was_moved_without_a_key_is_not_thrown_away_silently() -> None:
    camera = ZOOMING.camera(CAMERA)
    moved = ZOOMING.with_camera(replace(camera, unkeyed=(("focal_mm", 60.0),)))
    with pytest.raises(DomainError, match="moved without a key"):
        done(moved, SteadySize(camera_id=CAMERA, on_frame=1040, ratio=1.05))
