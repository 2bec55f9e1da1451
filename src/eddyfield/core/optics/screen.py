"""Screen tracks: where points land in the picture, how far they move, and whose doing that is."""

from __future__ import annotations

import numpy as np

from ..arrays import Floats
from .camera_path import CameraPath
from .lens import Projected


def track(camera: CameraPath, world_points: Floats) -> Projected:
    """Points of shape (frames, ..., 3), each frame seen by its own camera."""
    return camera.project(world_points)


def frozen(camera: CameraPath, row: int) -> CameraPath:
    """The camera of one row of the range, standing still for all of it."""
    return camera.at_rows(np.full(camera.count, row, dtype=np.int64))


def spacing(pixels: Floats, camera: CameraPath) -> Floats:
    """Distance on screen from the frame before, px per frame, shape (frames, ...); NaN on the first row."""
    steps = camera.delivery.square(np.diff(pixels, axis=0))
    out = np.full(pixels.shape[:-1], np.nan)
    out[1:] = np.hypot(steps[..., 0], steps[..., 1])
    return out


def shares(camera: CameraPath, world_points: Floats) -> tuple[Floats, Floats]:
    """Split each step on the screen exactly into the subject's and the camera's part.

    ``world_points`` (frames, 3). Returns two arrays (frames, 2) in px, NaN on the first row; they add up to
    ``s(f) - s(f-1)``. With P_g(X_h) the point of frame h seen by the camera of frame g, the subject's part is
    ``1/2 [P_f(X_f) - P_f(X_f-1) + P_f-1(X_f) - P_f-1(X_f-1)]`` and the camera's the rest.
    """
    rows = np.arange(camera.count)
    seen = camera.project(world_points).pixels
    now_now, before_before = seen[1:], seen[:-1]
    now_before = camera.at_rows(rows[1:]).project(world_points[:-1]).pixels
    before_now = camera.at_rows(rows[:-1]).project(world_points[1:]).pixels
    subject, carried = np.full((2, len(world_points), 2), np.nan)
    subject[1:] = 0.5 * (now_now - now_before + before_now - before_before)
    carried[1:] = 0.5 * (now_before - before_before + now_now - before_now)
    return subject, carried


def component_along(part: Floats, step: Floats, camera: CameraPath) -> Floats:
    """Signed component in px of ``part`` along ``step`` (both (frames, 2)); 0 where there is no step."""
    part, step = camera.delivery.square(part), camera.delivery.square(step)
    length = np.hypot(step[..., 0], step[..., 1])
    dot = np.einsum("...i,...i->...", part, step)
    return np.where(length > 0, dot / np.where(length > 0, length, 1.0), np.where(np.isnan(length), np.nan, 0.0))


def shifts_in_world(camera: CameraPath, points: Floats, shifts_px: Floats) -> Floats:
    """What moves points (frames, 3) by so many pixels (frames, 2), right and down, in the picture: world vectors (frames, 3) in
    metres, parallel to the picture, so that they are exact. NaN where a point is not in front."""
    seen = camera.project(points)
    across, up = camera.lens.pixels_per_metre(seen.depth, camera.delivery)
    in_camera = np.stack([shifts_px[:, 0] / across, -shifts_px[:, 1] / up, np.zeros(len(points))], axis=-1)
    in_camera[~seen.in_front] = np.nan
    return np.asarray(np.einsum("fij,fj->fi", camera.world_from_camera[:, :3, :3], in_camera))
