"""A performance as it is shown: stepped, and carried along with the camera where it rides."""

from __future__ import annotations

from fractions import Fraction

import numpy as np

from ..arrays import Floats, Ints
from ..optics.camera_path import CameraPath
from ..rig.rig import Rig
from ..time.channel_tables import Channels
from ..time.frames import FrameRange, Rate, exact_times
from .carried import Carried, carried_whole
from .correction import Correction, corrected
from .gripping import grips
from .nested import LEVEL, Ground
from .placing import AS_IN_FILE, world_from_file
from .planting import planted
from .ride import Ride, ride_transforms
from .timing import Timing


def performed(
    rig: Rig, timing: Timing, frames: FrameRange, rate: Rate, corrections: tuple[Correction, ...] = (),
    placed: Channels = AS_IN_FILE, ground: Ground = LEVEL,
) -> Floats:  # fmt: skip
    """The unstepped motion, corrected, where it is placed: ``world_from_node`` (frames, nodes, 4, 4)."""
    seconds = timing.file_seconds(frames.frames(), rate, rig.motion.duration_seconds)
    in_file = corrected(rig, rig.world_matrices(seconds), seconds, corrections)
    return carried_out(in_file, placed, frames, ground)


def carried_out(in_file: Floats, placed: Channels, frames: FrameRange, ground: Ground = LEVEL) -> Floats:
    """Matrices (frames, nodes, 4, 4) in the axes of a file, taken to where it is placed."""
    if placed == AS_IN_FILE and ground == LEVEL:
        return in_file
    return np.asarray(world_from_file(placed, frames, ground)[:, None] @ in_file)


def joint_places(rig: Rig, world: Floats) -> Floats:
    """Places of the joints, (frames, joints, 3)."""
    return np.ascontiguousarray(world[..., :3, 3]).take(rig.joints, axis=1)  # a tenth of the time of the other order


def key_poses(rig: Rig, timing: Timing, frames: FrameRange, rate: Rate) -> tuple[Fraction, ...]:
    """Key poses as exact frames: times at which at least half of the animated joints have a key."""
    in_file = exact_times(rig.motion.key_pose_seconds, rate)
    return timing.scene_times(in_file, frames, rate, rig.motion.duration_seconds)


def anchor_node(rig: Rig, anchor: str | None) -> int:
    """The node that a held pose is carried by; the rig's own where the one that was chosen is not there."""
    node = rig.index_of.get(anchor or "")
    return rig.default_anchor() if node is None else node


def carried(
    ride: Ride, rig: Rig, feet: tuple[str, ...], world: Floats, rows: Ints, compared_rows: Ints, path: CameraPath | None,
    rate: Rate, frames: FrameRange,
) -> Carried:  # fmt: skip
    """What carries the poses of the shown performance, ``rows`` being those of e(f) and ``compared_rows`` of r(f). Without a
    ``path`` nothing rides; ``feet`` are those that stay where they stand."""
    if path is None:
        return carried_whole(np.broadcast_to(np.eye(4), (len(rows), 4, 4)).copy())
    anchor = world[..., :3, 3][rows, anchor_node(rig, ride.anchor)]
    whole = ride_transforms(ride, path, anchor, compared_rows, ride.weight_on(frames))
    if not ride.plants:
        return carried_whole(whole)
    return planted(rig, feet, world, rows, whole, rate, grips(rig, world, anchor_node(rig, ride.anchor), rate))
