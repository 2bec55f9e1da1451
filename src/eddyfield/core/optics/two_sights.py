"""One thing seen by two cameras: where in either picture, from how far aside, and how many times as large."""

from __future__ import annotations

import numpy as np

from ..arrays import Floats
from ..rig import transforms
from .camera_path import CameraPath
from .lens import inside_frame

Seen = tuple[CameraPath, Floats]
"""A camera, and where the thing is on each of its rows, (rows, 3)."""


def degrees_aside(one: Seen, other: Seen) -> Floats:
    """Degrees between the sides from which the two see it, (rows,)."""
    ways = [transforms.normalized(path.world_from_camera[:, :3, 3] - place, (0, 0, 1)) for path, place in (one, other)]
    return np.asarray(np.degrees(np.arccos(np.clip((ways[0] * ways[1]).sum(axis=-1), -1, 1))))


def times_as_large(one: Seen, other: Seen) -> Floats:
    """Its height in the picture of the other by that in the picture of the one, (rows,)."""
    return np.asarray(pixels_per_metre(*other) / pixels_per_metre(*one))


def pixels_per_metre(path: CameraPath, place: Floats) -> Floats:
    """Pixels of the frame's height that a metre takes there, (rows,)."""
    depth = np.maximum(path.project(place[:, None]).depth[:, 0], 1e-3)
    return np.asarray(np.broadcast_to(path.lens.pixels_per_metre(depth, path.delivery)[1], len(place)))


def in_picture_px(path: CameraPath, place: Floats) -> Floats:
    """Where something (rows, 3) is in the picture, px, (rows, 2); NaN where it is not in it."""
    seen = path.project(place[:, None])
    return np.where(inside_frame(seen, path.delivery), seen.pixels[:, 0], np.nan)
