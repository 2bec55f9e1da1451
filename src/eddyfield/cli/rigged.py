"""The camera of the options as a camera of a scene: it can be aimed at a joint, hold one in its frame, and be read."""

from __future__ import annotations

import argparse
from pathlib import Path

import numpy as np

from eddyfield.core.bake import Baker
from eddyfield.core.cameras.aim import Aim
from eddyfield.core.cameras.camera import Camera, FilmBack, Glass
from eddyfield.core.cameras.camera_channels import POSE_NAMES, camera_channels
from eddyfield.core.cameras.focus import Focus
from eddyfield.core.cameras.framing import Framing, SizeHold
from eddyfield.core.cameras.room import Room
from eddyfield.core.cameras.subjects import Subject, Target
from eddyfield.core.cut.cut import Cut
from eddyfield.core.optics.camera_path import CameraPath
from eddyfield.core.optics.lens import DeliveryFrame, Lens
from eddyfield.core.performance.character import Character
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.performance import Performance
from eddyfield.core.performance.piece import Piece
from eddyfield.core.performance.ride import Ride
from eddyfield.core.performance.timing import Timing
from eddyfield.core.rig import transforms
from eddyfield.core.rig.rig import Rig
from eddyfield.core.rig.source import RigSource
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.frames import FrameRange, FrameTime
from eddyfield.core.time.key_reduction import keys_on_every_frame

CHARACTER, CAMERA = "character", "camera"


def is_rigged(options: argparse.Namespace) -> bool:
    """Whether the camera's path depends on the performance."""
    return any(o is not None for o in (options.aim, options.hold, options.hold_body))


def character_name(options: argparse.Namespace) -> str:
    return Path(options.file).stem[:120] or "character"


def camera_name(options: argparse.Namespace) -> str:
    return options.camera or "by numbers"


def rigged_scene(
    rig: Rig, frames: FrameRange, path: CameraPath, options: argparse.Namespace, around: Rig | None = None
) -> Baker:
    """A scene of the file's character, the camera of the options, and a set ``around`` them.

    ``path`` is the camera before it is aimed or holds anything.
    """
    source, of_set = RigSource("character", "gltf"), RigSource("set", "gltf")
    character = Character(
        CHARACTER,
        character_name(options),
        Performance(source, Timing(FrameTime(options.start))),
        front_deg=getattr(options, "front", None),
        feet=tuple(getattr(options, "feet", ())),
        stepping=getattr(options, "stepping", None) or Stepping(),
        ride=getattr(options, "riding", None) or Ride(),
    )
    scene = Scene(
        "scene",
        "scene",
        options.fps,
        frames,
        options.size,
        (_camera(path, frames, options),),
        (character,),
        (Piece("set", "set", Performance(of_set)),) if around is not None else (),
        cut=Cut.of((frames.first, CAMERA)),
        room=getattr(options, "room", None) or Room(),
    )
    rigs = {source.digest: rig, of_set.digest: around}

    def rig_of(wanted: RigSource) -> Rig:
        found = rigs[wanted.digest]
        assert found is not None
        return found

    return Baker(scene, rig_of, {})


def _camera(path: CameraPath, frames: FrameRange, options: argparse.Namespace) -> Camera:
    lens = path.lens
    angles = transforms.angles_from_rotation(path.world_from_camera[:, :3, :3])
    focal = np.broadcast_to(_focal_mm(lens, options.size), (frames.count, 1))
    pose = np.concatenate([path.world_from_camera[:, :3, 3], angles, focal], axis=1)
    values = dict(zip(POSE_NAMES, pose.T, strict=True))
    moving = {name: value for name, value in values.items() if np.ptp(value)}
    still = {name: Channel(float(value[0])) for name, value in values.items() if name not in moving}
    channels = keys_on_every_frame(frames.frames().astype(np.float64), moving) | still
    height = lens.orthographic_height_m
    return Camera(
        CAMERA,
        camera_name(options),
        back=FilmBack(lens.back_width_mm, lens.back_height_mm, lens.gate, lens.squeeze),
        glass=Glass(
            float(lens.shift_x), float(lens.shift_y), float(lens.near_m),
            orthographic_height_m=None if height is None else float(height),
        ),
        channels=camera_channels(**channels),
        aim=None if options.aim is None else Aim((Target((_joint(options.aim),)),)),
        framing=_framing(options),
        focus=Focus((Target((Subject("body", CHARACTER),)),)),
    )  # fmt: skip


def _framing(options: argparse.Namespace) -> Framing | None:
    across, down = options.place
    if options.hold is not None:
        return Framing((_joint(options.hold),), across, down)
    if options.hold_body is not None:
        return Framing((Subject("body", CHARACTER),), across, down, size=SizeHold(options.by, options.hold_body))
    return None


def _joint(name: str) -> Subject:
    return Subject("joint", CHARACTER, name)


def _focal_mm(lens: Lens, delivery: DeliveryFrame) -> float:
    """The focal length, also of a lens that is told by its vertical field of view."""
    if lens.vertical_fov_deg is None:
        return float(lens.focal_mm)
    _, used = lens.used_back_mm(delivery)
    return float(used / (2 * np.tan(np.radians(lens.vertical_fov_deg) / 2)))
