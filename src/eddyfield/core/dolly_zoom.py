"""Dolly zoom: a subject keeps its size (or takes another) while the camera moves and the lens makes up for it."""

from __future__ import annotations

import numpy as np

from . import transforms
from .camera_path import CameraPath
from .ease import Ease, share_between
from .subjects import Group
from .transforms import Floats


def subject_depths(path: CameraPath, places: Floats) -> Floats:
    """Axial depths in metres of world places (frames, 3), (frames,)."""
    return np.asarray(-transforms.apply(transforms.rigid_inverse(path.world_from_camera), places)[:, 2])


def apparent_sizes_px(path: CameraPath, group: Group) -> Floats:
    """Height in px that a group takes, ``2 r f H / (h Z)``, (frames,); NaN where it is not in front."""
    depth = subject_depths(path, group.place)
    per_metre = path.lens.pixels_per_metre(np.where(depth > 0, depth, np.nan), path.delivery)[1]
    return np.asarray(2 * group.radius_m * per_metre)


def wanted_sizes(frames: Floats, first: float, last: float, size_from: float, size_to: float, ease: Ease) -> Floats:
    """Sizes that run from one to the other with an ease, in even ratios: as the eye sees growth."""
    return np.asarray(size_from * (size_to / size_from) ** share_between(frames, first, last, ease))


def solve_focal_mm(path: CameraPath, group: Group, sizes_px: Floats) -> Floats:
    """Focal lengths (frames,) that give a moving camera's subject these sizes, exactly."""
    unit = path.lens.with_focal(1.0).pixels_per_slope(path.delivery)[1]
    return np.asarray(sizes_px * subject_depths(path, group.place) / (2 * group.radius_m * unit))


def solve_places(path: CameraPath, group: Group, sizes_px: Floats) -> Floats:
    """Places (frames, 3) of the camera, moved along its optical axis, that give a zooming lens's subject these sizes.

    Along the axis the subject's place in the frame scales with its size, so at a constant size it stands still.
    """
    slope = path.lens.pixels_per_slope(path.delivery)[1]
    depth = subject_depths(path, group.place)
    forward = -path.world_from_camera[:, :3, 2]
    advance = depth - 2 * group.radius_m * slope / sizes_px
    return np.asarray(path.world_from_camera[:, :3, 3] + forward * advance[:, None])
