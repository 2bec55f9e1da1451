"""Edits of how a performance is shown: stepping and Ride."""

from __future__ import annotations

from dataclasses import replace

from ..bake import Baker
from ..cameras.subjects import check_numbers
from ..performance.exposure import Stepping
from ..performance.ride import Ride
from ..scene import Scene


def step_character(scene: Scene, character_id: str, stepping: Stepping) -> Scene:
    """Hold the character's poses on ones, twos, threes ..."""
    return scene.with_character(replace(scene.character(character_id), stepping=stepping))


def set_front(scene: Scene, character_id: str, front_deg: float | None) -> Scene:
    """Say which way a character faces, or leave it to its file: 0 is +Z, positive turns to its left."""
    if front_deg is not None:
        check_numbers("front", (front_deg,))
    return scene.with_character(replace(scene.character(character_id), front_deg=front_deg))


def ride_character(scene: Scene, baker: Baker, character_id: str, ride: Ride) -> Scene:
    """Carry the character's held poses along with the camera of the cut, or stop doing so. Raises ``DomainError`` where the
    anchor is no joint of the character."""
    if ride.anchor is not None:
        baker.rig_of(scene.character(character_id).source).find(ride.anchor)
    return scene.with_character(replace(scene.character(character_id), ride=ride))
