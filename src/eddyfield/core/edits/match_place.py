"""The edit that matches a subject's place on the screen across a cut."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

import numpy as np

from ..bake import Baker
from ..cameras.aim import turn_towards
from ..cameras.camera import Camera
from ..cut.shots import either_side, shots_of
from ..errors import DomainError
from ..optics.camera_path import CameraPath
from ..rig import transforms
from ..scene import Scene
from ..shots import shown_face
from ..time.channels import Channel
from ..time.keys import Key
from .cameras import refuse_locked
from .edit import Edit
from .reach import Reach, Stretch

ANGLES = ("pan", "tilt", "roll")


@dataclass(frozen=True, kw_only=True)
class MatchPlace(Edit):
    """Turn the camera of the shot that begins on ``first``, over all of its move alike, so that a character's face comes in
    where it went out."""

    edit: Literal["match place"] = "match place"
    title: ClassVar[str] = "match the subject's place"
    owners_by_scene: ClassVar[bool] = True
    first: int
    character_id: str

    def reach(self, scene: Scene) -> Reach:
        owners = {shot.camera_id for shot in shots_of(scene.cut, scene.frames) if shot.begins == self.first}
        return Reach(frozenset(owners), stretch=Stretch(frozenset(ANGLES)))

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        camera, more = turn_to_match(baker, self.first, self.character_id)
        refuse_locked(camera, {"angles"} & set(camera.locks), "turned")
        if camera.aim or camera.framing:
            by = "its aim" if camera.aim else "what it holds in the frame"
            raise DomainError(f"“{camera.name}” is turned by {by}.", "Release that first, or move it in the frame.")
        turned = {name: _higher(camera.channels[name], by) for name, by in more.items()}
        unkeyed = tuple((n, v + more.get(n, 0.0)) for n, v in camera.unkeyed)
        return scene.with_camera(replace(camera, channels=camera.channels.having(**turned), unkeyed=unkeyed))


def turn_to_match(baker: Baker, first: int, character_id: str) -> tuple[Camera, dict[str, float]]:
    """The incoming camera, and by how much more of each of its angles, degrees, the character's face is on the first frame after
    the cut where it was on the last before it. Raises ``DomainError`` where it is not seen in both."""
    before, after = either_side(baker.shots, first)
    character, row = baker.scene.character(character_id), first - baker.frames.first
    face = shown_face(baker, character)
    outgoing = baker.camera_path(baker.scene.camera(before.camera_id))
    camera = baker.scene.camera(after.camera_id)
    if camera.glass.orthographic_height_m is not None:
        raise DomainError(f"“{camera.name}” is a parallel view, in which a turn matches nothing.", "Move it aside.")
    found = baker.camera(camera)
    was = outgoing.at_rows(np.array([row - 1])).project(face[row - 1][None, None])
    if not was.in_front[0, 0] or not found.path.at_rows(np.array([row])).project(face[row][None, None]).in_front[0, 0]:
        raise DomainError(f"{character.name} is behind one of the two cameras.", "Match another character.")
    here = found.path.at_rows(np.array([row]))
    place = here.world_from_camera[:, :3, 3]
    world = transforms.normalized(face[row] - place, (0.0, 0.0, -1.0))
    angles = transforms.angles_from_rotation(here.world_from_camera[:, :3, :3], float(found.pose[row, 3]))
    turned = turn_towards(world, _sight(here, was.pixels[0]), angles[:, 2], found.pose[row : row + 1, 3])
    if not turned.reached[0]:
        raise DomainError(f"{character.name} cannot be brought there by a turn.", "Move the camera.")
    rotation = transforms.rotation_from_angles(turned.pan, turned.tilt, angles[:, 2])[0]
    # Its angles are those in the axes of what carries it, which may lie in any way.
    own = [float(found.values[name][row]) for name in ANGLES]
    head = found.mounted[row, :3, :3] @ transforms.rotation_from_angles(*map(np.array, own)).T
    local = transforms.angles_from_rotation((head.T @ rotation)[None], own[0], own[2])[0]
    return camera, {name: float(to) - was for name, to, was in zip(ANGLES, local, own, strict=True)}


def _sight(path: CameraPath, pixels: np.ndarray) -> np.ndarray:
    """Unit vectors (1, 3), in camera axes, of the line of sight through a pixel (1, 2)."""
    delivery, lens = path.delivery, path.lens
    slope_x, slope_y = (np.broadcast_to(s, 1) for s in lens.pixels_per_slope(delivery))
    x = (pixels[:, 0] - delivery.width / 2 - lens.shift_x * delivery.width) / slope_x
    y = -(pixels[:, 1] - delivery.height / 2 + lens.shift_y * delivery.height) / slope_y
    return transforms.normalized(np.stack([x, y, -np.ones(1)], axis=-1), (0.0, 0.0, -1.0))


def _higher(channel: Channel, by: float) -> Channel:
    keys: tuple[Key, ...] = tuple(replace(key, value=key.value + by) for key in channel.keys)
    return replace(channel, default=channel.default + by, keys=keys)
