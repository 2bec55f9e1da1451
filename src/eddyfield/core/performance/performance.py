"""A performance: what a character does, as a file brings it."""

from __future__ import annotations

from dataclasses import dataclass

from ..errors import DomainError
from ..rig.source import RigSource
from .correction import MOST_CORRECTIONS, Correction
from .timing import Timing


@dataclass(frozen=True)
class Performance:
    """The motion of a rig's file, and how its time runs. How it is exposed and carried is its character's."""

    source: RigSource
    timing: Timing = Timing()
    corrections: tuple[Correction, ...] = ()
    """Laid over the motion, one after the other."""

    def __post_init__(self) -> None:
        if len(self.corrections) > MOST_CORRECTIONS:
            raise DomainError(
                f"{len(self.corrections)} corrections are too many.",
                f"Keep it within {MOST_CORRECTIONS}: let the source be changed.",
            )
