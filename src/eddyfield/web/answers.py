"""What the server answers, as models from which the browser's types are generated. Arrays travel as raw numbers."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, Field, SkipValidation

from eddyfield.core.cameras.aim import Aim
from eddyfield.core.cameras.camera import FilmBack, Glass, Role
from eddyfield.core.cameras.camera_channels import LockGroup
from eddyfield.core.cameras.focus import Focus
from eddyfield.core.cameras.framing import Framing
from eddyfield.core.cameras.room import Room
from eddyfield.core.cut.shots import Shot
from eddyfield.core.cut.sound import Mark
from eddyfield.core.edits.contents import ThingKind
from eddyfield.core.readings.limits import Strictness
from eddyfield.core.rig.source import RigSource
from eddyfield.core.time.keys import KeyMark
from eddyfield.store.changes import Way

from .answer import Answer
from .cut_answers import LinesFound, OtherCutView, RateChangeView, SoundFound, SoundView, TimecodeView
from .reading_answers import (
    Attention,
    ChangesTold,
    ChangeView,
    CutComparison,
    EditSent,
    LimitsChanged,
    LimitsTold,
    ReadingView,
    SpacingChartView,
    WhyView,
)
from .requests import AnyMount
from .sequence_answers import SequenceReadings, SequenceView
from .thing_answers import BlockView, CharacterView, PieceView


class Refusal(Answer):
    """Why something was not done, in the user's words."""

    message: str
    remedy: str
    revision: int | None = None
    edits_since: list[str] = Field(default_factory=list)
    asks: bool = False
    """It can be done all the same, if that is what is wanted."""


class SceneChanged(Answer):
    """An event: a scene was changed, by whom (empty: somebody without a name) and from which window."""

    scene_id: str
    revision: int
    way: Way
    edit: str
    who: str
    window_id: str | None
    remark: str
    """What is told beside it; may be empty."""


class SceneListed(Answer):
    id: str
    name: str
    first: int
    last: int
    rate: str
    cameras: int
    characters: list[str]
    changed_at: str
    revision: int
    has_picture: bool
    next_step: str
    """What comes next for it in the working order."""


class DeskAnswer(Answer):
    scenes: list[SceneListed]
    sequences: list[SequenceView]
    warning: str
    """Of what will soon be in the way of work, such as a disk that fills up; empty where there is nothing."""


class SavedViewView(Answer):
    id: str
    name: str
    path: str
    """Name of the part that shows the camera at this view."""


class CameraView(Answer):
    """Kind ``camera view``: a camera's settings; what is worked out from them is in the part ``path``."""

    kind: str = "camera view"
    id: str
    name: str
    role: Role
    tint: int
    pattern: int
    locks: list[LockGroup]
    locked: bool
    unkeyed: list[str]
    """Channels that were moved and not keyed."""
    keyed_channels: list[str]
    keys: SkipValidation[list[KeyMark]]
    """There may be thousands, made just before."""
    back: FilmBack
    glass: Glass
    mount: AnyMount
    mounts_left: list[str]
    """Kinds of mounts that it was on before, and which come back as they were left."""
    aim: Aim | None
    focus: Focus | None
    framing: Framing | None
    steps_with: str | None
    """The character with whose poses it is held."""
    path: str
    """Name of the part that holds its path."""
    channels: str
    """Name of the part that holds the keys of its channels."""
    views: list[SavedViewView]


class UseView(Answer):
    """A thing, in this scene or another, that performs the same file."""

    scene_id: str
    scene_name: str
    revision: int
    thing_id: str
    thing_name: str


class UsesAnswer(Answer):
    """Where else the file of a thing is performed."""

    uses: list[UseView]


class NextVersionView(Answer):
    """What bringing in a file as something's next version would change; without a ``thing_id`` it is like none."""

    thing_id: str | None
    changes: list[ChangeView]
    edit: EditSent | None
    renamed: list[tuple[str, str]] = Field(default_factory=list)
    """Joints that seem to be the same under another name: before, after."""
    goes_by_lost: list[tuple[str, str]] = Field(default_factory=list)
    """Cameras and props, each with a joint that it goes by and that is lost: the body would stand in for it."""
    stands_in: str = ""
    joints_added: list[str] = Field(default_factory=list)
    joints_lost: list[str] = Field(default_factory=list)
    last_before: int = 0
    """The frame on which the performance ends, as it is."""
    last_after: int = 0


