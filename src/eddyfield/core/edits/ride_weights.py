"""Edits of how much held poses ride over time: keyed, or only where they strobe, eased in and out."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..errors import DomainError
from ..performance.ride import Ride
from ..scene import Scene
from ..time.channels import Channel
from ..time.frames import FrameTime
from ..time.keys import Key
from .edit import Edit

LONGEST_EASE = 240


@dataclass(frozen=True, kw_only=True)
class KeyRide(Edit):
    """Key the weight of Ride on a frame, or (None) take the key there away; without any it is the same throughout."""

    edit: Literal["key ride"] = "key ride"
    title: ClassVar[str] = "key of Ride"
    character_id: str
    time: FrameTime
    weight: float | None

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        character = scene.character(self.character_id)
        ride = character.ride
        weights = ride.weights or Channel(ride.weight)
        if self.weight is None:
            if weights.key_at(self.time) is None:
                raise DomainError("There is no key of Ride there.", "Go to one first.")
            left = weights.without_key(self.time)
            changed = replace(ride, weights=left if left.keys else None)
        else:
            if ride.way == "off":
                raise DomainError(f"{character.name} does not ride.", "Switch Ride on first (Y).")
            changed = replace(ride, weights=weights.with_key(Key(self.time, self.weight, "ease")))
        return scene.with_character(replace(character, ride=changed))


@dataclass(frozen=True, kw_only=True)
class RideWhereItStrobes(Edit):
    """Ride in the stretches that strobe alone, eased in before each and out after it over some frames; by the way that the
    character rides by, else by the one that is offered."""

    edit: Literal["ride where it strobes"] = "ride where it strobes"
    title: ClassVar[str] = "ride where it strobes"
    character_id: str
    eases: int = 6

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        if not 1 <= self.eases <= LONGEST_EASE:
            raise DomainError(f"It cannot ease over {self.eases} frames.", f"Give from 1 to {LONGEST_EASE}.")
        character = scene.character(self.character_id)
        stretches = baker.strobing(character, Ride()).stretches
        if not stretches:
            raise DomainError(f"Nothing of {character.name} strobes.", "Leave it without Ride.")
        ride = character.offered_ride if character.ride.way == "off" else character.ride
        weights = Channel(0.0)
        for stretch in stretches:
            begins, ends = stretch.first - 1, stretch.last + 1
            for time, rides in ((begins - self.eases, False), (begins, True), (ends, True), (ends + self.eases, False)):
                others = (s for s in stretches if s != stretch)
                if rides or not any(s.first - 1 - self.eases <= time <= s.last + 1 + self.eases for s in others):
                    weights = weights.with_key(Key(FrameTime(time), ride.weight if rides else 0.0, "ease"))
        return scene.with_character(replace(character, ride=replace(ride, weights=weights)))
