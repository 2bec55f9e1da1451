"""How much there is of each movement that a camera may take along from what carries it."""

from __future__ import annotations

import numpy as np

from ..arrays import Floats
from ..optics.camera_path import CameraPath
from .mounts.carried import Attachment
from .subjects import Surroundings, frame_of

NEAREST_M = 0.05


def coming_along(mount: Attachment, path: CameraPath, surroundings: Surroundings) -> tuple[Floats, Floats]:
    """Its movements, (frames, 5) as in ``Attachment.movements``, and how far all of each moves the picture, px (5,).

    Those in metres count at the carrier's usual distance from the camera; turning and nodding as they pan and tilt in the
    middle of the frame; leaning as it rolls at the upper edge.
    """
    subject = frame_of(mount.subject, surroundings, mount.follows)
    movements = mount.movements(subject)
    across, down = (float(np.median(slope)) for slope in path.lens.pixels_per_slope(path.delivery))
    away = np.linalg.norm(path.world_from_camera[:, :3, 3] - subject[:, :3, 3], axis=-1)
    distance = max(float(np.median(away)), NEAREST_M)
    ranges = np.ptp(movements, axis=0) if len(movements) else np.zeros(5)
    turned = np.radians(ranges[2:])
    in_metres = ranges[:2] * [across, down] / distance
    return movements, np.array([*in_metres, *(turned * [across, down, path.delivery.height / 2])])
