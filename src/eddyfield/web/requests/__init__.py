"""What the browser may ask for, as models from which its types are generated, and the edit that each request names."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, Field

from eddyfield.core.scene import OffsetReading

from .base import Digest, Frame, Id, Request
from .camera_lenses import DeleteView, RecallView, RenameView, SaveView, SetCameraLens, SetDelivery, SetRoom
from .camera_moves import (
    DeleteCameraKeys,
    KeyCamera,
    KeyCameraValues,
    MoveCameraKeys,
    PlaceCamera,
    PutCameraBack,
    RunEvenly,
    SetCameraValues,
    ShapeCameraKeys,
)
from .camera_rigging import (
    AimCamera,
    BakeCamera,
    FocusCamera,
    FrameCamera,
    LayRail,
    MountCamera,
    OrbitInstead,
    SolveDollyZoom,
)
from .cameras import CopyCamera, DeleteCamera, LockCamera, OrderCamera, RenameCamera, SetCameraLines, SetCameraRole
from .made_cameras import MakeCamera, MakeFaceCamera, MakeOverTheShoulder, MakePointOfView, MakeReviewSet, MakeTwoShot
from .scenes import RenameScene, RideCharacter, SetFrames, SetFront, StepCharacter

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
    """What the browser shows, and what it holds already: parts by their names, and all those of the cameras as they were
    at a revision. ``camera_id`` is the camera that is looked through or worked on, None for the cut's. Not ``judged``, the
    answer brings the picture and no readings. ``window_id`` is the window that asks: undo is of its own edits."""

    window_id: Id | None = None
    character_id: Id | None = None
    joint: str | None = None
    frozen_frame: Frame | None = None
    camera_id: Id | None = None
    judged: bool = True
    cameras_of_revision: Annotated[int, Field(ge=1, lt=2**31)] | None = None
    held: Annotated[list[Annotated[str, Field(max_length=64)]], Field(max_length=6000)] = Field(default_factory=list)


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
    """Undo or redo on a revision. ``request_id`` keeps one that is sent twice from being done twice. Undo takes back what
    others did, where it has to, only if ``of_others`` says so."""

    revision: int
    request_id: Id | None = None
    of_others: bool = False
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


class SetName(Request):
    """Under which name others are told of this person's changes."""

    name: Annotated[str, Field(max_length=60)]


REQUESTS: tuple[type[BaseModel], ...] = (
    ViewRequest, EditRequest, PreviewRequest, ReplayRequest, MakeScene, SetName,
)  # fmt: skip


def schema_of(models: tuple[type[BaseModel], ...], mode: Literal["validation", "serialization"]) -> dict[str, Any]:
    """One JSON Schema with all models as definitions."""
    from pydantic.json_schema import models_json_schema

    return models_json_schema([(m, mode) for m in models])[1]
