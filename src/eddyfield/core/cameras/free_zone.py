"""The free zone: the part of the frame in which what is held may drift."""

from __future__ import annotations

import numpy as np

from ..arrays import Floats
from ..optics.camera_path import CameraPath
from ..optics.lens import rows_of
from ..rig import transforms

NEAREST_DEPTH_M = 1e-9


def place_in_zone(alone: CameraPath, anchor: Floats, middle_px: Floats, half_px: Floats) -> Floats:
    """Where in the frame the anchor is wanted, px (frames, 2): the point of the zone nearest to where the camera ``alone``
    puts it. ``anchor`` (frames, 3) in the world; the zone reaches ``half_px`` (2,) to each side of ``middle_px`` (2,).

    Without memory. Behind the camera's plane the direction counts, by its mirrored projection: that is the zone's edge on
    the side where the anchor left, and within the mirrored zone, straight behind, goes over from one side to the other.
    So nothing jumps wherever the anchor goes; a rule that kept to the edge could not do that all around the camera.
    """
    lens, delivery = alone.lens, alone.delivery
    seen = transforms.apply(transforms.rigid_inverse(alone.world_from_camera), anchor)
    depth = -seen[:, 2]
    per_x, per_y = lens.pixels_per_metre(np.maximum(np.abs(depth), NEAREST_DEPTH_M), delivery)
    axis = np.stack(
        np.broadcast_arrays(
            delivery.width * (0.5 + rows_of(lens.shift_x, 1)), delivery.height * (0.5 - rows_of(lens.shift_y, 1))
        ),
        axis=-1,
    )
    away = np.stack([seen[:, 0] * per_x, -seen[:, 1] * per_y], axis=-1)
    return np.clip(axis + away, middle_px - half_px, middle_px + half_px)
