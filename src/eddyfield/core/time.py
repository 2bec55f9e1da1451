"""Time: rates, exact times in frames, and ranges of frames.

Shown frames are integers. Times of keys are exact fractions of a frame (``fractions.Fraction``), so that a change of
rate moves nothing.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from .errors import DomainError

FrameTime = Fraction
"""An exact time, counted in frames of the scene's rate."""

_RATE = re.compile(r"^(\d{1,9})(?:/(\d{1,9})|\.(\d{1,6}))?$")
FASTEST_RATE = 1000
# The written forms of the rates whose exact value is a fraction over 1001.
_NOMINAL = {
    "23.976": Fraction(24000, 1001),
    "23.98": Fraction(24000, 1001),
    "29.97": Fraction(30000, 1001),
    "59.94": Fraction(60000, 1001),
}


@dataclass(frozen=True)
class Rate:
    """Frames per second, exactly.

    >>> Rate.parse("24000/1001").frames_per_second
    Fraction(24000, 1001)
    """

    frames_per_second: Fraction

    def __post_init__(self) -> None:
        if not 0 < self.frames_per_second <= FASTEST_RATE:
            raise DomainError(
                f"The rate {self.frames_per_second} is not usable.", f"Give a rate above 0 and up to {FASTEST_RATE}."
            )

    @classmethod
    def parse(cls, text: str) -> Rate:
        """Read ``24``, ``12.5``, ``24000/1001`` or a nominal ``23.976``."""
        text = text.strip()
        if text in _NOMINAL:
            return cls(_NOMINAL[text])
        if not _RATE.match(text) or text.endswith("/0"):
            raise DomainError(f"The rate “{text}” cannot be read.", "Write it as 24, 12.5 or 24000/1001.")
        try:
            return cls(Fraction(text))
        except ZeroDivisionError:
            raise DomainError(f"The rate “{text}” cannot be read.", "Write it as 24, 12.5 or 24000/1001.") from None

    def __str__(self) -> str:
        return str(self.frames_per_second)

    def __float__(self) -> float:
        return float(self.frames_per_second)


@dataclass(frozen=True)
class FrameRange:
    """Frames from ``first`` to ``last``, both included.

    >>> FrameRange(1001, 1096).count
    96
    """

    first: int
    last: int

    def __post_init__(self) -> None:
        if self.last < self.first:
            raise DomainError(
                f"The range {self.first} to {self.last} ends before it starts.",
                "Give a last frame at or after the first.",
            )

    @property
    def count(self) -> int:
        return self.last - self.first + 1

    def frames(self) -> NDArray[np.int64]:
        """All frames of the range, shape (count,)."""
        return np.arange(self.first, self.last + 1, dtype=np.int64)

    def __contains__(self, frame: int) -> bool:
        return self.first <= frame <= self.last


def seconds_at(frames: NDArray[np.int64], start: int, rate: Rate) -> NDArray[np.float64]:
    """Time of frames in a motion file, seconds: ``(frame - start) / rate``; ``start`` is the frame of its time 0."""
    fraction = rate.frames_per_second
    return np.asarray((frames - start) * (fraction.denominator / fraction.numerator), dtype=np.float64)


def exact_times(seconds: NDArray[np.float64], rate: Rate) -> list[FrameTime]:
    """Seconds of a motion file (n,) as exact times from its time 0: the nearest fractions with denominators up to 1000.

    >>> exact_times(np.array([0.5, 1 / 3]), Rate.parse("25"))
    [Fraction(25, 2), Fraction(25, 3)]
    """
    frames = seconds * float(rate)
    whole = np.rint(frames)
    # What is as near as this to a whole frame has no nearer fraction; most keys are, and fractions are slow.
    near = np.abs(frames - whole) < 1e-6
    return [
        Fraction(int(frame)) if is_whole else (Fraction(float(s)) * rate.frames_per_second).limit_denominator(1000)
        for s, frame, is_whole in zip(seconds, whole, near, strict=True)
    ]


def last_frame_of(duration_seconds: float, start: int, rate: Rate) -> int:
    """The last shown frame of a motion that begins on ``start``; a hair under a whole frame counts as whole."""
    return start + math.floor(duration_seconds * float(rate) + 1e-6)


def timecode(frame: int, rate: Rate, start: int = 0) -> str:
    """``hh:mm:ss:ff`` without dropped numbers, counted from ``start``.

    >>> timecode(1029, Rate.parse("24"), 1001)
    '00:00:01:04'
    """
    whole = max(1, round(rate.frames_per_second))
    count = abs(frame - start)
    sign = "-" if frame < start else ""
    seconds, frames = divmod(count, whole)
    return f"{sign}{seconds // 3600:02d}:{seconds // 60 % 60:02d}:{seconds % 60:02d}:{frames:02d}"
