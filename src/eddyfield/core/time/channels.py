"""Keyed channels: one number over time.

A channel is a default value and keys. The shape of a key says how the channel runs through it: ``hold`` and ``linear``
rule the segment that begins at their key; every other segment is a cubic whose slope at each end comes from that end's
key: ``smooth`` is SciPy's monotone PCHIP (never overshoots), ``ease`` has no slope, ``curve`` has its own handles.
Outside its keys a channel holds, or runs through them again.
"""

from __future__ import annotations

import math
from bisect import bisect_left
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property
from typing import Literal

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ..arrays import Floats
from ..content import content_key
from ..errors import DomainError
from .frames import FrameTime

KeyShape = Literal["hold", "linear", "smooth", "ease", "curve"]
KEY_SHAPES: tuple[KeyShape, ...] = ("hold", "linear", "smooth", "ease", "curve")
FINEST = 10**11
"""Parts of a frame: times are counted as whole numbers over whole numbers of 64 bits."""
_SHAPE_CODES = {shape: code for code, shape in enumerate(KEY_SHAPES)}


@dataclass(frozen=True)
class Handle:
    """One side of a ``curve`` key: how far it reaches in frames (not negative), and by how much in value."""

    frames: float
    value: float


@dataclass(frozen=True)
class Key:
    """A value at an exact time."""

    time: FrameTime
    value: float
    shape: KeyShape = "smooth"
    handle_in: Handle | None = None
    handle_out: Handle | None = None

    def __post_init__(self) -> None:
        if self.shape not in KEY_SHAPES:
            raise DomainError(f"The key shape “{self.shape}” is not known.", f"Choose one of {', '.join(KEY_SHAPES)}.")
        if self.time.denominator > FINEST:
            raise DomainError(
                "The time of a key is too fine to be counted.", "Give a rounder rate, or a rounder stretch."
            )
        numbers = [self.value]
        for handle in (self.handle_in, self.handle_out):
            if handle is not None:
                numbers += [handle.frames, handle.value]
                if handle.frames < 0:
                    raise DomainError("A handle reaches backwards in time.", "Give it a length of 0 or more frames.")
        if not all(map(math.isfinite, numbers)):
            raise DomainError(f"The key at frame {self.time} has a value that is no number.", "Give a finite value.")


BeyondKeys = Literal["hold", "cycle", "drift"]
BEYOND_KEYS: tuple[BeyondKeys, ...] = ("hold", "cycle", "drift")


@dataclass(frozen=True)
class Beyond:
    """How a channel goes on before its first key and after its last: it holds, it runs through its keys again and again, or it
    does so from where the last run came to (``drift``)."""

    before: BeyondKeys = "hold"
    after: BeyondKeys = "hold"

    def __post_init__(self) -> None:
        for way in (self.before, self.after):
            if way not in BEYOND_KEYS:
                raise DomainError(f"A channel cannot “{way}” beyond its keys.", f"Choose {', '.join(BEYOND_KEYS)}.")


HOLDS = Beyond()


