"""What stands in the way between a camera and its subject."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from ..arrays import Bools, Floats
from .camera_path import CameraPath
from .lens import rows_of

COARSE = 4
BLOCK_TESTS = 400_000


def blocked(origins: Floats, points: Floats, triangles: Floats) -> Bools:
    """Whether a triangle (T, 3, 3) lies between each origin (n, 3) and its point (n, 3); by Möller and Trumbore."""
    out = np.zeros(len(origins), dtype=bool)
    if not len(triangles) or not len(origins):
        return out
    near = _within(triangles, np.concatenate([origins, points]))
    corner, one, other = near[:, 0], near[:, 1] - near[:, 0], near[:, 2] - near[:, 0]
    size = max(1, BLOCK_TESTS // max(1, len(corner)))
    for at in range(0, len(origins), size):
        ray = (points[at : at + size] - origins[at : at + size])[:, None]
        across = np.cross(ray, other)
        scale = (across * one).sum(axis=-1)
        with np.errstate(divide="ignore", invalid="ignore"):
            offset = origins[at : at + size, None] - corner
            u = (offset * across).sum(axis=-1) / scale
            side = np.cross(offset, one)
            v = (ray * side).sum(axis=-1) / scale
            t = (other * side).sum(axis=-1) / scale
            hit = (u >= 0) & (v >= 0) & (u + v <= 1) & (t > 1e-6) & (t < 0.995) & (np.abs(scale) > 1e-15)
        out[at : at + size] = hit.any(axis=1)
    return out


def _within(triangles: Floats, places: Floats) -> Floats:
    """Those triangles that reach into the box around places (n, 3); no other can lie between two of them."""
    low, high = places.min(axis=0), places.max(axis=0)
    return np.asarray(triangles[((triangles.max(axis=1) >= low) & (triangles.min(axis=1) <= high)).all(axis=1)])


def sight_origins(path: CameraPath, points: Floats) -> Floats:
    """Where the line of sight to each point (frames, points, 3) begins: on the near plane, which cuts away what is nearer.

    In a parallel view the lines of sight run along the axis. A point that is itself cut away has no line: it begins there.
    """
    world, near = path.world_from_camera, rows_of(path.lens.near_m, points.ndim - 1)
    eye, ahead = world[:, None, :3, 3], -world[:, None, :3, 2]
    depth = ((points - eye) * ahead).sum(axis=-1)
    beyond = np.maximum(depth - near, 0.0)[..., None]
    if path.lens.orthographic_height_m is not None:
        return np.asarray(points - ahead * beyond)
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.where(beyond > 0, points - (points - eye) * (beyond / depth[..., None]), points)


def behind_ellipsoids(origins: Floats, points: Floats, world_from_unit: Floats, rows: Bools) -> Bools:
    """Which points (frames, points, 3) have an ellipsoid between them and where their lines of sight begin, on the rows
    asked for. ``world_from_unit`` (frames, ellipsoids, 4, 4) makes each ellipsoid of the unit sphere."""
    near = np.array(rows)
    near[rows] = _pass_by(origins[rows], points[rows], world_from_unit[rows])
    if not near.any():
        return np.zeros(points.shape[:2], dtype=bool)
    return _where_it_changes(
        points.shape[:2], near, lambda some: _behind(origins[some], points[some], world_from_unit[some])
    )


def _behind(origins: Floats, points: Floats, world_from_unit: Floats) -> Bools:
    out = np.zeros(points.shape[:2], dtype=bool)
    size = max(1, BLOCK_TESTS // max(1, points.shape[1] * world_from_unit.shape[1]))
    for first in range(0, len(points), size):
        some = slice(first, first + size)
        unit_from_world = np.linalg.inv(world_from_unit[some])
        turn, shift = np.swapaxes(unit_from_world[..., :3, :3], -1, -2), unit_from_world[..., None, :3, 3]
        start = origins[some, None] @ turn + shift
        along = points[some, None] @ turn + shift - start
        a, b, c = ((one * other).sum(axis=-1) for one, other in ((along, along), (start, along), (start, start)))
        inner = b * b - a * (c - 1)
        with np.errstate(divide="ignore", invalid="ignore"):
            t = (-b - np.sqrt(inner)) / a
            # One that the line begins in does not hide: the camera, or its near plane, stands inside.
            out[some] = ((inner > 0) & (t > 1e-6) & (t < 0.995) & (c > 1)).any(axis=1)
    return out


def _pass_by(origins: Floats, points: Floats, world_from_unit: Floats) -> Bools:
    """Rows on which any line comes near the ball that holds all ellipsoids, (rows,)."""
    centres = world_from_unit[..., :3, 3]
    reach = np.linalg.norm(world_from_unit[..., :3, :3], axis=-2).max(axis=-1)
    middle = centres.mean(axis=1)
    radius = (np.linalg.norm(centres - middle[:, None], axis=-1) + reach).max(axis=1)
    way, toward = points - origins, middle[:, None] - origins
    share = np.clip((toward * way).sum(axis=-1) / np.maximum((way**2).sum(axis=-1), 1e-12), 0, 1)
    away = np.linalg.norm(toward - way * share[..., None], axis=-1)
    return np.asarray((away < radius[:, None]).any(axis=1))


def hidden_rows(origins: Floats, points: Floats, triangles: Floats, rows: Bools) -> Bools:
    """Which points are hidden from where their lines of sight begin, both (frames, points, 3), on the rows asked for."""
    count, marks = points.shape[:2]
    triangles = _within(triangles, np.concatenate([origins.reshape(-1, 3), points.reshape(-1, 3)]))

    def look(at: NDArray[np.int64]) -> Bools:
        return blocked(origins[at].reshape(-1, 3), points[at].reshape(-1, 3), triangles).reshape(-1, marks)

    return _where_it_changes((count, marks), rows, look)


def _where_it_changes(shape: tuple[int, int], rows: Bools, look: Callable[[NDArray[np.int64]], Bools]) -> Bools:
    """What ``look`` tells of rows, on the rows asked for: every fourth row is looked at first, and the rows around a change
    one by one."""
    count = shape[0]
    out = np.zeros(shape, dtype=bool)
    coarse = np.unique(np.append(np.arange(0, count, COARSE), count - 1))
    asked = coarse[rows[coarse]]
    out[asked] = look(asked)
    changes = (out[coarse[1:]] != out[coarse[:-1]]).any(axis=1) | (rows[coarse[1:]] != rows[coarse[:-1]])
    fine = [np.arange(a + 1, b) for a, b, c in zip(coarse, coarse[1:], changes, strict=False) if c]
    for a, b, change in zip(coarse, coarse[1:], changes, strict=False):
        if not change:
            out[a + 1 : b] = out[a]
    if fine:
        between = np.concatenate(fine)
        between = between[rows[between]]
        out[between] = look(between)
    return out & rows[:, None]
