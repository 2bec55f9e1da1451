"""Where a thing of the scene stands: laid over whatever its file moves, and keyed where somebody wants."""

from __future__ import annotations

import numpy as np

from ..arrays import Floats
from ..rig import transforms
from ..time.channel_tables import ChannelKind, Channels, ChannelTable
from ..time.channels import Channel
from ..time.frames import FrameRange
from .nested import LEVEL, Ground

PLACING = ChannelTable(
    "placed thing",
    (
        ChannelKind("x", "x", "m", 0.0, "place"),
        ChannelKind("y", "height", "m", 0.0, "place"),
        ChannelKind("z", "z", "m", 0.0, "place"),
        ChannelKind("turn", "turn", "degrees", 0.0, "place"),
    ),
)
"""A turn about +Y, positive to the thing's left, then moved. How large it is its file says, by the scale it is read with."""
AS_IN_FILE = PLACING.plain


def placing(**channels: Channel) -> Channels:
    """A thing's placing with some of it set."""
    return AS_IN_FILE.having(**channels)


def world_from_file(placed: Channels, frames: FrameRange, ground: Ground = LEVEL) -> Floats:
    """What carries a thing out of the axes of its file, (frames, 4, 4); only the one row where nothing is keyed. It is placed on
    a ``ground`` where it comes with a block.

    >>> from ..time.channels import Channel
    >>> world_from_file(placing(x=Channel(2.0)), FrameRange(1, 9))[0, :, 3]
    array([2., 0., 0., 1.])
    """
    at = frames.frames().astype(np.float64) if is_keyed(placed) else np.array([float(frames.first)])
    x, y, z, turn = (placed[name].at(at) for name in PLACING)
    turned = transforms.rotation_from_angles(-turn, 0.0 * turn, 0.0 * turn)
    placed_there = transforms.rigid(turned, np.stack([x, y, z], axis=-1))
    return placed_there if ground == LEVEL else np.asarray(ground.world_from_ground() @ placed_there)


def turn_at_first(placed: Channels, frames: FrameRange) -> float:
    """How far it is turned on the first frame, degrees."""
    return float(placed["turn"].at(float(frames.first)))


def is_keyed(placed: Channels) -> bool:
    return any(channel.keys for channel in placed.in_order)
