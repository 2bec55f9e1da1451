"""The exposure list: which frame's pose is shown on each frame."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

import numpy as np

from ..arrays import Ints
from ..errors import DomainError
from ..time.frames import FrameRange
from .timing import Timing

LONGEST_STEP = 10_000
MOST_STARTS = 20_000
SAME_STEP = 1e-9
LEAST_COST = Fraction(1, 100)
"""Of a frame: what a key pose may be beside its time and still be called on it."""


@dataclass(frozen=True)
class Stepping:
    """A performance held on every ``step`` frames, the grid moved by ``offset`` frames from the first.

    ``keep_key_poses`` lets an exposure start on every key pose, the grid going on after it as before. Where somebody has said
    frame by frame on which a new pose is shown, those are the ``starts`` (in order), and the grid rules no more. The grid counts
    frames of the scene, after the time of the performance was stretched or bent; ``in_file_time`` it counts those of the
    performance before that: what was on twos is on fours at half the speed.
    """

    step: int = 1
    offset: int = 0
    keep_key_poses: bool = False
    starts: tuple[int, ...] | None = None
    in_file_time: bool = False

    def __post_init__(self) -> None:
        if self.starts is not None and any(later <= earlier for earlier, later in pairwise(self.starts)):
            raise DomainError("Exposures are out of order.", "Give each a frame of its own, in order.")
        if self.starts == ():
            raise DomainError("A list without exposures shows nothing.", "Give the frame of one pose at least.")
        if self.starts is not None and len(self.starts) > MOST_STARTS:
            raise DomainError(f"{len(self.starts):,} exposures are too many.", f"Keep it within {MOST_STARTS:,}.")
        if not 1 <= self.step <= LONGEST_STEP:
            raise DomainError(f"Poses cannot be held on {self.step} frames.", f"Give a step from 1 to {LONGEST_STEP}.")


def exposure_starts(
    stepping: Stepping,
    frames: FrameRange,
    key_poses: tuple[Fraction, ...] = (),
    begins: int | None = None,
    timing: Timing | None = None,
) -> Ints:
    """For each frame f the start of its exposure: ``max(first, a + n floor((f - a) / n))``, ``a = first + offset``.

    Shape (frames.count,). By its own list it is the last of that until there, or the first frame. With ``keep_key_poses`` an
    exposure starts on the frame nearest to every key pose as well. Where it ``begins`` on another frame than the first, that
    stands for the first one; before it nothing is held. A grid in the performance's own time asks for its ``timing``: an
    exposure begins on the first frame on which the performance has come to another step of it.

    >>> exposure_starts(Stepping(2), FrameRange(1, 5))
    array([1, 1, 3, 3, 5])
    >>> exposure_starts(Stepping(starts=(2, 5)), FrameRange(1, 5))
    array([1, 2, 2, 2, 5])
    """
    shown = frames.frames()
    begins = frames.first if begins is None else begins
    first = max(frames.first, begins)
    if stepping.starts is None and stepping.in_file_time and timing is not None:
        passed = timing.passed(shown.astype(np.float64)) - stepping.offset
        steps = np.floor(passed / stepping.step + SAME_STEP)
        news = np.append(True, steps[1:] != steps[:-1])
        starts = np.maximum(first, np.maximum.accumulate(np.where(news, shown, shown[0])))
    elif stepping.starts is None:
        start = begins + stepping.offset
        starts = np.maximum(first, start + stepping.step * ((shown - start) // stepping.step))
    else:
        starts = _last_until(stepping.starts, shown, first)
    if stepping.keep_key_poses and key_poses:
        poses = sorted({nearest_frame(p) for p in key_poses})
        starts = np.maximum(starts, _last_until(poses, shown, first))
    return np.minimum(starts, shown)


def _last_until(starts: Sequence[int], shown: Ints, first: int) -> Ints:
    """The last of the starts (in order) until each frame, never before the ``first`` one."""
    known = np.array([first, *(start for start in starts if start > first)], dtype=np.int64)
    return np.asarray(known[np.maximum(np.searchsorted(known, shown, side="right") - 1, 0)])


def nearest_frame(time: Fraction) -> int:
    """The whole frame nearest to an exact time; of two equally near the later one."""
    over, under = time.as_integer_ratio()
    return (2 * over + under) // (2 * under)


def lost_key_poses(starts: Ints, frames: FrameRange, key_poses: tuple[Fraction, ...]) -> tuple[Fraction, ...]:
    """Key poses inside the range that no exposure shows: none starts on the frame nearest to them."""
    shown = set(starts.tolist())
    return tuple(p for p in key_poses if (frame := nearest_frame(p)) in frames and frame not in shown)


def shown_beside_key_poses(
    starts: Ints, frames: FrameRange, key_poses: tuple[Fraction, ...]
) -> tuple[tuple[Fraction, Fraction], ...]:
    """Key poses that are shown on a frame beside their own time, each with how many frames late (negative: early), where
    that is more than a hundredth of a frame."""
    shown = set(starts.tolist())
    late = ((p, nearest_frame(p) - p) for p in key_poses if nearest_frame(p) in shown and nearest_frame(p) in frames)
    return tuple((p, by) for p, by in late if abs(by) > LEAST_COST)


def comparison_frames(starts: Ints, span_first: Ints) -> Ints:
    """``r(f) = max(e(f), first frame of the camera's span in the cut)``: a cut ends every comparison."""
    return np.maximum(starts, span_first)
