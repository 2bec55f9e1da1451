"""What would have to change at the source of a performance, for its corrections not to be needed."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..rig.joint_change import NO_CHANGE, JointChange, Vector, changed, vector
from ..rig.rig import Rig
from ..time.channel_tables import Channels
from ..time.frames import FrameRange, Rate
from .correction import Correction
from .nested import Ground
from .placing import world_from_file
from .timing import Timing


@dataclass(frozen=True)
class ChangeAtSource:
    """A correction, as it is on the ``frame`` on which there is most of it: ``joint`` is brought ``shift_m`` (world) by
    ``changes`` of joints in the axes of what they hang on. It is seen from ``first`` to ``last``. One that ``rests`` is not
    seen: the file has changed there since it was made. Frames are None where the scene shows none of it."""

    joint: str
    frame: int | None
    first: int | None
    last: int | None
    shift_m: Vector
    changes: tuple[JointChange, ...]
    rests: bool


def changes_at_source(
    rig: Rig, corrections: tuple[Correction, ...], timing: Timing, frames: FrameRange, rate: Rate, placed: Channels,
    ground: Ground,
) -> tuple[ChangeAtSource, ...]:  # fmt: skip
    """Of every correction, in their order."""
    seconds = timing.file_seconds(frames.frames(), rate, rig.motion.duration_seconds)
    world = world_from_file(placed, frames, ground)
    out = []
    for correction in corrections:
        shares = correction.shares(seconds)
        rows = np.flatnonzero(shares)
        row = int(np.argmax(np.abs(shares))) if len(rows) else None
        most = correction.greatest
        rests = correction.rests(rig)
        shift = NO_CHANGE
        if not rests:
            pose = rig.world_matrices(np.array([most.seconds]))
            point, node = np.array([*correction.beside, 1.0]), rig.index_of[correction.joint]
            after = changed(rig, pose, correction.changes, np.array([most.share]))
            at = world[row if row is not None and len(world) > 1 else 0]
            shift = vector(at[:3, :3] @ ((after[0, node] - pose[0, node]) @ point)[:3])
        scaled = tuple(
            replace(c, turn_deg=_times(most.share, c.turn_deg), shift_m=_times(most.share, c.shift_m))
            for c in correction.changes
        )
        first, last = (frames.first + int(rows[0]), frames.first + int(rows[-1])) if len(rows) else (None, None)
        frame = None if row is None else frames.first + row
        out.append(ChangeAtSource(correction.joint, frame, first, last, shift, scaled, rests))
    return tuple(out)


def _times(share: float, of: Vector) -> Vector:
    x, y, z = of
    return share * x, share * y, share * z
