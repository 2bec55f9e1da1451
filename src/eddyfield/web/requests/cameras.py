"""Cameras as things of the scene."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from eddyfield.core import edits
from eddyfield.core.bake import Baker
from eddyfield.core.cameras.camera import LockGroup, Role
from eddyfield.core.scene import Scene

from .base import Id, OfCamera


class LockCamera(OfCamera):
    edit: Literal["lock camera"] = "lock camera"
    locks: tuple[LockGroup, ...]

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.lock_camera(scene, self.camera_id, self.locks)


class RenameCamera(OfCamera):
    edit: Literal["rename camera"] = "rename camera"
    name: str

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.rename_camera(scene, self.camera_id, self.name)


class SetCameraRole(OfCamera):
    edit: Literal["set camera role"] = "set camera role"
    role: Role

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.set_camera_role(scene, self.camera_id, self.role)


class SetCameraLines(OfCamera):
    edit: Literal["set camera lines"] = "set camera lines"
    tint: int
    pattern: int

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.set_camera_lines(scene, self.camera_id, self.tint, self.pattern)


class CopyCamera(OfCamera):
    edit: Literal["copy camera"] = "copy camera"
    new_id: Id

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.copy_camera(scene, self.camera_id, self.new_id)


class DeleteCamera(OfCamera):
    edit: Literal["delete camera"] = "delete camera"
    replace_by: Id | None = None

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.delete_camera(scene, self.camera_id, self.replace_by)


class OrderCamera(OfCamera):
    edit: Literal["order camera"] = "order camera"
    place: Annotated[int, Field(ge=0, le=100_000)]

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.order_camera(scene, self.camera_id, self.place)
