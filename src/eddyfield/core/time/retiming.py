"""Keys at other times: moved, stretched and mirrored, so that curves keep their form."""

from __future__ import annotations

from bisect import insort
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from ..errors import DomainError
from .channels import Beyond, Channel
from .dividing import Ways, keeping_ways
from .frames import FrameTime
from .keys import RULING, Handle, Key, KeyShape


@dataclass(frozen=True)
class Retiming:
    """Time t becomes ``about + (t - about) stretch + by``; a negative stretch runs backwards."""

    stretch: FrameTime = FrameTime(1)
    about: FrameTime = FrameTime(0)
    by: FrameTime = FrameTime(0)

    def __post_init__(self) -> None:
        if not 0 < abs(self.stretch) <= 1000:
            raise DomainError(
                "A move cannot be stretched to nothing, or to so much.", "Stretch it to a part or to more."
            )

    @property
    def changes_nothing(self) -> bool:
        return self.stretch == 1 and not self.by

    def of(self, time: FrameTime) -> FrameTime:
        return self.about + (time - self.about) * self.stretch + self.by


def retimed(channel: Channel, indices: Sequence[int], retiming: Retiming) -> Channel:
    """The channel with some of its keys moved, in their order; the others stay. Raises ``DomainError`` where a key that stays
    is at the time to which one comes."""
    if not indices:
        return channel
    chosen = tuple(channel.keys[index] for index in indices)
    moving = set(indices)
    for key in chosen:
        taken = channel.index_at(retiming.of(key.time))
        if taken is not None and taken not in moving:
            to = channel.keys[taken].time
            raise DomainError(f"There is a key at frame {to} already.", "Delete that one first, or move elsewhere.")
    ways: Ways = {}
    if retiming.stretch < 0:
        chosen, ways = _backwards(channel, indices)
    length = float(abs(retiming.stretch))
    moved = (
        replace(
            key, time=retiming.of(key.time), handle_in=_longer(key.handle_in, length), handle_out=_longer(key.handle_out, length)
        )
        for key in chosen
    )  # fmt: skip
    keys = list(channel.keys)
    for index in sorted(moving, reverse=True):
        del keys[index]
    if len(moving) * 8 < len(channel.keys):
        for key in moved:
            insort(keys, key, key=lambda key: key.time)
    else:
        keys = sorted((*keys, *moved), key=lambda key: key.time)
    beyond = channel.beyond if retiming.stretch > 0 else Beyond(channel.beyond.after, channel.beyond.before)
    made = channel.with_keys(tuple(keys))
    made = made if beyond == made.beyond else replace(made, beyond=beyond)
    if not ways:
        return made
    longer = {retiming.of(time): (_longer(way[0], length), _longer(way[1], length)) for time, way in ways.items()}
    return keeping_ways(made, longer)


def mirrored(channel: Channel, first: FrameTime, last: FrameTime) -> Channel:
    """The channel run backwards between two times: what it was at ``first`` it is at ``last``."""
    return retimed(channel, range(len(channel.keys)), Retiming(FrameTime(-1), first, last - first))


def _longer(handle: Handle | None, stretch: float) -> Handle | None:
    return handle and Handle(handle.frames * stretch, handle.value)


_BACKWARDS: Mapping[KeyShape, KeyShape] = {"hold": "jump", "jump": "hold", "linear": "linear"}


def _backwards(channel: Channel, indices: Sequence[int]) -> tuple[tuple[Key, ...], Ways]:
    """Keys, still at their times, by which the segments between those of ``indices`` that are next to each other keep their form
    when they are run backwards, and the ways that they have to go for that. How a run of such keys is left stays at its end."""
    keys, chosen = channel.keys, set(indices)
    out: list[Key] = []
    ways: dict[FrameTime, tuple[Handle | None, Handle | None]] = {}
    for index in indices:
        key = keys[index]
        from_before, to_next = index - 1 in chosen, index + 1 in chosen
        arriving, leaving = channel.handles(index) if from_before or to_next else (None, None)
        if not from_before and to_next:  # the beginning of a run becomes its end
            end = next(i for i in range(index, len(keys)) if i + 1 not in chosen)
            turned = replace(key, shape=keys[end].shape, handle_in=key.handle_out, handle_out=keys[end].handle_out)
        elif not from_before:
            turned = key
        elif (ruling := keys[index - 1].shape) in RULING:
            turned = replace(key, shape=_BACKWARDS[ruling], handle_in=None, handle_out=None)
        elif key.shape in RULING:
            turned = replace(key, shape="curve", handle_in=None, handle_out=arriving)
        else:
            turned = replace(key, handle_in=key.handle_out, handle_out=key.handle_in)
        out.append(turned)
        ways[key.time] = leaving if to_next else None, arriving if from_before else None
    return tuple(out), ways


def towards(key: Key, other: Key) -> Handle:
    """A third of the straight way to another key."""
    return Handle(float(abs(other.time - key.time)) / 3, (other.value - key.value) / 3)
