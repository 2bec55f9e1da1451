"""What a camera goes by, as it is on every frame: the characters and set pieces that it follows, and no others."""

from __future__ import annotations

from abc import ABC, abstractmethod
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..arrays import Floats, Ints
from ..errors import DomainError
from ..rig.rig import Rig
from ..time.frames import FrameRange, Rate
from .placement import body_points, calm_joint, front_of
from .subjects import Follows

Bounds = tuple[Floats, Floats]
"""Lowest and highest corner, (3,) each, or (frames, 3)."""


@dataclass(frozen=True, eq=False)
class FollowedCharacter:
    """A character's rig and its unstepped motion ``world`` (frames, nodes, 4, 4). ``shown_rows`` (frames,) are the rows whose
    pose is shown, None where nothing follows the shown pose. ``front_deg`` None goes by its file."""

    rig: Rig
    world: Floats
    shown_rows: Ints | None
    front_deg: float | None

    def rows(self, follows: Follows) -> Ints | slice:
        if follows == "motion":
            return slice(None)
        if self.shown_rows is None:
            raise DomainError("The shown pose is not followed.", "Follow the motion.")
        return self.shown_rows

    @cached_property
    def joints(self) -> Floats:
        """Places of the joints, (frames, joints, 3)."""
        return np.ascontiguousarray(self.world[..., :3, 3][:, self.rig.joints])

    @cached_property
    def bounds(self) -> Bounds:
        return self.joints.min(axis=1), self.joints.max(axis=1)

    @cached_property
    def sphere(self) -> tuple[Floats, float]:
        """The hips' way, moved by what lies between them and the middle of the body on average, and the radius around it
        that holds all joints: what swings does not make it tremble."""
        hips = self.world[:, self.rig.find(calm_joint(self.rig)), :3, 3]
        low, high = self.bounds
        middle = hips + ((low + high) / 2 - hips).mean(axis=0)
        return middle, float(np.linalg.norm(self.joints - middle[:, None], axis=-1).max())

    @cached_property
    def front(self) -> Floats:
        """Level unit vector that it faces, (3,)."""
        if self.front_deg is None:
            return front_of(self.rig, self.world[..., :3, 3])
        turn = np.radians(self.front_deg)
        return np.array([np.sin(turn), 0.0, np.cos(turn)])


class ByCharacter(ABC):
    """The part of ``Surroundings`` that is told by characters."""

    @abstractmethod
    def followed(self, character_id: str) -> FollowedCharacter:
        """Raises ``DomainError`` where it is not there."""

    def joint_frames(self, character_id: str, joint: str, follows: Follows) -> Floats:
        """``world_from_joint`` (frames, 4, 4). Raises ``DomainError`` for a joint that is not there."""
        character = self.followed(character_id)
        return character.world[character.rows(follows), character.rig.find(joint)]

    def body_bounds(self, character_id: str, follows: Follows) -> Bounds:
        """Lowest and highest corner of a character's joints, each (frames, 3)."""
        character = self.followed(character_id)
        (low, high), rows = character.bounds, character.rows(follows)
        return low[rows], high[rows]

    def body_sphere(self, character_id: str, follows: Follows) -> tuple[Floats, float]:
        """A steady sphere around a character: its middle (frames, 3), and one radius."""
        character = self.followed(character_id)
        middle, radius = character.sphere
        return middle[character.rows(follows)], radius

    def front_of_character(self, character_id: str) -> Floats:
        """Level unit vector that a character faces, (3,)."""
        return self.followed(character_id).front


@dataclass(frozen=True, eq=False)
class FollowedSurroundings(ByCharacter):
    """``Surroundings`` of these characters and set pieces, by their ids."""

    frames: FrameRange
    rate: Rate
    characters: tuple[tuple[str, FollowedCharacter], ...]
    objects: tuple[tuple[str, Bounds], ...]

    def followed(self, character_id: str) -> FollowedCharacter:
        for known, character in self.characters:
            if known == character_id:
                return character
        raise DomainError("That character is not in the scene any more.", "Choose another character.")

    def object_bounds(self, piece_id: str) -> Bounds:
        """Lowest and highest corner of a set piece, each (3,)."""
        for known, bounds in self.objects:
            if known == piece_id:
                return bounds
        raise DomainError("That set piece is not in the scene any more.", "Choose another one.")


def object_bounds(rig: Rig) -> Bounds:
    """Lowest and highest corner of a set piece, each (3,)."""
    points = body_points(rig, np.zeros(1))[0]
    return points.min(axis=0), points.max(axis=0)
