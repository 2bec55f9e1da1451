"""What somebody lets stand: a reading that is accepted for a reason, as long as it stays as it is."""

from __future__ import annotations

from dataclasses import dataclass

SAME_SIZE = 0.05
"""Of the size that was accepted: what changes by more is looked at anew."""
SAME_PLACE_FRAMES = 1


@dataclass(frozen=True, order=True)
class Acceptance:
    """Of a reading of this kind, about these (empty: about none), from ``first`` to ``last``, of a size in the reading's unit."""

    kind: str
    character_id: str
    camera_id: str
    joint: str
    first: int
    last: int
    size: float
    reason: str

    @property
    def about(self) -> tuple[str, str, str, str]:
        return self.kind, self.character_id, self.camera_id, self.joint

    def holds_for(self, about: tuple[str, str, str, str], first: int, last: int, size: float) -> bool:
        """Whether it is still what was accepted: about the same, at the same place, of the same size."""
        near = max(abs(first - self.first), abs(last - self.last)) <= SAME_PLACE_FRAMES
        return about == self.about and near and abs(size - self.size) <= SAME_SIZE * abs(self.size)
