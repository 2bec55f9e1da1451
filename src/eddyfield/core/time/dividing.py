"""Stretches cut out of a curve: keys more on the same curve, and other keys in a stretch while all beside it stays the same
curve.

What lies outside a stretch is kept exactly: the segments at its edges are divided (de Casteljau), and keys that go by their
neighbours get the handles that they had where they would go otherwise.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

import numpy as np

from ..arrays import Floats
from ..errors import DomainError
from .channels import HOLDS, Channel, curve_parameter
from .frames import FrameTime
from .keys import RULING, Handle, Key, KeyShape

Ways = Mapping[FrameTime, tuple[Handle | None, Handle | None]]
"""How a curve arrives at a key and leaves it, by the key's time; None where any way will do."""
SUDDEN = FrameTime(1, 1000)
"""How long, in frames, a change takes that comes at once."""
SAME_VALUE = 1e-12
REACH = 3
"""Keys to each side of a change that are looked after."""
NO_WAY: tuple[Handle | None, Handle | None] = (None, None)


def alike(one: Handle | None, other: Handle | None) -> bool:
    """Whether two ways to or from a key are the same; one that is not there is like any."""
    if one is None or other is None:
        return True
    return abs(one.frames - other.frames) < 1e-12 and abs(one.value - other.value) < 1e-12


def ways_about(channel: Channel, *times: FrameTime) -> dict[FrameTime, tuple[Handle | None, Handle | None]]:
    """How its curve runs, whatever their shapes, at those of its keys whose way a change at the times could change: no slope goes
    by more than two keys beside it."""
    out = {}
    for time in times:
        at = bisect_left(channel.keys, time, key=lambda key: key.time)
        for index in range(max(0, at - REACH), min(len(channel.keys), at + REACH + 1)):
            out[channel.keys[index].time] = channel.handles(index)
    return out


def keeping_ways(channel: Channel, ways: Ways) -> Channel:
    """The channel with each key that has a way to keep going that way: as it is where it does so by itself, else by handles of
    its own. A ruling key keeps its shape."""
    if len(channel.keys) < 2:
        return channel
    keys = list(channel.keys)
    for time, (arriving, leaving) in ways.items():
        index = channel.index_at(time)
        if index is None:
            continue
        key = keys[index]
        if index and keys[index - 1].shape in RULING:
            arriving = None
        if key.shape in RULING:
            leaving = None
        before = channel.handles(index) if arriving or leaving else (None, None)
        if not (alike(arriving, before[0]) and alike(leaving, before[1])):
            arriving = arriving or before[0]
            keys[index] = (
                replace(key, handle_in=arriving)
                if key.shape in RULING
                else replace(key, shape="curve", handle_in=arriving, handle_out=leaving or before[1])
            )
    return channel.with_keys(tuple(keys))


def key_within(channel: Channel, time: FrameTime) -> Channel:
    """The same curve with a key more. Raises ``DomainError`` outside its keys, and where there is one already."""
    index = bisect_left(channel.keys, time, key=lambda key: key.time) - 1
    if not 0 <= index < len(channel.keys) - 1 or channel.keys[index + 1].time == time:
        raise DomainError(f"There is no curve to set a key on at {time}.", "Choose a time between two keys.")
    start, end = channel.keys[index], channel.keys[index + 1]
    ways = ways_about(channel, time)
    s, at = channel.segments, float(time)
    if start.shape == "jump":
        return keeping_ways(channel.with_key(Key(time, end.value, "hold")), ways)
    if start.shape in RULING:
        return keeping_ways(channel.with_key(Key(time, float(channel.at(at)), start.shape)), ways)
    gap = s.gap[index]
    share = np.array([(at - s.times[index]) / gap])
    u = float(curve_parameter(share, s.out_frames[[index]] / gap, s.in_frames[[index]] / gap)[0])
    corners = np.array(
        [
            (s.times[index], start.value),
            (s.times[index] + s.out_frames[index], start.value + s.out_value[index]),
            (s.times[index + 1] - s.in_frames[index], end.value + s.in_value[index]),
            (s.times[index + 1], end.value),
        ]
    )
    once = corners[:-1] + u * np.diff(corners, axis=0)
    twice = once[:-1] + u * np.diff(once, axis=0)
    middle = twice[0] + u * (twice[1] - twice[0])
    added = Key(time, float(middle[1]), "curve", _arriving(middle - twice[0]), _leaving(twice[1] - middle))
    ways[start.time] = ways[start.time][0], _leaving(once[0] - corners[0])
    ways[end.time] = _arriving(corners[3] - once[2]), ways[end.time][1]
    return keeping_ways(channel.with_key(added), ways)


