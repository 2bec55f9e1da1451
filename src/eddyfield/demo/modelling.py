"""A little modelling: lofted rings, boxes and balls, gathered into one skinned low-polygon mesh."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from eddyfield.core.arrays import Floats

Weights = dict[str, float]
WeightsAt = Callable[[Floats], Weights]


def linear_color(hex_color: str) -> Floats:
    """A colour written ``#rrggbb`` (sRGB) as linear light, 0..1 (IEC 61966-2-1)."""
    srgb = np.array([int(hex_color[i : i + 2], 16) for i in (1, 3, 5)]) / 255
    return np.where(srgb <= 0.04045, srgb / 12.92, ((srgb + 0.055) / 1.055) ** 2.4)


@dataclass(frozen=True)
class Ring:
    """An ellipse of a loft: ``center``, half-widths along the loft's two cross directions, and what carries it."""

    center: tuple[float, float, float]
    half_width: float
    half_depth: float
    weights: Weights
    color: str | None = None


@dataclass
class Model:
    """Vertices with their carriers, and triangles; parts are appended one by one."""

    positions: list[Floats] = field(default_factory=list)
    colors: list[Floats] = field(default_factory=list)
    weights: list[Weights] = field(default_factory=list)
    triangles: list[tuple[int, int, int]] = field(default_factory=list)

    def vertex(self, place: Floats, color: Floats, weights: Weights) -> int:
        self.positions.append(np.asarray(place, dtype=np.float64))
        self.colors.append(color)
        self.weights.append(weights)
        return len(self.positions) - 1

    def loft(
        self,
        rings: Sequence[Ring],
        color: str,
        sides: int = 10,
        across: tuple[float, float, float] = (1, 0, 0),
        deep: tuple[float, float, float] = (0, 0, 1),
        caps: tuple[bool, bool] = (True, True),
        angle_weights: Callable[[float, Weights], Weights] | None = None,
    ) -> None:
        """Skin over ellipses spanned by ``across`` and ``deep``; faces look outwards when the rings run along their
        cross product turned round (downwards for the defaults). ``angle_weights`` changes the carriers by angle."""
        wide, far = np.array(across, dtype=np.float64), np.array(deep, dtype=np.float64)
        rows = []
        for ring in rings:
            tint = linear_color(ring.color or color)
            row = []
            for side in range(sides):
                angle = 2 * np.pi * (side + 0.5) / sides
                place = (
                    np.array(ring.center)
                    + wide * ring.half_width * np.sin(angle)
                    + far * ring.half_depth * np.cos(angle)
                )
                weights = angle_weights(angle, ring.weights) if angle_weights else ring.weights
                row.append(self.vertex(place, tint, weights))
            rows.append(row)
        outward = np.dot(np.cross(wide, far), np.array(rings[-1].center) - np.array(rings[0].center)) < 0
        for upper, lower in pairwise(rows):
            for side in range(sides):
                after = (side + 1) % sides
                self._quad(upper[side], upper[after], lower[after], lower[side], outward)
        for wanted, ring, row, flip in (
            (caps[0], rings[0], rows[0], not outward),
            (caps[1], rings[-1], rows[-1], outward),
        ):
            if wanted:
                carriers: Weights = {}
                for vertex in row:
                    for name, weight in self.weights[vertex].items():
                        carriers[name] = carriers.get(name, 0.0) + weight / sides
                middle = self.vertex(np.array(ring.center), linear_color(ring.color or color), carriers)
                for side in range(sides):
                    a, b = row[side], row[(side + 1) % sides]
                    self.triangles.append((middle, a, b) if flip else (middle, b, a))

    def _quad(self, a: int, b: int, c: int, d: int, flip: bool) -> None:
        if flip:
            a, b, c, d = d, c, b, a
        self.triangles += [(a, c, b), (a, d, c)]

    def box(
        self, center: Sequence[float], size: Sequence[float], color: str, weights: Weights, taper: float = 1.0
    ) -> None:
        """A box; its upper face is ``taper`` times as wide and deep as its lower one."""
        half = np.array(size) / 2
        tint = linear_color(color)
        corners = []
        for y in (-1, 1):
            grow = taper if y > 0 else 1.0
            for x, z in ((-1, -1), (1, -1), (1, 1), (-1, 1)):
                corners.append(self.vertex(np.array(center) + half * [x * grow, y, z * grow], tint, weights))
        a, b, c, d, e, f, g, h = corners
        for face in ((a, b, c, d), (h, g, f, e), (a, e, f, b), (b, f, g, c), (c, g, h, d), (d, h, e, a)):
            self.triangles += [(face[0], face[1], face[2]), (face[0], face[2], face[3])]

    def ball(
        self,
        center: Sequence[float] | Floats,
        radii: Sequence[float],
        color: str,
        weights: Weights | WeightsAt,
        sides: int = 10,
        rows: int = 6,
        keep: Callable[[Floats], bool] | None = None,
    ) -> None:
        """An ellipsoid; ``weights`` may depend on the place, ``keep`` leaves out faces whose middle it refuses."""
        tint = linear_color(color)
        grid = []
        for row in range(rows + 1):
            polar = np.pi * row / rows
            line = []
            for side in range(sides):
                around = 2 * np.pi * side / sides
                direction = np.array([np.sin(polar) * np.sin(around), np.cos(polar), np.sin(polar) * np.cos(around)])
                place = np.array(center) + direction * np.array(radii)
                line.append(self.vertex(place, tint, weights(place) if callable(weights) else weights))
            grid.append(line)
        for upper, lower in pairwise(grid):
            for side in range(sides):
                after = (side + 1) % sides
                corners = (upper[side], upper[after], lower[after], lower[side])
                if keep and not keep(np.mean([self.positions[i] for i in corners], axis=0)):
                    continue
                self._quad(*corners, flip=False)

    def arrays(self, joints: Sequence[str]) -> tuple[NDArray[np.generic], ...]:
        """Positions, colours, joint indices and weights (four a vertex), triangles."""
        index = {name: i for i, name in enumerate(joints)}
        slots = np.zeros((len(self.positions), 4), dtype=np.uint16)
        shares = np.zeros((len(self.positions), 4), dtype=np.float32)
        for row, weights in enumerate(self.weights):
            most = sorted(weights.items(), key=lambda item: -item[1])[:4]
            total = sum(w for _, w in most)
            for column, (name, weight) in enumerate(most):
                slots[row, column], shares[row, column] = index[name], weight / total
        return (
            np.array(self.positions, dtype=np.float32),
            np.array(self.colors, dtype=np.float32),
            slots,
            shares,
            np.array(self.triangles, dtype=np.uint32),
        )
