"""What lies between two parts of a scene: small steps from what one holds to what the next is made from."""

from __future__ import annotations

from .arrays import Floats, Ints
from .cameras.camera_frames import CameraFrames
from .cut.cut import Cut
from .cut.cut_path import cut_path, passage
from .optics.camera_path import CameraPath
from .performance import exposure
from .performance.carried import Carried
from .performance.holding import Hand
from .performance.timing import Timing
from .readings.strobing import Strobing, strobing
from .rig.rig import Rig
from .time.frames import FrameRange, Rate


def hand(world: Floats, node: int, shown_rows: Ints) -> Hand:
    return Hand(world[:, node], shown_rows)


def places(world: Floats) -> Floats:
    return world[..., :3, 3]


def shape_weights(rig: Rig, timing: Timing, frames: FrameRange, rate: Rate) -> Floats:
    """Weights of the shapes of a rig, on ones, (frames, shapes)."""
    return rig.motion.shape_weights(timing.file_seconds(frames.frames(), rate, rig.motion.duration_seconds))


def rows(frames_shown: Ints, frames: FrameRange) -> Ints:
    return frames_shown - frames.first


def compared(starts: Ints, cut: Cut, frames: FrameRange) -> Ints:
    return exposure.comparison_frames(starts, cut.entry_rows(frames)[1])


def span_starts(cut: Cut, frames: FrameRange) -> tuple[int, ...]:
    return tuple(first - frames.first for first in cut.run_firsts(frames))


def path_of(camera: CameraFrames) -> CameraPath:
    return camera.path


def path_of_cut(cameras: tuple[CameraFrames, ...], cut: Cut, frames: FrameRange) -> CameraPath:
    return cut_path([camera.path for camera in cameras], passage(cut, frames))


def whole(carried: Carried) -> Floats:
    return carried.whole


def strobing_of(
    path: CameraPath, rig: Rig, joints: Floats, rows: Ints, carried: Carried, compared: Ints, frames: FrameRange,
    span_starts: tuple[int, ...], rate: Rate, slip_permille: float,
) -> Strobing:  # fmt: skip
    points = carried.shown(joints, rows, rig.joints)
    return strobing(path, points, compared, frames.first, slip_permille, span_starts, round(float(rate) / 2))
