"""A camera carried by a joint or an object: it keeps the offset that it had when it was attached."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Literal, Self

import numpy as np

from ...arrays import Floats
from ...errors import DomainError
from ...rig import transforms
from ..subjects import Follows, Subject, Surroundings, Vector, check_numbers, frame_of
from .base import Mount, Values

ALL_THROUGH = (1.0, 1.0, 1.0, 1.0, 1.0, 1.0)


@dataclass(frozen=True)
class Attachment(Mount):
    """To ``subject``. Of its motion since it was attached a share is let through, from 0 to 1: ``through`` holds x, y, z
    (world axes), heading, pitch, roll (by swing and twist); the rest stays as it was then.

    ``place`` (metres) and ``turn`` (x, y, z, w) of the subject when it was attached; ``heading`` (degrees, as a pan) is
    where its character faced. The mount's -Z looks that way, level, at the moment of attaching: pitch is a nod.
    """

    subject: Subject = field(default_factory=Subject)
    through: tuple[float, float, float, float, float, float] = ALL_THROUGH
    place: Vector = (0.0, 0.0, 0.0)
    turn: tuple[float, float, float, float] = (0.0, 0.0, 0.0, 1.0)
    heading: float = 0.0
    follows: Follows = "motion"

    def __post_init__(self) -> None:
        check_numbers("place of attaching", (*self.place, *self.turn, self.heading))
        if not 0.5 < sum(q * q for q in self.turn) < 2:
            raise DomainError("The turn when attached is no rotation.", "Attach the camera again.")
        if not all(0 <= share <= 1 for share in self.through):
            raise DomainError("More than all of a movement cannot come along.", "Give shares from 0 to 1.")

    @classmethod
    def begun(cls, world_from_camera: Floats, subject: Subject | None) -> Self:
        if subject is None or subject.kind == "point":
            raise DomainError("There is nothing to carry it.", "Choose a joint, a character or a set piece.")
        return cls(subject=replace(subject, offset=(0.0, 0.0, 0.0), axes="world", radius_m=0.0))

    @classmethod
    def after(cls, before: Mount) -> Self | None:
        if not isinstance(before, Attachment):
            return None
        return cls(subject=before.subject, through=before.through, follows=before.follows)

    @property
    def subjects(self) -> tuple[Subject, ...]:
        return (self.subject,)

    def let_through(self, subject_frames: Floats) -> Floats:
        """Where the head is, given where the subject is, both (frames, 4, 4)."""
        since = self._turned(subject_frames)
        if self.through[3:] != ALL_THROUGH[3:]:
            since = _let_through(since, *self.through[3:])
        place, then = subject_frames[:, :3, 3], np.array(self.place)
        shares = np.array(self.through[:3])
        place = np.where(shares == 1, place, then + shares * (place - then))
        return transforms.rigid(self._facing @ since, place)

    def movements(self, subject_frames: Floats) -> Floats:
        """How the subject has moved since it was attached, (frames, 5): travel over the ground and rise in metres; turning,
        nodding and leaning in degrees."""
        x, y, z = (subject_frames[:, :3, 3] - np.array(self.place)).T
        heading, pitch, roll = _turn_parts(self._turned(subject_frames))
        return np.stack([np.hypot(x, z), y, *np.degrees([-heading, pitch, -roll])], axis=-1)

    @property
    def _facing(self) -> Floats:
        return transforms.rotation_from_angles(self.heading, 0.0, 0.0)

    def _turned(self, subject_frames: Floats) -> Floats:
        """How the subject has turned since, (frames, 3, 3), in axes that face as its character faced."""
        turn = transforms.matrix_from_quaternion(transforms.quaternion_normalized(np.array(self.turn)))
        facing = self._facing
        return np.asarray(facing.T @ (subject_frames[:, :3, :3] @ turn.T) @ facing)


def _let_through(turns: Floats, heading: float, pitch: float, roll: float) -> Floats:
    """Of rotations (frames, 3, 3) the shares that are wanted of each part."""
    about_y, about_x, about_z = _turn_parts(turns)
    kept = np.zeros((len(turns), 3))
    kept[:, 0], kept[:, 2] = pitch * about_x, roll * about_z
    tilted = transforms.matrix_from_rotation_vector(kept)
    if heading == 0:
        return tilted
    return np.asarray(transforms.rotation_from_angles(-np.degrees(heading * about_y), 0.0, 0.0) @ tilted)


def _turn_parts(turns: Floats) -> tuple[Floats, Floats, Floats]:
    """Heading, pitch and roll of rotations (frames, 3, 3), in radians about +Y, +X and +Z.

    Heading is the twist about +Y, unwrapped over the frames; pitch and roll are the parts about X and Z of the swing that
    remains (swing and twist of the quaternion), so that nothing flips where a joint goes past the vertical.
    """
    x, y, z, w = np.moveaxis(transforms.quaternion_from_matrix(turns), -1, 0)
    upright = np.hypot(y, w)
    about = upright > 1e-12  # else turned over: any heading is as good as another
    twist = np.zeros((len(turns), 4))
    twist[:, 1] = np.where(about, y / np.where(about, upright, 1.0), 0.0)
    twist[:, 3] = np.where(about, w / np.where(about, upright, 1.0), 1.0)
    swing = transforms.quaternion_product(twist * [1, -1, 1, 1], np.stack([x, y, z, w], axis=-1))
    angle = 2 * np.arctan2(np.hypot(swing[:, 0], swing[:, 2]), swing[:, 3])
    axis = transforms.normalized(swing[:, [0, 2]], (0.0, 0.0))
    heading = np.unwrap(2 * np.arctan2(twist[:, 1], twist[:, 3]))
    return heading, axis[:, 0] * angle, axis[:, 1] * angle


@dataclass(frozen=True)
class Carried(Attachment):
    """Carried rigidly."""

    kind: Literal["carried"] = "carried"

    def world_from_mount(self, values: Values, surroundings: Surroundings) -> Floats:
        return self.let_through(frame_of(self.subject, surroundings, self.follows))


def attached(subject: Subject, row: int, surroundings: Surroundings, follows: Follows = "motion") -> Carried:
    """A carried mount that is attached on a row, letting everything through."""
    frame = frame_of(subject, surroundings, follows)[row]
    turn = transforms.quaternion_from_matrix(frame[:3, :3])
    heading = 0.0
    if subject.kind in ("joint", "body"):
        front = surroundings.front_of_character(subject.owner_id or "")
        heading = float(np.degrees(np.arctan2(front[0], -front[2])))
    x, y, z = (float(v) for v in frame[:3, 3])
    qx, qy, qz, qw = (float(v) for v in turn)
    return Carried(subject=subject, place=(x, y, z), turn=(qx, qy, qz, qw), heading=heading, follows=follows)
