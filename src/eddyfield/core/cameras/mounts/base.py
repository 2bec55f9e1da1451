"""What all mounts have in common."""

from __future__ import annotations

from collections.abc import Mapping
from typing import ClassVar, Protocol

from ...arrays import Floats
from ..subjects import Subject, Surroundings

Values = Mapping[str, Floats]
"""Channel values by channel name, each (frames,)."""


class MountFrames(Protocol):
    """A mount: frozen settings, and two ways between channels and where its head is."""

    channels: ClassVar[tuple[str, ...]]
    """Names of the channels that belong to this mount alone."""

    def world_from_mount(self, values: Values, around: Surroundings) -> Floats:
        """Where the head is on every frame, rigid, (frames, 4, 4)."""
        ...

    def reaching(self, place: Floats, row: int, values: Values, around: Surroundings) -> dict[str, float]:
        """Values of its own channels that bring the head nearest to a world ``place`` (3,) on a row."""
        ...

    @property
    def subjects(self) -> tuple[Subject, ...]:
        """What it goes by."""
        ...
