"""What a camera goes by, as it is on every frame: the characters and set pieces that it follows, and no others."""

from __future__ import annotations

from abc import ABC, abstractmethod
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..arrays import Floats, Ints
from ..errors import DomainError
from ..performance.piece_frames import piece_world
from ..performance.timing import Timing
from ..rig import transforms
from ..rig.rig import Rig
from ..time.frames import FrameRange, Rate
from .placement import body_points, calm_joint, facing, front_of, joint_or_stand_in
from .subjects import Follows

Bounds = tuple[Floats, Floats]
"""Lowest and highest corner, (frames, 3) each."""


@dataclass(frozen=True, eq=False)
class FollowedCharacter:
    """A character's rig and its unstepped motion ``world`` (frames, nodes, 4, 4). ``shown_rows`` (frames,) are the rows whose
    pose is shown, None where nothing follows the shown pose. ``front_deg`` None goes by its file; ``turn_deg`` is how far it is
    placed turned."""

    rig: Rig
    world: Floats
    shown_rows: Ints | None
    front_deg: float | None
    turn_deg: float = 0.0

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
            return front_of(self.rig, self.world[..., :3, 3], self.turn_deg)
        return facing(self.front_deg + self.turn_deg)


@dataclass(frozen=True, eq=False)
class FollowedPiece:
    """A prop or set piece: its rig, and what ``carrier`` (frames, 4, 4, or one row) takes it out of the axes of its file."""

    rig: Rig
    timing: Timing
    frames: FrameRange
    rate: Rate
    carrier: Floats

    @cached_property
    def world(self) -> Floats:
        """``world_from_node`` (frames, nodes, 4, 4)."""
        return piece_world(self.rig, self.timing, self.frames, self.rate, self.carrier)

    @cached_property
    def middle(self) -> Floats:
        """The middle of its bounds, (frames, 3)."""
        return np.broadcast_to(transforms.apply(self.carrier, self._bounds.mean(axis=0)), (self.frames.count, 3))

    @cached_property
    def radius_m(self) -> float:
        """Of a sphere around its middle that holds all of it on every frame."""
        low, high = self._bounds
        return float(np.linalg.norm(high - low, axis=-1).max() / 2)

    @cached_property
    def rigid(self) -> Floats:
        """Its middle, and how it is turned: as it is carried, or as its file moves it; (frames, 4, 4)."""
        turned = self.carrier
        if len(self.rig.animated_joint_roots):
            turned = self.world[:, self.rig.default_anchor()]
        out = np.array(np.broadcast_to(transforms.orthonormal(turned), (self.frames.count, 4, 4)))
        out[:, :3, 3] = self.middle
        return out

    @cached_property
    def _bounds(self) -> Floats:
        """Lowest and highest corner in the axes of its file, (2, frames or 1, 3)."""
        moves = len(self.rig.motion.curves) > 0
        points = body_points(
            self.rig,
            self.timing.file_seconds(self.frames.frames(), self.rate, self.rig.motion.duration_seconds)
            if moves
            else np.zeros(1),
        )
        return np.stack([points.min(axis=1), points.max(axis=1)]) if points.size else np.zeros((2, 1, 3))


class ByThing(ABC):
    """The part of ``Surroundings`` that is told by what is in the scene."""

    @abstractmethod
    def followed(self, character_id: str) -> FollowedCharacter:
        """Raises ``DomainError`` where it is not there."""

    @abstractmethod
    def followed_piece(self, piece_id: str) -> FollowedPiece | None:
        """None where there is no such piece."""

    def joint_frames(self, owner_id: str, joint: str, follows: Follows) -> Floats:
        """``world_from_joint`` (frames, 4, 4), of a character or of a piece, which shows every pose of its own. For a joint that
        its file has no more the one that carries the body stands in. Raises ``DomainError`` where nobody is there."""
        piece = self.followed_piece(owner_id)
        if piece is not None:
            return piece.world[:, joint_or_stand_in(piece.rig, joint)]
        character = self.followed(owner_id)
        return character.world[character.rows(follows), joint_or_stand_in(character.rig, joint)]

    def object_frames(self, piece_id: str) -> tuple[Floats, float]:
        """The middle of a piece and how it is turned, (frames, 4, 4), and how far it reaches around its middle. Raises
        ``DomainError`` where it is not there."""
        piece = self.followed_piece(piece_id)
        if piece is None:
            raise DomainError("That prop or set piece is not in the scene any more.", "Choose another one.")
        return piece.rigid, piece.radius_m

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

    def front_of_character(self, owner_id: str) -> Floats:
        """Level unit vector that a character faces, or that +Z of a piece's file comes to on the first frame, (3,)."""
        piece = self.followed_piece(owner_id)
        if piece is not None:
            return transforms.normalized(piece.carrier[0, :3, 2] * [1.0, 0.0, 1.0], (0.0, 0.0, 1.0))
        return self.followed(owner_id).front


@dataclass(frozen=True, eq=False)
class FollowedSurroundings(ByThing):
    """``Surroundings`` of these characters and pieces, by their ids."""

    frames: FrameRange
    rate: Rate
    characters: tuple[tuple[str, FollowedCharacter], ...]
    pieces: tuple[tuple[str, FollowedPiece], ...]

    def followed(self, character_id: str) -> FollowedCharacter:
        for known, character in self.characters:
            if known == character_id:
                return character
        raise DomainError("That character is not in the scene any more.", "Choose another character.")

    def followed_piece(self, piece_id: str) -> FollowedPiece | None:
        return dict(self.pieces).get(piece_id)
