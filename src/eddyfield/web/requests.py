"""What the browser may ask for, as models from which its types are generated. What can be changed is in ``core/edits``."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import is_dataclass
from functools import cache
from types import UnionType
from typing import TYPE_CHECKING, Annotated, Any, Literal, Union, get_args, get_origin, get_type_hints

import orjson
from pydantic import (
    AfterValidator,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    GetCoreSchemaHandler,
    GetJsonSchemaHandler,
    TypeAdapter,
    ValidationError,
)
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema, core_schema

from eddyfield.core.cameras.mounts import Mount
from eddyfield.core.edits import BY_KIND, Edit
from eddyfield.core.edits.sequences import SequenceChange, SequenceEdit
from eddyfield.core.readings.reading import ReadingKind, Unit
from eddyfield.core.readings.spacing_chart import Intent
from eddyfield.core.readings.why import Told
from eddyfield.core.rig.source import OffsetReading, RigSource
from eddyfield.core.time.frames import FrameTime
from eddyfield.formats.stand_in import Metres, Shape

LONGEST_TEXT = 2000
_TIME = re.compile(r"-?\d{1,12}(/\d{1,9})?")

Id = Annotated[str, Field(pattern=r"^[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}$"), AfterValidator(str.lower)]
"""Small letters, however it is written: the database does not tell them apart."""
Frame = Annotated[int, Field(ge=-10_000_000, le=10_000_000)]
Digest = Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
AnyMount = Annotated[Mount, Field(discriminator="kind")]


_hints = cache(get_type_hints)


def _exact_times(edit: Any) -> Any:
    """Times come as text such as ``"2003/2"``: anything else that could be read as a fraction might take for ever."""
    kind = BY_KIND.get(str(edit.get("edit"))) if isinstance(edit, dict) else None
    if kind is not None:
        _check_times("edit", edit, kind)
    return edit


def _check_times(name: str, value: Any, hint: Any) -> None:
    """Look for times wherever an edit has them; what else is wrong with it is found later."""
    if hint is FrameTime:
        if not (isinstance(value, str) and _TIME.fullmatch(value)):
            raise ValueError(f"{name} is not a time such as 1001 or 2003/2")
    elif isinstance(hint, type) and is_dataclass(hint) and isinstance(value, dict):
        for field, inner in _hints(hint).items():
            if field in value:
                _check_times(field, value[field], inner)
    elif get_origin(hint) in (Union, UnionType):
        # A time or nothing; other choices are told apart by what they are.
        inner = [option for option in get_args(hint) if option is not type(None)]
        for option in inner if value is not None else ():
            if option is not FrameTime or len(inner) == 1:
                _check_times(name, value, option)
    elif get_origin(hint) is tuple and isinstance(value, list):
        for item in value:
            _check_times(name, item, get_args(hint)[0])
    elif get_origin(hint) is Mapping and isinstance(value, dict):
        for item in value.values():
            _check_times(name, item, get_args(hint)[1])


_CONFIG = ConfigDict(extra="forbid", allow_inf_nan=False, str_max_length=LONGEST_TEXT, defer_build=True)


class BuiltOnce:
    """Stands for a type that takes long to build: checked by one adapter, which is made when something is first checked, not by
    one of its own in every request that holds it."""

    def __init__(self, adapter: TypeAdapter[Any]) -> None:
        self._adapter = adapter

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.no_info_plain_validator_function(self._adapter.validate_python)

    def __get_pydantic_json_schema__(self, schema: CoreSchema, handler: GetJsonSchemaHandler) -> JsonSchemaValue:
        return handler(self._adapter.core_schema)


if TYPE_CHECKING:
    AnyEdit = Edit
    _EDIT: TypeAdapter[Edit]
else:
    _ONE_OF_ALL = Annotated[Union[tuple(BY_KIND.values())], Field(discriminator="edit"), BeforeValidator(_exact_times)]  # noqa: UP007
    _EDIT = TypeAdapter(_ONE_OF_ALL, config=_CONFIG)
    AnyEdit = Annotated[Edit, BuiltOnce(_EDIT)]


def edit_as_text(edit: Edit) -> str:
    """An edit with its version, as it is written down in the journal."""
    return orjson.dumps({"version": edit.version, **_EDIT.dump_python(edit, mode="json")}).decode()


def edit_of_text(text: str) -> Edit | None:
    """An edit as it was written down in the journal; None for one of another version."""
    told = orjson.loads(text)
    version = told.pop("version", None)
    try:
        edit: Edit = _EDIT.validate_python(told)
    except ValidationError:
        return None
    return edit if edit.version == version else None


class Request(BaseModel):
    model_config = _CONFIG


class Beside(Request):
    """Another version of a character's performance, to be shown beside the one that is performed."""

    character_id: Id
    source: RigSource


