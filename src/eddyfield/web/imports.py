"""Bringing in a rig: look into the file, propose a scale, and make a scene with a camera that fits."""

from __future__ import annotations

import math
import uuid
from dataclasses import replace
from pathlib import PurePath

import numpy as np

from eddyfield.core.arrays import Floats
from eddyfield.core.cameras import placement
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.cameras.camera_channels import camera_channels
from eddyfield.core.cut.cut import Cut
from eddyfield.core.edits.contents import ThingKind
from eddyfield.core.edits.names import usable_name
from eddyfield.core.errors import DomainError
from eddyfield.core.optics.lens import DeliveryFrame
from eddyfield.core.performance.character import Character
from eddyfield.core.performance.performance import Performance
from eddyfield.core.performance.timing import Timing
from eddyfield.core.rig import transforms
from eddyfield.core.rig.rig import Rig
from eddyfield.core.rig.source import RigSource
from eddyfield.core.scene import LONGEST_SCENE, Scene
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.frames import FrameRange, FrameTime, Rate, last_frame_of, seconds_at
from eddyfield.formats.errors import FileError
from eddyfield.formats.gltf.container import embedded
from eddyfield.formats.gltf.read import animation_names
from eddyfield.formats.stand_in import StandIn
from eddyfield.formats.stand_in import write as write_stand_in
from eddyfield.formats.table import FORMATS, format_named, format_of, read_rig

from .answers import Inspection, RigOfFile
from .requests import MakeScene, MakeStandIn

BESIDE = (".bin", ".png", ".jpg", ".jpeg", ".webp")
"""What may come beside a .gltf."""
SCALES = (1.0, 0.1, 0.01, 0.001, 0.0254, 0.3048)
FEWEST_JOINTS = 6
MOST_RIGS = 12
"""Looked into at a time."""
LARGEST_PROP_M = 3.0
MOST_NODE_FRAMES = 4_000_000
USUAL_HEIGHT_M = 1.7
BELIEVABLE_M = (0.4, 4.0)


def self_contained(files: dict[str, bytes]) -> tuple[str, bytes]:
    """The main file of an upload, with the buffers and images that came beside it put inside. Raises ``FileError``."""
    main = [name for name in files if PurePath(name).suffix.lower() not in BESIDE]
    if len(main) != 1:
        known = ", ".join(suffix for kind in FORMATS for suffix in kind.suffixes)
        raise FileError("Bring in one file at a time.", f"Drop one of {known}; beside a .gltf what belongs to it.")
    name = main[0]
    if format_of(name).name != "gltf" or files[name][:4] == b"glTF":
        return name, files[name]

    def beside(wanted: str) -> bytes:
        for other, data in files.items():
            if other.split("/")[-1] == wanted.split("/")[-1]:
                return data
        raise FileError(f"The file needs “{wanted[:120]}”, which did not come with it.", "Drop both files together.")

    return name, embedded(files[name], beside)


def inspect(name: str, data: bytes, digest: str) -> Inspection:
    """Look into a file and propose how it comes in."""
    kind = format_of(name)
    try:
        rig = read_rig(data, RigSource(digest, kind.name))
    except FileError as error:
        raise FileError(f"“{name}” cannot be brought in. {error.message}", error.remedy) from error
    sides, foot = _extent(rig)
    height = float(sides[1])
    likely = _likely(rig, sides * kind.default_scale) if kind.has_surfaces else "character"
    each = [read_rig(data, RigSource(digest, kind.name, rig=name)) for name in rig.alternatives[:MOST_RIGS]]
    animations = animation_names(data) if kind.name == "gltf" else []
    return Inspection(
        digest=digest, file_name=name, format=kind.name, format_title=kind.title, likely=likely, joints=len(rig.joints),
        triangles=len(rig.mesh.triangles) if rig.mesh else 0, seconds=rig.motion.duration_seconds,
        animations=animations, animation=None, rigs=list(map(_of_file, rig.alternatives, each)),
        height_units=height, foot_units=foot,
        proposed_scale=_proposed_scale(height, kind.default_scale) if likely == "character" else kind.default_scale,
        scales=sorted({*SCALES, kind.default_scale}, reverse=True),
        offsets_matter=any("OFFSET" in note for note in rig.notes), cameras=[c.name for c in rig.cameras], notes=list(rig.notes),
    )  # fmt: skip


def _extent(rig: Rig) -> tuple[Floats, list[float]]:
    """The sides of its bounds, and the middle of them at their lowest, in units of the file."""
    low, high = (corner / rig.scale for corner in _bounds(rig))
    middle = (low + high) / 2
    return high - low, [float(middle[0]), float(low[1]), float(middle[2])]


