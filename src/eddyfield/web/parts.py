"""The parts that answers name: what is worked out once, kept by the browser, and sent as raw numbers."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel

from eddyfield.core.cut.shots import Shot
from eddyfield.core.performance.at_source import ChangeAtSource
from eddyfield.core.readings.reading import ReadingKind
from eddyfield.core.rig.look import Look, MeshPart
from eddyfield.core.time.channels import Beyond

from .answer import Answer, Float32s, Float64s, Int32s, Uint8s, Uint16s, Uint32s
from .answers import CameraView
from .two_picture_parts import MatchPart, TwoCamerasPart


class ShapeView(Answer):
    """A shape of the mesh: which vertices it moves, (N,), how far at full weight, (N, 3), and what that does to their normals."""

    name: str
    vertices: Uint32s
    moves: Float32s
    turns: Float32s


class Surface(Answer):
    """Triangles that the slots of a rig carry, and the shapes that they are drawn towards."""

    positions: Float32s
    normals: Float32s
    colors: Float32s
    slots: Uint16s
    weights: Float32s
    triangles: Uint32s
    uvs: Float32s
    mesh_parts: list[MeshPart]
    shapes: list[ShapeView]


class SurfaceLevel(Surface):
    """A coarser surface, for pictures in which ``cell_m`` of the rest pose is hardly seen."""

    cell_m: float


class RigPart(Surface):
    """Kind ``rig``: what is drawn and picked. ``joint_parents`` index into ``joints``, -1 for roots."""

    kind: str = "rig"
    joints: list[str]
    joint_parents: Int32s
    looks: list[Look]
    images: list[Uint8s]
    """Files (PNG, JPEG, WebP), each as it is."""
    levels: list[SurfaceLevel]
    """Coarser surfaces of a heavy one, the finest first."""
    slot_count: int
    rest_matrices: Float32s
    """Skin matrices (slots, 16), column by column, at rest: what a set piece shows."""
    notes: list[str]


class MotionPart(Answer):
    """Kind ``motion``: the unstepped motion. Skin matrices (frames, slots, 16), column by column; joints (frames, joints,
    3); weights of shapes (frames, shapes)."""

    kind: str = "motion"
    skin: Float32s
    joints: Float32s
    shapes: Float32s


class PlacingPart(Answer):
    """Kind ``placing``: where a thing stands, (frames or 1, 4): x, height, z in metres, turn in degrees; and the frames of its
    keys."""

    kind: str = "placing"
    values: Float32s
    key_frames: Float64s


class CarriedPart(Answer):
    """Kind ``carried``: what carries a prop or set piece as shown, (frames or 1, 16), column by column."""

    kind: str = "carried"
    world_from_file: Float32s


class PieceMotionPart(Answer):
    """Kind ``piece motion``: what its own file moves of a piece, as shown: skin matrices (frames, slots, 16), column by column,
    in the axes of the file; places of the joints there (frames, joints, 3); weights of shapes (frames, shapes); and the frame
    whose pose each frame shows (frames,)."""

    kind: str = "piece motion"
    skin: Float32s
    joints: Float32s
    shapes: Float32s
    exposure_start: Int32s


class TimePart(Answer):
    """Kind ``time``: on each frame of the scene, how many frames of a thing's file have passed, (frames,)."""

    kind: str = "time"
    passed: Float64s


class CorrectionsPart(Answer):
    """Kind ``corrections``: what is laid over a performance, each as what would have to change at its source."""

    kind: str = "corrections"
    corrections: list[ChangeAtSource]


class ChangedPart(Answer):
    """Kind ``changed``: what the version of a performance changed, (frames,) each: how far the joint that moved most is from
    where the version before has it, px through the cut (NaN unseen), and its index among the joints; how many frames changed."""

    kind: str = "changed"
    px: Float32s
    joints: Int32s
    frames: int


class GripView(Answer):
    """A hand that holds on to something in the world, and stays there while the body rides."""

    joint: str
    first: int
    last: int


class ShownPart(Answer):
    """Kind ``shown``: which frame's pose each frame shows, and the world transform (frames, 16) that it rides by."""

    kind: str = "shown"
    exposure_start: Int32s
    carried: Float32s
    group_of_slot: Int32s
    """Which of its ``bent`` matrices a skin slot goes by before it is carried, -1 for none; empty where nothing is bent."""
    group_of_joint: Int32s
    bent: Float32s
    """(frames, groups, 16)."""
    grips: list[GripView]
    ride_weights: Float32s
    """(frames,); empty where the weight of Ride is the same throughout."""
    key_poses: Float32s
    lost_key_poses: list[float]


class StrobingFigures(Answer):
    strobes: bool
    """On at least one stretch, as the reading says."""
    rms_px: float | None
    max_px: float | None
    max_frame: int | None
    reversals: list[int]
    over_threshold: int
    feet_slide_m: float | None
    feet_slide_px: float | None
    legs_stretch: float | None
    """Share of its length by which a leg of a planted foot is stretched at most; None where nothing is planted."""
    feet_missed_m: float | None


class StrobingPart(Answer):
    """Kind ``strobing``: slip as shown, per frame (NaN unknown); figures as shown, with Ride off, and with rigid Ride."""

    kind: str = "strobing"
    slip_px: Float32s
    feet_slide_m: Float32s
    shown: StrobingFigures
    still: StrobingFigures
    ridden: StrobingFigures


class ChannelKeys(Answer):
    """The keys of one channel, in order of time: exact ``times``, the same as ``frames``, ``values`` in the channel's unit;
    ``shapes`` index into the shapes of keys; ``handles`` (keys, 4): how the curve arrives at each key and leaves it, whatever
    its shape, as frames and value of the one before and of the one after it, NaN where there is none; ``beyond``, how it goes on
    before and after them."""

    times: list[str]
    beyond: Beyond
    frames: Float64s
    values: Float64s
    shapes: Uint8s
    handles: Float64s


