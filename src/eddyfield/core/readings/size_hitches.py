"""Readings of how large a subject is seen: a push-in, a walk towards the camera or a dolly zoom that is badly timed."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..arrays import Floats
from ..bake import Baker
from ..cameras.camera import Camera
from ..edits.steady_size import SteadySize
from ..optics.camera_path import CameraPath
from ..parts import BakerOf, Part
from ..performance.character import Character
from .arc_mends import STEP_FADES
from .arcs import NOISE_FLOOR_PX_AT_1080
from .fault_shapes import FaultShape
from .faults import FaultOf, find_faults, fit
from .judged_scenes import for_camera
from .judges import judges_characters
from .reading import Fix, Reading
from .thresholds import SURE_ERRORS
from .window import Window

LEAST_DEPTH_M = 0.1


@judges_characters
def size_hitch_readings(baker: Baker, camera: Camera, character: Character) -> list[Reading]:
    """Faults of a character's size in the picture, told as those of arcs are: in pixels of its height, by a quintic of the
    size's logarithm, which a steady approach leaves smooth."""
    judged = for_camera(baker.scene, replace(camera.look, id=camera.id))
    found = baker.value(Part("size hitches", _hitches, (BakerOf(judged, baker.production), camera.id, character.id)))
    return [replace(reading, fixes=()) for reading in found] if "lens" in camera.locks or camera.locked else found


def _hitches(baker: Baker, camera_id: str, character_id: str) -> list[Reading]:
    scene = baker.scene
    camera, character = scene.camera(camera_id), scene.character(character_id)
    if not character.showing.seen_by(camera.id):
        return []
    path, height = baker.camera_path(camera), scene.delivery.height
    joints = baker.joint_positions(character)
    middle = joints.mean(axis=1)
    tall = float(np.median(np.ptp(joints[..., 1], axis=1)))
    least, noise = baker.limits.arc_permille * height / 1000, NOISE_FLOOR_PX_AT_1080 * height / 1080
    out = []
    first_frame = scene.frames.first
    for first, last in scene.frames_of_cut(camera) or [(first_frame, scene.frames.last)]:
        rows = np.arange(first, last + 1) - first_frame
        window = Window.at(baker.rate).within(len(rows))
        if window is None:
            continue
        own, places = path.at_rows(rows), middle[rows]
        if (own.project(places[:, None]).depth[:, 0] < LEAST_DEPTH_M).any():
            continue
        sizes = _log_sizes(own, places)
        scale = tall * float(np.exp(np.median(sizes)))
        found, fits = find_faults(sizes[:, None] * scale, noise, least, window=window)
        for fault in found:
            frame, size = first + fault.row, float(fault.size[0])
            told = max(least, SURE_ERRORS * float(fits[fault.shape].error[fault.row]))
            reading = Reading("size_hitches", character.name, frame, frame, max(abs(size), told), "px", told)
            whose = _made_by(own, places, fault.row, fault.shape, scale, noise, least, window)
            fixes = (
                ()
                if whose == "subject"
                else _steadied(camera, frame, float(np.exp(-size / scale)), fault.shape == "step")
            )
            out.append(replace(reading, frame=frame, least=told, fault_of=whose, fixes=fixes))
    return out


def _steadied(camera: Camera, frame: int, ratio: float, step: bool) -> tuple[Fix, ...]:
    """The lens takes it out, where that is its own."""
    held = camera.framing is not None and camera.framing.size is not None
    if held or camera.glass.orthographic_height_m is not None:
        return ()
    fades = STEP_FADES if step else 0
    over = f"over {fades} frames on both sides" if step else "on that frame alone"
    edit = SteadySize(camera_id=camera.id, on_frame=frame, ratio=ratio, fades=fades, step=step)
    return (Fix("Steady it", f"The lens goes against the move, {over}: the size runs on evenly", edit),)


def _log_sizes(path: CameraPath, places: Floats) -> Floats:
    """The logarithm of how many pixels a metre is high at each place (frames, 3), (frames,)."""
    depth = path.project(places[:, None]).depth[:, 0]
    return np.asarray(np.log(path.lens.pixels_per_metre(np.maximum(depth, LEAST_DEPTH_M), path.delivery)[1]))


def _made_by(
    path: CameraPath,
    places: Floats,
    row: int,
    shape: FaultShape,
    scale: float,
    noise: float,
    least: float,
    window: Window,
) -> FaultOf:
    """Whether the subject makes a fault, which then shows through the camera of that row alone, or the camera, which shows it
    of what stands still."""
    rows = np.clip(row + window.offsets.astype(np.int64), 0, path.count - 1)
    still = path.at_rows(np.full(window.count, row)), path.at_rows(rows)
    seen = _log_sizes(still[0], places[rows]), _log_sizes(still[1], np.broadcast_to(places[row], (window.count, 3)))
    sizes = [
        abs(float(fit(sizes[:, None] * scale, shape, noise, window=window).size[window.half, 0])) for sizes in seen
    ]
    subject, camera = (size > least for size in sizes)
    if subject and camera:
        return "both"
    return "subject" if sizes[0] >= sizes[1] else "camera"
