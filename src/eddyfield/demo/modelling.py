"""A little modelling: lofted rings, boxes and balls, gathered into one skinned low-polygon mesh."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from eddyfield.core.arrays import Floats

from .shading import Smoothing

LEAST_AREA_M2 = 1e-10
Weights = dict[str, float]
WeightsAt = Callable[[Floats], Weights]


@cache
def linear_color(hex_color: str) -> Floats:
    """A colour written ``#rrggbb`` (sRGB) as linear light, 0..1 (IEC 61966-2-1)."""
    srgb = np.array([int(hex_color[i : i + 2], 16) for i in (1, 3, 5)]) / 255
    light = np.where(srgb <= 0.04045, srgb / 12.92, ((srgb + 0.055) / 1.055) ** 2.4)
    light.flags.writeable = False
    return light


@dataclass(frozen=True)
class Ring:
    """An ellipse of a loft: ``center``, half-widths along the loft's two cross directions, and what carries it."""

    center: tuple[float, float, float]
    half_width: float
    half_depth: float
    weights: Weights
    color: str | None = None


@dataclass(frozen=True)
class MeshArrays:
    """A mesh as a file has it: places (vertices, 3), colours, texture places (vertices, 2), joint indices and weights (four a
    vertex); normals where it is smooth; triangles by look; shapes as what they add to places and normals."""

    positions: Floats
    colors: Floats
    uvs: Floats
    slots: NDArray[np.uint16]
    shares: NDArray[np.float32]
    normals: Floats | None
    triangles: dict[str, NDArray[np.uint32]]
    shapes: dict[str, tuple[Floats, Floats]]


