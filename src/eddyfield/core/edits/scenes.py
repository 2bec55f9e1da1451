"""Edits of the scene as a whole."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..scene import Scene
from ..time.frames import FrameRange
from .edit import Edit
from .names import usable_name


@dataclass(frozen=True, kw_only=True)
class RenameScene(Edit):
    """Give the scene another name."""

    edit: Literal["rename scene"] = "rename scene"
    title: ClassVar[str] = "rename scene"
    of_scene: ClassVar[tuple[str, ...]] = ("name",)
    name: str

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        return replace(scene, name=usable_name(self.name, "scene"))


@dataclass(frozen=True, kw_only=True)
class SetFrames(Edit):
    """Set the playing range, both ends included."""

    edit: Literal["set play range"] = "set play range"
    title: ClassVar[str] = "first and last frame"
    of_scene: ClassVar[tuple[str, ...]] = ("frames",)
    first: int
    last: int

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        return replace(scene, frames=FrameRange(self.first, self.last))
