"""The free zone: a room in the frame, of any shape without dents, in which what is held may drift."""

from __future__ import annotations

import numpy as np
from scipy.spatial import ConvexHull

from ..arrays import Floats
from ..optics.camera_path import CameraPath
from ..optics.lens import rows_of
from ..rig import transforms

NEAREST_DEPTH_M = 1e-9
FLATTEST_PX = 1e-6


def place_in_zone(alone: CameraPath, anchor: Floats, zone_px: Floats) -> Floats:
    """Where in the frame the anchor is wanted, px (frames, 2): the point of the zone nearest to where the camera ``alone``
    puts it. ``anchor`` (frames, 3) in the world; the zone is the hull of the points ``zone_px`` (points, 2).

    Without memory. Behind the camera's plane the direction counts, by its mirrored projection: that is the zone's edge on
    the side where the anchor left, and within the mirrored zone, straight behind, goes over from one side to the other.
    So nothing jumps wherever the anchor goes; a rule that kept to the edge could not do that all around the camera.
    """
    lens, delivery = alone.lens, alone.delivery
    seen = transforms.apply(transforms.rigid_inverse(alone.world_from_camera), anchor)
    depth = -seen[:, 2]
    per_x, per_y = lens.pixels_per_metre(np.maximum(np.abs(depth), NEAREST_DEPTH_M), delivery)
    axis = np.stack(
        np.broadcast_arrays(
            delivery.width * (0.5 + rows_of(lens.shift_x, 1)), delivery.height * (0.5 - rows_of(lens.shift_y, 1))
        ),
        axis=-1,
    )
    away = np.stack([seen[:, 0] * per_x, -seen[:, 1] * per_y], axis=-1)
    return nearest_in_hull(axis + away, zone_px)


def nearest_in_hull(places: Floats, points: Floats) -> Floats:
    """The points of the hull of ``points`` (points, 2) that are nearest to ``places`` (n, 2); those within it stay.

    >>> square = np.array([[0.0, 0.0], [2.0, 0.0], [2.0, 2.0], [0.0, 2.0]])
    >>> nearest_in_hull(np.array([[1.0, 1.0], [5.0, 1.0], [3.0, 4.0]]), square).tolist()
    [[1.0, 1.0], [2.0, 1.0], [2.0, 2.0]]
    """
    corners = _hull(points)
    if len(corners) == 1:
        return np.broadcast_to(corners, places.shape).copy()
    ends = np.roll(corners, -1, axis=0)
    along = ends - corners
    out = places[:, None] - corners
    share = np.clip(np.einsum("pei,ei->pe", out, along) / np.einsum("ei,ei->e", along, along), 0.0, 1.0)
    on_edges = corners + share[..., None] * along
    away = np.linalg.norm(places[:, None] - on_edges, axis=-1)
    nearest = on_edges[np.arange(len(places)), np.argmin(away, axis=1)]
    if len(corners) == 2:
        return np.asarray(nearest)
    left_of_edges = along[:, 0] * out[..., 1] >= along[:, 1] * out[..., 0]
    inside = np.logical_and.reduce(left_of_edges, axis=1)
    return np.where(inside[:, None], places, nearest)


def _hull(points: Floats) -> Floats:
    """Corners of the hull one after the other (corners, 2), each once; two where all lie on a line, one where all are one."""
    corners = np.unique(points, axis=0)
    if len(corners) < 3:
        return corners
    spread = corners - corners.mean(axis=0)
    if np.linalg.matrix_rank(spread, tol=FLATTEST_PX) < 2:
        along = spread @ np.linalg.svd(spread)[2][0]
        return corners[[int(np.argmin(along)), int(np.argmax(along))]]
    return np.asarray(corners[ConvexHull(corners).vertices])
