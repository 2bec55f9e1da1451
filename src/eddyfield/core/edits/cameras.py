"""Edits of cameras: place, key, lock."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from ..channels import KEY_SHAPES, Channel, Key, KeyShape, new_key
from ..errors import DomainError
from ..scene import CHANNEL_NAMES, Camera, CameraChannels, CameraPose, Scene
from ..time import FrameTime
from .names import usable_name


def pose_at(camera: Camera, time: FrameTime) -> CameraPose:
    """Where the camera stands at a time."""
    if camera.unkeyed is not None:
        return camera.unkeyed
    values = {name: float(channel.at(float(time))) for name, channel in camera.channels.by_name().items()}
    return CameraPose(**values)


def place_camera(scene: Scene, camera_id: str, pose: CameraPose, time: FrameTime | None = None) -> Scene:
    """Put a camera somewhere. One that has keys keeps them and stands there unkeyed until it is keyed or put back.

    With ``time``, pan and roll count as directions: they come within half a turn of where the camera stands then, so
    that a key set there does not spin it.
    """
    camera = _unlocked(scene, camera_id, "moved")
    if time is not None:
        now = pose_at(camera, time)
        pose = replace(pose, pan=_nearest_turn(pose.pan, now.pan), roll=_nearest_turn(pose.roll, now.roll))
    if camera.keyed:
        return scene.with_camera(replace(camera, unkeyed=pose))
    channels = CameraChannels(**{name: Channel(getattr(pose, name)) for name in CHANNEL_NAMES})
    return scene.with_camera(replace(camera, channels=channels, unkeyed=None))


def key_camera(scene: Scene, camera_id: str, time: FrameTime, pose: CameraPose | None = None) -> Scene:
    """Set a key on all channels at ``time``: of the pose given, else of where the camera stands."""
    camera = _unlocked(scene, camera_id, "keyed")
    pose = pose or pose_at(camera, time)
    channels = {name: new_key(ch, time, getattr(pose, name)) for name, ch in camera.channels.by_name().items()}
    return scene.with_camera(replace(camera, channels=CameraChannels(**channels), unkeyed=None))


def put_camera_back(scene: Scene, camera_id: str) -> Scene:
    """Forget where the camera was moved to without a key: its keys rule again."""
    camera = _unlocked(scene, camera_id, "put back")
    if camera.unkeyed is None:
        raise DomainError(f"“{camera.name}” stands where its keys put it.", "There is nothing to put back.")
    return scene.with_camera(replace(camera, unkeyed=None))


def delete_camera_keys(scene: Scene, camera_id: str, time: FrameTime) -> Scene:
    """Take away the keys of all channels at ``time``."""
    camera = _unlocked(scene, camera_id, "changed")
    _keys_at(camera, time)
    return _with_channels(scene, camera, lambda channel: channel.without_key(time))


def move_camera_keys(scene: Scene, camera_id: str, time: FrameTime, to: FrameTime) -> Scene:
    """Move the keys at ``time`` to another time; keys that are there already are not overwritten."""
    camera = _unlocked(scene, camera_id, "changed")
    _keys_at(camera, time)
    if to == time:
        return scene
    if any(channel.key_at(to) for channel in camera.channels.by_name().values()):
        raise DomainError(
            f"“{camera.name}” has a key at frame {to} already.", "Delete that one first, or move elsewhere."
        )

    def moved(channel: Channel) -> Channel:
        key = channel.key_at(time)
        if key is None:
            return channel
        others = tuple(k for k in channel.keys if k.time != time)
        return Channel(channel.default, others).with_key(replace(key, time=to))

    return _with_channels(scene, camera, moved)


def shape_camera_keys(scene: Scene, camera_id: str, time: FrameTime, shape: KeyShape) -> Scene:
    """Give the keys at ``time`` a shape."""
    camera = _unlocked(scene, camera_id, "changed")
    _keys_at(camera, time)
    if shape not in KEY_SHAPES:
        raise DomainError(f"The key shape “{shape}” is not known.", f"Choose one of {', '.join(KEY_SHAPES)}.")

    def shaped(channel: Channel) -> Channel:
        key = channel.key_at(time)
        return channel if key is None else channel.with_key(Key(key.time, key.value, shape))

    return _with_channels(scene, camera, shaped)


def lock_camera(scene: Scene, camera_id: str, locked: bool) -> Scene:
    """Lock a camera, so that nothing moves it, or let it go."""
    return scene.with_camera(replace(scene.camera(camera_id), locked=locked))


def rename_camera(scene: Scene, camera_id: str, name: str) -> Scene:
    name = usable_name(name, "camera")
    if any(c.name == name and c.id != camera_id for c in scene.cameras):
        raise DomainError(f"Another camera is called “{name}”.", "Choose a name of its own.")
    return scene.with_camera(replace(scene.camera(camera_id), name=name))


def _nearest_turn(angle: float, to: float) -> float:
    """The same direction in degrees, within half a turn of ``to``."""
    return angle + 360.0 * round((to - angle) / 360.0)


def _unlocked(scene: Scene, camera_id: str, doing: str) -> Camera:
    camera = scene.camera(camera_id)
    if camera.locked:
        raise DomainError(f"“{camera.name}” is locked and cannot be {doing}.", "Unlock it first (L).")
    return camera


def _keys_at(camera: Camera, time: FrameTime) -> None:
    if not any(channel.key_at(time) for channel in camera.channels.by_name().values()):
        raise DomainError(f"“{camera.name}” has no key at frame {time}.", "Choose a frame with a key.")


def _with_channels(scene: Scene, camera: Camera, change: Callable[[Channel], Channel]) -> Scene:
    channels = CameraChannels(**{name: change(channel) for name, channel in camera.channels.by_name().items()})
    return scene.with_camera(replace(camera, channels=channels))
