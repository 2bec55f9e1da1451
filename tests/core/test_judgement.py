"""The bench of judgement in short: its figures are wanted of every change."""

from __future__ import annotations

import pytest

from benchmarks.judgement import fixes, framing
from benchmarks.judgement.arcs import run_class


@pytest.mark.parametrize("motion", ["walks", "hard contacts", "bounces, 14 frames", "busy splines"])
def test_faults_of_arcs_are_told_from_honest_motion(motion: str) -> None:
    scores = run_class(motion, 2, noises=(0.5,))
    assert scores["clean"].false <= 1
    for kind in ("displaced across", "displaced along", "jump", "camera jolt"):
        score = scores[kind]
        assert score.planted >= 2, kind
        assert score.found >= score.planted - 1, kind
        assert score.exact == score.found, kind
        assert score.by_whom >= score.found - 1, kind


def test_what_is_twice_as_large_is_found_and_what_cannot_be_told_is_not() -> None:
    large, small = (run_class("walks", 2, times, (0.5,))["displaced across"] for times in (3.0, 0.4))
    assert large.recall == 1.0
    assert small.recall == 0.0


def test_faults_of_framing_are_told_from_clean_shots() -> None:
    outcome = framing.run(9)
    assert sum(outcome.false.values()) == 0, outcome.false
    assert all(outcome.found[kind] == outcome.planted[kind] > 0 for kind in framing.FAULTS), outcome.found


def test_fixes_clear_what_they_stand_beside() -> None:
    mended = fixes.run(1)
    assert set(mended.taken) >= {"Ride", "Orbit"}
    assert mended.cleared == mended.taken
    assert mended.raised == {}, "and raise nothing"
    # Her hand has a kink in all shots, which a jolt of the camera covers.
    assert all(set(uncovered) <= {"off_arc"} for uncovered in mended.uncovered.values())
