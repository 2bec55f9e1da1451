"""Keyed channels: one number over time.

A channel is a default value and keys. The shape of a key says how the channel runs through it: ``hold``, ``linear`` and
``jump`` rule the segment that begins at their key (``jump`` is ``hold`` run backwards: right after the key it has the next
key's value); every other segment is a cubic whose slope at each end comes from that end's key: ``smooth`` is SciPy's
monotone PCHIP (never overshoots), ``ease`` has no slope, ``curve`` has its own handles. Outside its keys a channel holds,
or runs through them again.
"""

from __future__ import annotations

from bisect import bisect_left
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property
from hashlib import sha256
from typing import Literal

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ..arrays import Floats
from ..content import content_key
from ..errors import DomainError
from .frames import FrameTime
from .keys import RULING, SHAPE_CODES, Handle, Key, KeyMark, shared_ends

_OF_KEY = {
    "times": "frame", "values": "value", "shape_codes": "shape_code", "times_as_text": "time_as_text", "odd": "odd",
    "marks": "mark",
}  # fmt: skip
"""What a channel asks of each of its keys, for all of them."""
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

    def with_keys(self, keys: tuple[Key, ...]) -> Channel:
        """The channel with other keys. What is known of those that stay, which are the same objects, is not worked out again."""
        begins, ends = shared_ends(self.keys, keys)
        made = object.__new__(Channel)
        vars(made).update(default=self.default, keys=keys, beyond=self.beyond)
        new, after = keys[begins : len(keys) - ends], len(self.keys) - ends
        for name in _OF_KEY:
            known = vars(self).get(name)
            if known is None:
                continue
            own = [getattr(key, _OF_KEY[name]) for key in new]
            vars(made)[name] = (
                [*known[:begins], *own, *known[after:]]
                if isinstance(known, list)
                else np.concatenate([known[:begins], np.array(own, dtype=known.dtype), known[after:]])
            )
        made.__post_init__()
        return made

    def with_key(self, key: Key) -> Channel:
        """The channel with this key; it takes the place of one at the same time."""
        at = bisect_left(self.keys, key.time, key=lambda key: key.time)
        taken = at < len(self.keys) and self.keys[at].time == key.time
        return self.with_keys((*self.keys[:at], key, *self.keys[at + taken :]))

    def without_key(self, time: FrameTime) -> Channel:
        """The channel without its key at ``time``; the last key that goes leaves its value as the default."""
        keys = tuple(k for k in self.keys if k.time != time)
        if len(keys) == len(self.keys):
            return self
        return self.with_keys(keys) if keys else Channel(self.keys[0].value, (), self.beyond)

    def key_at(self, time: FrameTime) -> Key | None:
        index = self.index_at(time)
        return None if index is None else self.keys[index]

    def index_at(self, time: FrameTime) -> int | None:
        """The place of the key at a time. There may be thousands, and fractions compare slowly: it is looked for by halves."""
        index = bisect_left(self.keys, time, key=lambda key: key.time)
        return index if index < len(self.keys) and self.keys[index].time == time else None

    @cached_property
    def times_as_text(self) -> list[str]:
        """Exact times of the keys, as they are written."""
        return [key.time_as_text for key in self.keys]

    @cached_property
    def times(self) -> Floats:
        """Frames of the keys, (keys,)."""
        return np.array([key.frame for key in self.keys], dtype=np.float64)

    @cached_property
    def values(self) -> Floats:
        """(keys,)"""
        return np.array([key.value for key in self.keys], dtype=np.float64)

    @cached_property
    def shape_codes(self) -> NDArray[np.uint8]:
        """The place of each key's shape in ``KEY_SHAPES``, (keys,)."""
        return np.array([key.shape_code for key in self.keys], dtype=np.uint8)

    @cached_property
    def marks(self) -> list[KeyMark]:
        return [key.mark for key in self.keys]

    @cached_property
    def odd(self) -> list[tuple[object, ...] | None]:
        """Of each key what few have."""
        return [key.odd for key in self.keys]

    @cached_property
    def content(self) -> str:
        """A name of its keys and its default, made once."""
        odd = [(n, its_own) for n, its_own in enumerate(self.odd) if its_own]
        columns = (self.times, self.values, self.shape_codes)
        numbers = sha256(b"".join(column.tobytes() for column in columns)).hexdigest()
        return content_key("channel", self.default, self.beyond, len(self.keys), numbers, odd)

    @cached_property
    def segments(self) -> Segments:
        """The keys as arrays; there have to be two at least."""
        return _segments(self)

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


@dataclass(frozen=True, eq=False)
class Located:
    """Where times lie among the keys of a channel, and of all that have theirs at the same times: the segment of each, what
    part of it has passed, and what is after the last key. Of the shape of the times."""

    of: Segments
    segment: NDArray[np.int64]
    share: Floats
    after: NDArray[np.bool_]


def located(segments: Segments, times: Floats) -> Located:
    clamped = np.clip(times, segments.times[0], segments.times[-1])
    at = np.clip(np.searchsorted(segments.times, clamped, side="right") - 1, 0, len(segments.gap) - 1)
    share = np.array((clamped - segments.times[at]) / segments.gap[at])
    return Located(segments, at, share, clamped >= segments.times[-1])


