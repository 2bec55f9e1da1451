"""How the time of a performance's file runs in a scene."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Literal, get_args

import numpy as np

from ..arrays import Floats, Ints
from ..errors import DomainError
from ..time.bending import Bend
from ..time.channels import Channel
from ..time.frames import MOST_DENOMINATOR, FrameRange, FrameTime, Rate, exact_times, seconds_at
from ..time.keys import Key

Repeats = Literal["once", "loop", "back and forth"]
REPEATS: tuple[Repeats, ...] = get_args(Repeats)
MOST_STRETCH = 1000
MOST_CURVE_KEYS = 200
FINER = 8
"""In a frame: how often a curve is looked at for where a moment comes."""
SAME_MOMENT = 1e-9


@dataclass(frozen=True)
class Timing:
    """On the scene's frame ``start`` stands the file's frame ``first``; each frame of the file lasts ``stretch`` frames of the
    scene. Frames of the file are counted from its time 0, at the scene's rate. After ``last`` (None: where the file ends) it
    stays, begins anew or goes back and forth. ``backwards``, it runs from ``last`` to ``first``. Between the keys of its
    ``curve`` that says how many frames of the file have passed on a frame of the scene; before and after them it runs on from
    there."""

    start: int = 1
    stretch: FrameTime = FrameTime(1)
    first: FrameTime = FrameTime(0)
    last: FrameTime | None = None
    repeats: Repeats = "once"
    backwards: bool = False
    curve: Channel | None = None

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
        if self.curve is not None and not 2 <= len(self.curve.keys) <= MOST_CURVE_KEYS:
            raise DomainError(
                f"A time curve cannot have {len(self.curve.keys)} keys.", f"Give it from 2 to {MOST_CURVE_KEYS}."
            )

    @property
    def is_plain(self) -> bool:
        """Nothing but the start is its own."""
        return self == Timing(self.start)

    def file_seconds(self, frames: Ints, rate: Rate, duration_s: float) -> Floats:
        """Time in a file of that length on frames of the scene, (frames,)."""
        if self.is_plain:
            return seconds_at(frames, self.start, rate)
        return self._file_frames(frames.astype(np.float64), float(self.length(rate, duration_s))) / float(rate)

    def passed(self, times: Floats) -> Floats:
        """How many frames of the file have passed at times of the scene, in frames, (n,), before any repeats."""
        slope = self.stretch.denominator / self.stretch.numerator
        if self.curve is None:
            return np.asarray((times - self.start) * slope)
        within = np.clip(times, self.curve.times[0], self.curve.times[-1])
        return np.asarray(self.curve.at(within) + (times - within) * slope)

    def _file_frames(self, times: Floats, length: float) -> Floats:
        """Frames of the file at times of the scene, of which a ``length`` is used."""
        passed = self.passed(times)
        if self.repeats == "once" or length <= 0:
            passed = np.clip(passed, 0.0, max(0.0, length))
        elif self.repeats == "loop":
            passed = np.mod(passed, length)
        else:
            passed = length - np.abs(np.mod(passed, 2 * length) - length)
        if self.backwards:
            passed = length - passed
        return np.asarray(float(self.first) + passed)

    def length(self, rate: Rate, duration_s: float) -> FrameTime:
        """How many frames of the file are used, at the scene's rate."""
        end = self.last if self.last is not None else exact_times(np.array([duration_s]), rate)[0]
        return end - self.first

    def count(self, rate: Rate, duration_s: float) -> int:
        """How many frames of the scene it takes, once."""
        length = self.length(rate, duration_s)
        if self.curve is None:
            return max(1, math.floor(length * self.stretch) + 1)
        end = self.curve.keys[-1]
        left = float(length) - end.value
        return max(1, math.floor(float(end.time) - self.start + left * float(self.stretch) + 1e-9) + 1)

    def scene_times(
        self, in_file: Iterable[FrameTime], frames: FrameRange, rate: Rate, duration_s: float
    ) -> tuple[FrameTime, ...]:
        """The exact times of a scene at which moments of the file come, in order; of what is repeated those within ``frames``."""
        if self.is_plain:
            return tuple(self.start + time for time in in_file)
        length = self.length(rate, duration_s)
        if self.curve is not None:
            return self._times_on_curve(in_file, frames, float(length))
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

    def _times_on_curve(self, in_file: Iterable[FrameTime], frames: FrameRange, length: float) -> tuple[FrameTime, ...]:
        """The times within ``frames`` at which moments of the file come where a curve rules: as near as a thousandth of a frame.
        Where time is frozen, a moment comes as it begins to be."""
        times = np.linspace(frames.first, frames.last, (frames.count - 1) * FINER + 1)
        shown = self._file_frames(times, length)
        found: set[FrameTime] = set()
        for moment in in_file:
            off = shown - float(moment)
            hit = np.abs(off) <= SAME_MOMENT
            begins = hit & ~np.append(False, hit[:-1])
            found |= {FrameTime(float(t)).limit_denominator(MOST_DENOMINATOR) for t in times[begins]}
            # A seam of a loop is no moment that is passed.
            passes = (off[:-1] * off[1:] < 0) & (np.abs(np.diff(shown)) < max(1.0, length / 2))
            for at in np.flatnonzero(passes & ~hit[:-1] & ~hit[1:]):
                share = off[at] / (off[at] - off[at + 1])
                exact = times[at] + share * (times[at + 1] - times[at])
                found.add(FrameTime(float(exact)).limit_denominator(MOST_DENOMINATOR))
        return tuple(sorted(found))


def bent(timing: Timing, bend: Bend) -> Timing:
    """A performance with its time bent over a stretch of the scene."""
    slope = 1 / float(timing.stretch)
    ends = timing.passed(np.array([bend.first, bend.last], dtype=np.float64))
    reached = float(ends[0]) + float(bend.speed) * slope * (bend.last - bend.first)
    moved = reached - float(ends[1])
    own = timing.curve.keys if timing.curve else ()
    before = [key for key in own if key.time < bend.first]
    after = [replace(key, value=key.value + moved) for key in own if key.time > bend.last]
    over = [
        Key(FrameTime(bend.first), float(ends[0]), "linear"), Key(FrameTime(bend.last), reached, "linear"),
    ]  # fmt: skip
    return replace(timing, curve=Channel(0.0, (*before, *over, *after)))
