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
from ..time.channels import Channel
from ..time.frames import FrameTime
from ..time.keys import KEY_SHAPES, Key, KeyShape
from ..time.retiming import Retiming, mirrored, retimed
from .cameras import refuse_locked, refuse_locked_channels
from .edit import Edit
from .reach import Reach, Stretch

MOST_KEYS_PASTED = 20_000


@dataclass(frozen=True)
class ChosenKeys:
    """Keys of one camera: those at ``times``, of the channels in ``groups``; all of them where it says None."""

    camera_id: str
    times: tuple[FrameTime, ...] | None = None
    groups: tuple[KeyGroup, ...] | None = None

    def of(self, camera: Camera) -> dict[str, list[int]]:
        """Places of the chosen keys in each channel, in order, of those that have some. Raises ``DomainError`` where there are
        none, or what holds them is locked."""
        found = {}
        for name, channel in camera.channels.items():
            if channel.keys and (self.groups is None or GROUP_OF[name] in self.groups):
                at = range(len(channel.keys)) if self.times is None else map(channel.index_at, set(self.times))
                if indices := sorted(index for index in at if index is not None):
                    found[name] = indices
        if not found:
            refuse_locked(camera, set(camera.locks), "changed")
            where = f" at frame {self.times[0]}" if self.times and len(self.times) == 1 else ""
            raise DomainError(f"“{camera.name}” has no key{where}.", "Choose a frame with a key.")
        refuse_locked_channels(camera, set(found), "changed")
        return found

    def reach(self, scene: Scene, within: bool = False) -> Reach:
        """The channels of the keys; ``within``: from the first of these to the last alone."""
        camera = scene.camera(self.camera_id)
        chosen = self.of(camera)
        times = [camera.channels[name].keys[index].time for name, indices in chosen.items() for index in indices]
        ends = (min(times), max(times)) if within else (None, None)
        return Reach(frozenset({self.camera_id}), stretch=Stretch(frozenset(chosen), *ends))


@dataclass(frozen=True, kw_only=True)
class DeleteCameraKeys(Edit):
    """Take keys away."""

    edit: Literal["delete camera keys"] = "delete camera keys"
    title: ClassVar[str] = "delete keys"
    keys: ChosenKeys

    def reach(self, scene: Scene) -> Reach:
        return self.keys.reach(scene)

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.keys.camera_id)
        changed = {}
        for name, indices in self.keys.of(camera).items():
            channel, gone = camera.channels[name], set(indices)
            left = tuple(key for index, key in enumerate(channel.keys) if index not in gone)
            changed[name] = replace(channel, default=channel.default if left else channel.keys[0].value, keys=left)
        return having_channels(scene, camera, changed)


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

    def reach(self, scene: Scene) -> Reach:
        return self.keys.reach(scene)

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.keys.camera_id)
        chosen = self.keys.of(camera)
        retiming = Retiming(self.stretch, self.about, self.by)
        if retiming.changes_nothing:
            return scene
        channels = {name: retimed(camera.channels[name], indices, retiming) for name, indices in chosen.items()}
        return having_channels(scene, camera, channels)


@dataclass(frozen=True, kw_only=True)
class ShapeCameraKeys(Edit):
    """Give keys a shape. Handles of their own are kept for when they are curves again."""

    edit: Literal["shape camera keys"] = "shape camera keys"
    title: ClassVar[str] = "shape of keys"
    keys: ChosenKeys
    shape: KeyShape

    def reach(self, scene: Scene) -> Reach:
        return self.keys.reach(scene)

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.keys.camera_id)
        if self.shape not in KEY_SHAPES:
            raise DomainError(f"The key shape “{self.shape}” is not known.", f"Choose one of {', '.join(KEY_SHAPES)}.")
        changed = {}
        for name, indices in self.keys.of(camera).items():
            keys = list(camera.channels[name].keys)
            for index in indices:
                keys[index] = replace(keys[index], shape=self.shape)
            changed[name] = replace(camera.channels[name], keys=tuple(keys))
        return having_channels(scene, camera, changed)


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

    def reach(self, scene: Scene) -> Reach:
        return Reach(frozenset({self.camera_id}), stretch=Stretch(frozenset(self.keys)))

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
            changed[name] = replace(present, keys=tuple(sorted((*kept, *keys), key=lambda key: key.time)))
        unkeyed = tuple((name, value) for name, value in camera.unkeyed if name not in changed)
        return having_channels(scene, replace(camera, unkeyed=unkeyed), changed)


def having_channels(scene: Scene, camera: Camera, changed: Mapping[str, Channel]) -> Scene:
    """The scene with other channels of a camera."""
    return scene.with_camera(replace(camera, channels=camera.channels.having(**changed)))
