"""What the browser may ask for, as models from which its types are generated, and the edit that each request names."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from eddyfield.core import edits
from eddyfield.core.aim import Aim
from eddyfield.core.bake import Baker
from eddyfield.core.cameras import CameraPose, FilmBack, Glass, LockGroup, Role
from eddyfield.core.channels import KeyShape, frame_time
from eddyfield.core.exposure import Stepping
from eddyfield.core.focus import Focus
from eddyfield.core.framing import Framing
from eddyfield.core.lens import DeliveryFrame
from eddyfield.core.mounts import Mount
from eddyfield.core.ride import Ride, RideWay
from eddyfield.core.room import Room
from eddyfield.core.scene import OffsetReading, Scene
from eddyfield.core.subjects import Subject

Id = Annotated[str, Field(pattern=r"^[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}$")]
Frame = Annotated[int, Field(ge=-10_000_000, le=10_000_000)]
Time = Annotated[str, Field(pattern=r"^-?\d{1,12}(/\d{1,9})?$")]
Digest = Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
ChannelValues = Annotated[dict[str, float], Field(min_length=1, max_length=32)]
AnyMount = Annotated[Mount, Field(discriminator="kind")]


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


class OfCamera(Request):
    camera_id: Id


# --- where a camera stands, over time ---


class PlaceCamera(OfCamera):
    edit: Literal["place camera"] = "place camera"
    pose: Pose
    frame: Frame
    turns: edits.Turns = "nearest"
    keep_offset: bool = False
    """Stay on the rail, arm or orbit, as near as that can be."""

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        pose = self.pose.value()
        return edits.place_camera(scene, baker, self.camera_id, pose, self.frame, self.turns, self.keep_offset)


class KeyCamera(OfCamera):
    edit: Literal["set camera key"] = "set camera key"
    time: Time
    pose: Pose | None = None

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        pose = self.pose.value() if self.pose else None
        return edits.key_camera(scene, baker, self.camera_id, frame_time(self.time), pose)


class SetCameraValues(OfCamera):
    edit: Literal["set camera values"] = "set camera values"
    values: ChannelValues

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.set_camera_values(scene, self.camera_id, self.values)


class KeyCameraValues(OfCamera):
    edit: Literal["key camera values"] = "key camera values"
    time: Time
    values: ChannelValues

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.key_camera_values(scene, self.camera_id, frame_time(self.time), self.values)


class RunEvenly(OfCamera):
    edit: Literal["run rail evenly"] = "run rail evenly"
    first: Frame
    last: Frame

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.run_evenly(scene, self.camera_id, self.first, self.last)


class PutCameraBack(OfCamera):
    edit: Literal["put camera back"] = "put camera back"

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.put_camera_back(scene, self.camera_id)


class DeleteCameraKeys(OfCamera):
    edit: Literal["delete camera key"] = "delete camera key"
    time: Time

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.delete_camera_keys(scene, self.camera_id, frame_time(self.time))


class MoveCameraKeys(OfCamera):
    edit: Literal["move camera key"] = "move camera key"
    time: Time
    to: Time

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.move_camera_keys(scene, self.camera_id, frame_time(self.time), frame_time(self.to))


class ShapeCameraKeys(OfCamera):
    edit: Literal["shape camera key"] = "shape camera key"
    time: Time
    shape: KeyShape

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.shape_camera_keys(scene, self.camera_id, frame_time(self.time), self.shape)


# --- cameras as things of the scene ---


class LockCamera(OfCamera):
    edit: Literal["lock camera"] = "lock camera"
    locks: tuple[LockGroup, ...]

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.lock_camera(scene, self.camera_id, self.locks)


class RenameCamera(OfCamera):
    edit: Literal["rename camera"] = "rename camera"
    name: str

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.rename_camera(scene, self.camera_id, self.name)


class SetCameraRole(OfCamera):
    edit: Literal["set camera role"] = "set camera role"
    role: Role

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.set_camera_role(scene, self.camera_id, self.role)


class SetCameraLines(OfCamera):
    edit: Literal["set camera lines"] = "set camera lines"
    tint: int
    pattern: int

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.set_camera_lines(scene, self.camera_id, self.tint, self.pattern)


class CopyCamera(OfCamera):
    edit: Literal["copy camera"] = "copy camera"
    new_id: Id

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.copy_camera(scene, self.camera_id, self.new_id)


class DeleteCamera(OfCamera):
    edit: Literal["delete camera"] = "delete camera"
    replace_by: Id | None = None

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.delete_camera(scene, self.camera_id, self.replace_by)


class OrderCamera(OfCamera):
    edit: Literal["order camera"] = "order camera"
    place: Annotated[int, Field(ge=0, le=100_000)]

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.order_camera(scene, self.camera_id, self.place)


# --- cameras made in one action ---


class MakeCamera(OfCamera):
    edit: Literal["make camera"] = "make camera"
    pose: Pose
    role: Role = "shot"
    frame: Frame

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.make_camera(scene, baker, self.camera_id, self.pose.value(), self.role, self.frame)


class MakeFaceCamera(OfCamera):
    edit: Literal["make face camera"] = "make face camera"
    character_id: Id
    frame: Frame
    turns_with_head: bool = True

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.make_face_camera(scene, baker, self.camera_id, self.character_id, self.frame, self.turns_with_head)


class MakePointOfView(OfCamera):
    edit: Literal["make point of view"] = "make point of view"
    character_id: Id
    frame: Frame

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.make_point_of_view(scene, baker, self.camera_id, self.character_id, self.frame)


class MakeOverTheShoulder(OfCamera):
    edit: Literal["make over the shoulder"] = "make over the shoulder"
    character_id: Id
    other_id: Id
    frame: Frame

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.make_over_the_shoulder(scene, baker, self.camera_id, self.character_id, self.other_id, self.frame)


class MakeTwoShot(OfCamera):
    edit: Literal["make two-shot"] = "make two-shot"
    character_id: Id
    other_id: Id
    frame: Frame

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.make_two_shot(scene, baker, self.camera_id, self.character_id, self.other_id, self.frame)


class MakeReviewSet(OfCamera):
    edit: Literal["make review set"] = "make review set"
    character_id: Id
    parallel: bool = False

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.make_review_set(scene, baker, self.camera_id, self.character_id, self.parallel)


# --- how a camera is carried, turned, focused and held ---


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
    side_m: Annotated[float, Field(ge=-1000, le=1000)] = 3.0

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


# --- lens, delivery frame, saved views ---


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


# --- performances and the scene ---


class StepCharacter(Request):
    edit: Literal["step poses"] = "step poses"
    character_id: Id
    step: int
    offset: Frame = 0
    keep_key_poses: bool = False

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.step_character(scene, self.character_id, Stepping(self.step, self.offset, self.keep_key_poses))


class RideCharacter(Request):
    edit: Literal["ride"] = "ride"
    character_id: Id
    way: RideWay
    weight: float = 1.0
    anchor: str | None = None

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.ride_character(scene, self.character_id, Ride(self.way, self.weight, self.anchor))


class SetFront(Request):
    edit: Literal["set front"] = "set front"
    character_id: Id
    front_deg: float | None

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.set_front(scene, self.character_id, self.front_deg)


class RenameScene(Request):
    edit: Literal["rename scene"] = "rename scene"
    name: str

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.rename_scene(scene, self.name)


class SetFrames(Request):
    edit: Literal["set play range"] = "set play range"
    first: Frame
    last: Frame

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.set_frames(scene, self.first, self.last)


Edit = Annotated[
    PlaceCamera
    | KeyCamera
    | SetCameraValues
    | KeyCameraValues
    | RunEvenly
    | PutCameraBack
    | DeleteCameraKeys
    | MoveCameraKeys
    | ShapeCameraKeys
    | LockCamera
    | RenameCamera
    | SetCameraRole
    | SetCameraLines
    | CopyCamera
    | DeleteCamera
    | OrderCamera
    | MakeCamera
    | MakeFaceCamera
    | MakePointOfView
    | MakeOverTheShoulder
    | MakeTwoShot
    | MakeReviewSet
    | MountCamera
    | LayRail
    | AimCamera
    | FocusCamera
    | FrameCamera
    | BakeCamera
    | SolveDollyZoom
    | OrbitInstead
    | SetCameraLens
    | SetDelivery
    | SetRoom
    | SaveView
    | RecallView
    | RenameView
    | DeleteView
    | StepCharacter
    | RideCharacter
    | SetFront
    | RenameScene
    | SetFrames,
    Field(discriminator="edit"),
]


class View(Request):
    """What the browser shows, and the names of the parts that it holds already. ``camera_id`` is the camera that is
    looked through or worked on, None for the cut's."""

    character_id: Id | None = None
    joint: str | None = None
    frozen_frame: Frame | None = None
    camera_id: Id | None = None
    held: Annotated[list[Annotated[str, Field(max_length=64)]], Field(max_length=6000)] = []


class ViewRequest(Request):
    view: View = View()


class EditRequest(Request):
    """An edit made on a revision. ``request_id`` keeps an edit that is sent twice from being done twice."""

    revision: int
    request_id: Id
    edit: Edit
    view: View = View()


class PreviewRequest(Request):
    """An edit while it is in the hand: worked out and shown, not stored."""

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


REQUESTS: tuple[type[BaseModel], ...] = (ViewRequest, EditRequest, PreviewRequest, ReplayRequest, MakeScene)


def schema_of(models: tuple[type[BaseModel], ...], mode: Literal["validation", "serialization"]) -> dict[str, Any]:
    """One JSON Schema with all models as definitions."""
    from pydantic.json_schema import models_json_schema

    return models_json_schema([(m, mode) for m in models])[1]
