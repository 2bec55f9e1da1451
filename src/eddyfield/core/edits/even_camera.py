"""The edit that takes a jolt out of what is keyed on a camera."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Literal

import numpy as np

from ..arrays import Floats
from ..bake import Baker
from ..cameras.camera import Camera
from ..errors import DomainError
from ..readings.fault_shapes import FaultShape
from ..readings.faults import at_centre
from ..readings.thresholds import SURE_ERRORS
from ..readings.window import Window
from ..scene import Scene
from ..time.fading import LONGEST_FADE, fading_frames
from .cameras import refuse_locked_channels
from .edit import Edit
from .keyed_stretches import keyed_within, values_on
from .reach import Reach, Stretch

LEAST = 1e-6
"""In the unit of a channel: what it runs unevenly by is no jolt."""


@dataclass(frozen=True, kw_only=True)
class EvenCameraOut(Edit):
    """Let a camera run on evenly where its own channels jolt ``on_frame``: without what is displaced there, or (as a ``step``)
    what jumps there, spread over ``fades`` frames on both sides."""

    edit: Literal["even camera out"] = "even camera out"
    title: ClassVar[str] = "jolt of a camera"
    camera_id: str
    on_frame: int
    fades: int = 0
    step: bool = False

    def reach(self, scene: Scene) -> Reach:
        frames, _ = fading_frames(self.on_frame, self.fades, self.step)
        names = frozenset(scene.camera(self.camera_id).channels)
        stretch = Stretch(names, int(frames[0]), int(frames[-1]))
        return Reach(frozenset({self.camera_id}), stretch=stretch)

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        camera = scene.camera(self.camera_id)
        if self.on_frame not in scene.frames or not 0 <= self.fades <= LONGEST_FADE:
            raise DomainError(f"Frame {self.on_frame} is not in the scene.", "Choose one that is.")
        jolts = jolted_channels(baker, camera, self.on_frame, "step" if self.step else "displaced")
        if not jolts:
            raise DomainError(
                f"Nothing that is keyed on “{camera.name}” jolts on {self.on_frame}.",
                "Look at what carries it, or at its aim.",
            )
        refuse_locked_channels(camera, set(jolts), "changed")
        frames, shares = fading_frames(self.on_frame, self.fades, self.step)
        even: dict[str, Floats] = {
            name: values_on(camera, name, frames) - size * shares for name, size in jolts.items()
        }
        return scene.with_camera(keyed_within(camera, frames, even))


def jolted_channels(baker: Baker, camera: Camera, frame: int, shape: FaultShape) -> dict[str, float]:
    """By how much each channel that has keys jolts on a frame, by name; empty too near an end of the scene."""
    row, half = baker.row_of(frame), Window.at(baker.rate).half
    if row < half or row + half >= baker.frames.count:
        return {}
    values = baker.camera(camera).values
    names = [name for name, channel in camera.channels.items() if channel.keys and name in values]
    if not names:
        return {}
    windows = np.stack([values[name][row - half : row + half + 1] for name in names], axis=1)[..., None]
    found = at_centre(windows, shape, LEAST)
    sure = np.abs(found.size[:, 0]) > SURE_ERRORS * found.error
    return {name: float(found.size[at, 0]) for at, name in enumerate(names) if sure[at]}