class FollowedJoint(Request):
    """A joint, or a ``point N`` on the mesh, of a character, prop or set piece."""

    thing_id: Id
    joint: str


class Within(Request):
    """The block of another scene as which a scene plays there: what surrounds it is shown with it."""

    scene_id: Id
    block_id: Id


class View(Request):
    """What the browser shows, and what it holds already: parts by their names, and all those of the cameras as they were
    at a revision. ``joint`` is one of the character, prop or set piece ``thing_id``, or a ``point N`` on its mesh, whose way
    over the screen is looked at. ``camera_id`` is the camera that is looked through or worked on, None for the cut's.
    ``matched_frame`` is the first frame of a shot whose cut is looked at from both sides. Not ``judged``, the answer brings
    the picture and no readings. ``window_id`` is the window that asks: undo is of its own edits."""

    window_id: Id | None = None
    thing_id: Id | None = None
    joint: str | None = None
    frozen_frame: Frame | None = None
    camera_id: Id | None = None
    judged: bool = True
    beside: Beside | None = None
    within: Within | None = None
    also: Annotated[list[FollowedJoint], Field(max_length=24)] = Field(default_factory=list)
    """Further joints whose arcs are drawn."""
    matched_frame: Frame | None = None
    laid_over: Id | None = None
    """The camera whose picture is laid over the one that is looked at."""
    takes_changes: bool = False
    """A part may come as what is different in it from one that the browser holds."""
    cameras_of_revision: Annotated[int, Field(ge=1, lt=2**31)] | None = None
    known_parts: Annotated[list[Annotated[str, Field(max_length=64)]], Field(max_length=6000)] = Field(
        default_factory=list
    )


class Candidates(Request):
    """What would be best for a character."""

    character_id: Id
    view: View = View()


class WhyRequest(Request):
    """Which reading it is that one wants to see the reason of, as it was told."""

    told: Told


class SpacingRequest(Request):
    """The spacing of a joint over a stretch, through a camera or (None) the cut; ``intent`` None is the one that fits best, of
    ``own`` shares of the way is one a frame."""

    thing_id: Id
    joint: str
    camera_id: Id | None
    first: Frame
    last: Frame
    intent: Intent | None
    own: Annotated[list[Annotated[float, Field(ge=0, le=1)]], Field(max_length=500)] = []


class EffectRequest(Request):
    """What an edit would make better and worse."""

    edit: AnyEdit


class LimitsRequest(Request):
    """The limits that are not as usual from now on, by name, and those that were when they were looked at."""

    values: Annotated[dict[str, float], Field(max_length=100)]
    was: Annotated[dict[str, float], Field(max_length=100)]
    window_id: Id | None = None


class SeenReading(Request):
    """A reading as it was told at an earlier look."""

    kind: ReadingKind
    subject: Annotated[str, Field(max_length=200)]
    first: Frame
    last: Frame
    size: float
    unit: Unit
    threshold: float
    character_id: str | None
    camera_id: str | None
    joint: str | None
    remark: bool


class EarlierVersion(Request):
    """What a character performed before."""

    character_id: Id
    source: RigSource


class SinceRequest(Request):
    """Since when: what was told at an earlier look, or (where it is given) what another version of a performance has told now."""

    seen: Annotated[list[SeenReading], Field(max_length=2000)] = []
    version: EarlierVersion | None = None


