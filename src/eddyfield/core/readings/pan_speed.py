"""Readings of how fast a camera's move takes what stands still across the frame."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..arrays import Bools
from ..bake import Baker
from ..cameras.camera import Camera
from ..optics.camera_speed import background_px, pan_limit_px
from ..optics.lens import inside_frame
from ..optics.screen import spacing
from ..time.stretches import stretches
from .judges import judges_cameras
from .reading import Reading
from .thresholds import FOLLOWED


@judges_cameras
def pan_speed_readings(baker: Baker, camera: Camera) -> list[Reading]:
    """Stretches on which the background at the focus distance crosses the frame faster than in seven seconds: it judders, where
    the eye has nobody to go along with. What is shorter than six frames is a whip, which nobody looks at."""
    frames, path = baker.frames, baker.camera_path(camera)
    if path.count < 2:
        return []
    focus = np.maximum(baker.camera(camera).focus_m, camera.glass.near_m)
    speed = background_px(path, np.arange(path.count - 1), focus[:-1])
    limit = pan_limit_px(path, float(baker.rate), camera.glass.shutter_deg)
    spans = baker.scene.frames_of_cut(camera) or [(frames.first, frames.last)]
    # The step to a frame is that frame's; the first of a span has none.
    fast = np.append(False, speed > limit) & ~_follows_somebody(baker, camera, limit)
    fast[[first - frames.first for first, _ in spans]] = False
    out = []
    for a, b in stretches(fast, [(first - frames.first, last - frames.first) for first, last in spans]):
        worst = a + int(speed[a - 1 : b].argmax())
        first, last = frames.first + a, frames.first + b
        told = Reading("pans_too_fast", camera.name, first, last, float(speed[worst - 1]), "px", limit)
        out.append(replace(told, frame=frames.first + worst))
    return out


def _follows_somebody(baker: Baker, camera: Camera, limit_px: float) -> Bools:
    """Per frame whether a joint of anybody in the frame crosses it by less than half of what is too fast, (frames,)."""
    path = baker.camera_path(camera)
    out = np.zeros(path.count, dtype=bool)
    for character in baker.scene.characters:
        seen = path.project(baker.joint_positions(character))
        with np.errstate(invalid="ignore"):
            slow = spacing(seen.pixels, path) < FOLLOWED * limit_px
        out |= (inside_frame(seen, path.delivery) & slow).any(axis=1)
    return out
