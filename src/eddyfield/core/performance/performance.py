"""A performance: what a character does, as a file brings it."""

from __future__ import annotations

from dataclasses import dataclass

from ..rig.source import RigSource
from .timing import Timing


@dataclass(frozen=True)
class Performance:
    """The motion of a rig's file, and how its time runs. How it is exposed and carried is its character's."""

    source: RigSource
    timing: Timing = Timing()
