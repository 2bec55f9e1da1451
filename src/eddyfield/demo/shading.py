"""Normals of a modelled surface: smooth, with hard edges where it is meant to have them."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from eddyfield.core.arrays import Floats


class Smoothing:
    """Which triangles (triangles, 3) between ``places`` (vertices, 3) are smooth with each other at each corner: those of the
    same part that meet in its place at less than ``crease_deg``."""

    def __init__(
        self, places: Floats, triangles: NDArray[np.integer], parts: NDArray[np.integer], crease_deg: float
    ) -> None:
        self._triangles = triangles
        flat = _area_normals(places, triangles)
        unit = flat / np.maximum(np.linalg.norm(flat, axis=1, keepdims=True), 1e-12)
        keys = np.concatenate([np.repeat(parts, 3)[:, None], np.round(places[triangles.reshape(-1)], 6)], axis=1)
        _, where = np.unique(keys, axis=0, return_inverse=True)
        where = where.reshape(-1)
        faces = np.repeat(np.arange(len(triangles)), 3)
        # Every corner with every corner of the same place: sorted by place, one shift after another.
        order = np.argsort(where, kind="stable")
        self._pairs: list[tuple[NDArray[np.intp], NDArray[np.intp]]] = []
        least = np.cos(np.radians(crease_deg))
        for shift in range(int(np.bincount(where).max())):
            one, other = order[: len(order) - shift], order[shift:]
            same = where[one] == where[other]
            one, other = one[same], other[same]
            soft = np.einsum("ci,ci->c", unit[faces[one]], unit[faces[other]]) > least
            one, other = one[soft], other[soft]
            self._pairs.append((one, faces[other]))
            if shift:
                self._pairs.append((other, faces[one]))

    def corner_normals(self, places: Floats) -> Floats:
        """Normals (triangles, 3 corners, 3) with the vertices at these places: the mean of the neighbours, weighted by area."""
        flat = _area_normals(places, self._triangles)
        summed = np.zeros((3 * len(self._triangles), 3))
        for corners, faces in self._pairs:
            summed[corners] += flat[faces]
        lengths = np.linalg.norm(summed, axis=1, keepdims=True)
        return np.asarray(summed / np.maximum(lengths, 1e-12)).reshape(-1, 3, 3)


def _area_normals(places: Floats, triangles: NDArray[np.integer]) -> Floats:
    """Normals as long as twice the area (triangles, 3)."""
    a, b, c = (places[triangles[:, corner]] for corner in range(3))
    return np.asarray(np.cross(b - a, c - a))
