"""How the time of a performance's file runs in a scene: offset, stretched, trimmed, repeated, backwards."""

from __future__ import annotations

from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core.edits.bend_time import BendTime
from eddyfield.core.edits.contents import TimeThing
from eddyfield.core.errors import DomainError
from eddyfield.core.performance.timing import REPEATS, Timing, bent
from eddyfield.core.rate_change import at_rate
from eddyfield.core.scene import Scene
from eddyfield.core.time.bending import Bend
from eddyfield.core.time.frames import FrameRange, Rate, seconds_at
from eddyfield.demo import mill_race

from .scenery import SCENE, baker

RATE, FRAMES = Rate.parse("24"), FrameRange(1001, 1096)
ODA = mill_race.ODA
timings = st.builds(
    lambda start, stretch, first, length, repeats, backwards: Timing(
        start, stretch, first, first + length, repeats, backwards
    ),
    st.integers(950, 1050),
    st.fractions(Fraction(1, 8), Fraction(8), max_denominator=12),
    st.fractions(Fraction(0), Fraction(20), max_denominator=4),
    st.fractions(Fraction(1), Fraction(60), max_denominator=4),
    st.sampled_from(REPEATS),
    st.booleans(),
)


def by_hand(timing: Timing, frame: int) -> Fraction:
    """The frame of the file that one frame of the scene shows, step by step."""
    assert timing.last is not None
    length = timing.last - timing.first
    passed = Fraction(frame - timing.start) / timing.stretch
    if timing.repeats == "once":
        passed = min(max(passed, Fraction(0)), length)
    while passed < 0:
        passed += 2 * length if timing.repeats == "back and forth" else length
    if timing.repeats == "loop":
        passed %= length
    elif timing.repeats == "back and forth":
        passed %= 2 * length
        passed = min(passed, 2 * length - passed)
    return timing.first + (length - passed if timing.backwards else passed)


@given(timings)
def test_every_frame_shows_the_moment_that_is_worked_out_by_hand(timing: Timing) -> None:
    found = timing.file_seconds(FRAMES.frames(), RATE, 100.0) * 24
    wanted = np.array([float(by_hand(timing, frame)) for frame in range(1001, 1097)])
    assert timing.last is not None
    length = float(timing.last - timing.first)
    away = np.abs(found - wanted)
    if timing.repeats == "loop":  # at the seam both ends are meant
        away = np.minimum(away, length - away)
    assert away.max() < 1e-9


@given(timings)
def test_moments_of_the_file_come_where_frames_show_them(timing: Timing) -> None:
    moments = [timing.first + Fraction(k, 4) * (timing.last - timing.first) for k in range(5)]  # type: ignore[operator]
    times = timing.scene_times(moments, FRAMES, RATE, 100.0)
    assert list(times) == sorted(set(times))
    for time in times:
        if time.denominator == 1 and timing.repeats != "loop":
            assert by_hand(timing, int(time)) in moments
    if timing.repeats == "once":
        assert len(times) == 5


def test_a_plain_use_is_what_the_file_says() -> None:
    assert Timing(1001).is_plain
    assert np.array_equal(
        Timing(1001).file_seconds(FRAMES.frames(), RATE, 4.0), seconds_at(FRAMES.frames(), 1001, RATE)
    )
    assert Timing(1001).scene_times([Fraction(3, 2)], FRAMES, RATE, 4.0) == (Fraction(2005, 2),)
    assert Timing(1001).count(RATE, 95 / 24) == 96
    assert Timing(1001, Fraction(200, 70)).count(RATE, 70 / 24) == 201


def timed(timing: Timing) -> Scene:
    return TimeThing(thing_id=ODA, timing=timing).apply(SCENE)


