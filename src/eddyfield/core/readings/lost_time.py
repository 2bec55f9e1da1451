"""How much time a whole body lost at a frame: so much that, given back, leaves least of the jump."""

from __future__ import annotations

import numpy as np
from scipy.interpolate import CubicSpline

from ..arrays import Floats, Ints
from ..bake import Baker
from ..cameras.camera import Camera
from ..optics.camera_path import CameraPath
from ..parts import Part
from ..performance.character import Character
from .arc_sources import window_about
from .arcs import NOISE_FLOOR_PX_AT_1080
from .faults import AtCentre, at_centre
from .thresholds import SURE_ERRORS

TRIED_FRAMES = np.arange(0.1, 3.001, 0.05)
EXPLAINED = 0.9
"""Of what all points jump by: what lost time has to explain, or it was none."""
LEAST_POINTS, MOST_OF_ALL = 3, 0.5
"""That jump, and what share they are of those that move at all: else it is a limb's own matter."""
MOVES_PX = 1.0
"""A frame, at 1080 lines."""


def lost_time(baker: Baker, character: Character, frame: int, camera: Camera | None) -> float | None:
    """In frames, as seen through a camera, or (None) through the cut; None where no one lost time explains how the joints jump
    between the frame before and this one, or too near an end."""
    row = baker.row_of(frame)
    window = window_about(baker, row, camera)
    if window is None:
        return None
    inputs = (baker.joints_part(character), baker.path_part(camera), row, window.half)
    (lost,) = baker.value(Part("lost time", lost_at, inputs))
    return lost


def lost_at(joints: Floats, path: CameraPath, row: int, half: int) -> tuple[float | None]:
    """Of ``joints`` (frames, joints, 3), before a row, as told with ``half`` a window to both sides; in a tuple, as what is kept
    is never None."""
    later = min(row + half + 1 + int(np.ceil(TRIED_FRAMES[-1])) + 1, len(joints))
    if row < half or later <= row + half + 1:
        return (None,)
    rows: Ints = np.arange(row - half, row + half + 1)
    seen_by, noise_px = path.at_rows(rows), NOISE_FLOOR_PX_AT_1080 * path.delivery.height / 1080

    def jumps(points: Floats) -> AtCentre:
        return at_centre(path.delivery.square(seen_by.project(points).pixels), "step", noise_px)

    now = jumps(joints[rows])
    before = np.linalg.norm(now.size, axis=1)
    moving = np.linalg.norm(now.slope, axis=1) > MOVES_PX * path.delivery.height / 1080
    sure = moving & (before > SURE_ERRORS * now.error)
    if sure.sum() < max(LEAST_POINTS, MOST_OF_ALL * moving.sum()):
        return (None,)
    goes_on = CubicSpline(np.arange(later - row), joints[row:later][:, sure])
    tried = TRIED_FRAMES[later - row - 1 >= TRIED_FRAMES + half]
    before_it = joints[rows[:half]][:, sure]
    mended = (np.concatenate([before_it, goes_on(np.arange(half + 1) + lost)]) for lost in tried)
    left = [float((jumps(points).size ** 2).sum()) for points in mended]
    if not left or min(left) > (1 - EXPLAINED) * float((before[sure] ** 2).sum()):
        return (None,)
    return (float(tried[int(np.argmin(left))]),)
