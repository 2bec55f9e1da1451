"""Cameras that are held with the poses of a character: what is seen stands still as long as a pose does."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from eddyfield.core.edits.cameras import LockCamera
from eddyfield.core.edits.contents import TakeOut
from eddyfield.core.edits.exposures import ExposeStretch
from eddyfield.core.edits.held_cameras import HoldCamera
from eddyfield.core.errors import DomainError
from eddyfield.core.readings.candidates import candidates
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.demo import mill_race

from .scenery import SCENE, baker, fail

ODA = SCENE.characters[0]
FREE = LockCamera(camera_id=mill_race.BANK, locks=()).apply(SCENE)
HELD = HoldCamera(camera_id=mill_race.BANK, character_id=ODA.id).apply(FREE)


def test_the_camera_stands_on_each_frame_where_it_stood_on_the_poses_first() -> None:
    ones, held = baker(FREE), baker(HELD)
    rows = held.exposure_starts(ODA) - SCENE.frames.first
    before, after = (work.camera(work.scene.camera(mill_race.BANK)) for work in (ones, held))
    assert np.array_equal(after.path.world_from_camera, before.path.world_from_camera[rows])
    assert np.array_equal(after.pose, before.pose[rows])
    assert np.array_equal(after.values["rail"], before.values["rail"][rows])
    assert np.array_equal(after.focus_m, before.focus_m[rows])
    two = mill_race.TWO
    assert np.array_equal(*(w.camera(w.scene.camera(two)).pose for w in (ones, held))), "the others go on on ones"


def test_nothing_slips_under_it_and_it_follows_the_exposures() -> None:
    held = baker(HELD)
    assert held.strobing(ODA).max_px == 0
    assert not any(r.kind == "strobes" for r in scene_readings(held, None, None, fail))
    threes = ExposeStretch(character_id=ODA.id, first=1030, last=1060, step=3).apply(HELD, held)
    work = baker(threes)
    assert work.strobing(threes.character(ODA.id)).max_px == 0
    assert not np.array_equal(work.cut_path().world_from_camera, held.cut_path().world_from_camera)


def test_it_is_tried_and_its_jumps_are_its_price() -> None:
    tried = candidates(baker(FREE), ODA)
    held = next(c for c in tried.candidates if c.kind == "held camera")
    assert (held.slip_px, held.reversals) == (0, 0)
    best = tried.candidates[0]
    assert best.title.startswith("Ride"), "what carries the pose, not what holds the camera"
    assert held.cost_px > best.cost_px + 5, "the background moves on twos"


def test_it_lets_go_of_who_leaves_and_a_locked_one_is_not_held() -> None:
    work = baker(HELD)
    assert "Bank rail 35" in HELD.going_by(ODA.id)
    gone = TakeOut(thing_id=ODA.id, frame=1020, lets_go=True).apply(HELD, work)
    assert gone.camera(mill_race.BANK).steps_with is None
    ones = HoldCamera(camera_id=mill_race.BANK, character_id=None).apply(HELD)
    assert ones == FREE
    with pytest.raises(DomainError, match="locked"):
        HoldCamera(camera_id=mill_race.BANK, character_id=ODA.id).apply(SCENE)
    with pytest.raises(DomainError, match="not in the scene"):
        HoldCamera(camera_id=mill_race.BANK, character_id="nobody").apply(FREE)
    stranger = FREE.with_camera(replace(FREE.camera(mill_race.BANK), steps_with="nobody"))
    baker(stranger).cut_path()  # of nobody it is held with nobody
