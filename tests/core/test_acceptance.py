"""Readings that somebody lets stand: told last, until what they tell changes."""

from __future__ import annotations

from dataclasses import replace

import pytest

from eddyfield.core.acceptance import Acceptance
from eddyfield.core.edits.accepting import AcceptReading, TakeAcceptanceBack
from eddyfield.core.edits.bend_time import BendSceneTime
from eddyfield.core.errors import DomainError
from eddyfield.core.readings.reading import Reading
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.core.scene import Scene

from .scenery import SCENE, baker, fail


def the_kink(scene: Scene = SCENE) -> Reading:
    return next(r for r in scene_readings(baker(scene), None, None, fail) if r.kind == "off_arc")


def accepted(reading: Reading, reason: str = "she trips") -> AcceptReading:
    return AcceptReading(
        accepted=Acceptance(
            reading.kind, reading.character_id or "", reading.camera_id or "", reading.joint or "", reading.first,
            reading.last, reading.size, reason,
        )
    )  # fmt: skip


def test_what_is_accepted_is_told_last_with_its_reason_and_can_be_taken_back() -> None:
    kink = the_kink()
    scene = accepted(kink).apply(SCENE)
    told = scene_readings(baker(scene), None, None, fail)
    assert (told[-1].kind, told[-1].accepted and told[-1].accepted.reason) == ("off_arc", "she trips")
    assert [r for r in told if r.accepted is not None] == [told[-1]]
    again = accepted(kink, "she slips").apply(scene)
    assert [a.reason for a in again.accepted] == ["she slips"], "of one matter the last word counts"
    back = TakeAcceptanceBack(
        kind="off_arc", character_id=kink.character_id or "", camera_id="", joint=kink.joint or "", first=kink.first
    )
    assert back.apply(again) == SCENE
    with pytest.raises(DomainError, match="not accepted"):
        back.apply(SCENE)


def test_a_fault_that_is_let_stand_of_one_joint_is_of_all_that_it_goes_through() -> None:
    oda = SCENE.characters[0]
    (of_hand,) = (r for r in scene_readings(baker(), (oda, "hand_r"), None, fail) if r.kind == "off_arc")
    assert of_hand.joint == "hand_r" != the_kink().joint
    scene = accepted(of_hand).apply(SCENE)
    assert the_kink(scene).accepted == scene.accepted[0], "told of another joint, it is the same"
    for joint in ("fingers_1_r", "hand_r"):
        (seen,) = (r for r in scene_readings(baker(scene), (oda, joint), None, fail) if r.kind == "off_arc")
        assert (seen.joint, seen.accepted) == (joint, scene.accepted[0])


def test_what_changes_is_told_again() -> None:
    kink = the_kink()
    smaller = replace(kink, size=0.9 * kink.size)
    assert the_kink(accepted(smaller).apply(SCENE)).accepted is None, "it was smaller when that was said"
    assert the_kink(accepted(replace(kink, size=0.98 * kink.size)).apply(SCENE)).accepted is not None
    assert the_kink(accepted(replace(kink, first=1040, last=1040)).apply(SCENE)).accepted is None


def test_it_goes_along_where_time_is_bent() -> None:
    scene = BendSceneTime(first=1005, last=1013, speed=0.0).apply(accepted(the_kink()).apply(SCENE))
    assert [a.first for a in scene.accepted] == [1043 + 8]
    assert the_kink(scene).accepted is not None


def test_a_reason_is_wanted() -> None:
    for reason, why in (("  ", "why it may stand"), ("x" * 401, "too long")):
        with pytest.raises(DomainError, match=why):
            accepted(the_kink(), reason).apply(SCENE)
