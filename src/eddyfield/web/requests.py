"""What the browser may ask for, as models from which its types are generated, and the edit that each request names."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from eddyfield.core import edits
from eddyfield.core.channels import KeyShape, frame_time
from eddyfield.core.exposure import Stepping
from eddyfield.core.ride import Ride, RideWay
from eddyfield.core.scene import CameraPose, OffsetReading, Scene

Id = Annotated[str, Field(pattern=r"^[0-9a-fA-F-]{36}$")]
Frame = Annotated[int, Field(ge=-10_000_000, le=10_000_000)]
Time = Annotated[str, Field(pattern=r"^-?\d{1,12}(/\d{1,9})?$")]
Digest = Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]


class Request(BaseModel):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class Pose(Request):
    x: float
    y: float
    z: float
    pan: float
    tilt: float
    roll: float
    focal_mm: float

    def value(self) -> CameraPose:
        return CameraPose(**self.model_dump())


class PlaceCamera(Request):
    edit: Literal["place camera"] = "place camera"
    camera_id: Id
    pose: Pose
    time: Time | None = None
    """Given where pan and roll are directions, not counted turns."""

    def apply(self, scene: Scene) -> Scene:
        time = None if self.time is None else frame_time(self.time)
        return edits.place_camera(scene, self.camera_id, self.pose.value(), time)


class KeyCamera(Request):
    edit: Literal["set camera key"] = "set camera key"
    camera_id: Id
    time: Time
    pose: Pose | None = None

    def apply(self, scene: Scene) -> Scene:
        return edits.key_camera(scene, self.camera_id, frame_time(self.time), self.pose.value() if self.pose else None)


class PutCameraBack(Request):
    edit: Literal["put camera back"] = "put camera back"
    camera_id: Id

    def apply(self, scene: Scene) -> Scene:
        return edits.put_camera_back(scene, self.camera_id)


class DeleteCameraKeys(Request):
    edit: Literal["delete camera key"] = "delete camera key"
    camera_id: Id
    time: Time

    def apply(self, scene: Scene) -> Scene:
        return edits.delete_camera_keys(scene, self.camera_id, frame_time(self.time))


class MoveCameraKeys(Request):
    edit: Literal["move camera key"] = "move camera key"
    camera_id: Id
    time: Time
    to: Time

    def apply(self, scene: Scene) -> Scene:
        return edits.move_camera_keys(scene, self.camera_id, frame_time(self.time), frame_time(self.to))


class ShapeCameraKeys(Request):
    edit: Literal["shape camera key"] = "shape camera key"
    camera_id: Id
    time: Time
    shape: KeyShape

    def apply(self, scene: Scene) -> Scene:
        return edits.shape_camera_keys(scene, self.camera_id, frame_time(self.time), self.shape)


class LockCamera(Request):
    edit: Literal["lock camera"] = "lock camera"
    camera_id: Id
    locked: bool

    def apply(self, scene: Scene) -> Scene:
        return edits.lock_camera(scene, self.camera_id, self.locked)


class RenameCamera(Request):
    edit: Literal["rename camera"] = "rename camera"
    camera_id: Id
    name: str

    def apply(self, scene: Scene) -> Scene:
        return edits.rename_camera(scene, self.camera_id, self.name)


class StepCharacter(Request):
    edit: Literal["step poses"] = "step poses"
    character_id: Id
    step: int
    offset: Frame = 0
    keep_key_poses: bool = False

    def apply(self, scene: Scene) -> Scene:
        return edits.step_character(scene, self.character_id, Stepping(self.step, self.offset, self.keep_key_poses))


class RideCharacter(Request):
    edit: Literal["ride"] = "ride"
    character_id: Id
    way: RideWay
    weight: float = 1.0
    anchor: str | None = None

    def apply(self, scene: Scene) -> Scene:
        return edits.ride_character(scene, self.character_id, Ride(self.way, self.weight, self.anchor))


class RenameScene(Request):
    edit: Literal["rename scene"] = "rename scene"
    name: str

    def apply(self, scene: Scene) -> Scene:
        return edits.rename_scene(scene, self.name)


class SetFrames(Request):
    edit: Literal["set play range"] = "set play range"
    first: Frame
    last: Frame

    def apply(self, scene: Scene) -> Scene:
        return edits.set_frames(scene, self.first, self.last)


Edit = Annotated[
    PlaceCamera
    | KeyCamera
    | PutCameraBack
    | DeleteCameraKeys
    | MoveCameraKeys
    | ShapeCameraKeys
    | LockCamera
    | RenameCamera
    | StepCharacter
    | RideCharacter
    | RenameScene
    | SetFrames,
    Field(discriminator="edit"),
]


class View(Request):
    """What the browser shows, and the names of the parts that it holds already."""

    character_id: Id | None = None
    joint: str | None = None
    frozen_frame: Frame | None = None
    held: Annotated[list[Annotated[str, Field(max_length=64)]], Field(max_length=2000)] = []


class ViewRequest(Request):
    view: View = View()


class EditRequest(Request):
    """An edit made on a revision. ``request_id`` keeps an edit that is sent twice from being done twice."""

    revision: int
    request_id: Id
    edit: Edit
    view: View = View()


class ReplayRequest(Request):
    """Undo or redo on a revision."""

    revision: int
    view: View = View()


class MakeScene(Request):
    """A new scene from an uploaded file."""

    digest: Digest
    format: Literal["gltf", "bvh"]
    name: str
    scale: Annotated[float, Field(ge=1e-6, le=1e6)]
    rate: str = "24"
    start: Frame = 1
    animation: str | None = None
    offsets: OffsetReading = "auto"


REQUESTS: tuple[type[BaseModel], ...] = (ViewRequest, EditRequest, ReplayRequest, MakeScene)
EditFunction = Callable[[Scene], Scene]


def schema_of(models: tuple[type[BaseModel], ...], mode: Literal["validation", "serialization"]) -> dict[str, Any]:
    """One JSON Schema with all models as definitions."""
    from pydantic.json_schema import models_json_schema

    return models_json_schema([(m, mode) for m in models])[1]
