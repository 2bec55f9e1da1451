"""Coarser levels of a heavy mesh, for small pictures of it: vertices that edges join within one cell of a grid become one.

(Vertex clustering: J. Rossignac and P. Borrel, Multi-resolution 3D approximations for rendering complex scenes, 1993.)
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components

from ..arrays import Floats, Ints
from .look import MeshPart, Shape
from .rig import Mesh

FEWEST_TRIANGLES = 12_000
"""Below, a mesh is drawn as it is."""
COARSEST_TRIANGLES = 2_500
FIRST_CELL_EDGES = 1.5
STEP = 2**0.5
MOST_LEVELS = 5
UV_CELLS = 16


@dataclass(frozen=True, eq=False)
class Level:
    """A coarser mesh; no vertex of the full one is farther than ``cell_m`` along each axis from where it stands in for it, in
    metres of the rest pose."""

    cell_m: float
    mesh: Mesh


def levels_of(mesh: Mesh, rest: Floats) -> tuple[Level, ...]:
    """Levels of a mesh, the finest first; none where it is light. The first has at most a third of its triangles, each of the
    others half of those of the one before. ``rest`` (slots, 4, 4) are its skin matrices in the rest pose. Seams stay closed;
    only what is joined by edges within a cell becomes one, so that fingers stay apart and lips that touch can part."""
    if len(mesh.triangles) < FEWEST_TRIANGLES:
        return ()
    places = _at_rest(mesh, rest)
    edges = places[mesh.triangles] - np.roll(places[mesh.triangles], 1, axis=1)
    cell = FIRST_CELL_EDGES * float(np.linalg.norm(edges, axis=-1).mean())
    welded = _welded(mesh)
    out: list[Level] = []
    count = len(mesh.triangles)
    for _ in range(2 * MOST_LEVELS):
        if cell <= 0 or count <= COARSEST_TRIANGLES or len(out) == MOST_LEVELS:
            break
        of_place = _joined_in_cells(mesh.triangles, places, welded, cell)
        kept = _has_three(of_place[mesh.triangles])
        if (2 if out else 3) * np.count_nonzero(kept) <= count:
            out.append(Level(cell, _clustered(mesh, places, of_place, kept)))
            count = int(np.count_nonzero(kept))
        cell *= STEP
    return tuple(out)


def _at_rest(mesh: Mesh, rest: Floats) -> Floats:
    """Where the vertices are in the rest pose, (V, 3)."""
    points = np.concatenate([mesh.positions, np.ones((len(mesh.positions), 1))], axis=1)
    out = np.zeros((len(points), 3))
    for influence in range(mesh.slots.shape[1]):
        placed = np.einsum("vij,vj->vi", rest[mesh.slots[:, influence], :3], points)
        out += mesh.weights[:, influence, None] * placed
    return out


def _welded(mesh: Mesh) -> Ints:
    """One number for all vertices that can never part: at one place, carried alike and moved alike by all shapes, (V,)."""
    bits = [np.ascontiguousarray(a, dtype=np.float32).view(np.uint32) for a in (mesh.positions, mesh.weights)]
    mixed = _mixed(np.column_stack([*bits, mesh.slots]).astype(np.uint64))
    for number, shape in enumerate(mesh.shapes):
        moves = np.ascontiguousarray(shape.moves).view(np.uint32).astype(np.uint64)
        mixed[shape.vertices] += _mixed(np.column_stack([moves, np.full(len(moves), number, dtype=np.uint64)]))
    return _numbered(mixed)


def _mixed(columns: NDArray[np.uint64]) -> NDArray[np.uint64]:
    """One number a row, different ones for different rows but for a chance of 1 in 2**64."""
    factors = np.random.default_rng(7).integers(0, 2**63, columns.shape[1], dtype=np.uint64) * 2 + 1
    scattered = (columns + np.uint64(0x9E3779B97F4A7C15)) * factors
    scattered ^= scattered >> np.uint64(31)
    return np.asarray((scattered * np.uint64(0xBF58476D1CE4E5B9)).sum(axis=1, dtype=np.uint64))


def _numbered(values: NDArray[np.uint64] | Ints) -> Ints:
    return np.unique(values, return_inverse=True)[1].reshape(-1).astype(np.int64)


def _has_three(corners: Ints) -> NDArray[np.bool_]:
    return np.asarray(
        (corners[:, 0] != corners[:, 1]) & (corners[:, 1] != corners[:, 2]) & (corners[:, 2] != corners[:, 0])
    )


def _clustered(mesh: Mesh, places: Floats, of_place: Ints, kept: NDArray[np.bool_]) -> Mesh:
    nearest = _nearest_to(_middles(of_place, places)[of_place], of_place, places)
    # Corners of one place that look different stay apart, at that one place.
    facing = (mesh.normals > 0) @ np.array([1, 2, 4])
    kinds = [of_place, facing, _part_of(mesh)]
    if len(mesh.uvs):
        kinds += list(np.floor(mesh.uvs * UV_CELLS).astype(np.int64).T)
    corner = _in_order_of_use(_numbered(_mixed(np.column_stack(kinds).astype(np.uint64))), mesh.triangles[kept])
    count = int(corner.max()) + 1
    shares = 1.0 / np.bincount(corner, minlength=count)

    def mean(values: NDArray[np.float32]) -> NDArray[np.float32]:
        sums = [np.bincount(corner, weights=column, minlength=count) for column in values.T]
        return (np.stack(sums, axis=1) * shares[:, None]).astype(np.float32)

    stands_for = np.zeros(count, dtype=np.int64)
    stands_for[corner] = nearest[of_place]
    # The place on the image of that very vertex, or of the one nearest to it: what is painted does not swim.
    looks_as = _nearest_to(places[nearest[of_place]], corner, places)
    normals = mean(mesh.normals)
    lengths = np.linalg.norm(normals, axis=1, keepdims=True)
    # Those of opposite sides may cancel out.
    normals = np.where(lengths > 1e-6, normals / np.maximum(lengths, 1e-6), mesh.normals[stands_for]).astype(np.float32)
    return replace(
        mesh, positions=mesh.positions[stands_for], slots=mesh.slots[stands_for], weights=mesh.weights[stands_for],
        normals=normals, colors=mean(mesh.colors), uvs=mesh.uvs[looks_as] if len(mesh.uvs) else mesh.uvs,
        triangles=corner[mesh.triangles[kept]].astype(np.uint32), parts=_parts(mesh.parts, kept),
        shapes=tuple(_shape(shape, stands_for, len(places)) for shape in mesh.shapes),
    )  # fmt: skip


def _in_order_of_use(corner: Ints, triangles: NDArray[np.uint32]) -> Ints:
    """Numbers anew, in the order in which triangles come by them: what is drawn together lies together. What none comes by is
    numbered last."""
    used, first = np.unique(np.concatenate([corner[triangles].reshape(-1), corner]), return_index=True)
    number = np.empty(len(used), dtype=np.int64)
    number[np.argsort(first)] = np.arange(len(used))
    return number[corner]


def _joined_in_cells(triangles: NDArray[np.uint32], places: Floats, welded: Ints, cell: float) -> Ints:
    """Which cluster each vertex is in, (V,): those that edges join within one cell of the grid."""
    cells = _numbered(_mixed(np.floor((places - places.min(axis=0)) / cell).astype(np.uint64)))
    corners = welded[triangles]
    edges = np.concatenate([corners[:, [0, 1]], corners[:, [1, 2]], corners[:, [2, 0]]])
    of_weld = np.zeros(int(welded.max()) + 1, dtype=np.int64)
    of_weld[welded] = cells
    inside = edges[of_weld[edges[:, 0]] == of_weld[edges[:, 1]]]
    size = (len(of_weld), len(of_weld))
    joined = coo_array((np.ones(len(inside), dtype=np.int8), (inside[:, 0], inside[:, 1])), shape=size)
    return np.asarray(connected_components(joined, directed=False)[1], dtype=np.int64)[welded]


def _middles(of: Ints, places: Floats) -> Floats:
    """The middle of each cluster, (clusters, 3)."""
    count = int(of.max()) + 1
    sums = np.stack([np.bincount(of, weights=column, minlength=count) for column in places.T], axis=1)
    return np.asarray(sums / np.bincount(of, minlength=count)[:, None])


def _nearest_to(wanted: Floats, of: Ints, places: Floats) -> Ints:
    """The vertex of each cluster that is nearest to what is wanted of it, (clusters,); ``wanted`` (V, 3)."""
    away = np.linalg.norm(places - wanted, axis=1)
    order = np.lexsort((away, of))
    return np.asarray(order[np.searchsorted(of[order], np.arange(int(of.max()) + 1))])


def _part_of(mesh: Mesh) -> Ints:
    """The part of the mesh that each vertex is in, (V,); one in several is in the last."""
    out = np.zeros(len(mesh.positions), dtype=np.int64)
    for number, part in enumerate(mesh.parts):
        out[mesh.triangles[part.first : part.end]] = number
    return out


def _parts(parts: tuple[MeshPart, ...], kept: NDArray[np.bool_]) -> tuple[MeshPart, ...]:
    before = np.concatenate([[0], np.cumsum(kept)])
    return tuple(replace(part, first=int(before[part.first]), end=int(before[part.end])) for part in parts)


def _shape(shape: Shape, stands_for: Ints, count: int) -> Shape:
    entry = np.full(count, -1)
    entry[shape.vertices] = np.arange(len(shape.vertices))
    reached = np.flatnonzero(entry[stands_for] >= 0)
    entries = entry[stands_for[reached]]
    turns = shape.turns[entries] if len(shape.turns) else shape.turns
    return Shape(shape.name, reached.astype(np.uint32), shape.moves[entries], turns)
