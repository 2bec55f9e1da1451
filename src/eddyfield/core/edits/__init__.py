"""Every change of a scene: a frozen dataclass each, whose ``apply`` makes a new scene. See ``edit.py``.

A file that is put into this folder is found by itself: what follows from its edits (requests, the browser's types, the
journal) needs no other place.
"""

from importlib import import_module
from pkgutil import iter_modules
from typing import TypeVar

from .camera_keys import ChosenKeys, DeleteCameraKeys, PasteCameraKeys, RetimeCameraKeys, ShapeCameraKeys
from .camera_lenses import SetCameraLens, SetDelivery, SetRoom
from .camera_mounts import CarryCamera, MountCamera
from .camera_moves import (
    KeyCamera,
    KeyCameraValues,
    PlaceCamera,
    PutCameraBack,
    ReachWithMount,
    SetCameraValues,
    Turns,
)
from .camera_rigging import AimCamera, BakeCamera, FocusCamera, FrameCamera
from .cameras import (
    CopyCamera,
    DeleteCamera,
    LockCamera,
    OrderCamera,
    RenameCamera,
    SetCameraLines,
    SetCameraRole,
    add_camera,
)
from .dolly_zooms import DollyZoom, Given, SolveDollyZoom
from .edit import Edit
from .made_cameras import MakeCamera, MakeFaceCamera, MakeOverTheShoulder, MakePointOfView, MakeReviewSet, MakeTwoShot
from .performances import RideCharacter, SetFront, StepCharacter
from .rails import LayRail, OrbitInstead, RailShape, RunRail
from .saved_views import DeleteView, RecallView, RenameView, SaveView
from .scenes import RenameScene, SetFrames
from .sequences import SequenceEdit
from .versions import BringNextVersion, version_of

Kind = TypeVar("Kind", bound=Edit | SequenceEdit)

for _module in iter_modules(__path__):
    import_module(f"{__name__}.{_module.name}")


def _by_kind(kinds: list[type[Kind]]) -> dict[str, type[Kind]]:
    return dict(sorted((str(kind.__dataclass_fields__["edit"].default), kind) for kind in kinds))


BY_KIND = _by_kind(Edit.__subclasses__())
"""Every kind of edit of a scene, by its name."""
_TITLES = {name: kind.title for name, kind in (_by_kind(SequenceEdit.__subclasses__()) | BY_KIND).items()}


def title_of(kind: str) -> str:
    """What people call a kind of edit, of a scene or of a sequence; one that there no longer is, by its name."""
    return _TITLES.get(kind, kind)


__all__ = [
    "BY_KIND",
    "AimCamera",
    "BakeCamera",
    "BringNextVersion",
    "CarryCamera",
    "ChosenKeys",
    "CopyCamera",
    "DeleteCamera",
    "DeleteCameraKeys",
    "DeleteView",
    "DollyZoom",
    "Edit",
    "FocusCamera",
    "FrameCamera",
    "Given",
    "KeyCamera",
    "KeyCameraValues",
    "LayRail",
    "LockCamera",
    "MakeCamera",
    "MakeFaceCamera",
    "MakeOverTheShoulder",
    "MakePointOfView",
    "MakeReviewSet",
    "MakeTwoShot",
    "MountCamera",
    "OrbitInstead",
    "OrderCamera",
    "PasteCameraKeys",
    "PlaceCamera",
    "PutCameraBack",
    "RailShape",
    "ReachWithMount",
    "RecallView",
    "RenameCamera",
    "RenameScene",
    "RenameView",
    "RetimeCameraKeys",
    "RideCharacter",
    "RunRail",
    "SaveView",
    "SetCameraLens",
    "SetCameraLines",
    "SetCameraRole",
    "SetCameraValues",
    "SetDelivery",
    "SetFrames",
    "SetFront",
    "SetRoom",
    "ShapeCameraKeys",
    "SolveDollyZoom",
    "StepCharacter",
    "Turns",
    "add_camera",
    "title_of",
    "version_of",
]  # fmt: skip
