"""Cameras made in one action."""

from __future__ import annotations

from typing import Literal

from eddyfield.core import edits
from eddyfield.core.bake import Baker
from eddyfield.core.cameras.camera import Role
from eddyfield.core.scene import Scene

from .base import Frame, Id, OfCamera, Pose


class MakeCamera(OfCamera):
    edit: Literal["make camera"] = "make camera"
    pose: Pose
    role: Role = "shot"
    frame: Frame

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.make_camera(scene, baker, self.camera_id, self.pose.value(), self.role, self.frame)


class MakeFaceCamera(OfCamera):
    edit: Literal["make face camera"] = "make face camera"
    character_id: Id
    frame: Frame
    turns_with_head: bool = True

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.make_face_camera(scene, baker, self.camera_id, self.character_id, self.frame, self.turns_with_head)


class MakePointOfView(OfCamera):
    edit: Literal["make point of view"] = "make point of view"
    character_id: Id
    frame: Frame

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.make_point_of_view(scene, baker, self.camera_id, self.character_id, self.frame)


class MakeOverTheShoulder(OfCamera):
    edit: Literal["make over the shoulder"] = "make over the shoulder"
    character_id: Id
    other_id: Id
    frame: Frame

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.make_over_the_shoulder(scene, baker, self.camera_id, self.character_id, self.other_id, self.frame)


class MakeTwoShot(OfCamera):
    edit: Literal["make two-shot"] = "make two-shot"
    character_id: Id
    other_id: Id
    frame: Frame

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.make_two_shot(scene, baker, self.camera_id, self.character_id, self.other_id, self.frame)


class MakeReviewSet(OfCamera):
    edit: Literal["make review set"] = "make review set"
    character_id: Id
    parallel: bool = False

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.make_review_set(scene, baker, self.camera_id, self.character_id, self.parallel)
