"""Edits of the scene as a whole."""

from __future__ import annotations

from dataclasses import replace

from ..scene import Scene
from ..time.frames import FrameRange
from .names import usable_name


def rename_scene(scene: Scene, name: str) -> Scene:
    """Give the scene another name."""
    return replace(scene, name=usable_name(name, "scene"))


def set_frames(scene: Scene, first: int, last: int) -> Scene:
    """Set the playing range, both ends included."""
    return replace(scene, frames=FrameRange(first, last))
