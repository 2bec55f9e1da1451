"""The edit that lets the lens take a jolt of a move out of a subject's size."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Literal

import numpy as np

from ..bake import Baker
from ..errors import DomainError
from ..scene import Scene
from ..time.fading import LONGEST_FADE, fading_frames
from .cameras import refuse_locked
from .edit import Edit
from .keyed_stretches import keyed_within, values_on
from .reach import Reach, Stretch

FOCAL_MM = (1.0, 5000.0)
MOST_RATIO = 4.0


@dataclass(frozen=True, kw_only=True)
class SteadySize(Edit):
    """Key the lens against a move: ``on_frame`` everything is drawn ``ratio`` times as large as the camera's own lens does, and
    ``fades`` frames beside it less and less of that. As a ``step`` half of it goes to the frames from that one on, and the
    opposite half to those before."""

    edit: Literal["steady size"] = "steady size"
    title: ClassVar[str] = "lens against the move"
    camera_id: str
    on_frame: int
    ratio: float
    fades: int = 0
    step: bool = False

    def reach(self, scene: Scene) -> Reach:
        frames, _ = fading_frames(self.on_frame, self.fades, self.step)
        stretch = Stretch(frozenset({"focal_mm"}), int(frames[0]), int(frames[-1]))
        return Reach(frozenset({self.camera_id}), stretch=stretch)

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        camera = scene.camera(self.camera_id)
        refuse_locked(camera, {"lens"}, "zoomed")
        if camera.glass.orthographic_height_m is not None:
            raise DomainError(f"“{camera.name}” is a parallel view, which has no lens.", "Move it evenly instead.")
        if camera.framing is not None and camera.framing.size is not None:
            raise DomainError(f"The held framing of “{camera.name}” rules its lens.", "Let the held size go first.")
        if self.on_frame not in scene.frames or not 0 <= self.fades <= LONGEST_FADE:
            raise DomainError(f"Frame {self.on_frame} is not in the scene.", "Choose one that is.")
        if not 1 / MOST_RATIO <= self.ratio <= MOST_RATIO:
            raise DomainError(
                f"The lens cannot draw it {self.ratio:g} times as large.", f"Keep within {MOST_RATIO:g} times."
            )
        frames, shares = fading_frames(self.on_frame, self.fades, self.step)
        own = values_on(camera, "focal_mm", frames)
        focal = np.clip(own * self.ratio**shares, *FOCAL_MM)
        return scene.with_camera(keyed_within(camera, frames, {"focal_mm": focal}))
