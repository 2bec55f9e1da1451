"""A camera carried by a joint or an object: it keeps the offset that it had when it was attached."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import ClassVar, Literal

import numpy as np

from .. import transforms
from ..errors import DomainError
from ..subjects import Follows, Subject, Surroundings, Vector, check_numbers, frame_of
from ..transforms import Floats
from .base import Values

ALL_THROUGH = (True, True, True, True, True, True)


@dataclass(frozen=True)
class Attachment:
    """To ``subject``. What of its motion since it was attached is let through: ``through`` holds x, y, z (world
    axes), heading, pitch, roll; the rest stays as it was then.

    ``place`` (metres) and ``turn`` (x, y, z, w) of the subject when it was attached; ``heading`` (degrees, as a pan) is
    where its character faced. The mount's -Z looks that way, level, at the moment of attaching: pitch is a nod.
    """

    subject: Subject = field(default_factory=Subject)
    through: tuple[bool, bool, bool, bool, bool, bool] = ALL_THROUGH
    place: Vector = (0.0, 0.0, 0.0)
    turn: tuple[float, float, float, float] = (0.0, 0.0, 0.0, 1.0)
    heading: float = 0.0
    follows: Follows = "motion"
    channels: ClassVar[tuple[str, ...]] = ()

    def __post_init__(self) -> None:
        check_numbers("place of attaching", (*self.place, *self.turn, self.heading))
        if not 0.5 < sum(q * q for q in self.turn) < 2:
            raise DomainError("The turn when attached is no rotation.", "Attach the camera again.")

    @property
    def subjects(self) -> tuple[Subject, ...]:
        return (self.subject,)

    def let_through(self, subject_frames: Floats) -> Floats:
        """Where the head is, given where the subject is, both (frames, 4, 4)."""
        facing = transforms.rotation_from_angles(self.heading, 0.0, 0.0)
        turn = transforms.matrix_from_quaternion(transforms.quaternion_normalized(np.array(self.turn)))
        # How the subject has turned since, in axes that face as its character faced.
        since = facing.T @ (subject_frames[:, :3, :3] @ turn.T) @ facing
        if not all(self.through[3:]):
            angles = transforms.angles_from_rotation(since)
            angles = np.where(self.through[3:], angles, 0.0)
            since = transforms.rotation_from_angles(angles[:, 0], angles[:, 1], angles[:, 2])
        place = np.where(self.through[:3], subject_frames[:, :3, 3], np.array(self.place))
        return transforms.rigid(facing @ since, place)

    def reaching(self, place: Floats, row: int, values: Values, around: Surroundings) -> dict[str, float]:
        return {}


@dataclass(frozen=True)
class Carried(Attachment):
    """Carried rigidly."""

    kind: Literal["carried"] = "carried"

    def world_from_mount(self, values: Values, around: Surroundings) -> Floats:
        return self.let_through(frame_of(self.subject, around, self.follows))


def attached(subject: Subject, row: int, around: Surroundings, follows: Follows = "motion") -> Carried:
    """A carried mount that is attached on a row, letting everything through."""
    frame = frame_of(subject, around, follows)[row]
    turn = transforms.quaternion_from_matrix(frame[:3, :3])
    heading = 0.0
    if subject.kind in ("joint", "body"):
        front = around.front_of_character(subject.owner_id or "")
        heading = float(np.degrees(np.arctan2(front[0], -front[2])))
    x, y, z = (float(v) for v in frame[:3, 3])
    qx, qy, qz, qw = (float(v) for v in turn)
    return Carried(subject=subject, place=(x, y, z), turn=(qx, qy, qz, qw), heading=heading, follows=follows)
