"""Time code: frames numbered as hours, minutes, seconds and frames, with numbers left out where the rate asks for it."""

from __future__ import annotations

import re
from dataclasses import dataclass
from fractions import Fraction

import numpy as np

from ..arrays import Ints
from ..errors import DomainError
from .frames import Rate

DROPPED_A_MINUTE = {Fraction(30000, 1001): 2, Fraction(60000, 1001): 4}
"""Of rates for which drop-frame time code is defined (SMPTE ST 12-1): how many numbers each minute leaves out, but every
tenth."""
HOURS = 24
_WRITTEN = re.compile(r"^(\d{1,2}):(\d{1,2}):(\d{1,2})([:;])(\d{1,3})$")


@dataclass(frozen=True)
class Timecode:
    """The time code of a scene: ``starts_at`` is the count of frames that its first one has; ``drops`` leaves numbers out so
    that it keeps up with the clock."""

    starts_at: int = 0
    drops: bool = False

    def __post_init__(self) -> None:
        if self.starts_at < 0:
            raise DomainError("Time code does not begin before zero.", "Give it from 00:00:00:00 on.")

    def count(self, rate: Rate) -> TimecodeCount:
        """How frames are counted. Raises ``DomainError`` where the rate has no drop-frame time code."""
        return TimecodeCount(numbers_a_second(rate), dropped_a_minute(rate) if self.drops else 0)


@dataclass(frozen=True)
class TimecodeCount:
    """``numbers`` a second, of which the first ``dropped`` of each minute are left out, but those of every tenth minute."""

    numbers: int
    dropped: int = 0

    @property
    def a_minute(self) -> int:
        """Of a minute that leaves some out."""
        return 60 * self.numbers - self.dropped

    @property
    def ten_minutes(self) -> int:
        return 600 * self.numbers - 9 * self.dropped

    @property
    def a_day(self) -> int:
        return HOURS * 6 * self.ten_minutes

    def parts(self, counts: Ints) -> Ints:
        """Hours, minutes, seconds and frames, (n, 4), of counts of frames (n,); after a day it begins again."""
        tens, rest = np.divmod(np.mod(counts, self.a_day), self.ten_minutes)
        # The first minute of ten is whole; each of the nine others has left its first numbers out.
        later = np.maximum(rest - 60 * self.numbers, 0) // self.a_minute + (rest >= 60 * self.numbers)
        numbered = tens * 600 * self.numbers + rest + self.dropped * later
        seconds, frames = np.divmod(numbered, self.numbers)
        return np.stack([seconds // 3600, seconds // 60 % 60, seconds % 60, frames], axis=-1)

    def text(self, count: int) -> str:
        """``hh:mm:ss:ff``, with ``;`` before the frames where numbers are left out.

        >>> TimecodeCount(30, 2).text(1800), TimecodeCount(24).text(28)
        ('00:01:00;02', '00:00:01:04')
        """
        hours, minutes, seconds, frames = self.parts(np.array([count]))[0].tolist()
        wide = len(str(self.numbers - 1))
        return f"{hours:02d}:{minutes:02d}:{seconds:02d}{';' if self.dropped else ':'}{frames:0{max(2, wide)}d}"

    def of(self, hours: int, minutes: int, seconds: int, frames: int) -> int:
        """The count of frames with that time code. Raises ``DomainError`` for one that there is not."""
        if hours >= HOURS or minutes >= 60 or seconds >= 60 or frames >= self.numbers:
            raise DomainError(
                "There is no such time code.", f"A second has the frames 00 to {self.numbers - 1:02d}, a day 24 hours."
            )
        if seconds == 0 and minutes % 10 and frames < self.dropped:
            raise DomainError(
                f"Drop-frame time code leaves out frames 00 to {self.dropped - 1:02d} of that minute.",
                f"Take frame {self.dropped:02d}.",
            )
        whole_minutes = 60 * hours + minutes
        return (
            (60 * whole_minutes + seconds) * self.numbers
            + frames
            - self.dropped * (whole_minutes - whole_minutes // 10)
        )


def numbers_a_second(rate: Rate) -> int:
    return max(1, round(rate.frames_per_second))


def dropped_a_minute(rate: Rate) -> int:
    """Raises ``DomainError`` where the rate has no drop-frame time code."""
    found = DROPPED_A_MINUTE.get(rate.frames_per_second)
    if found is None:
        raise DomainError(
            f"There is no drop-frame time code at {float(rate):g} frames/s.",
            "It goes with 29.97 and 59.94; write : before the frames.",
        )
    return found


def timecode_from_text(text: str, rate: Rate) -> Timecode:
    """Read ``hh:mm:ss:ff``; with ``;`` before the frames it is drop-frame. Raises ``DomainError``.

    >>> timecode_from_text("00:01:00;02", Rate.parse("29.97"))
    Timecode(starts_at=1800, drops=True)
    """
    found = _WRITTEN.match(text.strip())
    if not found:
        raise DomainError(f"The time code “{text}” cannot be read.", "Write it as 01:00:00:00.")
    *_, sign, _ = found.groups()
    written = Timecode(0, sign == ";")
    numbers = [int(found[group]) for group in (1, 2, 3, 5)]
    return Timecode(written.count(rate).of(*numbers), written.drops)


def timecode_at_rate(timecode: Timecode, before: Rate, rate: Rate) -> Timecode:
    """The same time of day at another rate: hours, minutes and seconds as they were, and the frame nearest before its own. It
    leaves numbers out only where that is defined.

    >>> timecode_at_rate(Timecode(36), Rate.parse("24"), Rate.parse("30"))
    Timecode(starts_at=45, drops=False)
    """
    was = timecode.count(before)
    drops = timecode.drops and rate.frames_per_second in DROPPED_A_MINUTE
    now = Timecode(0, drops).count(rate)
    hours, minutes, seconds, frames = was.parts(np.array([timecode.starts_at]))[0].tolist()
    frames = min(now.numbers - 1, frames * now.numbers // was.numbers)
    if now.dropped and seconds == 0 and minutes % 10:
        frames = max(frames, now.dropped)
    return Timecode(now.of(hours, minutes, seconds, frames), drops)
