"""Edits of what a camera does over time: place it, set, move, shape and delete its keys, put it back."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

import numpy as np

from ..bake import Baker
from ..cameras.camera import Camera, CameraPose
from ..cameras.camera_channels import CAMERA_CHANNELS, POSE_NAMES
from ..cameras.camera_frames import channels_standing_at
from ..cameras.mounts import Free
from ..cameras.subjects import Vector
from ..errors import DomainError
from ..rig.transforms import rigid, rotation_from_angles
from ..scene import Scene
from ..time.channels import KEY_SHAPES, Channel, KeyShape, new_key
from ..time.frames import FrameTime
from .cameras import refuse_locked, refuse_locked_channels
from .edit import Edit

Turns = Literal["nearest", "counted"]


@dataclass(frozen=True, kw_only=True)
class PlaceCamera(Edit):
    """Put a camera somewhere in the world; with ``keep_offset`` as near as its rail, arm or orbit lets it.

    One that has keys keeps them and stands there unkeyed until it is keyed or put back. With ``nearest`` pan and roll
    are directions: they come within half a turn of where the camera stands then, so that a key set there does not spin
    it. Only what changes has to be unlocked.
    """

    edit: Literal["place camera"] = "place camera"
    title: ClassVar[str] = "place camera"
    camera_id: str
    pose: CameraPose
    frame: int
    turns: Turns = "nearest"
    keep_offset: bool = False

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        pose = self.pose
        camera = scene.camera(self.camera_id)
        now = baker.camera(camera).pose_at(baker.row_of(self.frame))
        if self.turns == "nearest":
            pose = replace(pose, pan=_nearest_turn(pose.pan, now.pan), roll=_nearest_turn(pose.roll, now.roll))
        changed = {name for name in POSE_NAMES if abs(getattr(pose, name) - getattr(now, name)) > 1e-9}
        refuse_locked_channels(camera, changed, "moved")
        return scene.with_camera(with_values(camera, placed_values(baker, camera, pose, self.frame, self.keep_offset)))


def placed_values(
    baker: Baker, camera: Camera, pose: CameraPose, frame: int, keep_offset: bool = False
) -> dict[str, float]:
    """The channel values that put a camera at a world pose on a frame."""
    if isinstance(camera.mount, Free):
        return {name: getattr(pose, name) for name in POSE_NAMES}
    frames = baker.camera(camera)
    row = baker.row_of(frame)
    wanted = rigid(rotation_from_angles(pose.pan, pose.tilt, pose.roll), np.array([pose.x, pose.y, pose.z]))
    values = channels_standing_at(camera, wanted, row, frames.values, baker, keep_offset)
    return values | {"focal_mm": pose.focal_mm}


def with_values(camera: Camera, values: Mapping[str, float]) -> Camera:
    """The camera with channel values set: unkeyed where it has keys, for good where it has none."""
    for name, value in values.items():
        CAMERA_CHANNELS[name].check(value)
    channels = camera.channels
    keyed = camera.keyed
    loose = {n: v for n, v in values.items() if channels[n].keys or (keyed and n in camera.channels_in_play)}
    firm = {n: Channel(v) for n, v in values.items() if n not in loose and channels[n].default != v}
    unkeyed = {n: v for n, v in (dict(camera.unkeyed) | loose).items() if n not in firm}
    return replace(
        camera,
        channels=camera.channels.having(**firm) if firm else camera.channels,
        unkeyed=CAMERA_CHANNELS.in_order(unkeyed),
    )


@dataclass(frozen=True, kw_only=True)
class SetCameraValues(Edit):
    """Set channels to numbers: focus, aperture, the position on a rail ..., unkeyed where they have keys."""

    edit: Literal["set camera values"] = "set camera values"
    title: ClassVar[str] = "set camera values"
    camera_id: str
    values: Mapping[str, float]

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.camera_id)
        refuse_locked_channels(camera, set(self.values), "changed")
        return scene.with_camera(with_values(camera, self.values))


@dataclass(frozen=True, kw_only=True)
class KeyCamera(Edit):
    """Set a key on the pose and the mount at ``time``: of the pose given, else of where the camera stands. Locked groups
    are left alone; a locked camera is refused."""

    edit: Literal["set camera key"] = "set camera key"
    title: ClassVar[str] = "set key"
    camera_id: str
    time: FrameTime
    pose: CameraPose | None = None

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        camera = scene.camera(self.camera_id)
        refuse_locked(camera, set() if not camera.locked else set(camera.locks), "keyed")
        if self.pose is not None:
            placed = PlaceCamera(camera_id=self.camera_id, pose=self.pose, frame=round(self.time), turns="counted")
            scene = placed.apply(scene, baker)
            camera = scene.camera(self.camera_id)
        names = [n for n in camera.channels_in_play if CAMERA_CHANNELS[n].lock_group not in camera.locks]
        return scene.with_camera(_keyed(camera, self.time, names))


@dataclass(frozen=True, kw_only=True)
class KeyCameraValues(Edit):
    """Set keys on single channels: a focus, a weight, a position on the rail."""

    edit: Literal["key camera values"] = "key camera values"
    title: ClassVar[str] = "key on single channels"
    camera_id: str
    time: FrameTime
    values: Mapping[str, float]

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.camera_id)
        refuse_locked_channels(camera, set(self.values), "keyed")
        for name, value in self.values.items():
            CAMERA_CHANNELS[name].check(value)
        return scene.with_camera(
            _keyed(replace(camera, unkeyed=_merged(camera, self.values)), self.time, list(self.values))
        )


@dataclass(frozen=True, kw_only=True)
class ReachWithMount(Edit):
    """Bring the head of a mount as near to a place of the world (metres) as its rail, arm or orbit lets it; unkeyed where
    that has keys."""

    edit: Literal["reach with mount"] = "reach with mount"
    title: ClassVar[str] = "head of a mount"
    camera_id: str
    place: Vector
    frame: int

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        camera = scene.camera(self.camera_id)
        refuse_locked(camera, {"place"}, "moved")
        row = baker.row_of(self.frame)
        reached = camera.mount.reaching(np.array(self.place), row, baker.camera(camera).values, baker)
        if not reached:
            raise DomainError(
                f"“{camera.name}” has nothing that reaches.", "Put it on a rail, a crane or an orbit first."
            )
        return scene.with_camera(with_values(camera, reached))


@dataclass(frozen=True, kw_only=True)
class PutCameraBack(Edit):
    """Forget what was moved without a key: its keys rule again. One without keys goes back to its last saved view."""

    edit: Literal["put camera back"] = "put camera back"
    title: ClassVar[str] = "put camera back"
    camera_id: str

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.camera_id)
        refuse_locked(camera, set() if not camera.locked else set(camera.locks), "put back")
        if camera.unkeyed:
            return scene.with_camera(replace(camera, unkeyed=()))
        if not camera.keyed and camera.views:
            view = camera.views[-1]
            rigged = camera.rigged(view.rigging or camera.rigging)
            back = with_values(replace(rigged, mount=view.mount), dict(view.values))
            if back != camera:
                return scene.with_camera(back)
        raise DomainError(
            f"“{camera.name}” stands where its keys or its last saved view put it.", "Nothing to put back."
        )


@dataclass(frozen=True, kw_only=True)
class DeleteCameraKeys(Edit):
    """Take away the keys of all channels at ``time``."""

    edit: Literal["delete camera key"] = "delete camera key"
    title: ClassVar[str] = "delete key"
    camera_id: str
    time: FrameTime

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = _with_keys_at(scene, self.camera_id, self.time)
        return _with_channels(scene, camera, lambda channel: channel.without_key(self.time))


@dataclass(frozen=True, kw_only=True)
class MoveCameraKeys(Edit):
    """Move the keys at ``time`` to another time; keys that are there already are not overwritten."""

    edit: Literal["move camera key"] = "move camera key"
    title: ClassVar[str] = "move key"
    camera_id: str
    time: FrameTime
    to: FrameTime

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        to = self.to
        camera = _with_keys_at(scene, self.camera_id, self.time)
        if to == self.time:
            return scene
        if any(channel.key_at(to) for channel in camera.channels.values() if channel.key_at(self.time)):
            raise DomainError(
                f"“{camera.name}” has a key at frame {to} already.", "Delete that one first, or move elsewhere."
            )

        def moved(channel: Channel) -> Channel:
            key = channel.key_at(self.time)
            if key is None:
                return channel
            others = tuple(k for k in channel.keys if k.time != self.time)
            return Channel(channel.default, others).with_key(replace(key, time=to))

        return _with_channels(scene, camera, moved)


@dataclass(frozen=True, kw_only=True)
class ShiftCameraKeys(Edit):
    """Move a camera's whole move by some frames: all keys of all its channels."""

    edit: Literal["shift camera keys"] = "shift camera keys"
    title: ClassVar[str] = "move the whole move"
    camera_id: str
    by: FrameTime

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.camera_id)
        if not camera.keyed:
            raise DomainError(f"“{camera.name}” has no keys to move.", "Set one first.")
        refuse_locked_channels(camera, {name for name, channel in camera.channels.items() if channel.keys}, "changed")

        def shifted(channel: Channel) -> Channel:
            keys = tuple(replace(key, time=key.time + self.by) for key in channel.keys)
            return Channel(channel.default, keys) if keys else channel

        return _with_channels(scene, camera, shifted) if self.by else scene


