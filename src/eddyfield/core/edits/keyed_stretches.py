"""A stretch of a camera's channels with other keys: all outside it stays the same curve."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from ..arrays import Floats
from ..cameras.camera import Camera
from ..cameras.camera_channels import CAMERA_CHANNELS
from ..errors import DomainError
from ..time.channels import Channel
from ..time.dividing import replaced_within
from ..time.key_reduction import keys_on_every_frame
from ..time.keys import Key


def keyed_within(camera: Camera, frames: Floats, values: Mapping[str, Floats], stays: bool = False) -> Camera:
    """The camera with values keyed on every one of the frames, and before and after them what its own keys do; ``stays``: what
    has no keys after them stays as it is by then. As ``having_within``."""
    channels = keys_on_every_frame(frames, values)
    return having_within(camera, {name: channel.keys for name, channel in channels.items()}, stays)


def having_within(camera: Camera, keys: Mapping[str, Sequence[Key]], stays: bool = False) -> Camera:
    """The camera with new keys of some channels in the place of what these do from the first to the last of the keys. Raises
    ``DomainError`` where one was moved without a key, as it would go back to its keys everywhere else; where it ``stays`` at the
    last of the new keys it does so."""
    changed = {name: _within(camera, name, own, stays) for name, own in keys.items()}
    left = tuple((name, value) for name, value in camera.unkeyed if name not in changed)
    return replace(camera, unkeyed=left, channels=camera.channels.having(**changed))


def _within(camera: Camera, name: str, keys: Sequence[Key], stays: bool) -> Channel:
    own, moved = camera.channels[name], dict(camera.unkeyed).get(name)
    if moved is None or (own.keys and stays):
        return replaced_within(own, keys, stays)
    if own.keys:
        raise DomainError(
            f"The {CAMERA_CHANNELS[name].title} of “{camera.name}” was moved without a key.",
            "Set a key (K) or put it back (B) first.",
        )
    return replaced_within(Channel(moved), keys, stays)


def values_on(camera: Camera, name: str, frames: Floats) -> Floats:
    """What a channel of a camera comes to on frames, within the scene or not, of their shape."""
    moved = dict(camera.unkeyed).get(name)
    return camera.channels[name].at(frames) if moved is None else np.full(frames.shape, moved)
