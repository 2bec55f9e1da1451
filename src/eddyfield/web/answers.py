"""What the server answers, as models from which the browser's types are generated. Arrays travel as raw numbers."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, WithJsonSchema

from eddyfield.core.cameras.aim import Aim
from eddyfield.core.cameras.camera import FilmBack, Glass, LockGroup, Role
from eddyfield.core.cameras.focus import Focus
from eddyfield.core.cameras.framing import Framing
from eddyfield.core.cameras.room import Room
from eddyfield.core.cut.cut import Span
from eddyfield.core.performance.ride import RideWay
from eddyfield.core.readings.reading import Figure, ReadingKind
from eddyfield.core.time.channels import KeyShape
from eddyfield.store.changes import Way

from .requests import AnyMount

Float32s = Annotated[Any, WithJsonSchema({"tsType": "Float32Array"})]
Int32s = Annotated[Any, WithJsonSchema({"tsType": "Int32Array"})]
Uint8s = Annotated[Any, WithJsonSchema({"tsType": "Uint8Array"})]
Uint16s = Annotated[Any, WithJsonSchema({"tsType": "Uint16Array"})]
Uint32s = Annotated[Any, WithJsonSchema({"tsType": "Uint32Array"})]


class Answer(BaseModel):
    model_config = ConfigDict(extra="forbid", arbitrary_types_allowed=True)


class Refusal(Answer):
    """Why something was not done, in the user's words."""

    message: str
    remedy: str
    revision: int | None = None
    edits_since: list[str] = []
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


class DeskAnswer(Answer):
    scenes: list[SceneListed]
    warning: str
    """Of what will soon be in the way of work, such as a disk that fills up; empty where there is nothing."""


class CameraKeyView(Answer):
    """A frame on which a camera has keys; ``frame`` may lie between frames, ``time`` is exact."""

    time: str
    frame: float
    shape: KeyShape


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
    keys: list[CameraKeyView]
    back: FilmBack
    glass: Glass
    mount: AnyMount
    aim: Aim | None
    focus: Focus | None
    framing: Framing | None
    path: str
    """Name of the part that holds its path."""
    views: list[SavedViewView]


class CharacterView(Answer):
    id: str
    name: str
    step: int
    offset: int
    keep_key_poses: bool
    ride_way: RideWay
    ride_weight: float
    ride_anchor: str | None
    anchor: str
    feet: list[int]
    """Indices into the rig's joints."""
    front: list[float]
    """Level unit vector that the character faces, x y z."""
    front_deg: float | None
    """As set by hand; None goes by the file."""
    face_joint: str
    """The joint that carries the face."""
    face_centre: list[float]
    """The middle of the face in the axes of that joint, metres."""
    face_height_m: float
    calm_joint: str
    """The joint that carries the body: what to go by where others bob."""
    rig: str
    motion: str
    shown: str
    strobing: str


class SetPieceView(Answer):
    id: str
    name: str
    rig: str


class FixView(Answer):
    """An edit that mends what a reading tells."""

    title: str
    does: str
    edit: Annotated[Any, WithJsonSchema({"tsType": 'EditRequest["edit"]'})]


class ReadingView(Answer):
    """The ids say what it is about; the list of them has the one that hurts most first."""

    kind: ReadingKind
    subject: str
    first: int
    last: int
    size: float
    unit: str
    threshold: float
    fixes: list[FixView]
    character_id: str | None
    camera_id: str | None
    figures: list[Figure]
    remark: bool
    """Told as such; no fault."""
    note: str


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
    set_pieces: list[SetPieceView]
    cut: list[Span]
    arc: str | None
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
    readings: list[ReadingView]


class RigPart(Answer):
    """Kind ``rig``: what is drawn and picked. ``joint_parents`` index into ``joints``, -1 for roots."""

    kind: str = "rig"
    joints: list[str]
    joint_parents: Int32s
    positions: Float32s
    normals: Float32s
    colors: Float32s
    slots: Uint16s
    weights: Float32s
    triangles: Uint32s
    slot_count: int
    rest_matrices: Float32s
    """Skin matrices (slots, 16), column by column, at rest: what a set piece shows."""
    notes: list[str]


