"""Sound beside the frames of a scene, and marks on them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from ..errors import DomainError
from ..performance.nested import Nested

MarkKind = Literal["action", "line begins", "line ends", "accent"]
MARK_KINDS: tuple[MarkKind, ...] = get_args(MarkKind)
GREATEST_GAIN_DB = 24.0
LEAST_GAIN_DB = -80.0
LONGEST_SOUND_S = 4 * 3600.0


@dataclass(frozen=True)
class Sound:
    """A sound file, by the SHA-256 of its content. On the frame ``start`` its second ``first_s`` is heard; ``last_s`` is where it
    ends, None at its own end. ``gain_db`` is added to how loud it is."""

    id: str
    name: str
    digest: str
    start: int = 1
    first_s: float = 0.0
    last_s: float | None = None
    gain_db: float = 0.0
    muted: bool = False
    nested: Nested | None = None
    """Where it comes with a block."""

    def __post_init__(self) -> None:
        if not 0 <= self.first_s <= LONGEST_SOUND_S:
            raise DomainError(f"A sound cannot begin at {self.first_s:g} s.", "Give a time within it.")
        if self.last_s is not None and not self.first_s < self.last_s <= LONGEST_SOUND_S:
            raise DomainError("What is heard of a sound ends before it begins.", "Give it a later end.")
        if not LEAST_GAIN_DB <= self.gain_db <= GREATEST_GAIN_DB:
            raise DomainError(
                f"A gain of {self.gain_db:g} dB is not usable.",
                f"Give from {LEAST_GAIN_DB:g} to {GREATEST_GAIN_DB:g} dB.",
            )


@dataclass(frozen=True, order=True)
class Mark:
    """Something that happens on a frame; of a kind there is one a frame at most."""

    frame: int
    kind: MarkKind = "action"
    text: str = ""

    def __post_init__(self) -> None:
        if self.kind not in MARK_KINDS:
            raise DomainError(f"The mark “{self.kind}” is not known.", f"Choose one of {', '.join(MARK_KINDS)}.")


def with_marks(marks: tuple[Mark, ...], new: tuple[Mark, ...]) -> tuple[Mark, ...]:
    """In order of time; a new one takes the place of one of its kind on its frame."""
    by_place = {(mark.frame, mark.kind): mark for mark in (*marks, *new)}
    return tuple(sorted(by_place.values()))
