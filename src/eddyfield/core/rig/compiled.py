"""Compiled loops for long rows of joints and frames; ``motion`` and ``rig`` have the same with NumPy.

Loading this file compiles them; Numba keeps the machine code beside it, so that only the first time on a machine does.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numba import njit

from ..arrays import Floats, Ints

SETTINGS: dict[str, Any] = {"cache": True, "nogil": True, "error_model": "numpy"}


@njit("void(f8[:,:,::1], i8[::1], f8[::1], i8[::1], i8[::1], f8[:,:,::1])", **SETTINGS)
def blend_keys(keys: Floats, segment: Ints, share: Floats, of: Ints, to: Ints, out: Floats) -> None:
    """Straight between the keys (3, nodes, K) of the nodes ``of``, into the columns ``to`` of ``out`` (times, columns, 3)."""
    for row in range(len(segment)):
        left, part = segment[row], share[row]
        for i in range(len(of)):
            node, column = of[i], to[i]
            for c in range(3):
                start = keys[c, node, left]
                out[row, column, c] = start + (keys[c, node, left + 1] - start) * part


@njit(
    "void(f8[:,:,::1], f8[:,::1], f8[:,::1], f8[:,::1], i8[::1], f8[::1], i8[::1], i8[::1], f8[:,:,::1])",
    **SETTINGS,
)
def turn_keys(
    keys: Floats, sides: Floats, angles: Floats, inverses: Floats, segment: Ints, share: Floats, of: Ints, to: Ints,
    out: Floats,
) -> None:  # fmt: skip
    """The shortest way between the unit quaternions ``keys`` (4, nodes, K) of the nodes ``of``, into the columns ``to`` of
    ``out`` (times, columns, 4). Per segment (nodes, K - 1): the side on which its end is taken, the angle to it, and 1 / the
    sine of that (0 where it is too small)."""
    for row in range(len(segment)):
        left, part = segment[row], share[row]
        for i in range(len(of)):
            node, column = of[i], to[i]
            angle, inverse = angles[node, left], inverses[node, left]
            if inverse == 0.0:
                leaving, arriving = 1.0 - part, part
            else:
                leaving, arriving = math.sin((1.0 - part) * angle) * inverse, math.sin(part * angle) * inverse
            arriving *= sides[node, left]
            for c in range(4):
                out[row, column, c] = leaving * keys[c, node, left] + arriving * keys[c, node, left + 1]


@njit(
    "void(i8[::1], i8[::1], i8[::1], f8[:,:,::1], f8, f8[:,:,::1], f8[:,:,::1], f8[:,:,::1], f8[:,:,:,::1])",
    **SETTINGS,
)
def compose_hierarchy(
    parents: Ints, moved: Ints, wanted: Ints, still: Floats, scale: float, translation: Floats, rotation: Floats,
    stretch: Floats, out: Floats,
) -> None:  # fmt: skip
    """World matrices into ``out`` (times, wanted, 4, 4), from nodes that stand after their parents (-1: none).

    ``moved`` (nodes,) is the column of a node's ``translation``, ``rotation`` and ``stretch`` (times, columns, 3, 4, 3), or
    -1 where it stands still, as its matrix in ``still`` (nodes, 4, 4); ``scale`` is applied above the roots.
    """
    count = len(parents)
    world = np.empty((count, 3, 4))
    local = np.empty((3, 4))
    for row in range(len(out)):
        for node in range(count):
            column = moved[node]
            if column < 0:
                for i in range(3):
                    for j in range(4):
                        local[i, j] = still[node, i, j]
            else:
                x, y, z, w = rotation[row, column]
                sx, sy, sz = stretch[row, column]
                local[0, 0], local[0, 1] = (1 - 2 * (y * y + z * z)) * sx, 2 * (x * y - w * z) * sy
                local[0, 2], local[1, 0] = 2 * (x * z + w * y) * sz, 2 * (x * y + w * z) * sx
                local[1, 1], local[1, 2] = (1 - 2 * (x * x + z * z)) * sy, 2 * (y * z - w * x) * sz
                local[2, 0], local[2, 1] = 2 * (x * z - w * y) * sx, 2 * (y * z + w * x) * sy
                local[2, 2] = (1 - 2 * (x * x + y * y)) * sz
                local[0, 3], local[1, 3], local[2, 3] = translation[row, column]
            parent = parents[node]
            if parent < 0:
                for i in range(3):
                    for j in range(4):
                        world[node, i, j] = local[i, j] * scale
            else:
                for i in range(3):
                    a, b, c = world[parent, i, 0], world[parent, i, 1], world[parent, i, 2]
                    for j in range(4):
                        world[node, i, j] = a * local[0, j] + b * local[1, j] + c * local[2, j]
                    world[node, i, 3] += world[parent, i, 3]
        for i in range(len(wanted)):
            node = wanted[i]
            for j in range(3):
                for k in range(4):
                    out[row, i, j, k] = world[node, j, k]
            for k in range(3):
                out[row, i, 3, k] = 0.0
            out[row, i, 3, 3] = 1.0
