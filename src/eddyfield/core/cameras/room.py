"""The room that is wanted around a head in the frame."""

from __future__ import annotations

from dataclasses import dataclass

from ..errors import DomainError


@dataclass(frozen=True)
class Room:
    """In shares of the frame: above the head, of the frame's height; ahead of the face, of its width."""

    headroom_least: float = 0.02
    headroom_most: float = 0.34
    lead_least: float = 0.3

    def __post_init__(self) -> None:
        if not 0 <= self.headroom_least < self.headroom_most <= 1:
            raise DomainError(
                "The wanted headroom is not a range.", "Give a least and a greater most share between 0 and 1."
            )
        if not 0 <= self.lead_least < 1:
            raise DomainError("The wanted lead room is out of bounds.", "Give a share from 0 up to 1.")
