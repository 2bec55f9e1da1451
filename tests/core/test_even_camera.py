"""A jolt of a camera's own keys: told once, as the camera's, with the edit that takes it out and leaves all else."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from eddyfield.core.cameras.mounts import Free
from eddyfield.core.edits.even_camera import EvenCameraOut, jolted_channels
from eddyfield.core.errors import DomainError
from eddyfield.core.readings.compared import compared
from eddyfield.core.readings.reading import Reading
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.core.scene import Scene
from eddyfield.core.time.key_reduction import keys_on_every_frame
from eddyfield.demo import mill_race

from .scenery import SCENE, baker, fail

ROW = 60
FRAME = SCENE.frames.first + ROW
FRAMES = SCENE.frames.frames().astype(float)
OWN = baker().camera(SCENE.camera(mill_race.BANK)).values


def _jolted(step: bool, locks: tuple[str, ...] = (), **by: float) -> Scene:
    """The camera on the bank keyed on every frame, free, with some of its channels off by so much."""
    values = {name: OWN[name].copy() for name in ("x", "y", "z", "pan", "tilt")}
    for name, size in by.items():
        values[name][slice(ROW, None) if step else slice(ROW, ROW + 1)] += size
    bank = SCENE.camera(mill_race.BANK)
    channels = bank.channels.having(**keys_on_every_frame(FRAMES, values))
    return SCENE.with_camera(replace(bank, mount=Free(), channels=channels, locks=locks))


def _told(scene: Scene) -> list[Reading]:
    return [r for r in scene_readings(baker(scene), None, None, fail) if not r.remark]


@pytest.mark.parametrize("step", [False, True])
def test_a_jolt_is_evened_out_and_nothing_else_is_told(step: bool) -> None:
    scene = _jolted(step, pan=0.6, tilt=-0.3)
    before = _told(scene)
    jolt = next(r for r in before if r.kind == "camera_jolts" and r.frame == FRAME)
    (fix,) = jolt.fixes
    assert fix.title == "Even it out"
    after = fix.edit.apply(scene, baker(scene))
    changes = compared(before, _told(after))
    assert any(c.before == jolt and c.after is None for c in changes)
    assert not [c for c in changes if c.status in ("new", "worse")]


@settings(max_examples=25, deadline=None)
@given(st.floats(0.2, 3), st.sampled_from(["pan", "tilt", "y"]))
def test_what_was_displaced_is_put_back_where_it_was(size: float, name: str) -> None:
    scene = _jolted(False, **{name: size})
    jolts = jolted_channels(baker(scene), scene.camera(mill_race.BANK), FRAME, "displaced")
    assert jolts[name] == pytest.approx(size, rel=0.02)
    after = EvenCameraOut(camera_id=mill_race.BANK, on_frame=FRAME).apply(scene, baker(scene))
    now = baker(after).camera(after.camera(mill_race.BANK)).values
    assert now[name][ROW] == pytest.approx(OWN[name][ROW], abs=0.02 * size)
    assert np.allclose(np.delete(now[name], ROW), np.delete(OWN[name], ROW), atol=1e-9), "on that frame alone"


def test_what_is_locked_or_even_is_left() -> None:
    locked = _jolted(False, ("angles",), pan=0.6)
    jolt = next(r for r in _told(locked) if r.kind == "camera_jolts")
    assert jolt.fixes == ()
    with pytest.raises(DomainError, match="locked"):
        EvenCameraOut(camera_id=mill_race.BANK, on_frame=FRAME).apply(locked, baker(locked))
    even = _jolted(False)
    with pytest.raises(DomainError, match="Nothing that is keyed"):
        EvenCameraOut(camera_id=mill_race.BANK, on_frame=FRAME).apply(even, baker(even))
    with pytest.raises(DomainError, match="not in the scene"):
        EvenCameraOut(camera_id=mill_race.BANK, on_frame=5).apply(even, baker(even))
    assert jolted_channels(baker(even), even.camera(mill_race.BANK), 1002, "displaced") == {}, "too near the end"
