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
from ..time.dividing import divided, keeping_ways, replaced_within
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

    start: FrameTime = FrameTime(1)
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
            return np.asarray((times - float(self.start)) * slope)
        within = np.clip(times, self.curve.times[0], self.curve.times[-1])
        return np.asarray(self.curve.at(within) + (times - within) * slope)

    def _file_frames(self, times: Floats, length: float) -> Floats:
        """Frames of the file at times of the scene, of which a ``length`` is used."""
        passed = self.passed(times)
        if self.repeats == "once" or length <= 0:
            passed = np.clip(passed, 0.0, max(0.0, length))
        elif self.repeats == "loop":
            passed = _rest(passed, length)
        else:
            passed = length - np.abs(_rest(passed, 2 * length) - length)
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
        return max(1, math.floor(float(end.time - self.start) + left * float(self.stretch) + 1e-9) + 1)

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
        begins = ((frames.first - self.start) / self.stretch) // period
        ends = ((frames.last - self.start) / self.stretch) // period
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


def _rest(passed: Floats, period: float) -> Floats:
    """What has passed since a period began, (n,): from 0 on, and never a whole one by rounding."""
    turns = np.floor(passed / period + SAME_MOMENT)
    return np.asarray(np.clip(passed - turns * period, 0.0, None))


def bent(timing: Timing, bend: Bend) -> Timing:
    """A performance with its own time bent over a stretch of the scene: what its curve does before stays, what it does after
    comes on the same frames, from where it is by then."""
    own = divided(_covering(timing, bend.first, bend.last), (bend.first, bend.last))
    begins, ends = (own.keys[own.index_at(time) or 0].value for time in (bend.first, bend.last))
    reached = begins + float(bend.speed / timing.stretch) * float(bend.last - bend.first)
    ways = {key.time: own.handles(index) for index, key in enumerate(own.keys)}
    ways[bend.first], ways[bend.last] = (ways[bend.first][0], None), (None, ways[bend.last][1])
    keys = [
        replace(key, value=key.value + reached - ends) if key.time >= bend.last
        else replace(key, shape="linear") if key.time == bend.first else key
        for key in own.keys if not bend.first < key.time < bend.last
    ]  # fmt: skip
    return _having_curve(timing, keeping_ways(Channel(0.0, tuple(keys)), ways))


def in_bent_time(timing: Timing, bend: Bend) -> Timing:
    """A performance where time itself is bent: on every frame it shows the moment that it showed at what that frame was before,
    whatever its curve did already."""
    reached = bend.reached if bend.speed else bend.first + 1
    return _having_curve(timing, bend.channel(_covering(timing, *sorted((bend.first, reached)))))


def passing(timing: Timing, first: int, moments: Floats) -> Timing:
    """A performance that shows on frames from ``first`` on what it showed at ``moments`` of the scene, (frames,), evenly between
    them; before and after them as before."""
    covering = _covering(timing, FrameTime(first), FrameTime(first + len(moments) - 1))
    keys = [Key(FrameTime(first + at), float(passed), "linear") for at, passed in enumerate(timing.passed(moments))]
    return _having_curve(timing, replaced_within(covering, keys))


def _having_curve(timing: Timing, curve: Channel) -> Timing:
    if len(curve.keys) > MOST_CURVE_KEYS:
        raise DomainError(
            f"The time of that performance would have a curve of {len(curve.keys)} keys.",
            f"It may have {MOST_CURVE_KEYS}: choose a longer stretch, or straighten its curve first.",
        )
    return replace(timing, curve=curve)


def _covering(timing: Timing, first: FrameTime, last: FrameTime) -> Channel:
    """The curve of a performance with keys from ``first`` to ``last`` at least: outside of its own it runs on evenly."""
    own = timing.curve
    if own is None:
        return Channel(0.0, (_evenly(timing, first), _evenly(timing, last)))
    before = [_evenly(timing, first)] if first < own.keys[0].time else []
    after = [_evenly(timing, last)] if last > own.keys[-1].time else []
    keys = list(own.keys)
    if after:
        keys[-1] = replace(keys[-1], shape="linear", handle_in=None)
    return keeping_ways(
        Channel(0.0, (*before, *keys, *after)), {k.time: own.handles(i) for i, k in enumerate(own.keys)}
    )


def _evenly(timing: Timing, time: FrameTime) -> Key:
    return Key(time, float(timing.passed(np.array([float(time)]))[0]), "linear")