def test_seventy_frames_of_the_demo_over_two_hundred() -> None:
    plain = baker().world(SCENE.character(ODA))
    slow = timed(Timing(1001, Fraction(20, 7), Fraction(0), Fraction(70)))
    work = baker(slow)
    world = work.world(slow.character(ODA))
    for frame in (1001, 1021, 1041, 1061):
        assert np.allclose(world[frame - 1001], plain[(frame - 1001) * 7 // 20], atol=1e-9)
    keys = work.key_poses(slow.character(ODA))
    own = [key for key in baker().key_poses(SCENE.character(ODA)) if key <= 1071]
    assert list(keys) == [1001 + (key - 1001) * Fraction(20, 7) for key in own]


def test_a_loop_comes_round_and_backwards_ends_where_it_began() -> None:
    plain = baker().world(SCENE.character(ODA))
    looped = timed(Timing(1001, first=Fraction(10), last=Fraction(34), repeats="loop"))
    world = baker(looped).world(looped.character(ODA))
    assert np.allclose(world[24:48], world[:24], atol=1e-9)
    assert np.allclose(world[:24], plain[10:34], atol=1e-9)
    back = timed(Timing(1001, first=Fraction(0), last=Fraction(95), backwards=True))
    assert np.allclose(baker(back).world(back.character(ODA)), plain[::-1], atol=1e-9)


@pytest.mark.parametrize(
    ("make", "why"),
    [
        (lambda: Timing(1, Fraction(0)), "cannot be stretched"),
        (lambda: Timing(1, Fraction(-2)), "cannot be stretched"),
        (lambda: Timing(1, first=Fraction(4), last=Fraction(4)), "ends before it begins"),
        (lambda: Timing(1, repeats="twice"), "not known"),  # type: ignore[arg-type]
    ],
)
def test_what_cannot_be_is_refused(make: object, why: str) -> None:
    with pytest.raises(DomainError, match=why):
        make()  # type: ignore[operator]


# --- time curves ---

speeds = st.sampled_from([-1.0, 0.0, 0.25, 0.5, 2.0, 3.0])


@given(st.integers(990, 1010), st.fractions(Fraction(1, 2), Fraction(3), max_denominator=4), st.integers(1005, 1040),
       st.integers(1, 30), speeds)  # fmt: skip
def test_bent_time_runs_at_its_speed_and_goes_on_from_there(
    start: int, stretch: Fraction, first: int, count: int, speed: float
) -> None:
    plain = Timing(start, stretch)
    curved = bent(plain, Bend.at(first, first + count, speed))
    times = np.arange(1001.0, 1097.0)
    before, after = np.diff(plain.passed(times)), np.diff(curved.passed(times))
    inside = (times[:-1] >= first) & (times[:-1] < first + count)
    assert after[inside] == pytest.approx(speed * before[inside], abs=1e-9)
    assert after[~inside] == pytest.approx(before[~inside], abs=1e-9)
    assert curved.passed(times)[times <= first] == pytest.approx(plain.passed(times)[times <= first])


def test_two_stretches_are_bent_one_after_the_other_in_any_order() -> None:
    times = np.arange(1001.0, 1097.0)
    one = bent(bent(Timing(1001), Bend.at(1010, 1020, 0.5)), Bend.at(1040, 1050, -1.0))
    other = bent(bent(Timing(1001), Bend.at(1040, 1050, -1.0)), Bend.at(1010, 1020, 0.5))
    assert one.passed(times) == pytest.approx(other.passed(times))


@given(speeds, st.integers(1010, 1050))
def test_moments_come_where_the_curve_shows_them(speed: float, first: int) -> None:
    timing = bent(Timing(1001), Bend.at(first, first + 24, speed))
    moments = [Fraction(k, 2) for k in range(0, 100, 7)]
    times = timing.scene_times(moments, FRAMES, RATE, 200.0)
    shown = timing.file_seconds(np.array([0]), RATE, 200.0)  # of one frame as well
    assert shown.shape == (1,)
    for time in times:
        off = np.abs(timing.passed(np.array([float(time)]))[0] - np.array([float(m) for m in moments]))
        assert off.min() < 2e-3
    ahead = [m for m in moments if 1001 + m <= first]
    assert [time for time in times if time <= first and speed >= 0] == [1001 + m for m in ahead if speed >= 0]


def test_a_frozen_performance_stands_still_and_its_key_poses_are_told_once() -> None:
    frozen = BendTime(thing_id=ODA, first=1030, last=1060, speed=0.0).apply(SCENE)
    world = baker(frozen).world(frozen.character(ODA))
    assert np.abs(world[29:60] - world[29]).max() < 1e-9
    plain = baker().world(SCENE.character(ODA))
    assert world[60:] == pytest.approx(plain[30:66], abs=1e-6), "after that it goes on from there"
    times = baker(frozen).key_poses(frozen.character(ODA))
    assert len(set(times)) == len(times)
    assert not [t for t in times if 1030 < t < 1060]
    back = BendTime(thing_id=ODA, first=1030, last=1040, speed=-1.0).apply(SCENE)
    world = baker(back).world(back.character(ODA))
    assert world[29:40] == pytest.approx(plain[29:18:-1], abs=1e-6)


def test_a_curve_goes_along_where_the_rate_changes() -> None:
    slow = BendTime(thing_id=ODA, first=1021, last=1041, speed=0.5).apply(SCENE)
    twice = at_rate(slow, Rate.parse("48"), "times").scene
    worlds = [baker(scene).world(scene.character(ODA)) for scene in (slow, twice)]
    assert worlds[1][::2] == pytest.approx(worlds[0], abs=1e-6)
    kept = at_rate(slow, Rate.parse("48"), "frames").scene
    assert baker(kept).world(kept.character(ODA)) == pytest.approx(worlds[0], abs=1e-5)


@pytest.mark.parametrize(("first", "last", "speed"), [(1030, 1030, 0.5), (1030, 1020, 0.5), (1030, 1040, 1e6)])
def test_time_that_cannot_be_bent_so_is_refused(first: int, last: int, speed: float) -> None:
    with pytest.raises(DomainError):
        BendTime(thing_id=ODA, first=first, last=last, speed=speed).apply(SCENE)
