"""The shots of a scene: what the cut says of each, with its number, its name and its length."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

from ..errors import DomainError
from ..time.frames import FrameRange, Rate
from .cut import Cut, Handles, ShotState
from .mixes import Mix, mixes_of
from .transition import Transition

NAMES_APART = 10
"""Names leave room for shots that come between: 010, 020."""


@dataclass(frozen=True)
class Shot:
    """Frames ``first`` to ``last``, both included. ``begins`` is the frame by which the cut knows it; ``title`` is its name, or
    the one that its number gives it. ``mix``: how it takes over from the shot before, where that takes frames."""

    number: int
    begins: int
    first: int
    last: int
    camera_id: str
    name: str
    title: str
    note: str
    state: ShotState
    locked: bool
    transition: Transition
    mix: Mix | None
    handles: Handles

    @property
    def count(self) -> int:
        return self.last - self.first + 1

    def seconds(self, rate: Rate) -> float:
        return self.count / float(rate)


def shots_of(cut: Cut, frames: FrameRange) -> tuple[Shot, ...]:
    """The shots of a cut within a range of frames, in order."""
    out = []
    mixes = {mix.entry: mix for mix in mixes_of(cut, frames)}
    for number, span in enumerate(cut.spans(frames), 1):
        entry = cut.entries[span.entry]
        title = entry.name or f"{NAMES_APART * number:03d}"
        out.append(
            Shot(
                number, entry.first, span.first, span.last, span.camera_id, entry.name, title, entry.note, entry.state,
                entry.locked, entry.transition, mixes.get(span.entry), entry.handles,
            )
        )  # fmt: skip
    return tuple(out)


def either_side(shots: tuple[Shot, ...], first: int) -> tuple[Shot, Shot]:
    """The shots before and after the cut on frame ``first``. Raises ``DomainError`` where none begins there that another comes
    before."""
    for before, after in pairwise(shots):
        if after.first == first:
            return before, after
    raise DomainError(f"No shot begins on {first} that another comes before.", "Go to a later one.")