def divided(channel: Channel, times: Iterable[FrameTime]) -> Channel:
    """The same curve with a key at each of the times that lie between its first and its last key."""
    for time in times:
        if channel.keys and channel.keys[0].time < time < channel.keys[-1].time and channel.index_at(time) is None:
            channel = key_within(channel, time)
    return channel


def replaced_within(own: Channel, keys: Sequence[Key], stays: bool = False) -> Channel:
    """The channel with ``keys``, in order of time, in the place of all that it does from the first to the last of them. Before
    and after them it is what it was, to 1e-9: where the new keys begin or end at another value than it has there, it changes
    within a thousandth of a frame beside them. ``stays``: where it has no keys after them, it stays at the last of them.

    Raises ``DomainError`` for what is run through again beyond its keys, which would change there as well.

    >>> line = Channel(0.0, (Key(FrameTime(0), 0.0, "linear"), Key(FrameTime(8), 8.0)))
    >>> bent = replaced_within(line, [Key(FrameTime(2), 2.0), Key(FrameTime(3), 7.0), Key(FrameTime(4), 4.0)])
    >>> [float(bent.at(t)) for t in (1.5, 3.0, 6.0)]
    [1.5, 7.0, 6.0]
    """
    if own.beyond != HOLDS:
        raise DomainError(
            "What a move does is run through again beyond its keys, and would change there as well.",
            "Let it hold beyond its keys first (Time).",
        )
    put = [*_sudden_beginning(own, keys[0]), *keys, *_sudden_end(own, keys[-1], stays)]
    first, last = put[0].time, put[-1].time
    own = divided(own, (first, last))
    before = list(own.keys[: bisect_left(own.keys, first, key=lambda key: key.time)])
    after = own.keys[bisect_right(own.keys, last, key=lambda key: key.time) :]
    ways = {time: way for time, way in ways_about(own, first, last).items() if not first <= time <= last}
    ways |= ways_about(Channel(0.0, tuple(keys)), first, last)
    if before:
        ways[first] = _way(own, first)[0], ways.get(first, NO_WAY)[1]
    if after:
        ways[last] = ways.get(last, NO_WAY)[0], _way(own, last)[1]
        there = own.key_at(last)
        # Before its first key, and after its last, it held.
        shape: KeyShape = "hold" if there is None else there.shape if there.shape in RULING else "curve"
        put[-1] = replace(put[-1], shape=shape)
    elif own.keys and own.keys[-1].time < first:
        before[-1] = replace(before[-1], shape="hold", handle_in=None)
    return keeping_ways(Channel(own.default, (*before, *put, *after), own.beyond), ways)


def _sudden_beginning(own: Channel, key: Key) -> list[Key]:
    """A key just before the first new one, where the channel comes to another value."""
    at = key.time
    led_to = next((k for k in reversed(own.keys) if k.time < at), None)
    if led_to is not None and led_to.shape == "hold":
        return []
    comes_to = float(own.at(float(at)))
    if _same(key.value, comes_to):
        return []
    return [Key(at - SUDDEN, float(own.at(float(at - SUDDEN))), "linear")]


def _sudden_end(own: Channel, key: Key, stays: bool) -> list[Key]:
    """A key just after the last new one, where the channel goes on from another value."""
    there = own.key_at(key.time)
    if there is not None and there.shape == "jump" and there is not own.keys[-1]:
        return []
    if _same(key.value, float(own.at(float(key.time)))):
        return []
    if stays and not (own.keys and own.keys[-1].time > key.time):
        return []
    at = key.time + SUDDEN
    return [Key(at, float(own.at(float(at))), "linear")]


def _same(one: float, other: float) -> bool:
    return abs(one - other) <= SAME_VALUE * max(1.0, abs(other))


def _way(channel: Channel, time: FrameTime) -> tuple[Handle | None, Handle | None]:
    index = channel.index_at(time)
    return (None, None) if index is None else channel.handles(index)


def _leaving(way: Floats) -> Handle:
    return Handle(max(0.0, float(way[0])), float(way[1]))


def _arriving(way: Floats) -> Handle:
    """Measured from the key, so that it points back."""
    return Handle(max(0.0, float(way[0])), -float(way[1]))