@dataclass(frozen=True)
class Channel:
    """A default value, and keys in order of time (no two at one time)."""

    default: float = 0.0
    keys: tuple[Key, ...] = ()
    beyond: Beyond = HOLDS

    def __post_init__(self) -> None:
        # There may be a hundred thousand, and fractions compare slowly: they are, only where they are next to the same.
        close = np.flatnonzero(np.diff(self.times) <= 0).tolist()
        if any(self.keys[index + 1].time <= self.keys[index].time for index in close):
            raise DomainError("Two keys of a channel are at the same time or out of order.", "Give each its own time.")

    def with_key(self, key: Key) -> Channel:
        """The channel with this key; it takes the place of one at the same time."""
        others = [k for k in self.keys if k.time != key.time]
        return replace(self, keys=tuple(sorted([*others, key], key=lambda k: k.time)))

    def without_key(self, time: FrameTime) -> Channel:
        """The channel without its key at ``time``; the last key that goes leaves its value as the default."""
        keys = tuple(k for k in self.keys if k.time != time)
        if len(keys) == len(self.keys):
            return self
        return replace(self, default=self.default if keys else self.keys[0].value, keys=keys)

    def key_at(self, time: FrameTime) -> Key | None:
        index = self.index_at(time)
        return None if index is None else self.keys[index]

    def index_at(self, time: FrameTime) -> int | None:
        """The place of the key at a time. There may be thousands, and fractions compare slowly: it is looked for by halves."""
        index = bisect_left(self.keys, time, key=lambda key: key.time)
        return index if index < len(self.keys) and self.keys[index].time == time else None

    @cached_property
    def _ratios(self) -> NDArray[np.int64]:
        """Times as whole numbers over whole numbers, (keys, 2)."""
        over, under = zip(*[key.time.as_integer_ratio() for key in self.keys], strict=True) if self.keys else ((), ())
        return np.column_stack([np.array(over, dtype=np.int64), np.array(under, dtype=np.int64)])

    @cached_property
    def times_as_text(self) -> list[str]:
        """Exact times of the keys, as they are written."""
        return [str(n) if d == 1 else f"{n}/{d}" for n, d in self._ratios.tolist()]

    @cached_property
    def times(self) -> Floats:
        """Frames of the keys, (keys,)."""
        return self._ratios[:, 0] / self._ratios[:, 1]

    @cached_property
    def shape_codes(self) -> NDArray[np.uint8]:
        """The place of each key's shape in ``KEY_SHAPES``, (keys,)."""
        return np.array([_SHAPE_CODES[key.shape] for key in self.keys], dtype=np.uint8)

    @cached_property
    def content(self) -> str:
        """A name of its keys and its default, made once."""
        values = np.array([self.default, *(key.value for key in self.keys)])
        handles = [(n, k.handle_in, k.handle_out) for n, k in enumerate(self.keys) if k.handle_in or k.handle_out]
        beyond = self.beyond if self.beyond != HOLDS else None
        return content_key(
            "channel", self._ratios.tobytes(), values.tobytes(), self.shape_codes.tobytes(), handles, beyond
        )

    @cached_property
    def segments(self) -> Segments:
        """The keys as arrays; there have to be two at least."""
        return _segments(self.keys, self.times)

    def handles(self, index: int) -> tuple[Handle | None, Handle | None]:
        """How the curve arrives at a key and leaves it, whatever the key's shape; None where no segment is on that side."""
        if len(self.keys) < 2:
            return None, None
        s = self.segments
        arriving = Handle(float(s.in_frames[index - 1]), float(s.in_value[index - 1])) if index else None
        if index + 1 == len(self.keys):
            return arriving, None
        return arriving, Handle(float(s.out_frames[index]), float(s.out_value[index]))

    def at(self, times: ArrayLike) -> Floats:
        """Values at ``times`` (frames), of the same shape."""
        return evaluate(self, np.asarray(times, dtype=np.float64))


def new_key(channel: Channel, time: FrameTime, value: float) -> Channel:
    """Set a key as a person would: a key that is there keeps its shape; a new one at either end of the move is ``ease``.

    A former end of the move that now lies inside it becomes ``smooth`` if it was ``ease``.
    """
    present = channel.key_at(time)
    if present is not None:
        return channel.with_key(replace(present, value=value))
    keys = channel.keys
    first, last = not keys or time < keys[0].time, not keys or time > keys[-1].time
    if len(keys) > 1:
        if first and keys[0].shape == "ease":
            channel = channel.with_key(replace(keys[0], shape="smooth"))
        elif last and keys[-1].shape == "ease":
            channel = channel.with_key(replace(keys[-1], shape="smooth"))
    return channel.with_key(Key(time, value, "ease" if first or last else "smooth"))


