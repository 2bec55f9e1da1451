"""Performances and the scene itself."""

from __future__ import annotations

from typing import Literal

from eddyfield.core import edits
from eddyfield.core.bake import Baker
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.ride import Ride, RideWay
from eddyfield.core.scene import Scene

from .base import Frame, Id, Request


class StepCharacter(Request):
    edit: Literal["step poses"] = "step poses"
    character_id: Id
    step: int
    offset: Frame = 0
    keep_key_poses: bool = False

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.step_character(scene, self.character_id, Stepping(self.step, self.offset, self.keep_key_poses))


class RideCharacter(Request):
    edit: Literal["ride"] = "ride"
    character_id: Id
    way: RideWay
    weight: float = 1.0
    anchor: str | None = None

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.ride_character(scene, baker, self.character_id, Ride(self.way, self.weight, self.anchor))


class SetFront(Request):
    edit: Literal["set front"] = "set front"
    character_id: Id
    front_deg: float | None

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.set_front(scene, self.character_id, self.front_deg)


class RenameScene(Request):
    edit: Literal["rename scene"] = "rename scene"
    name: str

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.rename_scene(scene, self.name)


class SetFrames(Request):
    edit: Literal["set play range"] = "set play range"
    first: Frame
    last: Frame

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.set_frames(scene, self.first, self.last)
