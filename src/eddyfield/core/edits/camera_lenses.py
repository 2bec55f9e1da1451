"""Edits of lenses, and of the frame that the scene is delivered in."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..cameras.camera import FilmBack, Glass
from ..cameras.room import Room
from ..optics.lens import DeliveryFrame, Lens
from ..scene import Scene
from .cameras import refuse_locked
from .edit import Edit


@dataclass(frozen=True, kw_only=True)
class SetCameraLens(Edit):
    """Give a camera a film back and glass: gate, squeeze, shift, planes, parallel view, circle of confusion, shutter."""

    edit: Literal["set camera lens"] = "set camera lens"
    title: ClassVar[str] = "lens of a camera"
    camera_id: str
    back: FilmBack
    glass: Glass

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.camera_id)
        refuse_locked(camera, {"lens"}, "given another lens")
        Lens(
            35.0, self.back.width_mm, self.back.height_mm, self.back.gate, self.back.squeeze
        )  # refuses what is no lens
        return scene.with_camera(replace(camera, back=self.back, glass=self.glass))


@dataclass(frozen=True, kw_only=True)
class SetDelivery(Edit):
    """Deliver the scene in another frame; every camera shows more or less of what it saw, by its gate."""

    edit: Literal["set delivery frame"] = "set delivery frame"
    title: ClassVar[str] = "delivery frame"
    of_scene: ClassVar[tuple[str, ...]] = ("delivery",)
    delivery: DeliveryFrame

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        return replace(scene, delivery=self.delivery)


@dataclass(frozen=True, kw_only=True)
class SetRoom(Edit):
    """Want another headroom and lead room; the framing readings go by them."""

    edit: Literal["want room"] = "want room"
    title: ClassVar[str] = "wanted headroom and lead room"
    of_scene: ClassVar[tuple[str, ...]] = ("room",)
    room: Room

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        return replace(scene, room=self.room)
