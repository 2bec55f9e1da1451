"""How fast a camera moves: its place, its turn, and what stands still behind what it looks at."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Floats, Ints
from ..rig import transforms
from .camera_path import CameraPath
from .lens import project, rows_of

CROSSING_SECONDS = 7.0
"""What stands still may not cross the frame in less, at a shutter of ``USUAL_SHUTTER_DEG``, or it judders."""
USUAL_SHUTTER_DEG = 180.0
USUAL_DISTANCE_M = 5.0
"""Of what a camera looks at, where there is no subject to tell."""
_SHARES = np.array([[x, y] for x in (-0.4, 0.0, 0.4) for y in (-0.4, 0.0, 0.4)])


@dataclass(frozen=True, eq=False)
class CameraSpeed:
    """From each frame to the next, the last row as the one before it, (frames,) each: of its place in m/s, of its turn in
    degrees/s, and of still points at the focus distance in pixels a frame."""

    place_m_per_s: Floats
    turn_deg_per_s: Floats
    background_px: Floats


def camera_speed(path: CameraPath, focus_m: Floats, frames_per_second: float) -> CameraSpeed:
    """The speed of a camera that is focused at ``focus_m`` (frames,)."""
    count = path.count
    if count < 2:
        return CameraSpeed(*np.zeros((3, count)))
    world, rows = path.world_from_camera, np.arange(count - 1)
    place = np.linalg.norm(np.diff(world[:, :3, 3], axis=0), axis=1)
    turns = np.swapaxes(world[:-1, :3, :3], 1, 2) @ world[1:, :3, :3]
    turn = np.degrees(np.linalg.norm(transforms.rotation_vector_from_matrix(turns), axis=1))
    background = background_px(path, rows, focus_m[:-1])

    def whole(steps: Floats, factor: float = 1.0) -> Floats:
        return np.append(steps, steps[-1]) * factor

    return CameraSpeed(whole(place, frames_per_second), whole(turn, frames_per_second), whole(background))


def background_px(path: CameraPath, rows: Ints, distance_m: Floats) -> Floats:
    """How far still points across the frame move from each row to the next, px, the median of nine at a distance, (rows,)."""
    now, after = path.at_rows(rows), path.at_rows(rows + 1)
    per_x, per_y = now.lens.pixels_per_metre(distance_m, path.delivery)
    after_from_now = transforms.rigid_inverse(after.world_from_camera) @ now.world_from_camera
    right, up, back, place = np.moveaxis(after_from_now[:, :3], 2, 0)
    middle = place - back * distance_m[:, None]
    to_side = right * (path.delivery.width / np.asarray(per_x))[:, None]
    to_top = up * (path.delivery.height / np.asarray(per_y))[:, None]
    still = middle[:, None] + _SHARES[:, :1] * to_side[:, None] + _SHARES[:, 1:] * to_top[:, None]
    before = np.stack(
        [
            path.delivery.width * (0.5 + rows_of(now.lens.shift_x, 2) + _SHARES[:, 0]),
            path.delivery.height * (0.5 - rows_of(now.lens.shift_y, 2) - _SHARES[:, 1]),
        ],
        axis=-1,
    )
    moved = path.delivery.square(project(still, after.lens, path.delivery).pixels - before)
    moved[distance_m <= now.lens.near_m] = np.nan
    return np.asarray(np.nan_to_num(np.median(np.linalg.norm(moved, axis=-1), axis=1)))


def pan_limit_px(
    path: CameraPath, frames_per_second: float, shutter_deg: float, crossing_seconds: float = CROSSING_SECONDS
) -> float:
    """How far still points may go in a frame: ``W / (7 rate)`` at a shutter of 180 degrees, in proportion to it."""
    usual = path.delivery.width * path.delivery.pixel_aspect / (crossing_seconds * frames_per_second)
    return float(usual * shutter_deg / USUAL_SHUTTER_DEG)
