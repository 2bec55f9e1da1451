"""Corrections laid over a performance: joints changed on some frames, for as long as the file leaves these as they were."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..arrays import Floats, Ints
from ..errors import DomainError
from ..rig import transforms
from ..rig.joint_change import NO_CHANGE, JointChange, Vector, changed
from ..rig.rig import Rig

UNCHANGED_M = 2e-4
"""How far a joint may be beside where it was, and the frames still be called unchanged."""
MOST_CORRECTIONS, MOST_MOMENTS, MOST_CHANGES = 500, 200, 20


@dataclass(frozen=True)
class Moment:
    """At ``seconds`` of the file, where the point that is corrected is at ``place`` (metres, in the axes of the file), there is a
    ``share`` of the changes."""

    seconds: float
    place: Vector
    share: float


@dataclass(frozen=True)
class Correction:
    """A point that ``joint`` carries, ``beside`` it in its own axes (metres), is brought to where it should be, by ``changes`` of
    joints, one after the other. Their shares change evenly from moment to moment; before the first and after the last there
    is none."""

    joint: str
    changes: tuple[JointChange, ...]
    moments: tuple[Moment, ...]
    beside: Vector = NO_CHANGE

    def __post_init__(self) -> None:
        if not (1 <= len(self.moments) <= MOST_MOMENTS and 1 <= len(self.changes) <= MOST_CHANGES):
            raise DomainError(
                "A correction changes nothing, or too much.",
                f"Give from 1 to {MOST_CHANGES} changes at from 1 to {MOST_MOMENTS} moments.",
            )

    @property
    def greatest(self) -> Moment:
        """At which there is most of it."""
        return max(self.moments, key=lambda moment: abs(moment.share))

    def renamed(self, names: Mapping[str, str]) -> Correction:
        """With other names for its joints."""
        changes = tuple(replace(change, joint=names.get(change.joint, change.joint)) for change in self.changes)
        return replace(self, joint=names.get(self.joint, self.joint), changes=changes)

    def rests(self, rig: Rig) -> bool:
        """Whether it does nothing: the file moves the joint otherwise than when it was made, or lacks one."""
        if not {self.joint, *(change.joint for change in self.changes)} <= rig.index_of.keys():
            return True
        away = self.places(rig, np.array([moment.seconds for moment in self.moments]))
        away -= np.array([moment.place for moment in self.moments])
        return bool(np.abs(away).max() > UNCHANGED_M)

    def places(self, rig: Rig, seconds: Floats) -> Floats:
        """Where the file has the point, (times, 3)."""
        node = np.array([rig.index_of[self.joint]], dtype=np.int64)
        return transforms.apply(rig.world_matrices(seconds, node)[:, 0], np.array(self.beside))

    def shares(self, seconds: Floats) -> Floats:
        """How much of it there is at times of the file, (times,)."""
        at = np.array([moment.seconds for moment in self.moments])
        return np.asarray(np.interp(seconds, at, [moment.share for moment in self.moments], left=0.0, right=0.0))


def corrected(rig: Rig, in_file: Floats, seconds: Floats, corrections: Sequence[Correction]) -> Floats:
    """The motion ``in_file`` (times, nodes, 4, 4) at ``seconds`` of the file, with those of the ``corrections`` that do not rest;
    the very same where that is none."""
    out = in_file
    for correction in corrections:
        shares = correction.shares(seconds)
        rows: Ints = np.flatnonzero(shares)
        if not len(rows) or correction.rests(rig):
            continue
        if out is in_file:
            out = in_file.copy()
        out[rows] = changed(rig, out[rows], correction.changes, shares[rows])
    return out