def key_within(channel: Channel, time: FrameTime) -> Channel:
    """The same curve with a key more (de Casteljau). Raises ``DomainError`` outside its keys, where there is one already, and
    before a key that cannot have a handle as its shape rules what comes after it."""
    index = next((i for i, key in enumerate(channel.keys) if key.time > time), 0) - 1
    if index < 0 or channel.keys[index].time == time:
        raise DomainError(f"There is no curve to set a key on at {time}.", "Choose a time between two keys.")
    start, end = channel.keys[index], channel.keys[index + 1]
    s, at = channel.segments, float(time)
    if s.hold[index] or s.linear[index]:
        added = Key(time, float(channel.at(at)), "hold" if s.hold[index] else "linear")
        changed = {}
    elif end.shape in ("hold", "linear") and end is not channel.keys[-1]:
        raise DomainError(
            f"The key at {end.time} is {end.shape}: how the curve arrives there cannot be kept.",
            "Set the key after it, or give that one another shape first.",
        )
    else:
        gap = s.gap[index]
        share = np.array([(at - s.times[index]) / gap])
        u = float(_curve_parameter(share, s.out_frames[[index]] / gap, s.in_frames[[index]] / gap)[0])
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
        changed = {
            start.time: (None, _leaving(once[0] - corners[0])),
            end.time: (_arriving(corners[3] - once[2]), None),
        }
    made = channel.with_key(added)
    kept = []
    for number, key in enumerate(made.keys):
        before = None if key is added else channel.handles(number if number <= index else number - 1)
        arriving, leaving = changed.get(key.time, (None, None))
        wanted = before and (arriving or before[0], leaving or before[1])
        # What goes by its neighbours would go by the new key: it keeps the way that it had.
        rules = key.shape in ("hold", "linear") and key.time not in changed
        if wanted and not rules and not all(map(alike, wanted, made.handles(number))):
            key = replace(key, shape="curve", handle_in=wanted[0], handle_out=wanted[1])
        kept.append(key)
    return replace(channel, keys=tuple(kept))


def _leaving(way: Floats) -> Handle:
    return Handle(max(0.0, float(way[0])), float(way[1]))


def _arriving(way: Floats) -> Handle:
    """Measured from the key, so that it points back."""
    return Handle(max(0.0, float(way[0])), -float(way[1]))


def alike(one: Handle | None, other: Handle | None) -> bool:
    """Whether two ways to or from a key are the same; one that is not there is like any."""
    if one is None or other is None:
        return True
    return abs(one.frames - other.frames) < 1e-12 and abs(one.value - other.value) < 1e-12


def evaluate(channel: Channel, times: Floats) -> Floats:
    """Values of a channel at ``times`` in frames; the shape of ``times`` is kept."""
    keys = channel.keys
    if len(keys) < 2:
        return np.full(times.shape, keys[0].value if keys else channel.default)
    segments = channel.segments
    lift: Floats | float = 0.0
    if channel.beyond != HOLDS:
        times, lift = _within_keys(channel.beyond, segments, times)
    clamped = np.clip(times, segments.times[0], segments.times[-1])
    at = np.clip(np.searchsorted(segments.times, clamped, side="right") - 1, 0, len(keys) - 2)
    gap = segments.gap[at]
    local = (clamped - segments.times[at]) / gap
    share = _curve_parameter(local, segments.out_frames[at] / gap, segments.in_frames[at] / gap)
    start, end = segments.values[at], segments.values[at + 1]
    first, second = start + segments.out_value[at], end + segments.in_value[at]
    rest = 1.0 - share
    values = rest**3 * start + 3 * rest**2 * share * first + 3 * rest * share**2 * second + share**3 * end
    values = np.where(segments.linear[at], start + (end - start) * local, values)
    values = np.where(segments.hold[at], start, values)
    return np.where(clamped >= segments.times[-1], segments.values[-1], values) + lift


def _within_keys(beyond: Beyond, segments: Segments, times: Floats) -> tuple[Floats, Floats]:
    """Times as they are within the keys where they are run through again, and how much higher the channel is by then."""
    first, last = segments.times[0], segments.times[-1]
    runs = np.where(times == last, 0.0, np.floor((times - first) / (last - first)))
    again = ((runs < 0) & (beyond.before != "hold")) | ((runs > 0) & (beyond.after != "hold"))
    drifts = ((runs < 0) & (beyond.before == "drift")) | ((runs > 0) & (beyond.after == "drift"))
    rise = segments.values[-1] - segments.values[0]
    return np.where(again, times - runs * (last - first), times), np.where(drifts, runs * rise, 0.0)


