"""Which readings apply, in what order, about what, and that their fixes mend them."""

from __future__ import annotations

import uuid
from dataclasses import replace
from typing import get_args

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core.cut.cut import Cut
from eddyfield.core.edits.other_cuts import KeepCut
from eddyfield.core.performance.ride import Ride
from eddyfield.core.readings import scene_readings as rules
from eddyfield.core.readings.hurting import PER_FRAME
from eddyfield.core.readings.judges import all_judges
from eddyfield.core.readings.meanings import READING_MEANINGS
from eddyfield.core.readings.reading import LESS_IS_WORSE, READING_TITLES, Reading, ReadingKind
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.core.time.frames import FrameRange

from .scenery import SCENE, baker, fail

ODA, QUILL = SCENE.characters


def test_the_one_that_hurts_most_comes_first_and_remarks_last() -> None:
    found = scene_readings(baker(), (ODA, "hand_r"), None, fail)
    weights = [reading.weight for reading in found]
    assert weights == sorted(weights, reverse=True)
    assert found[0].kind == "strobes"
    assert all(reading.weight == -1 for reading in found if reading.remark)


@pytest.mark.parametrize(
    ("reading", "weight"),
    [
        (Reading("strobes", "a", 1, 20, 4.0, "px", 2.0), 2 * 20),
        (Reading("strobes", "a", 1, 40, 4.0, "px", 2.0), 2 * (24 + 4)),
        (Reading("hitch", "a", 1, 1, -6.0, "px", 2.0), 3 * 6),
        (Reading("head_out_of_frame", "a", 1, 10, 20.0, "px", 0.0), 2 * 10 * 0.8),
        (Reading("key_pose_not_shown", "a", 7, 7, 1.0, "", 0.0), 8),
        (Reading("little_headroom", "a", 1, 10, 0.01, "share", 0.02), 1.5 * 10 * 0.15),
        (Reading("entrance", "a", 7, 9, 3.0, "frames", 0.0, remark=True), -1),
    ],
)
def test_what_hurts_is_how_much_for_how_long_and_what_it_is(reading: Reading, weight: float) -> None:
    assert reading.weight == pytest.approx(weight)


@given(
    st.sampled_from(sorted(PER_FRAME)), st.floats(0.01, 50), st.floats(1.01, 3), st.integers(0, 200), st.integers(1, 50)
)
def test_more_and_longer_hurts_more(kind: ReadingKind, size: float, times: float, frames: int, more: int) -> None:
    told = Reading(kind, "a", 1, 1 + frames, size, "px", 0.5)
    worse = size / times if kind in LESS_IS_WORSE else size * times
    assert replace(told, size=worse).weight > told.weight
    if told.weight > 0:
        assert replace(told, last=told.last + more).weight > told.weight


def test_every_kind_says_how_much_it_hurts() -> None:
    assert set(PER_FRAME) == set(READING_TITLES)


def test_readings_say_by_id_what_they_are_about() -> None:
    for reading in scene_readings(baker(), (ODA, "hand_r"), SCENE.cameras[2], fail):
        assert reading.character_id in {None, ODA.id, QUILL.id}
        assert reading.camera_id in {None, SCENE.cameras[2].id}
        assert reading.character_id or reading.camera_id


def test_riding_mends_what_strobes() -> None:
    strobes = next(r for r in scene_readings(baker(), None, None, fail) if r.kind == "strobes")
    (fix,) = strobes.fixes
    assert fix.title == "Ride"
    mended = fix.edit.apply(SCENE, baker())
    assert mended.character(ODA.id).ride == Ride("rigid", 1.0, None, plants=True)
    assert "strobes" not in {r.kind for r in scene_readings(baker(mended), None, None, fail)}


def test_only_what_the_cut_shows_of_a_camera_is_told_through_the_cut() -> None:
    first, last = SCENE.frames.first, SCENE.frames.last
    middle = (first + last) // 2
    cut = Cut.of((first, SCENE.cameras[2].id), (middle, SCENE.cameras[0].id))
    scene = replace(SCENE, cut=cut)
    for reading in scene_readings(baker(scene), None, None, fail):
        if reading.camera_id is not None:
            spans = scene.frames_of_cut(scene.camera(reading.camera_id))
            assert any(reading.first <= end and reading.last >= start for start, end in spans)


def test_what_cannot_be_judged_says_so_and_stops_nothing_else(monkeypatch: pytest.MonkeyPatch) -> None:
    def broken(*_: object) -> list[Reading]:
        raise ValueError("no")

    told: list[str] = []
    monkeypatch.setattr(rules, "performance_readings", broken)
    found = scene_readings(baker(), None, SCENE.cameras[2], lambda subject, _: told.append(subject))
    assert told == ["Oda", "Quill"]
    assert [r.character_id for r in found if r.kind == "cannot_be_judged"] == [ODA.id, QUILL.id]
    assert any(r.camera_id == SCENE.cameras[2].id for r in found)


def test_every_fix_can_be_made_on_the_scene_that_it_is_told_of() -> None:
    for camera in SCENE.cameras:
        for reading in scene_readings(baker(), None, camera, fail):
            for fix in reading.fixes:
                assert fix.edit.apply(SCENE, baker()) != SCENE


def test_every_kind_has_a_title_and_no_two_the_same() -> None:
    assert set(READING_TITLES) == set(get_args(ReadingKind))
    assert len(set(READING_TITLES.values())) == len(READING_TITLES)
    assert set(READING_MEANINGS) == set(READING_TITLES), "and each says what it means"


def test_a_judgement_that_is_marked_is_asked_and_parallel_views_are_spared_what_needs_perspective() -> None:
    judges = all_judges()
    assert {judge.__name__ for judge in judges.of_parallel} == {"lock_readings", "lost_joint_readings"}
    assert {judge.__name__ for judge in judges.of_camera} == {
        "focus_readings",
        "lock_readings",
        "lost_joint_readings",
        "no_head_readings",
        "pan_speed_readings",
        "wrong_joint_readings",
    }
    assert {judge.__name__ for judge in judges.of_character} == {
        "chord_readings",
        "framing_readings",
        "plane_readings",
        "size_hitch_readings",
    }


@pytest.mark.parametrize("count", [1, 4, 5])
def test_a_scene_of_few_frames_says_that_nothing_can_be_told(count: int) -> None:
    short = replace(SCENE, frames=FrameRange(1040, 1039 + count))
    told = [r for r in scene_readings(baker(short), None, None, fail) if r.kind == "nothing_can_be_told"]
    assert [r.subject for r in told if r.character_id] == (["Oda", "Quill"] if count < 5 else [])
    assert all(r.remark and (r.first, r.last, r.size) == (1040, 1039 + count, count) for r in told)


def test_a_cut_that_is_kept_beside_the_one_that_is_shown_is_judged_by_nobody() -> None:
    cut = Cut.of((SCENE.frames.first, SCENE.cameras[0].id), (1050, SCENE.cameras[1].id))
    both = KeepCut(cut_id=str(uuid.uuid4()), name="B").apply(replace(SCENE, cut=cut))
    told = scene_readings(baker(both), None, None, fail)  # which fails where one of them cannot be judged
    assert told == scene_readings(baker(replace(SCENE, cut=cut)), None, None, fail)
