"""What every edit is."""

from __future__ import annotations

import dataclasses
import math
import uuid
from abc import ABC, abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from typing import Any, ClassVar

from ..bake import Baker
from ..errors import DomainError
from ..rig.source import RigSource
from ..scene import Scene
from .reach import Reach

NAMES_OWNER = ("new_id", "camera_id", "thing_id", "character_id", "piece_id", "sound_id", "block_id")
GREATEST_NUMBER = 10_000_000
GREATEST_VALUE = 1e12
LONGEST_TOLD = 10**300
LONGEST_TEXT = 2000
GREATEST_DENOMINATOR = 10**9


@dataclass(frozen=True, kw_only=True)
class Edit(ABC):
    """A change of a scene, as data. Each kind is a class of its own, with ``edit``, its name, and fields that say what is to be
    changed; requests, the browser's types and the journal follow from that. It refuses with ``DomainError``.

    ``version`` counts the forms in which the arguments of one kind were written down.
    """

    version: ClassVar[int] = 1
    title: ClassVar[str]
    """What people call it; the journal and requests go by ``edit``."""
    edit: str
    of_scene: ClassVar[tuple[str, ...]] = ()
    """Fields of the scene itself that this kind changes, where it changes no owner."""
    owners_by_scene: ClassVar[bool] = False
    """Whose owners are found in the scene to which it is applied: which they were cannot be told afterwards."""

    def reach(self, scene: Scene) -> Reach:
        """What it changes of a scene to which it is applied: fields of the scene; else what it makes, else what it names first.
        Kinds that change less, or more, say so."""
        if self.of_scene:
            return Reach(of_scene=frozenset(self.of_scene))
        names = [field.name for field in dataclasses.fields(self)]
        owner = next(name for name in ("new_id", *names) if name in names and name in NAMES_OWNER)
        return Reach(frozenset({getattr(self, owner)}))

    def __post_init__(self) -> None:
        check_plain(self)

    def brings(self, scene: Scene) -> tuple[RigSource, ...]:
        """Files that are not in the scene yet, or not read in this way, and are read before it is applied."""
        return ()

    def brings_scenes(self) -> tuple[str, ...]:
        """Ids of other scenes that come in with it, and are looked for before it is applied."""
        return ()

    @abstractmethod
    def apply(self, scene: Scene, baker: Baker) -> Scene:
        """The scene with the change; the very same one where it changes nothing. ``baker`` is of that scene. Kinds that need
        not know where things are take it as None, too."""


def check_plain(value: Any) -> None:
    """Raise ``DomainError`` for numbers and texts, in whatever parts of an edit, that are out of all bounds."""
    if isinstance(value, str):
        if len(value) > LONGEST_TEXT:
            raise DomainError(f"A text has {len(value):,} letters.", f"Keep it within {LONGEST_TEXT:,}.")
    elif isinstance(value, int):
        if abs(value) > GREATEST_NUMBER:
            told = f"{value:.6g}" if abs(value) < LONGEST_TOLD else "A number"  # of which a float is made
            raise DomainError(f"{told} is out of bounds.", f"Keep it within {GREATEST_NUMBER:,}.")
    elif isinstance(value, float):
        if not math.isfinite(value):
            raise DomainError("A value is no number.", "Give a finite one.")
        if abs(value) > GREATEST_VALUE:
            raise DomainError(f"{value:.6g} is out of bounds.", f"Keep it within {GREATEST_VALUE:g}.")
    elif isinstance(value, Fraction):
        if abs(value) > GREATEST_NUMBER or value.denominator > GREATEST_DENOMINATOR:
            raise DomainError("That time is out of bounds.", f"Keep it within {GREATEST_NUMBER:,} frames.")
    elif isinstance(value, Mapping):
        for item in (*value, *value.values()):
            check_plain(item)
    elif isinstance(value, tuple):
        for item in value:
            check_plain(item)
    elif dataclasses.is_dataclass(value):
        for field in dataclasses.fields(value):
            check_plain(getattr(value, field.name))


def check_new_id(new_id: str) -> None:
    """Raise ``DomainError`` for what cannot be the id of something new: it has to be a UUID, in small letters."""
    try:
        if str(uuid.UUID(new_id)) == new_id:
            return
    except ValueError:
        pass
    raise DomainError("The id of what is to be made is none.", "Give a UUID, in small letters.")