@dataclass(frozen=True, eq=False)
class Segments:
    """A channel's keys as arrays. Per key: ``times``, ``values``. Per segment between two keys: the gap in frames, reach
    and rise of the handle that leaves its start and of the one that arrives at its end, and whether it is ruled by a
    ``hold`` or ``linear`` key.

    A slope is a handle of a third of the gap. A handle is never longer than the gap, which keeps time monotone.
    """

    times: Floats
    values: Floats
    gap: Floats
    out_frames: Floats
    out_value: Floats
    in_frames: Floats
    in_value: Floats
    hold: NDArray[np.bool_]
    linear: NDArray[np.bool_]


def _segments(keys: tuple[Key, ...], times: Floats) -> Segments:
    # Brought in here, as it takes longer to load than a reading of a file takes.
    from scipy.interpolate import PchipInterpolator

    values = np.array([k.value for k in keys])
    shapes = np.array([k.shape for k in keys])
    gap, rise = np.diff(times), np.diff(values)
    with np.errstate(over="ignore"):  # SciPy divides by differences that may be next to nothing; the slope is 0 there
        slope = PchipInterpolator(times, values).derivative()(times)
    slope[(shapes == "ease") | (shapes == "hold")] = 0.0
    # A linear key's slope is that of the line it begins; the last key has only the one that ends there.
    slope = np.where(shapes == "linear", np.append(rise / gap, rise[-1] / gap[-1]), slope)
    out_frames, in_frames = gap / 3, gap / 3
    out_value, in_value = slope[:-1] * gap / 3, -slope[1:] * gap / 3
    for index in np.flatnonzero(shapes == "curve").tolist():
        leaving, arriving = keys[index].handle_out, keys[index].handle_in
        if leaving is not None and index < len(gap):
            out_frames[index], out_value[index] = _within(leaving, gap[index])
        if arriving is not None and index > 0:
            in_frames[index - 1], in_value[index - 1] = _within(arriving, gap[index - 1])
    hold, linear = shapes[:-1] == "hold", shapes[:-1] == "linear"
    return Segments(times, values, gap, out_frames, out_value, in_frames, in_value, hold, linear)


def _within(handle: Handle, gap: float) -> tuple[float, float]:
    """A handle cut to the gap along its own direction. ``handle.value`` is measured from the key."""
    if handle.frames <= gap:
        return handle.frames, handle.value
    return gap, handle.value * gap / handle.frames


def _curve_parameter(share: Floats, reach_out: Floats, reach_in: Floats) -> Floats:
    """Bezier parameter at a share of the gap, for handles that reach these shares of it; to 1e-12 of the gap.

    Time along the curve is monotone, as no handle exceeds the gap, so there is one root between 0 and 1.
    """
    thirds = (np.abs(reach_out - 1 / 3) < 1e-15) & (np.abs(reach_in - 1 / 3) < 1e-15)
    if thirds.all():
        return share.copy()
    # Brought in here, as it takes longer to load than a reading of a file takes.
    from scipy.optimize.elementwise import find_root

    def off(u: Floats, /, *of_frame: Floats) -> Floats:
        share, first, second = of_frame
        rest = 1.0 - u
        return 3 * rest**2 * u * first + 3 * rest * u**2 * second + u**3 - share

    ends = np.zeros_like(share), np.ones_like(share)
    found = find_root(
        off, ends, args=(share, reach_out, 1.0 - reach_in),
        tolerances={"xatol": 1e-14, "xrtol": 1e-15, "fatol": 0.0, "frtol": 0.0},
    )  # fmt: skip
    return np.where(thirds, share, found.x)


def frame_time(value: int | str | Fraction) -> FrameTime:
    """An exact time from a whole frame, or from text such as ``"1001"`` or ``"2003/2"``."""
    try:
        return Fraction(value)
    except (ValueError, ZeroDivisionError):
        raise DomainError(f"“{value}” is not a time in frames.", "Write it as 1001 or 2003/2.") from None
