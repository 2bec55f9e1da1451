"""Time that runs slower, faster, not at all or backwards over a stretch, and what is keyed in it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from ..arrays import Floats
from ..errors import DomainError
from .channels import HOLDS, Channel
from .dividing import alike, divided
from .frames import FrameTime
from .keys import Handle, Key, KeyShape
from .retiming import Retiming, retimed, towards

FASTEST = 100
FINEST_SPEED = 1000
"""Parts of its own speed that time can run at."""
LEVEL = Handle(0.0, 0.0)


@dataclass(frozen=True)
class Bend:
    """From ``first`` to ``last`` time runs ``speed`` times as fast: 0 stands still, below 0 runs backwards. What comes after
    goes on from where it is by then."""

    first: FrameTime
    last: FrameTime
    speed: FrameTime

    def __post_init__(self) -> None:
        if self.last <= self.first:
            raise DomainError("The stretch ends before it begins.", "Give its first frame, then its last.")
        if abs(self.speed) > FASTEST:
            raise DomainError(f"Time cannot run {float(self.speed):g} times as fast.", f"Give up to {FASTEST} times.")

    @classmethod
    def at(cls, first: int, last: int, speed: float) -> Bend:
        return cls(FrameTime(first), FrameTime(last), FrameTime(speed).limit_denominator(FINEST_SPEED))

    @property
    def reached(self) -> FrameTime:
        """The moment that is shown on ``last``."""
        return self.first + self.speed * (self.last - self.first)

    @property
    def later(self) -> FrameTime:
        """By how much all that comes after the stretch comes later."""
        return self.last - self.reached

    def moments(self, frames: Floats) -> Floats:
        """What is shown on frames, as times from before the bend, of the same shape."""
        first, last = float(self.first), float(self.last)
        within = first + float(self.speed) * (frames - first)
        after = frames - float(self.later)
        return np.where(frames <= first, frames, np.where(frames <= last, within, after))

    def of(self, time: FrameTime) -> FrameTime:
        """Where a moment comes for the last time; what is left at ``first`` stays there."""
        if time <= self.first:
            return time
        if self.speed > 0 and time < self.reached:
            return self.first + (time - self.first) / self.speed
        return time + self.later

    def channel(self, channel: Channel) -> Channel:
        """What the channel does, at the times where that comes, exactly. Keys keep their shapes where that comes to the same,
        others get handles of their own. Raises ``DomainError`` for what is run through again beyond its keys."""
        if len(channel.keys) < 2:
            return replace(channel, keys=tuple(replace(key, time=self.of(key.time)) for key in channel.keys))
        if channel.beyond != HOLDS:
            raise DomainError(
                "A move that is run through again beyond its keys cannot be bent.", "Let it hold there first (Time)."
            )
        originals = {key.time: key for key in channel.keys}
        own, (first, reached) = _explicit(channel), (self.first, self.reached)
        own = divided(own, (first, reached))
        before = [key for key in own.keys if key.time <= first]
        after = [key for key in own.keys if key.time >= reached]
        pieces = [(before, Retiming()), (after, Retiming(by=self.later))]
        if self.speed:
            low, high = sorted((first, reached))
            within = [key for key in own.keys if low <= key.time <= high]
            pieces.insert(1, (within, Retiming(1 / self.speed, first)))
        elif before and after:
            before[-1] = replace(before[-1], shape="hold")  # until it goes on from there
        keys: list[Key] = []
        were: dict[FrameTime, Key] = {}
        for piece, retiming in pieces:
            moved = retimed(Channel(0.0, tuple(piece)), range(len(piece)), retiming).keys
            if keys and moved and keys[-1].time < moved[0].time:  # beyond its keys it held
                keys[-1] = replace(keys[-1], shape="hold")
            for key, was in zip(moved, piece if retiming.stretch > 0 else piece[::-1], strict=True):
                if was.time in originals:
                    were[key.time] = replace(originals[was.time], time=key.time)
                if keys and keys[-1].time == key.time:
                    key = replace(key, handle_in=keys.pop().handle_in)
                keys.append(key)
        return _simplest(replace(channel, keys=tuple(keys)), were)


def _explicit(channel: Channel) -> Channel:
    """The same curve by handles, but for what is held, so that no key goes by its neighbours."""
    keys = []
    for index, key in enumerate(channel.keys):
        arriving, leaving = channel.handles(index)
        if index and channel.keys[index - 1].shape == "linear":
            arriving = towards(key, channel.keys[index - 1])
        shape: KeyShape = key.shape if key.shape in ("hold", "jump") else "curve"
        keys.append(replace(key, shape=shape, handle_in=arriving or LEVEL, handle_out=leaving or LEVEL))
    return replace(channel, keys=tuple(keys))


def _simplest(channel: Channel, were: Mapping[FrameTime, Key]) -> Channel:
    """The same curve, each key as it was before where that comes to the same, else with no more handles than it takes."""
    plain = tuple(were.get(key.time, key) for key in channel.keys)
    as_they_were = replace(channel, keys=plain)
    straight = replace(channel, keys=tuple(Key(key.time, key.value, "linear") for key in channel.keys))
    keys: list[Key] = []
    for index, key in enumerate(channel.keys):
        ruled = bool(keys) and keys[-1].shape in ("hold", "linear")
        arriving, leaving = channel.handles(index)
        for other, whole in ((plain[index], as_they_were), (straight.keys[index], straight)):
            if {key.shape, other.shape} & {"hold", "jump"}:
                continue
            # How it arrives is for the key before to say where that one rules.
            before, after = whole.handles(index)
            same = (ruled or alike(arriving, before)) and alike(leaving, after)
            if other.shape == "linear" and index + 1 < len(
                channel.keys
            ):  # it rules how the next key is arrived at as well
                same = same and alike(channel.handles(index + 1)[0], straight.handles(index + 1)[0])
            if same:
                key = other
                break
        keys.append(key)
    return replace(channel, keys=tuple(keys))