class BesideView(Answer):
    """Another version of a performance, seen through the same cameras as the one that is performed."""

    character_id: str
    source: RigSource
    rig: str
    motion: str
    shown: str
    arc: str | None
    """Of the joint that is looked at; None where that version has none of its name."""


class AlsoArc(Answer):
    """A further arc that is drawn, by the name of its part."""

    thing_id: str
    joint: str
    arc: str


class SceneHead(Answer):
    """A scene as stored, with the names of the parts that show it."""

    id: str
    name: str
    revision: int
    undo: str | None
    redo: str | None
    rate: str
    rate_float: float
    first: int
    last: int
    width: int
    height: int
    pixel_aspect: float
    room: Room
    characters: list[CharacterView]
    pieces: list[PieceView]
    blocks: list[BlockView]
    around: str | None
    """Name of the scene that surrounds it, where it is worked on inside of another."""
    shots: str
    """Name of the part with the shots of the cut."""
    cut_name: str
    strictness: Strictness
    other_cuts: list[OtherCutView]
    timecode: TimecodeView
    blend: str | None
    """Name of the part with the blended moves of the cut, where there are any."""
    sounds: list[SoundView]
    marks: list[Mark]
    beside: BesideView | None
    arc: str | None
    also: list[AlsoArc]
    arc_judgement: str | None
    """Name of the part that judges the arc. Like what strobes and the readings, it follows after an edit."""
    match: str | None
    """Name of the part with both sides of the cut that is looked at."""
    two_cameras: str | None
    """Name of the part with what is looked at against the camera that is laid over it."""
    speed: str | None
    """Name of the part with the speed of the camera that is looked through by itself."""
    subjects: str | None
    """Name of the part with the figures of the subjects in the camera that is worked on."""
    fallbacks: list[str]
    """What of the view could not be shown as it was asked for, and what is shown in its place."""


class SceneSent(SceneHead):
    """As sent: cameras by the names of their parts, so that a scene of hundreds costs no more than a few. ``readings`` None:
    they were not asked for."""

    cameras: list[str]
    readings: list[ReadingView] | None


class SceneView(SceneHead):
    """As the browser puts it together."""

    cameras: list[CameraView]
    cut: list[Shot]
    readings: list[ReadingView]
    judged: bool
    """Whether its readings have come."""


class SceneAnswer(Answer):
    scene: SceneSent
    parts: dict[str, Any]


class RigOfFile(Answer):
    """One of the rigs that a file holds, as it would come in by itself."""

    name: str
    joints: int
    triangles: int
    height_units: float
    foot_units: list[float]
    """The middle of its bounds at the start of its motion, at their lowest: x, y, z."""


class Inspection(Answer):
    """What an uploaded file holds, and how it would come in."""

    digest: str
    file_name: str
    format: str
    format_title: str
    likely: ThingKind
    """What it looks like: rigged, small, or large."""
    joints: int
    triangles: int
    seconds: float
    animations: list[str]
    animation: str | None
    rigs: list[RigOfFile]
    """The rigs that it holds, where it holds several."""
    height_units: float
    foot_units: list[float]
    """The middle of its bounds at the start of its motion, at their lowest: x, y, z."""
    proposed_scale: float
    scales: list[float]
    offsets_matter: bool
    cameras: list[str]
    notes: list[str]


class Access(Answer):
    """Who is signed in, as other windows are told; empty where no name was given."""

    name: str


class SceneMade(Answer):
    id: str


class ExportNotes(Answer):
    """What the format of an export cannot carry of this shot."""

    notes: list[str]


ANSWERS: tuple[type[BaseModel], ...] = (
    SoundFound, LinesFound, RateChangeView, CutComparison, SequenceView, SequenceReadings, UsesAnswer, Refusal, WhyView,
    SpacingChartView, Attention, LimitsTold, LimitsChanged, ChangesTold, SceneChanged, Access, DeskAnswer, SceneAnswer,
    SceneView, CameraView, NextVersionView, Inspection, SceneMade, ExportNotes,
)  # fmt: skip
