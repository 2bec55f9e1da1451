"""What is answered about characters, props, set pieces and blocks."""

from __future__ import annotations

from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.holding import Hold
from eddyfield.core.performance.nested import Ground
from eddyfield.core.performance.own_exposures import OwnExposures
from eddyfield.core.performance.piece import PieceKind
from eddyfield.core.performance.ride import RideWay
from eddyfield.core.performance.showing import Showing
from eddyfield.core.performance.timing import Timing
from eddyfield.core.performance.version import Version
from eddyfield.core.rig.source import RigSource

from .answer import Answer


class RideKey(Answer):
    """A weight of Ride at an exact time."""

    time: str
    weight: float


class CharacterView(Answer):
    id: str
    name: str
    block_id: str | None
    """Of the block that it comes with."""
    step: int
    offset: int
    keep_key_poses: bool
    step_in_file_time: bool
    parts: list[OwnExposures]
    """Those with exposures of their own."""
    own_exposures: bool
    """A list of its own says on which frames a new pose is shown, and no grid does."""
    ride_way: RideWay
    ride_weight: float
    ride_keys: list[RideKey]
    """Its weight over time; empty where it is not keyed."""
    ride_plants: bool
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
    source: RigSource
    timing: Timing
    file_frames: float
    """How long the motion of its file is, in frames of the scene's rate."""
    time: str
    """Name of the part that says how its time runs."""
    placing: str
    showing: Showing
    file_cameras: list[str]
    gone_by: list[str]
    """Names of the cameras that go by it, and of the props that it holds."""
    versions: list[Version]
    corrections: str | None
    """Name of the part with what is laid over its motion; None where that is nothing."""
    compared_with: Version | None
    """The version that this one is looked at beside."""
    changed: str | None
    """Name of the part that says what this version changed; None where there is none before it. It follows after an edit."""
    rig: str
    motion: str
    shown: str
    strobing: str


class PieceView(Answer):
    """``motion`` names the part with what its file moves, None where that is nothing; ``placed`` the one with what carries it."""

    id: str
    name: str
    block_id: str | None
    """Of the block that it comes with."""
    kind: PieceKind
    source: RigSource
    timing: Timing
    file_frames: float
    """How long the motion of its file is, in frames of the scene's rate."""
    time: str
    """Name of the part that says how its time runs."""
    placing: str
    showing: Showing
    file_cameras: list[str]
    """Cameras that came with its file, by their names."""
    gone_by: list[str]
    stepping: Stepping | None
    """Its own exposures; None: as who holds it."""
    holds: list[Hold]
    rig: str
    motion: str | None
    placed: str


class BlockView(Answer):
    """Another scene that plays inside one, from ``first`` to ``last``; ``gone_by`` are names of cameras and props that go by what
    comes with it."""

    id: str
    name: str
    scene_id: str
    scene_name: str
    first: int
    last: int
    ground: Ground
    gone_by: list[str]
