"""Keys: a value at an exact time, and how a channel runs through it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import compress, count
from operator import is_not
from typing import Literal

from typing_extensions import TypedDict

from ..errors import DomainError
from .frames import FrameTime

KeyShape = Literal["hold", "linear", "smooth", "ease", "curve", "jump"]
KEY_SHAPES: tuple[KeyShape, ...] = ("hold", "linear", "smooth", "ease", "curve", "jump")
RULING: frozenset[KeyShape] = frozenset(("hold", "linear", "jump"))
"""Shapes that rule the whole segment that begins at their key."""
FINEST = 10**11
"""Parts of a frame: times are counted as whole numbers over whole numbers of 64 bits."""
SHAPE_CODES = {shape: code for code, shape in enumerate(KEY_SHAPES)}


@dataclass(frozen=True)
class Handle:
    """One side of a ``curve`` key: how far it reaches in frames (not negative), and by how much in value."""

    frames: float
    value: float


class KeyMark(TypedDict):
    """A time at which there is a key, as text and as a frame, and the shape of that key."""

    time: str
    frame: float
    shape: KeyShape


@dataclass(frozen=True)
class Key:
    """A value at an exact time. One with a ruling shape may have a handle of its own by which a curve arrives at it; handles of
    ``smooth`` and ``ease`` rest until it is a ``curve``."""

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

    # There may be a hundred thousand in one channel, most of them the same after a change as before: each works out once what
    # channels ask of it.

    @cached_property
    def frame(self) -> float:
        return self.time.numerator / self.time.denominator

    @cached_property
    def time_as_text(self) -> str:
        """Its exact time, as it is written."""
        return str(self.time)

    @cached_property
    def shape_code(self) -> int:
        """The place of its shape in ``KEY_SHAPES``."""
        return SHAPE_CODES[self.shape]

    @cached_property
    def mark(self) -> KeyMark:
        """What is seen of it in a row of times."""
        return {"time": self.time_as_text, "frame": self.frame, "shape": self.shape}

    @cached_property
    def odd(self) -> tuple[object, ...] | None:
        """What few keys have: a time that is no whole frame, and handles."""
        if self.time.denominator == 1 and self.handle_in is None and self.handle_out is None:
            return None
        return self.time_as_text, self.handle_in, self.handle_out


def shared_ends(before: Sequence[object], after: Sequence[object]) -> tuple[int, int]:
    """How many items are the same objects at the beginnings of two rows, and, beyond those, at their ends.

    >>> a, b, c = Handle(1, 1), Handle(2, 2), Handle(3, 3)
    >>> shared_ends([a, b, c], [a, c]), shared_ends([a], [a]), shared_ends([a, a], [a])
    ((1, 1), (1, 0), (1, 0))
    """
    most = min(len(before), len(after))
    begins = next(compress(count(), map(is_not, before, after)), most)
    ends = next(compress(count(), map(is_not, reversed(before), reversed(after))), most)
    return begins, min(ends, most - begins)