class ChannelsPart(Answer):
    """Kind ``channels``: of one owner those that have keys, by their names."""

    kind: str = "channels"
    keyed: dict[str, ChannelKeys]


class CameraPart(Answer):
    """Kind ``camera``: ``world_from_camera`` (frames, 16) column by column; ``pose`` (frames, 7) x y z pan tilt roll mm;
    ``pixels_per_slope`` (frames, 2). ``depths`` (frames, 4): focus, near limit, far limit, hyperfocal, metres. ``values``
    are its other channels by name, (frames,) each. Empty where there is none: ``wanted_px`` (frames, 2) of the framing
    lock; places (frames, 3) of what it aims at, goes by and holds; ``rail`` (points, 3). ``reached`` (frames,): 1 the
    aim, 2 the place, 4 the size can be had. ``view_height_m`` (frames,) of a parallel view. Of what is held: ``held_px``
    (frames, 2) where it is seen, ``away_px`` (frames,) how far from its place, ``held_size_px`` (frames,). Of what carries it:
    ``along`` (frames, 5) travel and rise in metres, turning, nodding, leaning in degrees, and ``along_px`` (5,) how far each
    moves the picture. ``rail_speed`` (frames,) in m/s."""

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
    held_px: Float32s
    away_px: Float32s
    held_size_px: Float32s
    along: Float32s
    along_px: Float32s
    rail: Float32s
    rail_length_m: float
    rail_speed: Float32s


class SubjectFigures(Answer):
    """One character through a camera, (frames,) each: distance and height of the camera from its face, metres; angle round
    from its front, degrees, positive to its left; its steady size, its height from crown to soles, its face's blur disc, px."""

    name: str
    distance_m: Float32s
    above_m: Float32s
    angle_deg: Float32s
    size_px: Float32s
    height_px: Float32s
    blur_px: Float32s


class SpeedPart(Answer):
    """Kind ``speed``: how fast a camera moves from each frame to the next, (frames,): its place in m/s, its turn in degrees/s,
    and still points at the focus distance in px a frame, which should keep below ``limit_px``."""

    kind: str = "speed"
    place_m_per_s: Float32s
    turn_deg_per_s: Float32s
    background_px: Float32s
    limit_px: float


class BlendPart(Answer):
    """Kind ``blend``: the cut on the frames of its blended moves, ``frames`` (n,); ``world_from_camera`` (n, 16) column by
    column, ``pose`` (n, 7), ``pixels_per_slope`` (n, 2), ``shifts`` (n, 2) in fractions of the frame, ``near_m`` (n,), ``depths``
    (n, 4) as a camera has them, ``disc_px`` (n,) the blur of what is infinitely far; ``view_height_m`` (n,) of parallel views, 0
    where there is a lens, empty where all are."""

    kind: str = "blend"
    frames: Int32s
    world_from_camera: Float32s
    pose: Float32s
    pixels_per_slope: Float32s
    shifts: Float32s
    near_m: Float32s
    view_height_m: Float32s
    depths: Float32s
    disc_px: Float32s


class ShotsPart(Answer):
    """Kind ``shots``: the shots of the cut, in order."""

    kind: str = "shots"
    shots: list[Shot]


class WaveformPart(Answer):
    """Kind ``waveform``: how far a sound swings in every hundredth of a second of its file, 0 to 255."""

    kind: str = "waveform"
    peaks: Uint8s


class SubjectsPart(Answer):
    """Kind ``subjects``: figures of every character in the camera that is worked on; ``circle_px`` is what counts as sharp."""

    kind: str = "subjects"
    circle_px: float
    characters: list[SubjectFigures]


class ArcFaultView(Answer):
    frame: int
    kind: ReadingKind
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


class ArcJudgementPart(Answer):
    """Kind ``arc judgement``: of the arc, per frame, px of the delivery frame; NaN where unknown."""

    kind: str = "arc judgement"
    off_arc_px: Float32s
    off_spacing_px: Float32s
    least_px: Float32s
    undetectable: Uint8s
    """1 where nothing can be told: the least that could be exceeds 1 % of the frame's height."""
    faults: list[ArcFaultView]


class Parts(Answer):
    """By name; only those that the browser does not hold."""

    parts: dict[
        str,
        RigPart
        | MotionPart
        | ShownPart
        | PlacingPart
        | ChangedPart
        | CorrectionsPart
        | CarriedPart
        | PieceMotionPart
        | StrobingPart
        | CameraView
        | CameraPart
        | ChannelsPart
        | SubjectsPart
        | ArcPart
        | ArcJudgementPart,
    ]


class Splice(Answer):
    """In a part, at the end of ``path``: so many items ``removed`` from the place ``at``, and ``items`` put there; ``at`` None:
    all of it is these. Arrays are counted flat, as they are sent."""

    path: list[str]
    at: int | None
    removed: int
    items: Any


class PartChange(Answer):
    """A part as what is different in it from the part ``base``."""

    kind: str = "change"
    base: str
    splices: list[Splice]


PARTS: tuple[type[BaseModel], ...] = (
    RigPart, MotionPart, ChangedPart, PlacingPart, CarriedPart, PieceMotionPart, ShownPart, StrobingPart,
    CameraPart, ChannelsPart, SpeedPart, BlendPart, ShotsPart, MatchPart, TwoCamerasPart, TimePart, WaveformPart,
    SubjectsPart, ArcPart, ArcJudgementPart, PartChange, Parts,
)  # fmt: skip
