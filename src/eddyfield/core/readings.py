"""Readings: what a trained eye would flag, on which frames, by how much, and the fix where one exists."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from .arcs import ArcJudgement
from .scene import Character
from .strobing import Strobing
from .time import FrameRange

ReadingKind = Literal["strobes", "off the arc", "off the spacing", "hitch", "pop", "key pose not shown", "feet slide"]
Fix = Literal["ride"]
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
    unit: Literal["px", "m", "frames"]
    threshold: float
    fix: Fix | None = None


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
