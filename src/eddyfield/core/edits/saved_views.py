"""Edits of saved views: any number a camera, each with place, angles, lens, mount, aim, focus and what is held."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..cameras.camera import MOST_VIEWS, Camera, SavedView
from ..cameras.camera_channels import CAMERA_CHANNELS
from ..errors import DomainError
from ..scene import Scene
from ..time.frames import FrameTime
from .camera_moves import value_at, with_values
from .cameras import refuse_locked
from .edit import Edit, check_new_id
from .names import usable_name


@dataclass(frozen=True, kw_only=True)
class SaveView(Edit):
    """Keep how a camera stands at a time under a name."""

    edit: Literal["save view"] = "save view"
    title: ClassVar[str] = "save view"
    camera_id: str
    view_id: str
    name: str
    time: FrameTime

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        check_new_id(self.view_id)
        camera = scene.camera(self.camera_id)
        if len(camera.views) >= MOST_VIEWS:
            raise DomainError(f"“{camera.name}” has {MOST_VIEWS} saved views.", "Delete some of them.")
        if any(v.id == self.view_id for v in camera.views):
            raise DomainError("That view is saved already.", "Give the new one an id of its own.")
        values = tuple((n, value_at(camera, n, self.time)) for n in CAMERA_CHANNELS)
        view = SavedView(self.view_id, _free_name(camera, self.name), values, camera.mount, camera.rigging)
        return scene.with_camera(replace(camera, views=(*camera.views, view)))


@dataclass(frozen=True, kw_only=True)
class RecallView(Edit):
    """Bring a camera back to a saved view: unkeyed where it has keys. A locked camera stays where it is."""

    edit: Literal["recall view"] = "recall view"
    title: ClassVar[str] = "recall view"
    camera_id: str
    view_id: str

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.camera_id)
        view = _view(camera, self.view_id)
        refuse_locked(camera, {"place", "angles", "lens"}, "brought to a saved view")
        values = {n: v for n, v in view.values if CAMERA_CHANNELS[n].lock_group not in camera.locks}
        rigged = camera.rigged(view.rigging or camera.rigging)
        return scene.with_camera(with_values(replace(rigged, mount=view.mount), values))


@dataclass(frozen=True, kw_only=True)
class RenameView(Edit):
    """Give a saved view another name."""

    edit: Literal["rename view"] = "rename view"
    title: ClassVar[str] = "rename view"
    camera_id: str
    view_id: str
    name: str

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        name = self.name
        camera = scene.camera(self.camera_id)
        view = _view(camera, self.view_id)
        name = usable_name(name, "view")
        if any(v.name == name and v.id != self.view_id for v in camera.views):
            raise DomainError(f"Another view is called “{name}”.", "Choose a name of its own.")
        return scene.with_camera(
            replace(camera, views=tuple(replace(v, name=name) if v.id == view.id else v for v in camera.views))
        )


@dataclass(frozen=True, kw_only=True)
class DeleteView(Edit):
    """Forget a saved view; the camera stays where it is."""

    edit: Literal["delete view"] = "delete view"
    title: ClassVar[str] = "delete view"
    camera_id: str
    view_id: str

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.camera_id)
        view = _view(camera, self.view_id)
        return scene.with_camera(replace(camera, views=tuple(v for v in camera.views if v.id != view.id)))


def _view(camera: Camera, view_id: str) -> SavedView:
    for view in camera.views:
        if view.id == view_id:
            return view
    raise DomainError(f"“{camera.name}” has no such saved view any more.", "Choose another one.")


def _free_name(camera: Camera, wanted: str) -> str:
    wanted = usable_name(wanted, "view")
    taken = {v.name for v in camera.views}
    number, name = 2, wanted
    while name in taken:
        name, number = f"{wanted[:110]} ({number})", number + 1
    return name
