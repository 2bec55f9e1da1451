"""Where a prop or set piece is on every frame, and as it is shown: in the hands of somebody whose poses are held and ridden."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Floats, Ints
from ..rig.rig import Rig
from ..time.channel_tables import Channels
from ..time.frames import FrameRange, Rate
from .holding import Hand, Hold, carried_by_hands, held_rows
from .nested import LEVEL, Ground
from .placing import world_from_file
from .timing import Timing


def piece_carrier(
    placed: Channels,
    holds: tuple[Hold, ...],
    hands: tuple[Hand | None, ...],
    frames: FrameRange,
    ground: Ground = LEVEL,
) -> Floats:
    """What carries a piece out of the axes of its file, on ones, (frames, 4, 4); one row where it stands still. ``hands`` are
    what each hold names."""
    still = world_from_file(placed, frames, ground)
    if not holds:
        return still
    return carried_by_hands(holds, np.broadcast_to(still, (frames.count, 4, 4)), hands, frames)


def piece_world(rig: Rig, timing: Timing, frames: FrameRange, rate: Rate, carrier: Floats) -> Floats:
    """``world_from_node`` (frames, nodes, 4, 4), on ones."""
    world = carrier[:, None] @ piece_in_file(rig, timing, frames, rate)
    return np.broadcast_to(world, (frames.count, *world.shape[1:]))


def piece_in_file(rig: Rig, timing: Timing, frames: FrameRange, rate: Rate) -> Floats:
    """The same in the axes of its file; one row where the file moves nothing."""
    if not rig.motion.curves:
        return rig.rest_world[None]
    return rig.world_matrices(timing.file_seconds(frames.frames(), rate, rig.motion.duration_seconds))


@dataclass(frozen=True, eq=False)
class ShownPiece:
    """``rows`` (frames,) of its own motion that each frame shows, and what carries it then out of the axes of its file,
    (frames, 4, 4) or one row."""

    rows: Ints
    carried: Floats


@dataclass(frozen=True, eq=False)
class ShownRows:
    """Rows that each frame shows, (frames,): ``carried`` of what carries it, ``own`` of what its file moves."""

    carried: Ints
    own: Ints


def shown_rows(
    holds: tuple[Hold, ...], of_holders: tuple[Ints | None, ...], own: Ints | None, frames: FrameRange
) -> ShownRows:
    """While somebody holds it, it is carried by the pose that is held, and shows that of its own motion too. Where it has
    exposures of its ``own``, these count for its motion, and for where it is while nobody holds it. ``of_holders`` are those that
    the holder of each hold shows, (frames,) each, None where it is put down."""
    rows = np.arange(frames.count) if own is None else own.copy()
    for of_hold, shown in zip(held_rows(holds, frames), of_holders, strict=True):
        if shown is not None:
            rows[of_hold] = shown[of_hold]
    return ShownRows(rows, rows if own is None else own)


def shown_piece(
    carrier: Floats, holds: tuple[Hold, ...], rows: ShownRows, rides: tuple[Floats | None, ...], frames: FrameRange
) -> ShownPiece:
    """While somebody holds it, it is shown as the hand is: with the pose that is held, carried along with it. ``rides`` carry the
    holder of each hold, (frames, 4, 4) each, None where it is put down."""
    if all(ride is None for ride in rides):
        return ShownPiece(rows.own, carrier if len(carrier) == 1 else carrier[rows.carried])
    carried = carrier[rows.carried]
    for of_hold, ride in zip(held_rows(holds, frames), rides, strict=True):
        if ride is not None:
            carried[of_hold] = ride[of_hold] @ carrier[rows.carried[of_hold]]
    return ShownPiece(rows.own, carried)
