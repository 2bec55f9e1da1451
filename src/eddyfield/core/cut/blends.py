"""Blended moves of the cut, on the frames that they take: one camera, as every other is seen."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..arrays import Floats, Ints
from ..cameras.camera import Camera
from ..cameras.camera_frames import CameraFrames
from ..optics.camera_path import CameraPath
from ..optics.depth_of_field import SharpRange, blur_disc_mm, circle_of_confusion_mm, sharp_range
from ..rig import transforms
from .cut_path import Passage

INFINITELY_FAR_M = 1e12


@dataclass(frozen=True, eq=False)
class BlendedMoves:
    """``rows`` (n,) of the scene; ``path`` and all else on those alone. ``pose`` (n, 7): x y z in metres, pan tilt roll in
    degrees, focal length in mm. ``disc_px`` (n,): the blur of what is infinitely far, along the frame's width."""

    rows: Ints
    path: CameraPath
    pose: Floats
    focus_m: Floats
    sharp: SharpRange
    disc_px: Floats


def blended_moves(
    path: CameraPath, cameras: Sequence[Camera], found: Sequence[CameraFrames], way: Passage
) -> BlendedMoves:
    """``path`` of the cut; ``cameras`` and what they come to, in the order of its ``camera_ids``. Focal length, focus, aperture
    and the circle of confusion change by equal ratios."""

    def along(numbers: Sequence[Floats] | Sequence[float]) -> Floats:
        return way.mixed(numbers, logarithmic=True)[way.rows]

    delivery, lenses = path.delivery, [camera.lens() for camera in cameras]
    focal = along([f.pose[:, 6] for f in found])
    focus, aperture = along([f.focus_m for f in found]), along([f.aperture for f in found])
    circles = [
        circle_of_confusion_mm(lens, delivery, c.glass.circle_mm) for lens, c in zip(lenses, cameras, strict=True)
    ]
    width = along([lens.used_back_mm(delivery)[0] for lens in lenses])
    moving = path.at_rows(way.rows)
    world = moving.world_from_camera
    pose = np.column_stack([world[:, :3, 3], transforms.angles_from_rotation(world[:, :3, :3]), focal])
    far = np.full(len(focal), INFINITELY_FAR_M)
    disc = blur_disc_mm(far, focal, aperture, focus) / width * delivery.width
    return BlendedMoves(way.rows, moving, pose, focus, sharp_range(focal, aperture, focus, along(circles)), disc)
