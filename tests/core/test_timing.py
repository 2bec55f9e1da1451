"""How the time of a performance's file runs in a scene: offset, stretched, trimmed, repeated, backwards."""

from __future__ import annotations

from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core.edits.contents import TimeThing
from eddyfield.core.errors import DomainError
from eddyfield.core.performance.timing import REPEATS, Timing
from eddyfield.core.scene import Scene
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
