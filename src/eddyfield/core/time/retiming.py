"""Keys at other times: moved, stretched and mirrored, so that curves keep their form."""

from __future__ import annotations

from bisect import insort
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..errors import DomainError
from .channels import Beyond, Channel
from .frames import FrameTime
from .keys import Handle, Key


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
    if retiming.stretch < 0:
        chosen = _backwards(channel, chosen)
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
    return made if beyond == made.beyond else replace(made, beyond=beyond)


def mirrored(channel: Channel, first: FrameTime, last: FrameTime) -> Channel:
    """The channel run backwards between two times: what it was at ``first`` it is at ``last``."""
    return retimed(channel, range(len(channel.keys)), Retiming(FrameTime(-1), first, last - first))


def _longer(handle: Handle | None, stretch: float) -> Handle | None:
    return handle and Handle(handle.frames * stretch, handle.value)


def _backwards(channel: Channel, chosen: tuple[Key, ...]) -> tuple[Key, ...]:
    """Keys, still at their times, by which a curve that is run backwards keeps its form. A stretch that is held is held then
    as well, at the value that it came to."""
    shapes = {key.shape for key in channel.keys}
    turned = [replace(key, handle_in=key.handle_out, handle_out=key.handle_in) for key in chosen]
    if shapes <= {"smooth", "ease", "curve"} or shapes == {"linear"}:
        return tuple(turned)
    # What begins at a key rules until the next one: run backwards it would begin at that one. Handles say it for both ways.
    indices = {key.time: index for index, key in enumerate(channel.keys)}
    out = []
    for key in turned:
        index = indices[key.time]
        before, after = channel.handles(index)
        ruling = channel.keys[index - 1].shape if index else None
        ends_there = after is None or channel.keys[index].shape == "hold"
        if ruling == "hold" or (ruling == "linear" and ends_there):
            out.append(replace(key, shape=ruling))
            continue
        if ruling == "linear":
            before = towards(channel.keys[index], channel.keys[index - 1])
        if channel.keys[index].shape == "linear" and after is not None:
            after = towards(channel.keys[index], channel.keys[index + 1])
        out.append(replace(key, shape="curve", handle_in=after, handle_out=before))
    return tuple(out)


def towards(key: Key, other: Key) -> Handle:
    """A third of the straight way to another key."""
    return Handle(float(abs(other.time - key.time)) / 3, (other.value - key.value) / 3)


def spliced(own: Channel, keys: Sequence[Key]) -> Channel:
    """The channel with ``keys``, in order of time, in the place of all that it has from the first to the last of them.

    >>> line = Channel(0.0, tuple(Key(FrameTime(t), 0.0) for t in range(5)))
    >>> [str(key.time) for key in spliced(line, [Key(FrameTime(1), 1.0), Key(FrameTime(3), 1.0)]).keys]
    ['0', '1', '3', '4']
    """
    before = (key for key in own.keys if key.time < keys[0].time)
    after = (key for key in own.keys if key.time > keys[-1].time)
    return replace(own, keys=(*before, *keys, *after))
