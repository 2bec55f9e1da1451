"""A performance: what a character does, as a file brings it."""

from __future__ import annotations

from dataclasses import dataclass

from ..rig.source import RigSource


@dataclass(frozen=True)
class Performance:
    """The motion of a rig's file, its time 0 on the frame ``start``. How it is exposed and carried is its character's."""

    source: RigSource
    start: int = 1
