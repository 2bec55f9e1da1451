"""A piece of the scene that no character is: a prop, which hands may take, or part of the set."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ..errors import DomainError
from ..time.channel_tables import Channels
from .exposure import Stepping
from .holding import Hold, check_holds
from .nested import Nested
from .performance import Performance
from .placing import AS_IN_FILE
from .showing import ALWAYS, Showing

PieceKind = Literal["prop", "set piece"]


@dataclass(frozen=True)
class Piece:
    """``performance`` is its file, with whatever that moves by itself; ``placing`` where it stands. A prop is held as its
    ``holds`` say, one after the other; before the first it stands where it is placed."""

    id: str
    name: str
    performance: Performance
    kind: PieceKind = "set piece"
    placing: Channels = AS_IN_FILE
    showing: Showing = ALWAYS
    holds: tuple[Hold, ...] = ()
    stepping: Stepping | None = None
    """On which frames it shows new poses of what its file moves; None: as who holds it does, on ones where nobody does."""
    nested: Nested | None = None
    """Where it comes with a block."""

    def held_on(self, frame: int) -> Hold | None:
        """The hold that rules on a frame, which may be by nobody; None before the first."""
        return next((hold for hold in reversed(self.holds) if hold.first <= frame), None)

    def __post_init__(self) -> None:
        check_holds(self.holds)
        if self.holds and self.kind != "prop":
            raise DomainError("A set piece is not held by anybody.", "Make it a prop first.")
