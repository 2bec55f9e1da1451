"""Edits of the exposure column: on which frames a character shows a new pose."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

import numpy as np

from ..bake import Baker
from ..errors import DomainError
from ..performance.character import Character
from ..performance.exposure import LONGEST_STEP, nearest_frame
from ..scene import Scene
from .edit import Edit
from .reach import EXPOSURES, Reach, Stretch


@dataclass(frozen=True, kw_only=True)
class ChangeExposures(Edit):
    """Show new poses on the frames ``add``, and none any more on those of ``remove``: a hold is made longer or shorter, a pose
    put in or left out, tapped along. Raises ``DomainError`` for frames outside the scene, and for the first one or a key pose
    that is to be kept, which cannot go."""

    edit: Literal["change exposures"] = "change exposures"
    title: ClassVar[str] = "exposures"
    character_id: str
    add: tuple[int, ...] = ()
    remove: tuple[int, ...] = ()

    def reach(self, scene: Scene) -> Reach:
        return _reached(scene, self.character_id, (*self.add, *self.remove))

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        character = scene.character(self.character_id)
        for frame in (*self.add, *self.remove):
            if frame not in scene.frames:
                raise DomainError(f"Frame {frame} is not in the scene.", "Choose one that is.")
        kept = {scene.frames.first: "the first one", **_kept_key_poses(character, baker)}
        for frame in self.remove:
            if frame in kept and frame not in self.add:
                raise DomainError(
                    f"The pose on {frame} cannot be left out: it is {kept[frame]}.",
                    "Let key poses go first: “A pose change on every key pose”."
                    if frame > scene.frames.first
                    else "Leave out a later one.",
                )
        return _exposed(scene, character, _shown_starts(character, baker) - {*self.remove} | {*self.add})


@dataclass(frozen=True, kw_only=True)
class TapExposures(Edit):
    """Show new poses where somebody tapped along, and no other from the first of the ``taps`` to ``last``, where that stopped;
    but for key poses that are to be kept."""

    edit: Literal["tap exposures"] = "tap exposures"
    title: ClassVar[str] = "tapped exposures"
    character_id: str
    taps: tuple[int, ...]
    last: int

    def reach(self, scene: Scene) -> Reach:
        return _reached(scene, self.character_id, (*self.taps, self.last))

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        character = scene.character(self.character_id)
        if not self.taps:
            raise DomainError("Nothing was tapped.", "Tap along while it plays (Shift P).")
        for frame in self.taps:
            if frame not in scene.frames:
                raise DomainError(f"Frame {frame} is not in the scene.", "Choose one that is.")
        first, kept = min(self.taps), {scene.frames.first, *_kept_key_poses(character, baker)}
        outside = {s for s in _shown_starts(character, baker) if s in kept or not first <= s <= self.last}
        return _exposed(scene, character, outside | {*self.taps})


@dataclass(frozen=True, kw_only=True)
class ExposeStretch(Edit):
    """From ``first`` to ``last`` show a new pose every ``step`` frames, or (None) on the key poses alone. What is shown before
    and after stays."""

    edit: Literal["expose stretch"] = "expose stretch"
    title: ClassVar[str] = "exposures of a stretch"
    character_id: str
    first: int
    last: int
    step: int | None

    def reach(self, scene: Scene) -> Reach:
        return _reached(scene, self.character_id, (self.first, self.last))

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        character = scene.character(self.character_id)
        if not scene.frames.first <= self.first <= self.last <= scene.frames.last:
            raise DomainError(
                f"{self.first} to {self.last} is no stretch of the scene.",
                f"Give frames from {scene.frames.first} to {scene.frames.last}, the first one first.",
            )
        if self.step is not None and not 1 <= self.step <= LONGEST_STEP:
            raise DomainError(f"Poses cannot be held on {self.step} frames.", f"Give a step from 1 to {LONGEST_STEP}.")
        within = {*range(self.first, self.last + 1, self.step or 1)}
        if self.step is None:
            within &= {nearest_frame(p) for p in baker.key_poses(character)}
            if not within:
                raise DomainError("There is no key pose in that stretch.", "Choose a longer one, or hold on twos.")
        outside = {s for s in _shown_starts(character, baker) if not self.first <= s <= self.last}
        return _exposed(scene, character, outside | within | {self.first})


def _reached(scene: Scene, character_id: str, frames: Iterable[int]) -> Reach:
    """From the first of the frames to the last; a pose that is held there is held on until the next one."""
    changed = [*frames] or [0]
    return Reach(frozenset({character_id}), stretch=Stretch(frozenset({EXPOSURES}), min(changed), max(changed)))


def _shown_starts(character: Character, baker: Baker) -> set[int]:
    return set(np.unique(baker.exposure_starts(character)).tolist())


def _kept_key_poses(character: Character, baker: Baker) -> dict[int, str]:
    if not character.stepping.keep_key_poses:
        return {}
    return {nearest_frame(p): "a key pose, and every one is shown" for p in baker.key_poses(character)}


def _exposed(scene: Scene, character: Character, starts: Iterable[int]) -> Scene:
    stepping = replace(character.stepping, starts=tuple(sorted(starts)))
    return scene if stepping == character.stepping else scene.with_character(replace(character, stepping=stepping))
