"""What a camera's channels are chosen, copied and shown by: groups that answer one question each."""

from __future__ import annotations

from typing import Literal, get_args

from .camera_channels import CAMERA_CHANNELS, LENS, POSE
from .mounts import MOUNTS

KeyGroup = Literal["place", "angles", "lens", "focus", "mount", "weights"]
KEY_GROUPS: tuple[KeyGroup, ...] = get_args(KeyGroup)

_OF_MOUNTS = {kind.name for mount in MOUNTS.values() for kind in mount.channels}


def _group_of(name: str) -> KeyGroup:
    if name in _OF_MOUNTS:
        return "mount"
    if name == "focus_m":
        return "focus"
    kind = CAMERA_CHANNELS[name]
    if kind in POSE or kind in LENS:
        return "place" if kind.lock_group == "place" else "angles" if kind.lock_group == "angles" else "lens"
    return "weights"


GROUP_OF: dict[str, KeyGroup] = {name: _group_of(name) for name in CAMERA_CHANNELS}
"""The group of each channel, by the channel's name."""
