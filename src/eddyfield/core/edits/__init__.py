"""Every change of a scene: named functions from a scene and arguments to a new scene. They refuse with ``DomainError``."""

from .cameras import (
    delete_camera_keys,
    key_camera,
    lock_camera,
    move_camera_keys,
    place_camera,
    put_camera_back,
    rename_camera,
    shape_camera_keys,
)
from .performances import ride_character, step_character
from .scenes import rename_scene, set_frames

__all__ = [
    "delete_camera_keys",
    "key_camera",
    "lock_camera",
    "move_camera_keys",
    "place_camera",
    "put_camera_back",
    "rename_camera",
    "rename_scene",
    "ride_character",
    "set_frames",
    "shape_camera_keys",
    "step_character",
]
