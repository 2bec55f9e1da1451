"""Edits of lenses, and of the frame that the scene is delivered in."""

from __future__ import annotations

from dataclasses import replace

from ..cameras.camera import FilmBack, Glass
from ..cameras.room import Room
from ..optics.lens import DeliveryFrame, Lens
from ..scene import Scene
from .cameras import refuse_locked


def set_camera_lens(scene: Scene, camera_id: str, back: FilmBack, glass: Glass) -> Scene:
    """Give a camera a film back and glass: gate, squeeze, shift, planes, parallel view, circle of confusion, shutter."""
    camera = scene.camera(camera_id)
    refuse_locked(camera, {"lens"}, "given another lens")
    Lens(35.0, back.width_mm, back.height_mm, back.gate, back.squeeze)  # refuses what is no lens
    return scene.with_camera(replace(camera, back=back, glass=glass))


def set_delivery(scene: Scene, delivery: DeliveryFrame) -> Scene:
    """Deliver the scene in another frame; every camera shows more or less of what it saw, by its gate."""
    return replace(scene, delivery=delivery)


def set_room(scene: Scene, room: Room) -> Scene:
    """Want another headroom and lead room; the framing readings go by them."""
    return replace(scene, room=room)
