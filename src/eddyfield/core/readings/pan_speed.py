"""Readings of how fast a camera's move takes what stands still across the frame."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..arrays import Bools, Floats
from ..bake import Baker
from ..cameras.camera import Camera
from ..optics.camera_speed import background_px, pan_limit_px
from ..optics.lens import inside_frame
from ..time.stretches import LEAST_FRAMES, stretches
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
    limit = pan_limit_px(path, float(baker.rate), camera.glass.shutter_deg, baker.limits.crossing_seconds)
    spans = baker.scene.frames_of_cut(camera) or [(frames.first, frames.last)]
    # The step to a frame is that frame's; the first of a span has none.
    fast = np.append(False, (speed > limit) & ~_follows_somebody(baker, camera, speed))
    fast[[first - frames.first for first, _ in spans]] = False
    out = []
    for a, b in stretches(fast, [(first - frames.first, last - frames.first) for first, last in spans]):
        if b - a + 1 < LEAST_FRAMES:
            continue
        worst = a + int(speed[a - 1 : b].argmax())
        first, last = frames.first + a, frames.first + b
        told = Reading("pans_too_fast", camera.name, first, last, float(speed[worst - 1]), "px", limit)
        out.append(replace(told, frame=frames.first + worst))
    return out


def _follows_somebody(baker: Baker, camera: Camera, crosses_px: Floats) -> Bools:
    """Per step from frame to frame whether anybody in the frame crosses it, over half a second, by less than half of what the
    background does."""
    path, half = baker.camera_path(camera), max(1, round(float(baker.rate) / 4))
    rows = np.arange(1, path.count)
    before, after = np.maximum(rows - half, 0), np.minimum(rows + half, path.count - 1)
    out = np.zeros(len(crosses_px), dtype=bool)
    for character in baker.scene.characters:
        seen = path.project(baker.joint_positions(character))
        way = path.delivery.square(seen.pixels[after] - seen.pixels[before]) / (after - before)[:, None, None]
        steps = np.where(inside_frame(seen, path.delivery)[rows], np.hypot(way[..., 0], way[..., 1]), np.nan)
        known = np.isfinite(steps).any(axis=1)
        out[known] |= np.nanmedian(steps[known], axis=1) < FOLLOWED * crosses_px[known]
    return out
