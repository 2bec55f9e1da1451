"""Every change of a sequence: a frozen dataclass each, as those of a scene are."""

from __future__ import annotations

from abc import ABC, abstractmethod
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..cut.sequence import Sequence
from ..errors import DomainError
from ..time.frames import Rate
from ..time.timecode import timecode_from_text
from .edit import check_plain
from .names import usable_name


@dataclass(frozen=True, kw_only=True)
class SequenceEdit(ABC):
    """A change of a sequence, as data. It refuses with ``DomainError``."""

    version: ClassVar[int] = 1
    title: ClassVar[str]
    edit: str

    def __post_init__(self) -> None:
        check_plain(self)

    @abstractmethod
    def apply(self, sequence: Sequence, rate: Rate | None) -> Sequence:
        """The sequence with the change; the very same one where it changes nothing. ``rate`` is what it has by its scenes."""


@dataclass(frozen=True, kw_only=True)
class RenameSequence(SequenceEdit):
    """Give the sequence another name."""

    edit: Literal["rename sequence"] = "rename sequence"
    title: ClassVar[str] = "rename the sequence"
    name: str

    def apply(self, sequence: Sequence, rate: Rate | None) -> Sequence:
        name = usable_name(self.name, "sequence")
        return sequence if name == sequence.name else replace(sequence, name=name)


@dataclass(frozen=True, kw_only=True)
class AddScene(SequenceEdit):
    """Put a scene into the sequence, at an index counted from 0; at its end where there is none."""

    edit: Literal["add scene"] = "add scene"
    title: ClassVar[str] = "add a scene"
    scene_id: str
    index: int | None = None

    def apply(self, sequence: Sequence, rate: Rate | None) -> Sequence:
        if self.scene_id in sequence.scene_ids:
            raise DomainError("That scene is in the sequence already.", "Move it to where it is wanted.")
        at = len(sequence.scene_ids) if self.index is None else max(0, min(self.index, len(sequence.scene_ids)))
        return replace(sequence, scene_ids=(*sequence.scene_ids[:at], self.scene_id, *sequence.scene_ids[at:]))


@dataclass(frozen=True, kw_only=True)
class MoveScene(SequenceEdit):
    """Move a scene to an index, counted from 0; the others close up."""

    edit: Literal["move scene"] = "move scene"
    title: ClassVar[str] = "move a scene"
    scene_id: str
    index: int

    def apply(self, sequence: Sequence, rate: Rate | None) -> Sequence:
        others = _without(sequence, self.scene_id)
        at = max(0, min(self.index, len(others)))
        moved = (*others[:at], self.scene_id, *others[at:])
        return sequence if moved == sequence.scene_ids else replace(sequence, scene_ids=moved)


@dataclass(frozen=True, kw_only=True)
class TakeSceneOut(SequenceEdit):
    """Take a scene out of the sequence; the scene itself stays."""

    edit: Literal["take scene out"] = "take scene out"
    title: ClassVar[str] = "take a scene out"
    scene_id: str

    def apply(self, sequence: Sequence, rate: Rate | None) -> Sequence:
        return replace(sequence, scene_ids=_without(sequence, self.scene_id))


@dataclass(frozen=True, kw_only=True)
class StartTimecode(SequenceEdit):
    """Say which time code the first frame has."""

    edit: Literal["start timecode"] = "start timecode"
    title: ClassVar[str] = "time code of the sequence"
    text: str

    def apply(self, sequence: Sequence, rate: Rate | None) -> Sequence:
        if rate is None:
            raise DomainError("A sequence without scenes has no rate to count at.", "Add a scene first.")
        timecode = timecode_from_text(self.text, rate)
        return sequence if timecode == sequence.timecode else replace(sequence, timecode=timecode)


SequenceChange = RenameSequence | AddScene | MoveScene | TakeSceneOut | StartTimecode


def _without(sequence: Sequence, scene_id: str) -> tuple[str, ...]:
    if scene_id not in sequence.scene_ids:
        raise DomainError("That scene is not in the sequence.", "Add it first.")
    return tuple(one for one in sequence.scene_ids if one != scene_id)
