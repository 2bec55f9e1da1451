"""How the time of a performance's file runs in a scene."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np

from ..arrays import Floats, Ints
from ..errors import DomainError
from ..time.frames import FrameRange, FrameTime, Rate, exact_times, seconds_at

Repeats = Literal["once", "loop", "back and forth"]
REPEATS: tuple[Repeats, ...] = get_args(Repeats)
MOST_STRETCH = 1000


@dataclass(frozen=True)
class Timing:
    """On the scene's frame ``start`` stands the file's frame ``first``; each frame of the file lasts ``stretch`` frames of the
    scene. Frames of the file are counted from its time 0, at the scene's rate. After ``last`` (None: where the file ends) it
    stays, begins anew or goes back and forth. ``backwards``, it runs from ``last`` to ``first``."""

    start: int = 1
    stretch: FrameTime = FrameTime(1)
    first: FrameTime = FrameTime(0)
    last: FrameTime | None = None
    repeats: Repeats = "once"
    backwards: bool = False

    def __post_init__(self) -> None:
        if not FrameTime(1, MOST_STRETCH) <= self.stretch <= MOST_STRETCH:
            raise DomainError(
                f"A performance cannot be stretched to {float(self.stretch):g} times its length.",
                f"Give from 1/{MOST_STRETCH} to {MOST_STRETCH}.",
            )
        if self.last is not None and self.last <= self.first:
            raise DomainError("What is used of a performance ends before it begins.", "Give it a later last frame.")
        if self.repeats not in REPEATS:
            raise DomainError(f"“{self.repeats}” is not known.", f"Choose one of {', '.join(REPEATS)}.")

    @property
    def is_plain(self) -> bool:
        """Nothing but the start is its own."""
        return self == Timing(self.start)

    def file_seconds(self, frames: Ints, rate: Rate, duration_s: float) -> Floats:
        """Time in a file of that length on frames of the scene, (frames,)."""
        if self.is_plain:
            return seconds_at(frames, self.start, rate)
        passed = (frames - self.start) * (self.stretch.denominator / self.stretch.numerator)
        length = float(self.length(rate, duration_s))
        if self.repeats == "once" or length <= 0:
            passed = np.clip(passed, 0.0, max(0.0, length))
        elif self.repeats == "loop":
            passed = np.mod(passed, length)
        else:
            passed = length - np.abs(np.mod(passed, 2 * length) - length)
        if self.backwards:
            passed = length - passed
        return np.asarray((float(self.first) + passed) / float(rate))

    def length(self, rate: Rate, duration_s: float) -> FrameTime:
        """How many frames of the file are used, at the scene's rate."""
        end = self.last if self.last is not None else exact_times(np.array([duration_s]), rate)[0]
        return end - self.first

    def count(self, rate: Rate, duration_s: float) -> int:
        """How many frames of the scene it takes, once."""
        return max(1, math.floor(self.length(rate, duration_s) * self.stretch) + 1)

    def scene_times(
        self, in_file: Iterable[FrameTime], frames: FrameRange, rate: Rate, duration_s: float
    ) -> tuple[FrameTime, ...]:
        """The exact times of a scene at which moments of the file come, in order; of what is repeated those within ``frames``."""
        if self.is_plain:
            return tuple(self.start + time for time in in_file)
        length = self.length(rate, duration_s)
        offsets = [time - self.first for time in in_file if 0 <= time - self.first <= length]
        if self.backwards:
            offsets = [length - offset for offset in offsets]
        if self.repeats == "once" or length <= 0:
            return tuple(sorted(self.start + offset * self.stretch for offset in offsets))
        period = length if self.repeats == "loop" else 2 * length
        if self.repeats == "back and forth":
            offsets += [period - offset for offset in offsets]
        begins = (FrameTime(frames.first - self.start) / self.stretch) // period
        ends = (FrameTime(frames.last - self.start) / self.stretch) // period
        found = {
            self.start + (offset + turn * period) * self.stretch
            for offset in offsets
            for turn in range(int(begins) - 1, int(ends) + 1)
        }
        return tuple(sorted(time for time in found if frames.first <= time <= frames.last))