@dataclass(frozen=True, kw_only=True)
class ShapeCameraKeys(Edit):
    """Give the keys at ``time`` a shape."""

    edit: Literal["shape camera key"] = "shape camera key"
    title: ClassVar[str] = "shape of a key"
    camera_id: str
    time: FrameTime
    shape: KeyShape

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        shape = self.shape
        camera = _with_keys_at(scene, self.camera_id, self.time)
        if shape not in KEY_SHAPES:
            raise DomainError(f"The key shape “{shape}” is not known.", f"Choose one of {', '.join(KEY_SHAPES)}.")

        def shaped(channel: Channel) -> Channel:
            key = channel.key_at(self.time)
            return channel if key is None else channel.with_key(replace(key, shape=shape))

        return _with_channels(scene, camera, shaped)


def value_at(camera: Camera, name: str, time: FrameTime) -> float:
    """A channel's value at a time, moved or keyed."""
    unkeyed = dict(camera.unkeyed)
    return unkeyed[name] if name in unkeyed else float(camera.channels[name].at(float(time)))


def _merged(camera: Camera, values: Mapping[str, float]) -> tuple[tuple[str, float], ...]:
    merged = dict(camera.unkeyed) | dict(values)
    return CAMERA_CHANNELS.in_order(merged)


def _keyed(camera: Camera, time: FrameTime, names: list[str]) -> Camera:
    """Keys on some channels at their present values; they are no longer unkeyed."""
    keyed = {n: new_key(camera.channels[n], time, value_at(camera, n, time)) for n in names}
    left = tuple((n, v) for n, v in camera.unkeyed if n not in keyed)
    return replace(camera, channels=camera.channels.having(**keyed), unkeyed=left)


def _nearest_turn(angle: float, to: float) -> float:
    """The same direction in degrees, within half a turn of ``to``."""
    return angle + 360.0 * round((to - angle) / 360.0)


def _with_keys_at(scene: Scene, camera_id: str, time: FrameTime) -> Camera:
    """The camera, free to change, with keys at that time; else a refusal."""
    camera = scene.camera(camera_id)
    names = {n for n, channel in camera.channels.items() if channel.key_at(time)}
    if not names:
        refuse_locked(camera, set(camera.locks), "changed")
        raise DomainError(f"“{camera.name}” has no key at frame {time}.", "Choose a frame with a key.")
    refuse_locked_channels(camera, names, "changed")
    return camera


def _with_channels(scene: Scene, camera: Camera, change: Callable[[Channel], Channel]) -> Scene:
    before = camera.channels
    after = {name: change(channel) for name, channel in before.items()}
    changed = {name: channel for name, channel in after.items() if channel is not before[name]}
    return scene.with_camera(replace(camera, channels=camera.channels.having(**changed)))
