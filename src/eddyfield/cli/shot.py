"""What a command works on: the rig of a file, a camera and a range of frames."""

from __future__ import annotations

import argparse
import os
import stat
from dataclasses import dataclass, replace
from functools import cached_property
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from eddyfield.core.arrays import Floats
from eddyfield.core.cameras.camera import Glass
from eddyfield.core.optics.camera_path import CameraPath, still_camera
from eddyfield.core.optics.lens import NEAR_M, Lens
from eddyfield.core.rig import transforms
from eddyfield.core.rig.rig import FileCamera, Rig
from eddyfield.core.rig.source import RigSource
from eddyfield.core.time.frames import FrameRange, last_frame_of, seconds_at
from eddyfield.formats.errors import FileError
from eddyfield.formats.format import Resolver
from eddyfield.formats.table import format_of, read_rig

from .arguments import MIDDLE, UsageError
from .rigged import is_rigged, rigged_scene

LARGEST_FILE = 2**30
MOST_FRAMES = 2_000_000


@dataclass(frozen=True, eq=False)
class Shot:
    """A rig, the frames asked for, the joints asked for, and a camera for any of those frames."""

    rig: Rig
    frames: FrameRange
    joints: NDArray[np.int64]
    arguments: argparse.Namespace

    def seconds(self, frames: NDArray[np.int64]) -> Floats:
        return seconds_at(frames, self.arguments.start, self.arguments.fps)

    def camera(self, frames: NDArray[np.int64]) -> CameraPath:
        """The camera on these frames of the range, aimed and held as the options want it."""
        if is_rigged(self.arguments):
            return self._rigged.at_rows(frames - self.frames.first)
        return self.unrigged_camera(frames)

    @cached_property
    def _rigged(self) -> CameraPath:
        path = self.unrigged_camera(self.frames.frames())
        baker = rigged_scene(self.rig, self.frames, path, self.arguments)
        return baker.camera_path(baker.scene.cameras[0])

    def unrigged_camera(self, frames: NDArray[np.int64]) -> CameraPath:
        """The camera as it stands by itself."""
        options = self.arguments
        if options.camera is None:
            return still_camera(_look_at(options), _lens(options), options.size, len(frames))
        camera = _file_camera(self.rig, options.camera)
        node = np.array([camera.node], dtype=np.int64)
        world = self.rig.world_matrices(self.seconds(frames), node)[:, 0]
        lens = Lens(
            near_m=camera.near_m,
            vertical_fov_deg=camera.vertical_fov_deg,
            orthographic_height_m=camera.orthographic_height_m,
        )
        return CameraPath(transforms.orthonormal(world), lens, options.size)


def open_shot(options: argparse.Namespace, with_mesh: bool = False) -> Shot:
    """Check the options against each other and read the file. Raises ``DomainError``."""
    _check_camera(options)
    options.size = replace(options.size, pixel_aspect=options.pixel_aspect)
    path = Path(options.file)
    kind = format_of(path.name)
    scale = options.scale or kind.default_scale
    source = RigSource("", kind.name, scale, options.animation, options.offsets, options.rig)
    rig = read_rig(bytes_of(path), source, _beside(path), with_mesh)
    for joint in (options.aim, options.hold, *getattr(options, "feet", ())):
        if joint is not None:
            rig.find(joint)  # refuses a name that the file has not
    first = options.start if options.first is None else options.first
    if rig.motion.duration_seconds * float(options.fps) > MOST_FRAMES:
        raise FileError(
            f"The motion lasts {rig.motion.duration_seconds:.6g} seconds.", f"At most {MOST_FRAMES:,} frames."
        )
    last = (
        last_frame_of(rig.motion.duration_seconds, options.start, options.fps) if options.last is None else options.last
    )
    frames = FrameRange(first, last)
    if frames.count > MOST_FRAMES:
        raise UsageError(f"{frames.count:,} frames are too many.", f"Ask for at most {MOST_FRAMES:,} at a time.")
    if options.camera is not None:
        _file_camera(rig, options.camera)
    else:
        _look_at(options)
    return Shot(rig, frames, joints_named(rig, options.joints), options)


