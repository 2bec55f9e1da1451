"""Coarser levels of heavy meshes: closed stays closed, seams too, everything within its cell, shapes move what they moved."""

from __future__ import annotations

from collections import Counter
from itertools import pairwise

import numpy as np
import pytest

from eddyfield.core.rig.levels import FEWEST_TRIANGLES, levels_of
from eddyfield.core.rig.look import MeshPart, Shape
from eddyfield.core.rig.rig import Mesh

REST = np.tile(np.eye(4), (2, 1, 1))


def ball(rings: int = 80, sides: int = 100, seam: bool = True) -> Mesh:
    """A closed ball of radius 1, textured once around: its seam has vertices twice, its lower half is carried by slot 1."""
    ring, side = (grid.reshape(-1) for grid in np.mgrid[0 : rings + 1, 0 : sides + 1])
    around = 2 * np.pi * (side % sides) / sides
    down = np.pi * ring / rings
    places = np.stack([np.sin(down) * np.cos(around), np.cos(down), np.sin(down) * np.sin(around)], axis=1)
    at = (np.arange(rings)[:, None] * (sides + 1) + np.arange(sides)).reshape(-1)
    across = sides + 1
    triangles = np.concatenate(
        [np.stack(t, 1) for t in ((at, at + 1, at + across), (at + 1, at + across + 1, at + across))]
    )
    uvs = np.stack([side / sides, ring / rings], axis=1)
    slots = np.zeros((len(places), 4), dtype=np.uint16)
    slots[places[:, 1] < 0, 0] = 1
    weights = np.tile(np.array([1, 0, 0, 0], dtype=np.float32), (len(places), 1))
    half = len(triangles) // 2
    parts = (MeshPart(0, half, 0, True), MeshPart(half, len(triangles), 1, True))
    return Mesh(
        places.astype(np.float32), places.astype(np.float32), np.full((len(places), 3), 0.5, dtype=np.float32), slots,
        weights, triangles.astype(np.uint32), uvs.astype(np.float32), parts,
    )  # fmt: skip


def test_light_meshes_have_none() -> None:
    mesh = ball(20, 20)
    assert len(mesh.triangles) < FEWEST_TRIANGLES
    assert levels_of(mesh, REST) == ()


def test_each_level_is_half_of_the_one_before_or_less_and_within_its_cell() -> None:
    mesh = ball()
    levels = levels_of(mesh, REST)
    counts = [len(mesh.triangles), *(len(level.mesh.triangles) for level in levels)]
    assert len(levels) >= 2
    assert 3 * counts[1] <= counts[0]
    assert all(2 * finer <= coarser for coarser, finer in pairwise(counts))
    for level in levels:
        own = level.mesh.positions
        away = np.abs(mesh.positions[:, None] - own[None]).max(axis=-1).min(axis=1)
        assert away.max() <= level.cell_m
        assert {tuple(p) for p in own} <= {tuple(p) for p in mesh.positions}, "places of the full mesh itself"
        assert np.allclose(np.linalg.norm(level.mesh.normals, axis=1), 1, atol=1e-5)
        assert [part.look for part in level.mesh.parts] == [0, 1]
        assert level.mesh.parts[-1].end == len(level.mesh.triangles)


def test_what_is_closed_stays_closed_over_its_seam_and_where_joints_meet() -> None:
    for level in levels_of(ball(), REST):
        places = np.unique(level.mesh.positions, axis=0, return_inverse=True)[1].reshape(-1)[level.mesh.triangles]
        edges: Counter[tuple[int, int]] = Counter()
        for a, b, c in places:
            for one, other in ((a, b), (b, c), (c, a)):
                edges[int(one), int(other)] += 1
        assert all(edges[b, a] == count for (a, b), count in edges.items()), "every edge is met by its other side"


def test_the_image_is_not_drawn_across_its_seam() -> None:
    for level in levels_of(ball(), REST):
        spread = np.ptp(level.mesh.uvs[level.mesh.triangles][:, :, 0], axis=1)
        away_from_poles = np.abs(level.mesh.positions[level.mesh.triangles][:, :, 1]).max(axis=1) < 0.9
        assert spread[away_from_poles].max() < 0.4


@pytest.mark.parametrize("apart", [True, False])
def test_lips_that_touch_can_part(apart: bool) -> None:
    """Two halves of a plate lie within one cell; a shape lifts the one alone."""
    mesh = ball()
    upper = np.flatnonzero(mesh.positions[:, 1] >= 0)
    slots = np.zeros_like(mesh.slots)
    flat = mesh.positions * np.array([1, 1e-4, 1], dtype=np.float32)
    moves = np.tile(np.array([0, 0.5, 0], dtype=np.float32), (len(upper), 1))
    shapes = (Shape("open", upper.astype(np.uint32), moves, np.zeros((0, 3), dtype=np.float32)),) if apart else ()
    lips = Mesh(
        flat, mesh.normals, mesh.colors, slots, mesh.weights, mesh.triangles, mesh.uvs, mesh.parts, shapes=shapes
    )
    coarse = levels_of(lips, REST)[-1].mesh
    in_one_place = len(np.unique(np.round(coarse.positions[:, ::2], 5), axis=0))
    if apart:
        (shape,) = coarse.shapes
        assert np.allclose(shape.moves, [0, 0.5, 0])
        assert 0.3 < len(shape.vertices) / len(coarse.positions) < 0.7
        assert (coarse.positions[shape.vertices, 1] >= 0).all(), "those of the upper half, and no others"
    assert in_one_place < len(coarse.positions)


def test_cells_are_metres_of_the_rest_pose() -> None:
    mesh = ball()
    one, scaled = levels_of(mesh, REST), levels_of(mesh, REST * np.array([0.01, 0.01, 0.01, 1.0])[None, :, None])
    assert [level.cell_m for level in scaled] == pytest.approx([0.01 * level.cell_m for level in one])
    assert [len(level.mesh.triangles) for level in scaled] == [len(level.mesh.triangles) for level in one]


def test_what_is_painted_stays_where_it_is() -> None:
    """The image goes around the ball: every vertex of a level has the place on it that belongs to where it is."""
    for level in levels_of(ball(), REST):
        x, y, z = level.mesh.positions.T.astype(np.float64)
        around, down = np.arctan2(z, x) / (2 * np.pi) % 1.0, np.arccos(np.clip(y, -1, 1)) / np.pi
        off = np.abs(level.mesh.uvs - np.stack([around, down], axis=1))
        off[:, 0] = np.minimum(off[:, 0], 1 - off[:, 0]) * np.sqrt(1 - y**2) * 2 * np.pi
        assert np.abs(off).max() <= 2 * level.cell_m
        assert np.median(off) < 1e-6