def evaluate(channel: Channel, times: Floats, among: Located | None = None) -> Floats:
    """Values of a channel at ``times`` in frames; the shape of ``times`` is kept. ``among``: where they lie among the keys of a
    channel that may have its own at the same times."""
    keys = channel.keys
    if len(keys) < 2:
        return np.full(times.shape, keys[0].value if keys else channel.default)
    segments = channel.segments
    lift: Floats | float = 0.0
    if channel.beyond != HOLDS:
        times, lift = _within_keys(channel.beyond, segments, times)
    if among is None or channel.beyond != HOLDS or not np.array_equal(among.of.times, segments.times):
        among = located(segments, times)
    at, share = among.segment, among.share
    if not segments.even.all():
        share = share.copy()
        uneven = ~segments.even[at]
        of = at[uneven]
        reaches = (segments.out_frames[of] / segments.gap[of], segments.in_frames[of] / segments.gap[of])
        share[uneven] = curve_parameter(share[uneven], *reaches)
    constant, first, second, third = (power[at] for power in segments.powers)
    values = constant + share * (first + share * (second + share * third))
    if segments.jump.any():
        values = np.where(segments.jump[at] & (share > 0), segments.values[at + 1], values)
    return np.where(among.after, segments.values[-1], values) + lift


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
    ``hold``, ``linear`` or ``jump`` key.

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
    jump: NDArray[np.bool_]

    @cached_property
    def ruled(self) -> NDArray[np.bool_]:
        """Where no handle counts."""
        return self.hold | self.linear | self.jump

    @cached_property
    def even(self) -> NDArray[np.bool_]:
        """Where time runs evenly along the curve: handles of thirds, and what is held or straight."""
        third = self.gap / 3
        thirds = (np.abs(self.out_frames - third) < 1e-15 * self.gap) & (
            np.abs(self.in_frames - third) < 1e-15 * self.gap
        )
        return np.asarray(thirds | self.ruled)

    @cached_property
    def powers(self) -> tuple[Floats, Floats, Floats, Floats]:
        """What is multiplied with no, the first, second and third power of the curve's parameter."""
        start, end = self.values[:-1], self.values[1:]
        leaving, arriving = start + self.out_value, end + self.in_value
        straight = np.where(self.linear, end - start, 0.0)
        flat = self.ruled
        first = np.where(flat, straight, 3 * (leaving - start))
        second = np.where(flat, 0.0, 3 * (start - 2 * leaving + arriving))
        third = np.where(flat, 0.0, end - start + 3 * (leaving - arriving))
        return start, first, second, third


def _segments(channel: Channel) -> Segments:
    # Brought in here, as it takes longer to load than a reading of a file takes.
    from scipy.interpolate import PchipInterpolator

    keys, times, values = channel.keys, channel.times, channel.values
    hold, linear, ease, curve, jump = (
        channel.shape_codes == SHAPE_CODES[shape] for shape in ("hold", "linear", "ease", "curve", "jump")
    )
    gap, rise = np.diff(times), np.diff(values)
    with np.errstate(over="ignore"):  # SciPy divides by differences that may be next to nothing; the slope is 0 there
        slope = PchipInterpolator(times, values).derivative()(times)
    slope[ease | hold | jump] = 0.0
    # A linear key's slope is that of the line it begins; the last key has only the one that ends there.
    slope = np.where(linear, np.append(rise / gap, rise[-1] / gap[-1]), slope)
    out_frames, in_frames = gap / 3, gap / 3
    out_value, in_value = slope[:-1] * gap / 3, -slope[1:] * gap / 3
    for index in np.flatnonzero(curve).tolist():
        leaving, arriving = keys[index].handle_out, keys[index].handle_in
        if leaving is not None and index < len(gap):
            out_frames[index], out_value[index] = _within(leaving, gap[index])
        if arriving is not None and index > 0:
            in_frames[index - 1], in_value[index - 1] = _within(arriving, gap[index - 1])
    for index, odd in enumerate(channel.odd):
        if odd and index and keys[index].shape in RULING and (arriving := keys[index].handle_in) is not None:
            in_frames[index - 1], in_value[index - 1] = _within(arriving, gap[index - 1])
    return Segments(times, values, gap, out_frames, out_value, in_frames, in_value, hold[:-1], linear[:-1], jump[:-1])


def _within(handle: Handle, gap: float) -> tuple[float, float]:
    """A handle cut to the gap along its own direction. ``handle.value`` is measured from the key."""
    if handle.frames <= gap:
        return handle.frames, handle.value
    return gap, handle.value * gap / handle.frames


def curve_parameter(share: Floats, reach_out: Floats, reach_in: Floats) -> Floats:
    """Bezier parameter at a share of the gap, for handles that reach these shares of it; to 1e-12 of the gap.

    Time along the curve is monotone, as no handle exceeds the gap, so there is one root between 0 and 1.
    """
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
    return np.asarray(found.x)


def frame_time(value: int | str | Fraction) -> FrameTime:
    """An exact time from a whole frame, or from text such as ``"1001"`` or ``"2003/2"``."""
    try:
        return Fraction(value)
    except (ValueError, ZeroDivisionError):
        raise DomainError(f"“{value}” is not a time in frames.", "Write it as 1001 or 2003/2.") from None
