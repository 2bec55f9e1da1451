"""Edits that make cameras in one action; each takes the id that the new camera shall have."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from typing import ClassVar, Literal

from .. import shots
from ..bake import Baker
from ..cameras.camera import CameraPose, Role
from ..errors import DomainError
from ..performance.character import Character
from ..scene import Scene
from .cameras import add_camera
from .edit import Edit, check_new_id
from .reach import Reach


@dataclass(frozen=True, kw_only=True)
class MakeCamera(Edit):
    """A camera where somebody is looking from."""

    edit: Literal["make camera"] = "make camera"
    title: ClassVar[str] = "make camera"
    camera_id: str
    pose: CameraPose
    role: Role = "shot"
    frame: int

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return add_camera(scene, shots.camera_from_view(baker, self.camera_id, self.pose, self.role, self.frame))


@dataclass(frozen=True, kw_only=True)
class MakeFaceCamera(Edit):
    """A camera carried by the head, the face filling two thirds of the frame's height; else only its place is carried."""

    edit: Literal["make face camera"] = "make face camera"
    title: ClassVar[str] = "make face camera"
    camera_id: str
    character_id: str
    frame: int
    turns_with_head: bool = True

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        character = scene.character(self.character_id)
        return add_camera(scene, shots.face_camera(baker, self.camera_id, character, self.frame, self.turns_with_head))


@dataclass(frozen=True, kw_only=True)
class MakePointOfView(Edit):
    """A camera carried by the head, looking from the eyes."""

    edit: Literal["make point of view"] = "make point of view"
    title: ClassVar[str] = "make point-of-view camera"
    camera_id: str
    character_id: str
    frame: int

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return add_camera(
            scene, shots.point_of_view(baker, self.camera_id, scene.character(self.character_id), self.frame)
        )


@dataclass(frozen=True, kw_only=True)
class MakeOverTheShoulder(Edit):
    """A camera behind a character's shoulder that holds the other's face in the frame."""

    edit: Literal["make over the shoulder"] = "make over the shoulder"
    title: ClassVar[str] = "make over-the-shoulder camera"
    camera_id: str
    character_id: str
    other_id: str
    frame: int

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        one, other = _two(scene, self.character_id, self.other_id)
        return add_camera(scene, shots.over_the_shoulder(baker, self.camera_id, one, other, self.frame))


@dataclass(frozen=True, kw_only=True)
class MakeTwoShot(Edit):
    """On the side of the two from which the camera of the cut sees them, so that the screen direction stays."""

    edit: Literal["make two-shot"] = "make two-shot"
    title: ClassVar[str] = "make two-shot"
    camera_id: str
    character_id: str
    other_id: str
    frame: int

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        one, other = _two(scene, self.character_id, self.other_id)
        side = baker.cut_path().world_from_camera[baker.row_of(self.frame), :3, 3]
        return add_camera(scene, shots.two_shot(baker, self.camera_id, one, other, self.frame, side))


@dataclass(frozen=True, kw_only=True)
class MakeReviewSet(Edit):
    """Front, side, three-quarter and top; their ids follow from the one given."""

    edit: Literal["make review set"] = "make review set"
    title: ClassVar[str] = "make review cameras"
    camera_id: str
    character_id: str
    parallel: bool = False

    def reach(self, scene: Scene) -> Reach:
        return Reach(makes=True)

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        character = scene.character(self.character_id)
        check_new_id(self.camera_id)
        for side in shots.REVIEW_SIDES:
            own_id = str(uuid.uuid5(uuid.UUID(self.camera_id), side))
            scene = add_camera(scene, shots.review_camera(baker, own_id, character, side, self.parallel))
        return scene


def _two(scene: Scene, one: str, other: str) -> tuple[Character, Character]:
    if one == other:
        raise DomainError("That takes two characters.", "Choose another one for the second.")
    return scene.character(one), scene.character(other)
