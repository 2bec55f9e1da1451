"""What mends a fault of an arc: a correction of the joint that makes it, or, where all of a body lost time, that time again."""

from __future__ import annotations

from dataclasses import replace

from ..bake import Baker
from ..cameras.camera import Camera
from ..cameras.camera_channels import CAMERA_CHANNELS
from ..edits.bend_time import BendTime
from ..edits.corrections import CorrectFault
from ..edits.even_camera import EvenCameraOut, jolted_channels
from ..errors import DomainError
from .arc_sources import brought_point, window_about
from .lost_time import lost_time
from .reading import Fix, Reading, ReadingKind

STEP_FADES = 6
"""Frames to each side over which a jump is spread."""
ARC_FAULTS: tuple[ReadingKind, ...] = ("off_arc", "off_spacing", "hitch", "pop")


def with_mends(baker: Baker, reading: Reading, camera: Camera | None) -> Reading:
    """A fault of an arc, seen through a camera, or (None) through the cut, with what mends it; others as they are."""
    if reading.kind == "camera_jolts":
        return _evened_out(baker, reading)
    if reading.kind not in ARC_FAULTS or not reading.joint or not reading.character_id or reading.frame is None:
        return reading
    thing = baker.scene.thing(reading.character_id)
    if reading.joint not in baker.rig(thing).index_of or thing.nested:  # a point of a mesh is no joint
        return reading
    try:
        brought = brought_point(baker, thing.id, reading.joint, reading.frame)
    except DomainError:  # nobody holds it
        return reading
    if brought.character.nested:
        return reading
    step, frame = reading.kind in ("hitch", "pop"), reading.frame
    lost = lost_time(baker, brought.character, frame, camera) if reading.kind == "hitch" else None
    if lost is not None:
        time = BendTime(thing_id=brought.character.id, first=frame - 1, last=frame, speed=round(1 + lost, 3))
        does = f"Let the {lost:.2f} frames that were lost pass between {frame - 1} and {frame}"
        return replace(reading, fixes=(Fix("Give time back", does, time),))
    if window_about(baker, baker.row_of(frame), camera) is None:
        return reading
    correction = CorrectFault(
        thing_id=thing.id, joint=reading.joint, on_frame=frame, camera_id=camera.id if camera else None,
        fades=STEP_FADES if step else 0, step=step,
    )  # fmt: skip
    over = f"blended over {STEP_FADES} frames on both sides" if step else "on that frame alone"
    return replace(reading, fixes=(Fix("Correct it", f"Correct the joints that make it, {over}", correction),))


def _evened_out(baker: Baker, reading: Reading) -> Reading:
    """A jolt of a camera with what mends it, where its own keys make it."""
    if reading.camera_id is None or reading.frame is None:
        return reading
    camera, step = baker.scene.camera(reading.camera_id), reading.as_seen in ("hitch", "pop")
    jolts = jolted_channels(baker, camera, reading.frame, "step" if step else "displaced")
    if not jolts or any(CAMERA_CHANNELS[name].lock_group in camera.locks for name in jolts) or camera.locked:
        return reading
    fades = STEP_FADES if step else 0
    edit = EvenCameraOut(camera_id=camera.id, on_frame=reading.frame, fades=fades, step=step)
    over = f"spread over {fades} frames on both sides" if step else "on that frame alone"
    titles = ", ".join(CAMERA_CHANNELS[name].title for name in jolts)
    return replace(reading, fixes=(Fix("Even it out", f"Keys of {titles} go without the jolt, {over}", edit),))
