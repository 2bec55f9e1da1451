"""From one mount to another and back: what a camera leaves behind stays with it, so that trying another mount loses nothing."""

from __future__ import annotations

from dataclasses import replace

from ..time.channels import Channel
from .camera import Camera, LeftMount
from .camera_channels import CAMERA_CHANNELS
from .mounts import Mount

STANDING = ("x", "y", "z", "pan", "tilt", "roll")
"""The channels that are told from a mount's head: on another mount they mean something else."""


def moved_onto(camera: Camera, mount: Mount) -> Camera:
    """The camera on a mount, with its place, angles and the mount's own channels as they are where nobody has set them. One of
    another kind is left behind as it is; of the same kind, it only changes."""
    names = {*channels_left(camera.mount), *channels_left(mount)}
    others = tuple(left for left in camera.left if left.mount.kind not in (mount.kind, camera.mount.kind))
    return replace(
        camera,
        mount=mount,
        channels=camera.channels.having(**{n: CAMERA_CHANNELS.plain[n] for n in names}),
        unkeyed=tuple((n, v) for n, v in camera.unkeyed if n not in names),
        left=others if mount.kind == camera.mount.kind else _by_kind((*others, *_left_by(camera))),
    )


def put_back_onto(camera: Camera, left: LeftMount) -> Camera:
    """The camera on a mount that it left before, with everything about it as it was then."""
    moved = moved_onto(camera, left.mount)
    channels: dict[str, Channel] = dict(left.channels)
    framing = moved.framing and replace(moved.framing, carried_over=left.carried_over)
    unkeyed = dict(moved.unkeyed) | dict(left.unkeyed)
    return replace(
        moved, channels=moved.channels.having(**channels), unkeyed=CAMERA_CHANNELS.in_order(unkeyed), framing=framing
    )


def _by_kind(left: tuple[LeftMount, ...]) -> tuple[LeftMount, ...]:
    return tuple(sorted(left, key=lambda one: one.mount.kind))


def channels_left(mount: Mount) -> tuple[str, ...]:
    """The channels that stay behind with a mount."""
    return (*STANDING, *mount.channel_names())


def _left_by(camera: Camera) -> tuple[LeftMount, ...]:
    """Nothing where there is nothing to lose: neither settings nor keys."""
    channels = tuple((n, camera.channels[n]) for n in channels_left(camera.mount))
    if camera.mount == type(camera.mount)() and not any(channel.keys for _, channel in channels):
        return ()
    unkeyed = tuple((n, v) for n, v in camera.unkeyed if n in dict(channels))
    return (LeftMount(camera.mount, channels, unkeyed, camera.framing.carried_over if camera.framing else None),)