@dataclass
class Model:
    """Vertices with their carriers, and triangles; parts are appended one by one. What is made while ``look`` is set has that
    look, and texture places once round and once along. ``shapes`` are what each adds to the places (vertices, 3)."""

    positions: list[Floats] = field(default_factory=list)
    colors: list[Floats] = field(default_factory=list)
    weights: list[Weights] = field(default_factory=list)
    uvs: list[tuple[float, float]] = field(default_factory=list)
    triangles: list[tuple[int, int, int]] = field(default_factory=list)
    looks: list[str] = field(default_factory=list)
    parts: list[int] = field(default_factory=list)
    """Of every triangle: its look, and the part that it is smooth with."""
    look: str = ""
    shapes: dict[str, Floats] = field(default_factory=dict)
    _part: int = 0

    def vertex(self, place: Floats, color: Floats, weights: Weights, uv: tuple[float, float] = (0.0, 0.0)) -> int:
        self.positions.append(np.asarray(place, dtype=np.float64))
        self.colors.append(color)
        self.weights.append(weights)
        self.uvs.append(uv)
        return len(self.positions) - 1

    def face(self, *corners: int) -> None:
        """A triangle or a quadrangle, seen against the clock from outside."""
        first = corners[0]
        for second, third in pairwise(corners[1:]):
            self.triangles.append((first, second, third))
            self.looks.append(self.look)
            self.parts.append(self._part)

    def new_part(self) -> None:
        """What follows has a hard edge to what was before."""
        self._part += 1

    def loft(
        self,
        rings: Sequence[Ring],
        color: str,
        sides: int = 10,
        across: tuple[float, float, float] = (1, 0, 0),
        deep: tuple[float, float, float] = (0, 0, 1),
        caps: tuple[bool, bool] = (True, True),
        angle_weights: Callable[[float, Weights], Weights] | None = None,
        repeat: tuple[float, float] = (1.0, 1.0),
    ) -> None:
        """Skin over ellipses spanned by ``across`` and ``deep``; faces look outwards when the rings run along their
        cross product turned round (downwards for the defaults). ``angle_weights`` changes the carriers by angle,
        ``repeat`` says how often a texture goes round and along."""
        self.new_part()
        wide, far = np.array(across, dtype=np.float64), np.array(deep, dtype=np.float64)
        rows = []
        seam = 1 if self.look else 0  # a texture ends where it began, on a vertex of its own
        for number, ring in enumerate(rings):
            tint = linear_color(ring.color or color)
            row = []
            for side in range(sides + seam):
                angle = 2 * np.pi * (side + 0.5) / sides
                place = (
                    np.array(ring.center)
                    + wide * ring.half_width * np.sin(angle)
                    + far * ring.half_depth * np.cos(angle)
                )
                weights = angle_weights(angle, ring.weights) if angle_weights else ring.weights
                uv = (repeat[0] * side / sides, repeat[1] * number / (len(rings) - 1))
                row.append(self.vertex(place, tint, weights, uv))
            rows.append(row)
        outward = np.dot(np.cross(wide, far), np.array(rings[-1].center) - np.array(rings[0].center)) < 0
        for upper, lower in pairwise(rows):
            for side in range(sides):
                after = (side + 1) % (sides + seam)
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
                    self.face(*((middle, a, b) if flip else (middle, b, a)))

    def _quad(self, a: int, b: int, c: int, d: int, flip: bool) -> None:
        if flip:
            a, b, c, d = d, c, b, a
        self.face(a, d, c, b)

    def box(
        self, center: Sequence[float], size: Sequence[float], color: str, weights: Weights, taper: float = 1.0
    ) -> None:
        """A box; its upper face is ``taper`` times as wide and deep as its lower one."""
        self.new_part()
        half = np.array(size) / 2
        tint = linear_color(color)
        corners = []
        for y in (-1, 1):
            grow = taper if y > 0 else 1.0
            for x, z in ((-1, -1), (1, -1), (1, 1), (-1, 1)):
                corners.append(self.vertex(np.array(center) + half * [x * grow, y, z * grow], tint, weights))
        a, b, c, d, e, f, g, h = corners
        for face in ((a, b, c, d), (h, g, f, e), (a, e, f, b), (b, f, g, c), (c, g, h, d), (d, h, e, a)):
            self.face(*face)

    def picture(self, corners: Sequence[Sequence[float]], weights: Weights, color: str = "#ffffff") -> None:
        """A flat picture: its corners from the lower left against the clock, the whole texture on it."""
        self.new_part()
        tint = linear_color(color)
        uvs = ((0.0, 1.0), (1.0, 1.0), (1.0, 0.0), (0.0, 0.0))
        self.face(*(self.vertex(np.array(p), tint, weights, uv) for p, uv in zip(corners, uvs, strict=True)))

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
        self.new_part()
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

    def arrays(self, joints: Sequence[str], crease_deg: float | None = None) -> MeshArrays:
        """The mesh for a file; smooth where neighbours meet at less than ``crease_deg``, else without normals."""
        places, triangles = np.array(self.positions), np.array(self.triangles)
        # At the poles of balls two corners of a triangle meet.
        spans = np.linalg.norm(np.cross(*(places[triangles[:, n]] - places[triangles[:, 0]] for n in (1, 2))), axis=1)
        whole = spans > LEAST_AREA_M2
        triangles = triangles[whole]
        origin = np.arange(len(places))
        normals = None
        turned: dict[str, Floats] = {}
        if crease_deg is not None:
            smoothing = Smoothing(places, triangles, np.array(self.parts)[whole], crease_deg)
            found = smoothing.corner_normals(places).reshape(-1, 3)
            rows = np.concatenate([triangles.reshape(-1, 1), np.round(found, 3)], axis=1)
            _, first, where = np.unique(rows, axis=0, return_index=True, return_inverse=True)
            origin, normals = triangles.reshape(-1)[first], found[first]
            triangles = where.reshape(-1, 3)
            for name, moves in self.shapes.items():
                moved = smoothing.corner_normals(places + moves)
                turned[name] = np.where(
                    np.any(moves[origin], axis=1)[:, None], moved.reshape(-1, 3)[first] - normals, 0
                )
        slots, shares = _carriers(self.weights, joints)
        looks = np.array(self.looks)[whole]
        return MeshArrays(
            places[origin],
            np.array(self.colors)[origin],
            np.array(self.uvs)[origin],
            slots[origin],
            shares[origin],
            normals,
            {look: triangles[looks == look].astype(np.uint32) for look in dict.fromkeys(self.looks)},
            {name: (moves[origin], turned[name]) for name, moves in self.shapes.items()},
        )


def _carriers(
    weights: Sequence[Mapping[str, float]], joints: Sequence[str]
) -> tuple[NDArray[np.uint16], NDArray[np.float32]]:
    """Joint indices and weights, the four heaviest of every vertex."""
    index = {name: i for i, name in enumerate(joints)}
    slots = np.zeros((len(weights), 4), dtype=np.uint16)
    shares = np.zeros((len(weights), 4), dtype=np.float32)
    for row, carried in enumerate(weights):
        most = sorted(carried.items(), key=lambda item: -item[1])[:4]
        total = sum(w for _, w in most)
        for column, (name, weight) in enumerate(most):
            slots[row, column], shares[row, column] = index[name], weight / total
    return slots, shares
