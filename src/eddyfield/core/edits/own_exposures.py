"""Edits that let a part of a character, or a prop, show new poses on frames of its own."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

import numpy as np

from ..bake import Baker
from ..errors import DomainError
from ..performance.exposure import Stepping
from ..performance.own_exposures import OwnExposures
from ..scene import Scene
from .edit import Edit


@dataclass(frozen=True, kw_only=True)
class StepPart(Edit):
    """Step all that hangs on a joint by itself, or (None) with the body again. Raises ``DomainError`` for a joint on which all of
    the body hangs."""

    edit: Literal["step part"] = "step part"
    title: ClassVar[str] = "step a part"
    character_id: str
    joint: str
    stepping: Stepping | None

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        character = scene.character(self.character_id)
        others = tuple(part for part in character.parts if part.joint != self.joint)
        if self.stepping is not None:
            rig = baker.rig(character)
            if rig.parents[rig.find(self.joint)] < 0:
                raise DomainError(f"All of {character.name} hangs on “{self.joint}”.", "Step the character itself.")
            others = (*others, OwnExposures(self.joint, self.stepping))
        return scene if others == character.parts else scene.with_character(replace(character, parts=others))


@dataclass(frozen=True, kw_only=True)
class StepPiece(Edit):
    """Step a prop or set piece by itself, or (None) as who holds it is, and on ones where nobody does."""

    edit: Literal["step piece"] = "step piece"
    title: ClassVar[str] = "step a prop"
    piece_id: str
    stepping: Stepping | None

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        piece = scene.piece(self.piece_id)
        return scene if piece.stepping == self.stepping else scene.with_thing(replace(piece, stepping=self.stepping))


@dataclass(frozen=True, kw_only=True)
class ChangePieceExposures(Edit):
    """Let a prop or set piece show new poses on the frames ``add``, and none any more on those of ``remove``; from now on by
    exposures of its own. The first frame's stays."""

    edit: Literal["change piece exposures"] = "change piece exposures"
    title: ClassVar[str] = "exposures of a prop"
    piece_id: str
    add: tuple[int, ...] = ()
    remove: tuple[int, ...] = ()

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        piece = scene.piece(self.piece_id)
        for frame in (*self.add, *self.remove):
            if frame not in scene.frames:
                raise DomainError(f"Frame {frame} is not in the scene.", "Choose one that is.")
        if scene.frames.first in set(self.remove) - {*self.add}:
            raise DomainError("The pose on the first frame cannot be left out.", "Leave out a later one.")
        shown = {scene.frames.first + row for row in np.unique(baker.shown_piece(piece).rows).tolist()}
        starts = tuple(sorted(shown - {*self.remove} | {*self.add}))
        if piece.stepping is not None and piece.stepping.starts == starts:
            return scene
        return scene.with_thing(replace(piece, stepping=replace(piece.stepping or Stepping(), starts=starts)))
