"""Edits of how a performance is shown: stepping and Ride."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..cameras.subjects import check_numbers
from ..performance.exposure import Stepping
from ..performance.ride import Ride
from ..scene import Scene
from .edit import Edit


@dataclass(frozen=True, kw_only=True)
class StepCharacter(Edit):
    """Hold the character's poses on ones, twos, threes ..."""

    edit: Literal["step poses"] = "step poses"
    title: ClassVar[str] = "step poses"
    character_id: str
    stepping: Stepping

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        return scene.with_character(replace(scene.character(self.character_id), stepping=self.stepping))


@dataclass(frozen=True, kw_only=True)
class StepAndRide(Edit):
    """Hold the character's poses in one way and carry them in one, together. Keys of the ride's weight stay."""

    edit: Literal["step and ride"] = "step and ride"
    title: ClassVar[str] = "step poses and ride"
    character_id: str
    stepping: Stepping
    ride: Ride

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        stepped = StepCharacter(character_id=self.character_id, stepping=self.stepping).apply(scene, baker)
        ride = RideCharacter(character_id=self.character_id, ride=self.ride, keeps_keys=True)
        return ride.apply(stepped, baker)


@dataclass(frozen=True, kw_only=True)
class SetFront(Edit):
    """Say which way a character faces, or leave it to its file: 0 is +Z, positive turns to its left."""

    edit: Literal["set front"] = "set front"
    title: ClassVar[str] = "which way a character faces"
    character_id: str
    front_deg: float | None

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        if self.front_deg is not None:
            check_numbers("front", (self.front_deg,))
        return scene.with_character(replace(scene.character(self.character_id), front_deg=self.front_deg))


@dataclass(frozen=True, kw_only=True)
class RideCharacter(Edit):
    """Carry the character's held poses along with the camera of the cut, or stop doing so. Raises ``DomainError`` where the
    anchor is no joint of the character. Keys of its weight stay with ``keeps_keys``."""

    edit: Literal["ride"] = "ride"
    title: ClassVar[str] = "ride"
    character_id: str
    ride: Ride
    keeps_keys: bool = False

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        character = scene.character(self.character_id)
        if self.ride.anchor is not None:
            baker.rig(character).find(self.ride.anchor)
        ride = replace(self.ride, weights=character.ride.weights) if self.keeps_keys else self.ride
        return scene.with_character(replace(character, ride=ride))