def joints_named(rig: Rig, names: tuple[str, ...]) -> NDArray[np.int64]:
    """Node indices of joints by name; ``all`` alone stands for all joints in file order."""
    if names == ("all",) and "all" not in rig.index_of:
        if not len(rig.joints):
            raise FileError("The file has no joints: no skin, and nothing is animated.", "Name nodes with --joints.")
        return rig.joints
    return np.array([rig.find(name) for name in names], dtype=np.int64)


def _check_camera(options: argparse.Namespace) -> None:
    numbers = ("at", "look", "up", "focal", "back", "gate", "squeeze", "shift", "near")
    by_numbers = {f"--{n}": getattr(options, n) for n in numbers}
    given = [name for name, value in by_numbers.items() if value is not None]
    if options.camera is not None and given:
        raise UsageError(
            f"{given[0]} does not go with --camera: the file's camera brings its own place and field of view.",
            "Leave one of them away.",
        )
    missing = [name for name in ("--at", "--look", "--focal") if by_numbers[name] is None]
    if options.camera is None and missing:
        raise UsageError(
            f"There is no camera: {', '.join(missing)} missing.", "Give --camera, or --at, --look and --focal."
        )
    held = [name for name in ("--hold", "--hold-body") if getattr(options, name[2:].replace("-", "_")) is not None]
    if len(held) > 1:
        raise UsageError("--hold and --hold-body do not go together.", "Leave one of them away.")
    if not held and options.place != MIDDLE:
        raise UsageError("--place says where something is held.", "Give --hold or --hold-body as well.")


def _look_at(options: argparse.Namespace) -> Floats:
    at, look = np.array(options.at), np.array(options.look)
    forward = look - at
    length = float(np.linalg.norm(forward))
    if length < 1e-9:
        raise UsageError("--at and --look are the same point.", "Give two points apart.")
    up = np.array(options.up if options.up is not None else (0.0, 1.0, 0.0))
    if float(np.linalg.norm(np.cross(up, forward))) <= 1e-9 * length * float(np.linalg.norm(up)):
        if options.up is not None:
            raise UsageError("--up runs along the direction of view.", "Give another direction for up.")
        # Straight up or down with no turn: what was ahead at level tilt is up in the picture.
        up = np.array([0.0, 0.0, 1.0 if forward[1] > 0 else -1.0])
    return transforms.rigid(transforms.look_rotation(forward, up), at)


def _lens(options: argparse.Namespace) -> Lens:
    width, height = options.back or (36.0, 24.0)
    across, up = options.shift or (0.0, 0.0)
    glass = Glass(across, up, options.near or NEAR_M)  # refuses what no lens does
    return Lens(
        options.focal, width, height, options.gate or "crop", options.squeeze or 1.0, glass.shift_x, glass.shift_y,
        glass.near_m,
    )  # fmt: skip


def _file_camera(rig: Rig, name: str) -> FileCamera:
    by_node = [c for c in rig.cameras if rig.names[c.node] == name]
    found = by_node or [c for c in rig.cameras if c.name == name]
    if not found:
        has = ", ".join(rig.names[c.node] for c in rig.cameras[:6])
        raise FileError(
            f"The file has no camera “{name}”.", f"It has: {has}." if has else "It has none; give --at and --look."
        )
    if found[0].vertical_fov_deg is None and found[0].orthographic_height_m is None:
        remedy = "Mend it in the file, or give --at and --look."
        raise FileError(f"The camera “{name}” of the file has no usable field of view or height.", remedy)
    return found[0]


def bytes_of(path: Path) -> bytes:
    try:
        state = os.stat(path)
        if not stat.S_ISREG(state.st_mode):
            raise FileError(f"“{path}” is not a file.", "Give the path of a file.")
        if state.st_size > LARGEST_FILE:
            raise FileError(f"“{path}” has {state.st_size:,} bytes.", f"At most {LARGEST_FILE:,} are read.")
        return path.read_bytes()
    except (OSError, ValueError) as error:
        reason = getattr(error, "strerror", None) or str(error)
        raise FileError(f"“{path}” cannot be opened: {reason}.") from None


def _beside(path: Path) -> Resolver:
    folder = path.resolve().parent

    def resolve(name: str) -> bytes:
        target = (folder / name).resolve()
        if not target.is_relative_to(folder):
            raise FileError(f"The buffer “{name[:120]}” lies outside the file's own folder.", "Put it beside the file.")
        return bytes_of(target)

    return resolve
