"""Lenses, the delivery frame and the wanted room, saved views."""

from __future__ import annotations

from typing import Literal

from eddyfield.core import edits
from eddyfield.core.bake import Baker
from eddyfield.core.cameras.camera import FilmBack, Glass
from eddyfield.core.cameras.room import Room
from eddyfield.core.optics.lens import DeliveryFrame
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import frame_time

from .base import Id, OfCamera, Request, Time


class SetCameraLens(OfCamera):
    edit: Literal["set camera lens"] = "set camera lens"
    back: FilmBack
    glass: Glass

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.set_camera_lens(scene, self.camera_id, self.back, self.glass)


class SetDelivery(Request):
    edit: Literal["set delivery frame"] = "set delivery frame"
    delivery: DeliveryFrame

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.set_delivery(scene, self.delivery)


class SetRoom(Request):
    edit: Literal["want room"] = "want room"
    room: Room

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.set_room(scene, self.room)


class SaveView(OfCamera):
    edit: Literal["save view"] = "save view"
    view_id: Id
    name: str
    time: Time

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.save_view(scene, self.camera_id, self.view_id, self.name, frame_time(self.time))


class RecallView(OfCamera):
    edit: Literal["recall view"] = "recall view"
    view_id: Id

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.recall_view(scene, self.camera_id, self.view_id)


class RenameView(OfCamera):
    edit: Literal["rename view"] = "rename view"
    view_id: Id
    name: str

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.rename_view(scene, self.camera_id, self.view_id, self.name)


class DeleteView(OfCamera):
    edit: Literal["delete view"] = "delete view"
    view_id: Id

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.delete_view(scene, self.camera_id, self.view_id)
