"""Edits of what a camera does over time: place it, set keys, put it back."""

from __future__ import annotations

from collections.abc import Mapping
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
from ..time.channels import Channel, new_key
from ..time.frames import FrameTime
from .cameras import refuse_locked, refuse_locked_channels
from .edit import Edit
from .reach import Reach, Stretch

Turns = Literal["nearest", "counted"]


@dataclass(frozen=True, kw_only=True)
class PlaceCamera(Edit):
    """Put a camera somewhere in the world; with ``keep_offset`` as near as its rail, arm or orbit lets it.

    Standing on a key, that key changes; else one that has keys keeps them and stands there unkeyed until it is keyed or
    put back, or is keyed at once where ``records`` says so, on what was moved alone. With ``nearest`` pan and roll
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
    records: bool = False

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        pose = self.pose
        camera = scene.camera(self.camera_id)
        now = baker.camera(camera).pose_at(baker.row_of(self.frame))
        if self.turns == "nearest":
            pose = replace(pose, pan=_nearest_turn(pose.pan, now.pan), roll=_nearest_turn(pose.roll, now.roll))
        changed = {name for name in POSE_NAMES if abs(getattr(pose, name) - getattr(now, name)) > 1e-9}
        refuse_locked_channels(camera, changed, "moved")
        values = placed_values(baker, camera, pose, self.frame, self.keep_offset)
        return scene.with_camera(moved_to(camera, values, self.frame, self.records))


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


def moved_to(camera: Camera, values: Mapping[str, float], frame: int, records: bool) -> Camera:
    """The camera with channel values set on a frame: keys that are there change; what else was moved is keyed where it is
    recorded, but nothing that is locked, and unkeyed where not."""
    time = FrameTime(frame)
    moved = {n: v for n, v in values.items() if abs(value_at(camera, n, time) - v) > 1e-9}
    on_key = {n for n in moved if camera.channels[n].key_at(time) is not None}
    free = {n for n in moved if CAMERA_CHANNELS[n].lock_group not in camera.locks}
    keyed = list(free if records else on_key)
    if not keyed:
        return with_values(camera, values)
    for name in keyed:
        CAMERA_CHANNELS[name].check(moved[name])
    rest = {n: v for n, v in moved.items() if n not in keyed}
    camera = with_values(camera, rest)
    return _keyed(replace(camera, unkeyed=_merged(camera, {n: moved[n] for n in keyed})), time, keyed)


@dataclass(frozen=True, kw_only=True)
class SetCameraValues(Edit):
    """Set channels to numbers: focus, aperture, the position on a rail ... On a ``frame`` keys that are there change, and
    with ``records`` what has none is keyed; else they are unkeyed where they have keys."""

    edit: Literal["set camera values"] = "set camera values"
    title: ClassVar[str] = "set camera values"
    camera_id: str
    values: Mapping[str, float]
    frame: int | None = None
    records: bool = False

    def reach(self, scene: Scene) -> Reach:
        return Reach(frozenset({self.camera_id}), stretch=Stretch(frozenset(self.values)))

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.camera_id)
        refuse_locked_channels(camera, set(self.values), "changed")
        if self.frame is None:
            return scene.with_camera(with_values(camera, self.values))
        return scene.with_camera(moved_to(camera, self.values, self.frame, self.records))


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

    def reach(self, scene: Scene) -> Reach:
        return Reach(frozenset({self.camera_id}), stretch=Stretch(frozenset(self.values)))

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
    records: bool = False

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        camera = scene.camera(self.camera_id)
        refuse_locked(camera, {"place"}, "moved")
        row = baker.row_of(self.frame)
        reached = camera.mount.reaching(np.array(self.place), row, baker.camera(camera).values, baker)
        if not reached:
            raise DomainError(
                f"“{camera.name}” has nothing that reaches.", "Put it on a rail, a crane or an orbit first."
            )
        return scene.with_camera(moved_to(camera, reached, self.frame, self.records))


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
