"""Readings of one joint's arc."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from ..cameras.camera import Camera
from ..time.frames import FrameRange
from .arcs import ArcJudgement
from .reading import Reading
from .thresholds import GREATEST_LIMIT_SHARE
from .unframed import Unframed


def arc_readings(
    joint: str, judgement: ArcJudgement, frames: FrameRange, camera_at: Callable[[int], Camera]
) -> list[Reading]:
    """The faults of one joint's arc; a jolt of the camera is the camera's, that of its row."""
    out = []
    for f in judgement.faults:
        frame = frames.first + f.row
        if f.cause != "camera":
            told = Reading(f.kind, joint, frame, frame, f.size_px, "px", f.least_px, joint=joint, frame=frame)
            out.append(replace(told, least=f.least_px, fault_of=f.cause))
        if f.cause != "subject":
            size = abs(f.size_px)
            camera = camera_at(f.row)
            jolt = Reading("camera_jolts", camera.name, frame, frame, size, "px", f.least_px, camera_id=camera.id)
            out.append(replace(jolt, frame=frame, least=f.least_px, fault_of="camera", as_seen=f.kind))
    return out


def unframed_readings(joint: str, found: Sequence[Unframed], frames: FrameRange, height_px: int) -> list[Reading]:
    """Stretches of an arc of which nothing can be told through the camera, and the faults that are told otherwise."""
    out = []
    for u in found:
        first, last = frames.first + u.first, frames.first + u.last
        most = GREATEST_LIMIT_SHARE * height_px
        note = f"The picture is too uneven there; told relative to {u.basis} instead."
        told = Reading("nothing_can_be_told", joint, first, last, u.least_px, "px", most, remark=True, note=note)
        out.append(replace(told, joint=joint))
        for f in u.faults:
            at, fault = frames.first + f.fault.row, f.fault
            note = f"Told relative to {f.basis}."
            told = Reading(fault.kind, joint, at, at, fault.size_px, "px", fault.least_px, note=note, joint=joint)
            out.append(replace(told, frame=at, least=fault.least_px, fault_of="subject"))
    return out
