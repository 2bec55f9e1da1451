"""How a camera is carried, turned, focused and held."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from eddyfield.core import edits
from eddyfield.core.bake import Baker
from eddyfield.core.cameras.aim import Aim
from eddyfield.core.cameras.focus import Focus
from eddyfield.core.cameras.framing import Framing
from eddyfield.core.cameras.subjects import Subject
from eddyfield.core.scene import Scene

from .base import AnyMount, Frame, Id, OfCamera


class MountCamera(OfCamera):
    edit: Literal["mount camera"] = "mount camera"
    mount: AnyMount
    frame: Frame
    keep: bool = True

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.mount_camera(scene, baker, self.camera_id, self.mount, self.frame, self.keep)


class LayRail(OfCamera):
    edit: Literal["lay rail"] = "lay rail"
    shape: edits.RailShape
    frame: Frame
    character_id: Id | None = None
    side_m: Annotated[float, Field(ge=-1000, le=1000)] | None = None

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.lay_rail(scene, baker, self.camera_id, self.shape, self.frame, self.character_id, self.side_m)


class AimCamera(OfCamera):
    edit: Literal["aim camera"] = "aim camera"
    aim: Aim | None
    frame: Frame

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.aim_camera(scene, baker, self.camera_id, self.aim, self.frame)


class FocusCamera(OfCamera):
    edit: Literal["focus camera"] = "focus camera"
    focus: Focus | None
    frame: Frame

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.focus_camera(scene, baker, self.camera_id, self.focus, self.frame)


class FrameCamera(OfCamera):
    edit: Literal["hold framing"] = "hold framing"
    framing: Framing | None
    frame: Frame

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.frame_camera(scene, baker, self.camera_id, self.framing, self.frame)


class BakeCamera(OfCamera):
    edit: Literal["bake camera"] = "bake camera"
    first: Frame
    last: Frame
    error_px: float | None = None

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.bake_camera(scene, baker, self.camera_id, self.first, self.last, self.error_px)


class SolveDollyZoom(OfCamera):
    edit: Literal["dolly zoom"] = "dolly zoom"
    wanted: edits.DollyZoom

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.dolly_zoom(scene, baker, self.camera_id, self.wanted)


class OrbitInstead(OfCamera):
    edit: Literal["orbit instead"] = "orbit instead"
    first: Frame
    last: Frame
    subject: Subject

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.orbit_instead(scene, baker, self.camera_id, self.first, self.last, self.subject)
