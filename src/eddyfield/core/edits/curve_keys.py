"""Edits of single keys of one channel, as hands make them on its curve."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..cameras.camera import Camera
from ..cameras.camera_channels import CAMERA_CHANNELS
from ..errors import DomainError
from ..scene import Scene
from ..time.channels import Channel
from ..time.dividing import key_within
from ..time.frames import FrameTime
from ..time.keys import Handle
from .cameras import refuse_locked_channels
from .edit import Edit
from .reach import Reach, Stretch


@dataclass(frozen=True, kw_only=True)
class SetCurveKey(Edit):
    """Move one key of one channel in time and value, and say how the curve arrives there and leaves it; what is None stays. A
    handle makes the key one with handles of its own, the other side as it was."""

    edit: Literal["set curve key"] = "set curve key"
    title: ClassVar[str] = "key on its curve"
    camera_id: str
    channel: str
    time: FrameTime
    to: FrameTime | None = None
    value: float | None = None
    arriving: Handle | None = None
    leaving: Handle | None = None

    def reach(self, scene: Scene) -> Reach:
        return Reach(frozenset({self.camera_id}), stretch=Stretch(frozenset({self.channel})))

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera, channel = _unlocked(scene, self.camera_id, self.channel)
        index = next((i for i, key in enumerate(channel.keys) if key.time == self.time), None)
        if index is None:
            raise DomainError(f"There is no key at frame {self.time}.", "Choose a frame with a key.")
        to = self.time if self.to is None else self.to
        if to != self.time and channel.key_at(to):
            raise DomainError(f"There is a key at frame {to} already.", "Delete that one first, or move elsewhere.")
        key = channel.keys[index]
        changed = replace(key, time=to, value=key.value if self.value is None else self.value)
        if self.arriving or self.leaving:
            before = channel.handles(index)
            changed = replace(
                changed, shape="curve", handle_in=self.arriving or before[0], handle_out=self.leaving or before[1]
            )
        CAMERA_CHANNELS[self.channel].check(changed.value)
        others = tuple(k for k in channel.keys if k is not key)
        return _with(scene, camera, self.channel, replace(channel, keys=others).with_key(changed))


@dataclass(frozen=True, kw_only=True)
class AddCurveKey(Edit):
    """Set a key on a channel's curve where it runs, without changing it."""

    edit: Literal["add curve key"] = "add curve key"
    title: ClassVar[str] = "key on the curve as it runs"
    camera_id: str
    channel: str
    time: FrameTime

    def reach(self, scene: Scene) -> Reach:
        """Keys, but no value of the curve."""
        return Reach(frozenset({self.camera_id}), stretch=Stretch(frozenset({self.channel}), self.time, self.time))

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera, channel = _unlocked(scene, self.camera_id, self.channel)
        return _with(scene, camera, self.channel, key_within(channel, self.time))


@dataclass(frozen=True, kw_only=True)
class DeleteCurveKey(Edit):
    """Take away one key of one channel."""

    edit: Literal["delete curve key"] = "delete curve key"
    title: ClassVar[str] = "delete key of a curve"
    camera_id: str
    channel: str
    time: FrameTime

    def reach(self, scene: Scene) -> Reach:
        return Reach(frozenset({self.camera_id}), stretch=Stretch(frozenset({self.channel})))

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera, channel = _unlocked(scene, self.camera_id, self.channel)
        if channel.key_at(self.time) is None:
            raise DomainError(f"There is no key at frame {self.time}.", "Choose a frame with a key.")
        return _with(scene, camera, self.channel, channel.without_key(self.time))


def _unlocked(scene: Scene, camera_id: str, name: str) -> tuple[Camera, Channel]:
    camera = scene.camera(camera_id)
    refuse_locked_channels(camera, {CAMERA_CHANNELS[name].name}, "changed")
    return camera, camera.channels[name]


def _with(scene: Scene, camera: Camera, name: str, channel: Channel) -> Scene:
    return scene.with_camera(replace(camera, channels=camera.channels.having(**{name: channel})))
