"""Edits of keys that are there, as many at once as are chosen: move, stretch, mirror, shape, copy and delete them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..cameras.camera import Camera
from ..cameras.camera_channels import CAMERA_CHANNELS
from ..cameras.key_groups import GROUP_OF, KeyGroup
from ..errors import DomainError
from ..scene import Scene
from ..time.channels import KEY_SHAPES, Channel, Key, KeyShape
from ..time.frames import FrameTime
from ..time.retiming import Retiming, mirrored, retimed
from .cameras import refuse_locked, refuse_locked_channels
from .edit import Edit

MOST_KEYS_PASTED = 20_000


@dataclass(frozen=True)
class ChosenKeys:
    """Keys of one camera: those at ``times``, of the channels in ``groups``; all of them where it says None."""

    camera_id: str
    times: tuple[FrameTime, ...] | None = None
    groups: tuple[KeyGroup, ...] | None = None

    def of(self, camera: Camera) -> dict[str, frozenset[FrameTime]]:
        """Times of the chosen keys by channel, of those that have some. Raises ``DomainError`` where there are none, or what
        holds them is locked."""
        wanted = None if self.times is None else frozenset(self.times)
        found = {}
        for name, channel in camera.channels.items():
            if channel.keys and (self.groups is None or GROUP_OF[name] in self.groups):
                times = frozenset(key.time for key in channel.keys)
                if times := times if wanted is None else times & wanted:
                    found[name] = times
        if not found:
            refuse_locked(camera, set(camera.locks), "changed")
            at = f" at frame {self.times[0]}" if self.times and len(self.times) == 1 else ""
            raise DomainError(f"“{camera.name}” has no key{at}.", "Choose a frame with a key.")
        refuse_locked_channels(camera, set(found), "changed")
        return found


@dataclass(frozen=True, kw_only=True)
class DeleteCameraKeys(Edit):
    """Take keys away."""

    edit: Literal["delete camera keys"] = "delete camera keys"
    title: ClassVar[str] = "delete keys"
    keys: ChosenKeys

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.keys.camera_id)
        changed = {}
        for name, times in self.keys.of(camera).items():
            channel = camera.channels[name]
            left = tuple(key for key in channel.keys if key.time not in times)
            changed[name] = Channel(channel.default if left else channel.keys[0].value, left)
        return _having(scene, camera, changed)


@dataclass(frozen=True, kw_only=True)
class RetimeCameraKeys(Edit):
    """Move keys in time: stretched about a frame (mirrored where the stretch is negative), then moved by some frames. Keys
    that are not chosen stay, and are not overwritten."""

    edit: Literal["retime camera keys"] = "retime camera keys"
    title: ClassVar[str] = "move keys in time"
    keys: ChosenKeys
    by: FrameTime = FrameTime(0)
    stretch: FrameTime = FrameTime(1)
    about: FrameTime = FrameTime(0)

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.keys.camera_id)
        chosen = self.keys.of(camera)
        retiming = Retiming(self.stretch, self.about, self.by)
        if retiming.changes_nothing:
            return scene
        changed = {}
        for name, times in chosen.items():
            channel = camera.channels[name]
            staying = {key.time for key in channel.keys if key.time not in times}
            taken = next((to for to in map(retiming.of, times) if to in staying), None)
            if taken is not None:
                raise DomainError(
                    f"“{camera.name}” has a key at frame {taken} already.", "Delete that one first, or move elsewhere."
                )
            changed[name] = retimed(channel, times, retiming)
        return _having(scene, camera, changed)


@dataclass(frozen=True, kw_only=True)
class ShapeCameraKeys(Edit):
    """Give keys a shape. Handles of their own are kept for when they are curves again."""

    edit: Literal["shape camera keys"] = "shape camera keys"
    title: ClassVar[str] = "shape of keys"
    keys: ChosenKeys
    shape: KeyShape

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.keys.camera_id)
        if self.shape not in KEY_SHAPES:
            raise DomainError(f"The key shape “{self.shape}” is not known.", f"Choose one of {', '.join(KEY_SHAPES)}.")
        changed = {}
        for name, times in self.keys.of(camera).items():
            channel = camera.channels[name]
            keys = (replace(key, shape=self.shape) if key.time in times else key for key in channel.keys)
            changed[name] = replace(channel, keys=tuple(keys))
        return _having(scene, camera, changed)


@dataclass(frozen=True, kw_only=True)
class PasteCameraKeys(Edit):
    """Set copied keys on a camera, the first of them on ``at``. They take the place of keys at the same times; with ``clears``
    of all that the channels have within that stretch. What the camera has no use for on its mount is left out."""

    edit: Literal["paste camera keys"] = "paste camera keys"
    title: ClassVar[str] = "paste keys"
    camera_id: str
    keys: Mapping[str, tuple[Key, ...]]
    at: FrameTime
    mirrors: bool = False
    clears: bool = False

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.camera_id)
        if sum(map(len, self.keys.values())) > MOST_KEYS_PASTED:
            raise DomainError("There are too many keys to paste.", f"Choose {MOST_KEYS_PASTED:,} at most.")
        copied = {name: Channel(0.0, keys) for name, keys in self.keys.items() if keys}
        for name, channel in copied.items():
            for key in channel.keys:
                CAMERA_CHANNELS[name].check(key.value)
        in_play = camera.channels_in_play
        usable = {name: channel for name, channel in copied.items() if name in in_play}
        if not usable:
            raise DomainError(
                f"None of the copied keys has a use on “{camera.name}”.",
                "Choose keys first and copy them, or a camera that is carried in the same way.",
            )
        refuse_locked_channels(camera, set(usable), "keyed")
        first = min(channel.keys[0].time for channel in usable.values())
        last = max(channel.keys[-1].time for channel in usable.values())
        changed = {}
        for name, channel in usable.items():
            placed = mirrored(channel, first, last) if self.mirrors else channel
            keys = [replace(key, time=key.time - first + self.at) for key in placed.keys]
            covered = {key.time for key in keys}
            present = camera.channels[name]
            kept = [
                key for key in present.keys
                if key.time not in covered and not (self.clears and self.at <= key.time <= self.at + last - first)
            ]  # fmt: skip
            changed[name] = Channel(present.default, tuple(sorted((*kept, *keys), key=lambda key: key.time)))
        unkeyed = tuple((name, value) for name, value in camera.unkeyed if name not in changed)
        return _having(scene, replace(camera, unkeyed=unkeyed), changed)


def _having(scene: Scene, camera: Camera, changed: Mapping[str, Channel]) -> Scene:
    return scene.with_camera(replace(camera, channels=camera.channels.having(**changed)))
