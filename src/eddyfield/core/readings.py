"""Readings: what a trained eye would flag, on which frames, by how much, and the fix where one exists."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from .arcs import ArcJudgement
from .scene import Character
from .strobing import Strobing
from .time import FrameRange
from .transforms import Floats

ReadingKind = Literal[
    "strobes", "off the arc", "off the spacing", "hitch", "pop", "key pose not shown", "feet slide",
    "head out of action safe", "head out of the frame", "feet out of action safe", "feet out of the frame",
    "cut at the neck", "cut at the wrist", "cut at the knee", "cut at the ankle",
    "little headroom", "much headroom", "little lead room", "size drifts", "hidden behind the set",
    "near plane cuts in", "far plane cuts off", "soft", "lock cannot reach", "size cannot be held",
    "aims at a still joint", "carried by a still joint", "aim bobs", "carrier bobs", "straight chord",
]  # fmt: skip
Fix = Literal["ride", "use joint", "orbit"]
Unit = Literal["px", "m", "frames", "share"]
STROBE_PERMILLE = 1.0
SLIDE_M = 0.03


@dataclass(frozen=True)
class Reading:
    """One measured judgement. ``first`` to ``last`` are the frames it speaks of, both included."""

    kind: ReadingKind
    subject: str
    first: int
    last: int
    size: float
    unit: Unit
    threshold: float
    fix: Fix | None = None
    joint: str | None = None
    """The joint that the fix would use."""


def spans(mask: NDArray[np.bool_]) -> list[tuple[int, int]]:
    """First and last row of every stretch of true rows.

    >>> spans(np.array([True, True, False, True]))
    [(0, 1), (3, 3)]
    """
    edges = np.flatnonzero(np.diff(np.concatenate([[False], mask, [False]]).astype(np.int8)))
    return [(int(a), int(b) - 1) for a, b in zip(edges[::2], edges[1::2], strict=True)]


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
    for first, last in spans(mask):
        if last - first + 1 < least_frames:
            continue
        worst = sizes[first : last + 1]
        size = float(worst[int(np.argmax(np.abs(worst)))])
        out.append(Reading(kind, subject, frames.first + first, frames.first + last, size, unit, threshold))
    return out


def strobing_readings(character: Character, found: Strobing, frames: FrameRange, height_px: int) -> list[Reading]:
    """Whether held poses strobe: the slip's root mean square over the frames that are held."""
    threshold = STROBE_PERMILLE * height_px / 1000
    if not found.rms_px > threshold:
        return []
    held = found.held.nonzero()[0]
    fix: Fix | None = "ride" if character.ride.way == "off" else None
    first, last = frames.first + int(held[0]), frames.first + int(held[-1])
    return [Reading("strobes", character.name, first, last, found.rms_px, "px", threshold, fix)]


def arc_readings(joint: str, judgement: ArcJudgement, frames: FrameRange) -> list[Reading]:
    """The faults of one joint's arc."""
    return [
        Reading(f.kind, joint, frames.first + f.row, frames.first + f.row, f.size_px, "px", f.least_px)
        for f in judgement.faults
    ]


def slide_readings(character: Character, slide_m: float, frames: FrameRange) -> list[Reading]:
    """Whether planted feet leave their place by more than 3 cm."""
    if slide_m <= SLIDE_M:
        return []
    return [Reading("feet slide", character.name, frames.first, frames.last, slide_m, "m", SLIDE_M)]


def lost_pose_readings(character: Character, lost: tuple[int, ...]) -> list[Reading]:
    """Key poses that no exposure shows."""
    return [Reading("key pose not shown", character.name, frame, frame, 1, "frames", 0) for frame in lost]
