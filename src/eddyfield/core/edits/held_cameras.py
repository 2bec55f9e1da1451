"""Edits of cameras that are held with the poses of a character."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..scene import Scene
from .cameras import refuse_locked
from .edit import Edit


@dataclass(frozen=True, kw_only=True)
class HoldCamera(Edit):
    """Let a camera stand still as long as a character's pose is shown, or (without one) move on ones again. Its keys stay. Raises
    ``DomainError`` for a locked camera and for somebody who is not in the scene."""

    edit: Literal["hold camera"] = "hold camera"
    title: ClassVar[str] = "camera held with poses"
    camera_id: str
    character_id: str | None

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.camera_id)
        refuse_locked(camera, {"place", "angles"}, "held")
        if self.character_id is not None:
            scene.character(self.character_id)
        return scene.with_camera(replace(camera, steps_with=self.character_id))
