"""Edits that make cameras in one action; each takes the id that the new camera shall have."""

from __future__ import annotations

import uuid

from .. import shots
from ..bake import Baker
from ..cameras.camera import CameraPose, Role
from ..errors import DomainError
from ..scene import Character, Scene
from .cameras import add_camera


def make_camera(scene: Scene, baker: Baker, camera_id: str, pose: CameraPose, role: Role, frame: int) -> Scene:
    """A camera where somebody is looking from."""
    return add_camera(scene, shots.camera_from_view(baker, camera_id, pose, role, frame))


def make_face_camera(
    scene: Scene, baker: Baker, camera_id: str, character_id: str, frame: int, turns_with_head: bool = True
) -> Scene:
    """A camera carried by the head, the face filling two thirds of the frame's height; else only its place is carried."""
    character = scene.character(character_id)
    return add_camera(scene, shots.face_camera(baker, camera_id, character, frame, turns_with_head))


def make_point_of_view(scene: Scene, baker: Baker, camera_id: str, character_id: str, frame: int) -> Scene:
    """A camera carried by the head, looking from the eyes."""
    return add_camera(scene, shots.point_of_view(baker, camera_id, scene.character(character_id), frame))


def make_over_the_shoulder(
    scene: Scene, baker: Baker, camera_id: str, character_id: str, other_id: str, frame: int
) -> Scene:
    """A camera behind a character's shoulder that holds the other's face in the frame."""
    one, other = _two(scene, character_id, other_id)
    return add_camera(scene, shots.over_the_shoulder(baker, camera_id, one, other, frame))


def make_two_shot(scene: Scene, baker: Baker, camera_id: str, character_id: str, other_id: str, frame: int) -> Scene:
    """On the side of the two from which the camera of the cut sees them, so that the screen direction stays."""
    one, other = _two(scene, character_id, other_id)
    side = baker.cut_path().world_from_camera[baker.row_of(frame), :3, 3]
    return add_camera(scene, shots.two_shot(baker, camera_id, one, other, frame, side))


def make_review_set(scene: Scene, baker: Baker, camera_id: str, character_id: str, parallel: bool = False) -> Scene:
    """Front, side, three-quarter and top; their ids follow from the one given."""
    character = scene.character(character_id)
    for side in shots.REVIEW_SIDES:
        own_id = str(uuid.uuid5(uuid.UUID(camera_id), side))
        scene = add_camera(scene, shots.review_camera(baker, own_id, character, side, parallel))
    return scene


def _two(scene: Scene, one: str, other: str) -> tuple[Character, Character]:
    if one == other:
        raise DomainError("That takes two characters.", "Choose another one for the second.")
    return scene.character(one), scene.character(other)
