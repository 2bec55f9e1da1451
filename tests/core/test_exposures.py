"""The exposure column by hand: mixed lists, stretches, key poses that are kept, and what becomes of them as time moves."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from math import floor

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core.edits.bend_time import BendSceneTime
from eddyfield.core.edits.exposures import ChangeExposures, ExposeStretch, TapExposures
from eddyfield.core.errors import DomainError
from eddyfield.core.performance.exposure import Stepping, exposure_starts, nearest_frame
from eddyfield.core.performance.timing import Timing, bent
from eddyfield.core.rate_change import at_rate
from eddyfield.core.scene import Scene
from eddyfield.core.time.bending import Bend
from eddyfield.core.time.frames import FrameRange, Rate

from .scenery import SCENE, baker

ODA = SCENE.characters[0]
FIRST, LAST = SCENE.frames.first, SCENE.frames.last
frames = st.integers(FIRST, LAST)


def starts(scene: Scene) -> list[int]:
    """The frames on which Oda shows a new pose."""
    return sorted(set(baker(scene).exposure_starts(scene.character(ODA.id)).tolist()))


def change(scene: Scene, add: list[int] | None = None, remove: list[int] | None = None) -> Scene:
    edit = ChangeExposures(character_id=ODA.id, add=tuple(add or ()), remove=tuple(remove or ()))
    return edit.apply(scene, baker(scene))


@given(st.sets(st.integers(-5, 40), min_size=1), st.integers(1, 40))
def test_a_list_shows_the_last_of_its_poses(listed: set[int], last: int) -> None:
    shown = exposure_starts(Stepping(starts=tuple(sorted(listed))), FrameRange(1, last))
    one_by_one = [max([s for s in listed if 1 <= s <= f], default=1) for f in range(1, last + 1)]
    assert shown.tolist() == one_by_one


def test_a_hold_is_drawn_out_and_put_back() -> None:
    before = starts(SCENE)
    longer = change(SCENE, add=[1012], remove=[1011])
    assert starts(longer) == sorted({*before, 1012} - {1011})
    assert starts(change(longer, add=[1011], remove=[1012])) == before


@given(st.sets(frames, max_size=12), st.sets(frames, max_size=12))
def test_what_is_added_is_shown_and_what_is_left_out_is_not(add: set[int], remove: set[int]) -> None:
    remove -= {FIRST}
    found = set(starts(change(SCENE, sorted(add), sorted(remove))))
    assert found == {*starts(SCENE)} - remove | add


@given(frames, st.integers(0, 30), st.integers(1, 8))
def test_a_stretch_is_held_otherwise_and_the_rest_stays(first: int, more: int, step: int) -> None:
    last = min(LAST, first + more)
    after = ExposeStretch(character_id=ODA.id, first=first, last=last, step=step).apply(SCENE, baker())
    inside = [s for s in starts(after) if first <= s <= last]
    assert inside == list(range(first, last + 1, step))
    outside = lambda found: [s for s in found if not first <= s <= last]  # noqa: E731
    assert outside(starts(after)) == outside(starts(SCENE))


def test_a_stretch_on_its_key_poses_alone() -> None:
    poses = {nearest_frame(p) for p in baker().key_poses(ODA)}
    after = ExposeStretch(character_id=ODA.id, first=1020, last=1060, step=None).apply(SCENE, baker())
    assert {s for s in starts(after) if 1020 <= s <= 1060} == {1020, *(p for p in poses if 1020 <= p <= 1060)}


def test_a_key_pose_that_is_kept_is_in_every_list() -> None:
    kept = SCENE.with_character(replace(ODA, stepping=Stepping(2, 0, True, (1001, 1050))))
    poses = {nearest_frame(p) for p in baker().key_poses(ODA)} & {*range(FIRST, LAST + 1)}
    assert set(starts(kept)) == {1001, 1050} | poses
    with pytest.raises(DomainError, match="key pose"):
        change(kept, remove=[max(poses - {1050})])


@pytest.mark.parametrize(
    ("make", "why"),
    [
        (lambda: change(SCENE, remove=[FIRST]), "first one"),
        (lambda: change(SCENE, add=[LAST + 1]), "not in the scene"),
        (lambda: ExposeStretch(character_id=ODA.id, first=1050, last=1040, step=2).apply(SCENE, baker()), "no stretch"),
        (lambda: ExposeStretch(character_id=ODA.id, first=1050, last=1060, step=0).apply(SCENE, baker()), "held on 0"),
        (lambda: Stepping(starts=()), "shows nothing"),
        (lambda: Stepping(starts=(3, 3)), "out of order"),
        (lambda: Stepping(starts=tuple(range(20_001))), "too many"),
    ],
)
def test_what_cannot_be_exposed_is_refused(make: object, why: str) -> None:
    with pytest.raises(DomainError, match=why):
        make()  # type: ignore[operator]


def test_lists_go_along_as_time_moves() -> None:
    scene = change(SCENE, add=[1011, 1012], remove=[1013])
    doubled = at_rate(scene, Rate(48), "times").scene
    assert doubled.character(ODA.id).stepping.starts == tuple(FIRST + 2 * (s - FIRST) for s in starts(scene))
    halved = at_rate(scene, Rate(12), "times")
    listed = halved.scene.character(ODA.id).stepping.starts or ()
    assert list(listed) == sorted({FIRST + int(Fraction(s - FIRST, 2) + Fraction(1, 2)) for s in starts(scene)})
    assert any("exposure" in cost for cost in halved.costs)
    slower = BendSceneTime(first=1020, last=1030, speed=0.5).apply(scene, baker(scene))
    moved = slower.character(ODA.id).stepping.starts or ()
    assert [s for s in moved if s < 1020] == [s for s in starts(scene) if s < 1020]
    assert [s - 5 for s in moved if s > 1030] == [s for s in starts(scene) if s > 1025]


def test_a_list_strobes_where_it_holds_and_nowhere_else() -> None:
    on_ones = SCENE.with_character(replace(ODA, stepping=Stepping(1)))
    held = ExposeStretch(character_id=ODA.id, first=1030, last=1045, step=3).apply(on_ones, baker(on_ones))
    found = baker(held).strobing(held.character(ODA.id))
    shown = np.flatnonzero(found.held) + FIRST
    assert shown.min() == 1031
    assert shown.max() == 1044
    assert found.rms_px > 1


@pytest.mark.parametrize("speed", [0.5, 2.0, 0.0, -1.0])
@pytest.mark.parametrize("stepping", [Stepping(2), Stepping(3, 1)])
def test_held_before_its_time_was_bent_poses_change_when_the_performance_comes_to_another_step(
    speed: float, stepping: Stepping
) -> None:
    frames = FrameRange(1001, 1096)
    timing = bent(Timing(1001), Bend.at(1021, 1041, speed))
    starts = exposure_starts(replace(stepping, in_file_time=True), frames, timing=timing)
    # Read aloud: the step of the performance that each frame is in, by counting.
    step_of = [
        floor(
            (f - 1001 if f <= 1021 else 20 + speed * (min(f, 1041) - 1021) + max(0, f - 1041)) - stepping.offset + 1e-9
        )
        // stepping.step
        for f in frames.frames().tolist()
    ]
    begins = 1001
    for frame, start in zip(frames.frames().tolist(), starts.tolist(), strict=True):
        if frame > 1001 and step_of[frame - 1001] != step_of[frame - 1002]:
            begins = frame
        assert start == begins


def test_on_twos_at_half_the_speed_is_on_fours_and_in_its_own_time_it_is_as_before() -> None:
    frames = FrameRange(1001, 1017)
    half = Timing(1001, Fraction(2))
    on_fours = exposure_starts(Stepping(2, in_file_time=True), frames, timing=half)
    np.testing.assert_array_equal(on_fours, exposure_starts(Stepping(4), frames))
    plain = exposure_starts(Stepping(2, in_file_time=True), frames, timing=Timing(1001))
    np.testing.assert_array_equal(plain, exposure_starts(Stepping(2), frames))


def test_what_was_tapped_is_shown_and_key_poses_that_are_kept_stay() -> None:
    taps = TapExposures(character_id=ODA.id, taps=(1010, 1013, 1015), last=1020)
    after = taps.apply(SCENE, baker())
    starts = np.unique(baker(after).exposure_starts(after.character(ODA.id))).tolist()
    assert [s for s in starts if 1008 <= s <= 1022] == [1009, 1010, 1013, 1015, 1021]
    keeping = SCENE.with_character(replace(ODA, stepping=replace(ODA.stepping, keep_key_poses=True)))
    poses = {nearest_frame(p) for p in baker(keeping).key_poses(ODA)}
    whole = TapExposures(character_id=ODA.id, taps=(1005,), last=1096).apply(keeping, baker(keeping))
    shown = set(np.unique(baker(whole).exposure_starts(whole.character(ODA.id))).tolist())
    assert poses <= shown, "never lost"
    assert shown == poses | {1001, 1003, 1005}
    for wrong, said in (((), "Nothing was tapped"), ((5,), "not in the scene")):
        with pytest.raises(DomainError, match=said):
            replace(taps, taps=wrong).apply(SCENE, baker())
