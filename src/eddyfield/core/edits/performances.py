"""Edits of how a performance is shown: stepping and Ride."""

from __future__ import annotations

from dataclasses import replace

from ..exposure import Stepping
from ..ride import Ride
from ..scene import Scene


def step_character(scene: Scene, character_id: str, stepping: Stepping) -> Scene:
    """Hold the character's poses on ones, twos, threes ..."""
    return scene.with_character(replace(scene.character(character_id), stepping=stepping))


def ride_character(scene: Scene, character_id: str, ride: Ride) -> Scene:
    """Carry the character's held poses along with the camera of the cut, or stop doing so."""
    return scene.with_character(replace(scene.character(character_id), ride=ride))
