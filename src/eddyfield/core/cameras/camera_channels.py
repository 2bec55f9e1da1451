"""The keyed numbers of a camera: its place, angles and lens, those of every mount, and the weights of aim and framing lock."""

from __future__ import annotations

from typing import Literal

from ..time.channel_tables import ChannelKind, Channels, ChannelTable
from ..time.channels import Channel
from .aim import AIM_WEIGHT
from .framing import FRAMING_WEIGHT
from .mounts import MOUNTS

LockGroup = Literal["place", "angles", "lens"]
LOCK_GROUPS: tuple[LockGroup, ...] = ("place", "angles", "lens")

POSE = (
    ChannelKind("x", "x", "m", 0.0, "place"),
    ChannelKind("y", "height", "m", 1.5, "place"),
    ChannelKind("z", "z", "m", 5.0, "place"),
    ChannelKind("pan", "pan", "degrees", 0.0, "angles"),
    ChannelKind("tilt", "tilt", "degrees", 0.0, "angles"),
    ChannelKind("roll", "roll", "degrees", 0.0, "angles"),
    ChannelKind("focal_mm", "focal length", "mm", 35.0, "lens", 1.0, 5000.0),
)
LENS = (
    ChannelKind("focus_m", "focus", "m", 5.0, "lens", 0.01, 1e6),
    ChannelKind("aperture", "aperture", "none", 4.0, "lens", 0.5, 128.0),
)
POSE_NAMES = tuple(kind.name for kind in POSE)
CAMERA_CHANNELS = ChannelTable(
    "camera",
    (*POSE, *LENS, *(kind for mount in MOUNTS.values() for kind in mount.channels), AIM_WEIGHT, FRAMING_WEIGHT),
)


def camera_channels(**channels: Channel) -> Channels:
    """A camera's channels with some of them set."""
    return CAMERA_CHANNELS.plain.having(**channels)
