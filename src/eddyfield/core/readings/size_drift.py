"""How a subject grows and shrinks in the picture without anybody having asked for it."""

from __future__ import annotations

import numpy as np

from ..arrays import Floats
from ..cameras.camera import Camera
from ..cameras.camera_frames import CameraFrames

MOVES = ("x", "y", "z", "rail", "arm_pitch", "arm_yaw", "arm_length", "azimuth", "elevation", "distance")
LEAST_DEPTH_M = 0.1


def unasked_growth(camera: Camera, found: CameraFrames, world: Floats, first: int, last: int) -> Floats:
    """Logarithm of the size since row ``first``, up to row ``last`` (both included), less what keys of the lens and of the
    camera's place ask for, (rows,). Where the keys ask for more or less of it than is seen, as those of a dolly zoom or of a
    camera that keeps up with a walker, only what is seen counts: from frame to frame the lesser of the two.

    The size is that of a metre at the depth of the body's middle (``world`` (frames, joints, 3) as shown): neither a head
    that nods nor legs that part change it, as they would a fit between the joints of one frame and the next. What a keyed
    camera asks for is its own way along its axis.
    """
    rows = slice(first, last + 1)
    pose = found.path.world_from_camera[rows]
    eye, ahead = pose[:, :3, 3], -pose[:, :3, 2]
    depth = np.maximum(np.einsum("fi,fi->f", world[rows].mean(axis=1) - eye, ahead), LEAST_DEPTH_M)
    focal = np.log(found.pose[rows, 6])
    steps = np.diff(focal - np.log(depth))
    channels = camera.channels
    asked = np.zeros(len(steps))
    if len(channels["focal_mm"].keys) > 1:
        asked += np.diff(focal)
    if any(len(channels[name].keys) > 1 for name in MOVES):
        nearer = np.einsum("fi,fi->f", np.diff(eye, axis=0), ahead[:-1]) / depth[:-1]
        asked -= np.log(np.maximum(1 - nearer, 0.05))
    rest = steps - asked
    unasked = np.where(steps * rest > 0, np.sign(steps) * np.minimum(abs(steps), abs(rest)), 0.0)
    return np.concatenate([[0.0], np.cumsum(unasked)])