class MotionPart(Answer):
    """Kind ``motion``: the unstepped motion. Skin matrices (frames, slots, 16), column by column; joints (frames, joints, 3)."""

    kind: str = "motion"
    skin: Float32s
    joints: Float32s


class ShownPart(Answer):
    """Kind ``shown``: which frame's pose each frame shows, and the world transform (frames, 16) that it rides by."""

    kind: str = "shown"
    exposure_start: Int32s
    carried: Float32s
    key_poses: Float32s
    lost_key_poses: list[float]


class StrobingFigures(Answer):
    rms_px: float | None
    max_px: float | None
    max_frame: int | None
    reversals: list[int]
    over_threshold: int
    feet_slide_m: float | None


class StrobingPart(Answer):
    """Kind ``strobing``: slip as shown, per frame (NaN unknown); figures as shown, with Ride off, and with rigid Ride."""

    kind: str = "strobing"
    slip_px: Float32s
    feet_slide_m: Float32s
    shown: StrobingFigures
    still: StrobingFigures
    ridden: StrobingFigures


class CameraPart(Answer):
    """Kind ``camera``: ``world_from_camera`` (frames, 16) column by column; ``pose`` (frames, 7) x y z pan tilt roll mm;
    ``pixels_per_slope`` (frames, 2). ``depths`` (frames, 4): focus, near limit, far limit, hyperfocal, metres. ``values``
    are its other channels by name, (frames,) each. Empty where there is none: ``wanted_px`` (frames, 2) of the framing
    lock; places (frames, 3) of what it aims at, goes by and holds; ``rail`` (points, 3). ``reached`` (frames,): 1 the
    aim, 2 the place, 4 the size can be had. ``view_height_m`` (frames,) of a parallel view."""

    kind: str = "camera"
    world_from_camera: Float32s
    pose: Float32s
    pixels_per_slope: Float32s
    depths: Float32s
    view_height_m: Float32s
    values: dict[str, Float32s]
    reached: Uint8s
    wanted_px: Float32s
    aim_places: Float32s
    mount_places: Float32s
    framing_places: Float32s
    rail: Float32s


class SubjectFigures(Answer):
    """One character through a camera, (frames,) each: distance and height of the camera from its face, metres; angle round
    from its front, degrees, positive to its left; how high it stands in the frame, and its face's blur disc, px."""

    name: str
    distance_m: Float32s
    above_m: Float32s
    angle_deg: Float32s
    size_px: Float32s
    blur_px: Float32s


class SubjectsPart(Answer):
    """Kind ``subjects``: figures of every character in the camera that is worked on; ``circle_px`` is what counts as sharp."""

    kind: str = "subjects"
    circle_px: float
    characters: list[SubjectFigures]


class ArcFaultView(Answer):
    frame: int
    kind: str
    size_px: float
    least_px: float


class ArcPart(Answer):
    """Kind ``arc``: the track of a joint, per frame, px of the delivery frame; NaN where unknown."""

    kind: str = "arc"
    joint: str
    pixels: Float32s
    spacing_px: Float32s
    subject_px: Float32s
    camera_px: Float32s
    off_arc_px: Float32s
    off_spacing_px: Float32s
    least_px: Float32s
    untold: Uint8s
    """1 where nothing can be told: the least that could be exceeds 1 % of the frame's height."""
    faults: list[ArcFaultView]


class Parts(Answer):
    """By name; only those that the browser does not hold."""

    parts: dict[str, RigPart | MotionPart | ShownPart | StrobingPart | CameraView | CameraPart | SubjectsPart | ArcPart]


class SceneAnswer(Answer):
    scene: SceneSent
    parts: dict[str, Any]


class Inspection(Answer):
    """What an uploaded file holds, and how it would come in."""

    digest: str
    file_name: str
    format: str
    format_title: str
    joints: int
    triangles: int
    seconds: float
    animations: list[str]
    animation: str | None
    height_units: float
    proposed_scale: float
    scales: list[float]
    offsets_matter: bool
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
    Refusal, SceneChanged, Access, DeskAnswer, SceneAnswer, SceneView, RigPart, MotionPart, ShownPart, StrobingPart,
    CameraView, CameraPart, SubjectsPart, ArcPart, Parts, Inspection, SceneMade, ExportNotes,
)  # fmt: skip