class ViewRequest(Request):
    view: View = View()


class EditRequest(Request):
    """An edit made on a revision. ``request_id`` keeps an edit that is sent twice from being done twice; ``remark`` is what other
    windows are told beside it."""

    revision: int
    request_id: Id
    edit: AnyEdit
    remark: Annotated[str, Field(max_length=200)] = ""
    view: View = View()


class PreviewRequest(Request):
    """An edit while it is in the hand: worked out and shown, not stored."""

    edit: AnyEdit
    view: View = View()


class ReplayRequest(Request):
    """Undo or redo on a revision, which a window's own edits do not go by. ``request_id`` keeps one that is sent twice from being
    done twice. Undo takes back what others did, where it has to, only if ``of_others`` says so."""

    revision: int
    request_id: Id | None = None
    of_others: bool = False
    view: View = View()


if TYPE_CHECKING:
    AnySequenceEdit = SequenceEdit
else:
    AnySequenceEdit = Annotated[SequenceChange, Field(discriminator="edit")]
_SEQUENCE_EDIT: TypeAdapter[SequenceEdit] = TypeAdapter(AnySequenceEdit)


def sequence_edit_as_text(edit: SequenceEdit) -> str:
    """The same of an edit of a sequence."""
    return orjson.dumps({"version": edit.version, **_SEQUENCE_EDIT.dump_python(edit, mode="json")}).decode()


class MakeSequence(Request):
    """A new sequence of scenes, in order."""

    name: Annotated[str, Field(max_length=LONGEST_TEXT)]
    scene_ids: Annotated[list[Id], Field(max_length=500)] = Field(default_factory=list)


class SequenceEditRequest(Request):
    """An edit of a sequence made on a revision; ``request_id`` keeps one that is sent twice from being done twice."""

    revision: int
    request_id: Id
    edit: AnySequenceEdit


class SequenceReplayRequest(Request):
    """Undo or redo of a sequence on a revision."""

    revision: int


class MakeScene(Request):
    """A new scene from an uploaded file."""

    digest: Digest
    format: Annotated[str, Field(max_length=40)]
    name: str
    scale: Annotated[float, Field(ge=1e-6, le=1e6)]
    rate: str = "24"
    start: Frame = 1
    animation: str | None = None
    offsets: OffsetReading = "auto"
    rig: str | None = None


class NextVersion(Request):
    """An uploaded file that may be the next version of a thing of the scene, or (None) of the character it is most like."""

    digest: Digest
    format: Annotated[str, Field(max_length=40)]
    file_name: Annotated[str, Field(max_length=200)] = ""
    thing_id: Id | None = None
    lost: Annotated[list[str], Field(max_length=4096)] = Field(default_factory=list)
    """Joints that are not to be taken for ones of another name."""


class MakeStandIn(Request):
    """A simple shape or figure, as a file to bring in."""

    shape: Shape
    width_m: Metres = 1.0
    height_m: Metres = 1.0
    depth_m: Metres = 1.0


class SetName(Request):
    """Under which name others are told of this person's changes."""

    name: Annotated[str, Field(max_length=60)]


REQUESTS: tuple[type[BaseModel], ...] = (
    ViewRequest, SpacingRequest, EffectRequest, SinceRequest, WhyRequest, LimitsRequest, Candidates, EditRequest, PreviewRequest,
    ReplayRequest, MakeScene, MakeStandIn, NextVersion, MakeSequence, SequenceEditRequest, SequenceReplayRequest, SetName,
)  # fmt: skip


def build_requests() -> None:
    """What checks requests, which otherwise is built with the first of each kind."""
    for model in REQUESTS:
        model.model_rebuild()
    _EDIT.rebuild()


def schema_of(models: tuple[type[BaseModel], ...], mode: Literal["validation", "serialization"]) -> dict[str, Any]:
    """One JSON Schema with all models as definitions."""
    from pydantic.json_schema import models_json_schema

    return models_json_schema([(m, mode) for m in models])[1]
