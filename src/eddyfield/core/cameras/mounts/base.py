"""What all mounts have in common."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Mapping
from typing import ClassVar, Self

from ...arrays import Floats
from ...time.channel_tables import ChannelKind
from ..subjects import Subject, Surroundings

Values = Mapping[str, Floats]
"""Channel values by channel name, each (frames,)."""


class Mount(ABC):
    """A mount: frozen settings, and two ways between channels and where its head is."""

    kind: str
    """Its name, the same for all of a class."""
    channels: ClassVar[tuple[ChannelKind, ...]] = ()
    """Those that belong to this mount alone."""

    @classmethod
    def channel_names(cls) -> tuple[str, ...]:
        return tuple(channel.name for channel in cls.channels)

    @classmethod
    def begun(cls, world_from_camera: Floats, subject: Subject | None) -> Self:
        """As it begins under a camera that stands at ``world_from_camera`` (4, 4) and is to go by ``subject``. Raises
        ``DomainError`` where it needs one."""
        return cls()

    @classmethod
    def after(cls, before: Mount) -> Self | None:
        """As it takes over from another kind that it has its settings in common with; None where there is none."""
        return None

    @abstractmethod
    def world_from_mount(self, values: Values, surroundings: Surroundings) -> Floats:
        """Where the head is on every frame, rigid, (frames, 4, 4)."""

    def reaching(self, place: Floats, row: int, values: Values, surroundings: Surroundings) -> dict[str, float]:
        """Values of its own channels that bring the head nearest to a world ``place`` (3,) on a row."""
        return {}

    @property
    def subjects(self) -> tuple[Subject, ...]:
        """What it goes by."""
        return ()