def _of_file(name: str, rig: Rig) -> RigOfFile:
    sides, foot = _extent(rig)
    triangles = len(rig.mesh.triangles) if rig.mesh else 0
    return RigOfFile(
        name=name, joints=len(rig.joints), triangles=triangles, height_units=float(sides[1]), foot_units=foot
    )


def stand_in(request: MakeStandIn) -> tuple[str, bytes]:
    """The name and the bytes of a stand-in."""
    name = f"{request.shape[0].upper()}{request.shape[1:]}"
    return f"{name}.standin", write_stand_in(StandIn(request.shape, request.width_m, request.height_m, request.depth_m))


def make_scene(request: MakeScene, data: bytes) -> Scene:
    """A scene with the character of a file and a fitting shot camera. Raises ``DomainError``."""
    kind = format_named(request.format)
    source = RigSource(request.digest, kind.name, request.scale, request.animation, request.offsets, request.rig)
    rig = read_rig(data, source)
    if not len(rig.joints):
        raise FileError("The file has no joints: no skin, and nothing is animated.", "Bring in a rigged character.")
    name = usable_name(request.name, "scene")
    rate = Rate.parse(request.rate)
    if rig.motion.duration_seconds * float(rate) > LONGEST_SCENE:
        remedy = f"Bring in at most {LONGEST_SCENE:,} frames; the command line reads longer ones."
        raise DomainError(f"The motion lasts {rig.motion.duration_seconds:,.0f} seconds.", remedy)
    if rig.motion.duration_seconds * float(rate) * len(rig.names) > MOST_NODE_FRAMES:
        raise DomainError(
            f"The file has {len(rig.names):,} nodes over a long motion.", "Bring in a shorter or simpler one."
        )
    frames = FrameRange(request.start, last_frame_of(rig.motion.duration_seconds, request.start, rate))
    camera = fitted_camera(rig, frames, rate)
    character = Character(
        str(uuid.uuid4()), name, Performance(source, Timing(FrameTime(request.start))), feet=placement.feet_of(rig)
    )
    return Scene(
        str(uuid.uuid4()), name, rate, frames,
        cameras=(camera,), characters=(character,), cut=Cut.of((request.start, camera.id)),
    )  # fmt: skip


def fitted_camera(rig: Rig, frames: FrameRange, rate: Rate) -> Camera:
    """A shot camera that holds the whole body inside action safe over the whole range."""
    camera = Camera(str(uuid.uuid4()), "Wide 35")
    seconds = seconds_at(frames.frames(), frames.first, rate)
    block = max(1, 2_000_000 // max(1, 8 * len(rig.names)))
    blocks = [placement.body_points(rig, seconds[at : at + block]) for at in range(0, len(seconds), block)]
    nodes = np.arange(len(rig.names))
    some = seconds[:: max(1, len(seconds) // 50)]
    front = placement.front_of(rig, rig.world_positions(some, nodes))
    pose = placement.fitting_pose(blocks, front, camera.lens(), DeliveryFrame())
    pan, tilt, roll = (float(a) for a in transforms.angles_from_rotation(pose[:3, :3]))
    place = dict(zip(("x", "y", "z"), (Channel(float(v)) for v in pose[:3, 3]), strict=True))
    channels = camera_channels(**place, pan=Channel(pan), tilt=Channel(tilt), roll=Channel(roll))
    return replace(camera, channels=channels)


def _bounds(rig: Rig) -> tuple[Floats, Floats]:
    """Lowest and highest corner at the start of its motion, metres, (3,) each."""
    points: Floats = placement.body_points(rig, np.zeros(1))[0]
    return (points.min(axis=0), points.max(axis=0)) if points.size else (np.zeros(3), np.zeros(3))


def _likely(rig: Rig, sides: Floats) -> ThingKind:
    """What a file looks like: somebody where it has enough joints, else something to carry or a part of the set by its size."""
    if len(rig.joints) >= FEWEST_JOINTS:
        return "character"
    return "prop" if float(sides.max()) < LARGEST_PROP_M else "set piece"


def _proposed_scale(height_units: float, usual: float) -> float:
    """The usual scale of the format where it makes a believable height, else the one that comes nearest to a person."""
    if not height_units > 0:
        return usual
    if BELIEVABLE_M[0] <= height_units * usual <= BELIEVABLE_M[1]:
        return usual
    return min(SCALES, key=lambda s: abs(math.log(height_units * s / USUAL_HEIGHT_M)))
