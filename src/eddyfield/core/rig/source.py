"""Where a rig comes from: heavy things are named in a scene, not held."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ..errors import DomainError

OffsetReading = Literal["auto", "add", "replace"]


@dataclass(frozen=True)
class RigSource:
    """Which file a rig comes from and how it is read. ``digest`` names the file's bytes in the store; ``rig`` is the one of the
    file's rigs that is meant, None for all that its scene shows."""

    digest: str
    format: str
    scale: float = 1.0
    animation: str | None = None
    offsets: OffsetReading = "auto"
    rig: str | None = None

    def __post_init__(self) -> None:
        if not 1e-6 <= self.scale <= 1e6:
            raise DomainError(f"A scale of {self.scale} is not usable.", "Give one above 0, up to 1,000,000.")
