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
from numpy.typing import ArrayLike, NDArray

from ..errors import DomainError

FrameTime = Fraction
"""An exact time, counted in frames of the scene's rate."""

_RATE = re.compile(r"^(\d{1,9})(?:/(\d{1,9})|\.(\d{1,9}))?$")
FASTEST_RATE = 1000
SLOWED_RATES = tuple(Fraction(whole * 1000, 1001) for whole in (24, 30, 48, 60, 120))
"""Rates whose exact value is a fraction over 1001; they are written as rounded decimals."""
COMMON_RATES = (*(Fraction(n) for n in (12, 15, 24, 25, 30, 48, 50, 60, 72, 90, 100, 120, 240)), *SLOWED_RATES)
FLOAT32_STEP, LEAST_TOLERANCE_S = 2.0**-23, 1e-6
FRAME_TIME_TOLERANCE = 5e-5
"""Of a frame: how far a written frame time may be from that of a common rate and still mean it."""
MOST_DENOMINATOR = 1000


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
        """Read ``24``, ``12.5``, ``24000/1001`` or a rounded ``23.976``.

        >>> Rate.parse("29.970") == Rate.parse("30000/1001")
        True
        """
        text = text.strip()
        if not _RATE.match(text) or text.endswith("/0"):
            raise DomainError(f"The rate “{text}” cannot be read.", "Write it as 24, 12.5 or 24000/1001.")
        try:
            return cls(_slowed(text) or Fraction(text))
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


def seconds_at(frames: NDArray[np.int64], start: FrameTime | int, rate: Rate) -> NDArray[np.float64]:
    """Time of frames in a motion file, seconds: ``(frame - start) / rate``; ``start`` is the frame of its time 0."""
    fraction = rate.frames_per_second
    return np.asarray((frames - float(start)) * (fraction.denominator / fraction.numerator), dtype=np.float64)


def file_tolerance_s(seconds: ArrayLike) -> NDArray[np.float64]:
    """How far times of a motion file, in seconds, may be from what they mean: one float32 step, at least 1e-6 s."""
    return np.maximum(np.abs(np.asarray(seconds, dtype=np.float64)) * FLOAT32_STEP, LEAST_TOLERANCE_S)


def exact_times(seconds: NDArray[np.float64], rate: Rate) -> list[FrameTime]:
    """Seconds of a motion file (n,) as exact times from its time 0: the simplest fraction with a denominator up to 1000
    that lies within the file's rounding, else the nearest.

    >>> exact_times(np.array([0.5, 1 / 3]), Rate.parse("25"))
    [Fraction(25, 2), Fraction(25, 3)]
    """
    frames = seconds * float(rate)
    tolerance = file_tolerance_s(seconds) * float(rate)
    found: list[FrameTime | None] = [None] * len(frames)
    waiting = np.arange(len(frames))
    for denominator in range(1, MOST_DENOMINATOR + 1):  # most are whole, and are found at once
        numerators = np.rint(frames[waiting] * denominator)
        near = np.abs(frames[waiting] * denominator - numerators) <= tolerance[waiting] * denominator
        for index, numerator in zip(waiting[near].tolist(), numerators[near].tolist(), strict=True):
            found[index] = Fraction(int(numerator), denominator)
        waiting = waiting[~near]
        if not len(waiting):
            break
    nearest = (Fraction(float(s)) * rate.frames_per_second for s in seconds[waiting])
    for index, time in zip(waiting.tolist(), nearest, strict=True):
        found[index] = time.limit_denominator(MOST_DENOMINATOR)
    return [time for time in found if time is not None]


def last_frame_of(duration_seconds: float, start: int, rate: Rate) -> int:
    """The last shown frame of a motion that begins on ``start``; less than the file's rounding under a whole frame counts
    as whole."""
    return start + math.floor((duration_seconds + float(file_tolerance_s(duration_seconds))) * float(rate))


def meant_frame_seconds(written_s: float) -> float:
    """The time of a frame that a file means which writes it as a rounded decimal: that of a common rate where it is within
    5e-5 of a frame of it, else as written.

    >>> meant_frame_seconds(0.0333333) == 1 / 30
    True
    """
    rate = min(COMMON_RATES, key=lambda r: abs(written_s * float(r) - 1))
    return float(1 / rate) if abs(written_s * float(rate) - 1) <= FRAME_TIME_TOLERANCE else written_s


def _slowed(text: str) -> Fraction | None:
    """The rate over 1001 that a decimal with two places or more is the rounding of; None where it is of none."""
    whole, _, decimals = text.partition(".")
    decimals = decimals.rstrip("0")
    if len(decimals) < 2:
        return None
    written, half = Fraction(f"{whole}.{decimals}"), Fraction(1, 2 * 10 ** len(decimals))
    return next((rate for rate in SLOWED_RATES if abs(rate - written) <= half), None)
