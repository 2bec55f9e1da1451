"""Readings: what a trained eye would flag, on which frames, by how much, and the fix where one exists."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..arrays import Floats
from ..edits.edit import Edit
from ..time.frames import FrameRange
from ..time.stretches import runs

ReadingKind = Literal[
    "strobes", "lens moves in holds", "off the arc", "off the spacing", "hitch", "pop", "camera jolts", "nothing can be told",
    "key pose not shown", "key poses between frames", "feet slide", "entrance", "exit",
    "head out of action safe", "head out of the frame", "feet out of action safe", "feet out of the frame",
    "cut at the neck", "cut at the wrist", "cut at the knee", "cut at the ankle",
    "little headroom", "much headroom", "little lead room", "size drifts", "head hidden", "body hidden",
    "near plane cuts in", "far plane cuts off", "soft", "lock cannot reach", "size cannot be held",
    "aims at a still joint", "carried by a still joint", "aim bobs", "carrier bobs", "straight chord", "cannot be judged",
]  # fmt: skip
Unit = Literal["px", "m", "frames", "share", ""]
TEN_PX = 10.0
LONG_FRAMES = 100


@dataclass(frozen=True)
class Figure:
    """A further number of a reading."""

    title: str
    value: float
    unit: Unit


@dataclass(frozen=True)
class Fix:
    """An edit that mends what a reading tells, under a short title, and what it does."""

    title: str
    does: str
    edit: Edit


@dataclass(frozen=True)
class Reading:
    """One measured judgement. ``first`` to ``last`` are the frames it speaks of, both included. ``subject`` is for people; the
    ids say what it is about. A ``remark`` is no fault."""

    kind: ReadingKind
    subject: str
    first: int
    last: int
    size: float
    unit: Unit
    threshold: float
    character_id: str | None = None
    camera_id: str | None = None
    fixes: tuple[Fix, ...] = ()
    joint: str | None = None
    """The joint that would be better to go by."""
    figures: tuple[Figure, ...] = ()
    remark: bool = False
    note: str = ""
    """What it goes by, where that is an estimate."""

    @property
    def weight(self) -> float:
        """How much it hurts: how many times over its threshold, so that pixels, metres and shares can stand in one list."""
        if self.remark:
            return -1.0
        if self.threshold > 0:
            return abs(self.size) / self.threshold
        # Where any amount is too much, how long it lasts counts as well.
        return (abs(self.size) / TEN_PX if self.unit == "px" else 1.0) + (self.last - self.first) / LONG_FRAMES


def over_spans(
    kind: ReadingKind,
    subject: str,
    frames: FrameRange,
    mask: NDArray[np.bool_],
    sizes: Floats,
    unit: Unit,
    threshold: float,
    least_frames: int = 1,
) -> list[Reading]:
    """A reading for every stretch of frames on which something is so, with its greatest size there."""
    out = []
    for first, last in runs(mask):
        if last - first + 1 < least_frames:
            continue
        worst = sizes[first : last + 1]
        size = float(worst[int(np.argmax(np.abs(worst)))])
        out.append(Reading(kind, subject, frames.first + first, frames.first + last, size, unit, threshold))
    return out
