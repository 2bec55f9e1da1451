"""Readings: what a trained eye would flag, on which frames, by how much, and the fix where one exists."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..arrays import Floats
from ..performance.exposure import LEAST_COST, nearest_frame
from ..scene import Character
from ..time.frames import FrameRange, FrameTime
from ..time.stretches import runs
from .arcs import ArcJudgement
from .strobing import Strobing
from .unframed import MOST_TOLD_SHARE, Unframed

ReadingKind = Literal[
    "strobes", "lens moves in holds", "off the arc", "off the spacing", "hitch", "pop", "camera jolts", "nothing can be told",
    "key pose not shown", "key poses between frames", "feet slide", "entrance", "exit",
    "head out of action safe", "head out of the frame", "feet out of action safe", "feet out of the frame",
    "cut at the neck", "cut at the wrist", "cut at the knee", "cut at the ankle",
    "little headroom", "much headroom", "little lead room", "size drifts", "head hidden", "body hidden",
    "near plane cuts in", "far plane cuts off", "soft", "lock cannot reach", "size cannot be held",
    "aims at a still joint", "carried by a still joint", "aim bobs", "carrier bobs", "straight chord", "cannot be judged",
]  # fmt: skip
Fix = Literal["ride", "use joint", "orbit"]
Unit = Literal["px", "m", "frames", "share"]
STROBE_PERMILLE = 1.0
SLIDE_M = 0.03


@dataclass(frozen=True)
class Figure:
    """A further number of a reading."""

    title: str
    value: float
    unit: Unit | Literal[""]


@dataclass(frozen=True)
class Reading:
    """One measured judgement. ``first`` to ``last`` are the frames it speaks of, both included. A ``remark`` is no fault."""

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
    figures: tuple[Figure, ...] = ()
    remark: bool = False
    note: str = ""
    """What it goes by, where that is an estimate."""


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


def strobing_readings(character: Character, found: Strobing, ridden: Strobing, height_px: int) -> list[Reading]:
    """Stretches on which held poses strobe, and what no rigid Ride can take away of that (``ridden``: under one): there the
    lens moves during the holds."""
    threshold = STROBE_PERMILLE * height_px / 1000
    fix: Fix | None = "ride" if character.ride.way == "off" else None
    out = []
    for s in found.stretches:
        share = s.reversals / s.pose_changes if s.pose_changes else 0.0
        figures = (
            Figure("at most", s.max_px, "px"),
            Figure("jump back", s.reversals, ""),
            Figure("of all pose changes", share, "share"),
        )
        out.append(Reading("strobes", character.name, s.first, s.last, s.rms_px, "px", threshold, fix, figures=figures))
    for s in ridden.stretches:
        if s.rms_px > threshold:
            out.append(
                Reading(
                    "lens moves in holds", character.name, s.first, s.last, s.rms_px, "px", threshold,
                    figures=(Figure("at most", s.max_px, "px"),),
                    note="Riding cannot take this away: hold the lens as long as the pose.",
                )
            )  # fmt: skip
    return out


def arc_readings(
    joint: str, judgement: ArcJudgement, frames: FrameRange, camera_name: Callable[[int], str]
) -> list[Reading]:
    """The faults of one joint's arc; a jolt of the camera is the camera's, by its name on that row."""
    out = []
    for f in judgement.faults:
        frame = frames.first + f.row
        if f.cause != "camera":
            out.append(Reading(f.kind, joint, frame, frame, f.size_px, "px", f.least_px))
        if f.cause != "subject":
            size = abs(f.size_px)
            out.append(Reading("camera jolts", camera_name(f.row), frame, frame, size, "px", f.least_px))
    return out


def unframed_readings(joint: str, found: Sequence[Unframed], frames: FrameRange, height_px: int) -> list[Reading]:
    """Stretches of an arc of which nothing can be told through the camera, and the faults that are told otherwise."""
    out = []
    for u in found:
        first, last = frames.first + u.first, frames.first + u.last
        most = MOST_TOLD_SHARE * height_px
        note = f"The camera shakes too much; told relative to {u.basis} instead."
        out.append(Reading("nothing can be told", joint, first, last, u.least_px, "px", most, remark=True, note=note))
        for f in u.faults:
            at, fault = frames.first + f.fault.row, f.fault
            note = f"Told relative to {f.basis}."
            out.append(Reading(fault.kind, joint, at, at, fault.size_px, "px", fault.least_px, note=note))
    return out


def slide_readings(character: Character, slide_m: float, frames: FrameRange) -> list[Reading]:
    """Whether planted feet leave their place by more than 3 cm."""
    if slide_m <= SLIDE_M:
        return []
    return [Reading("feet slide", character.name, frames.first, frames.last, slide_m, "m", SLIDE_M)]


def key_pose_readings(
    character: Character, lost: Sequence[FrameTime], beside: Sequence[tuple[FrameTime, FrameTime]]
) -> list[Reading]:
    """Key poses that no exposure shows, and what it costs where they are shown ``beside`` their time."""
    out = [
        Reading("key pose not shown", character.name, frame, frame, 1, "frames", 0)
        for frame in map(nearest_frame, lost)
    ]
    if beside:
        most = max(beside, key=lambda b: abs(b[1]))[1]
        first, last = nearest_frame(beside[0][0]), nearest_frame(beside[-1][0])
        figures = (Figure("key poses", len(beside), ""),)
        out.append(
            Reading(
                "key poses between frames", character.name, first, last, float(most), "frames", float(LEAST_COST),
                figures=figures, remark=True,
            )
        )  # fmt: skip
    return out
