"""Edits of sounds and of marks on frames."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..cut.sound import Mark, MarkKind, Sound, with_marks
from ..errors import DomainError
from ..scene import Scene
from .edit import Edit, check_new_id
from .names import usable_name

MOST_SOUNDS = 64
MOST_MARKS = 10_000
LONGEST_MARK = 200


@dataclass(frozen=True, kw_only=True)
class BringSound(Edit):
    """Put a sound beside the frames, its beginning on ``start``."""

    edit: Literal["bring sound"] = "bring sound"
    title: ClassVar[str] = "bring in a sound"
    sound_id: str
    name: str
    digest: str
    start: int

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        check_new_id(self.sound_id)
        if len(scene.sounds) >= MOST_SOUNDS:
            raise DomainError(f"The scene has {MOST_SOUNDS} sounds.", "Take one out first.")
        if any(sound.id == self.sound_id for sound in scene.sounds):
            raise DomainError("That sound is in the scene already.", "Give the new one an id of its own.")
        sound = Sound(self.sound_id, usable_name(self.name, "sound"), self.digest, self.start)
        return replace(scene, sounds=(*scene.sounds, sound))


@dataclass(frozen=True, kw_only=True)
class SetSound(Edit):
    """Say where a sound begins, what of it is heard, and how loud."""

    edit: Literal["set sound"] = "set sound"
    title: ClassVar[str] = "sound"
    sound_id: str
    name: str
    start: int
    first_s: float = 0.0
    last_s: float | None = None
    gain_db: float = 0.0
    muted: bool = False

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        sound = scene.sound(self.sound_id)
        changed = Sound(
            sound.id, usable_name(self.name, "sound"), sound.digest, self.start, self.first_s, self.last_s,
            self.gain_db, self.muted,
        )  # fmt: skip
        if changed == sound:
            return scene
        return replace(scene, sounds=tuple(changed if s.id == sound.id else s for s in scene.sounds))


@dataclass(frozen=True, kw_only=True)
class TakeOutSound(Edit):
    """Take a sound out of the scene."""

    edit: Literal["take out sound"] = "take out sound"
    title: ClassVar[str] = "take out a sound"
    sound_id: str

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        gone = scene.sound(self.sound_id)
        return replace(scene, sounds=tuple(sound for sound in scene.sounds if sound is not gone))


@dataclass(frozen=True, kw_only=True)
class MarkFrames(Edit):
    """Set marks; each takes the place of one of its kind on its frame."""

    edit: Literal["mark frames"] = "mark frames"
    title: ClassVar[str] = "mark"
    of_scene: ClassVar[tuple[str, ...]] = ("marks",)
    marks: tuple[Mark, ...]

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        if any(len(mark.text) > LONGEST_MARK for mark in self.marks):
            raise DomainError("The text of a mark is too long.", f"Keep it within {LONGEST_MARK} letters.")
        marks = with_marks(scene.marks, self.marks)
        if len(marks) > MOST_MARKS:
            raise DomainError(f"The scene would have more than {MOST_MARKS:,} marks.", "Take some away first.")
        return scene if marks == scene.marks else replace(scene, marks=marks)


@dataclass(frozen=True, kw_only=True)
class UnmarkFrame(Edit):
    """Take a mark away."""

    edit: Literal["unmark frame"] = "unmark frame"
    title: ClassVar[str] = "take a mark away"
    of_scene: ClassVar[tuple[str, ...]] = ("marks",)
    frame: int
    kind: MarkKind

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        left = tuple(mark for mark in scene.marks if (mark.frame, mark.kind) != (self.frame, self.kind))
        if len(left) == len(scene.marks):
            raise DomainError(f"There is no such mark on {self.frame}.", "Choose one in the list.")
        return replace(scene, marks=left)
