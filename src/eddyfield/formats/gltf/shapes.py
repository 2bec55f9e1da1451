"""Morph targets of a glTF file: the shapes of its meshes, and the curves of their weights."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from eddyfield.core.arrays import Floats
from eddyfield.core.rig.look import Shape

from ..errors import DamagedFile
from ..limits import MOST_SHAPE_NUMBERS, MOST_SHAPES, Total
from .accessors import Accessors
from .document import Document, Mesh, Primitive

STILL_M = 1e-7


def shape_names(mesh: Mesh, index: int) -> list[str]:
    """Names of a mesh's shapes, as many as its primitives have."""
    count = max((len(p.targets) for p in mesh.primitives), default=0)
    given = mesh.extras.target_names if mesh.extras else []
    return [given[n] if n < len(given) and given[n] else f"shape_{index}_{n}" for n in range(count)]


class Shapes:
    """Collects the shapes of all meshes, one for each target of each node that shows a mesh, in their order."""

    def __init__(self, document: Document, accessors: Accessors) -> None:
        self._document, self._accessors = document, accessors
        self._numbers = Total("numbers of shapes", MOST_SHAPE_NUMBERS, "Bring in fewer shapes, or a lighter mesh.")
        self._count = Total("shapes", MOST_SHAPES, "Bring in fewer shapes.")
        self._parts: dict[tuple[int, int], list[tuple[NDArray[np.uint32], Floats, Floats | None]]] = {}
        self._names: dict[tuple[int, int], str] = {}

    def add(
        self, node: int, mesh_index: int, primitive: Primitive, first_vertex: int, count: int, kept: NDArray[np.uint32]
    ) -> None:
        """The targets of one primitive of ``count`` vertices, of which those ``kept`` are numbered from ``first_vertex``."""
        mesh = self._document.meshes[mesh_index]
        for target, name in enumerate(shape_names(mesh, mesh_index)):
            key = (node, target)
            if key not in self._names:
                self._count.add(1)
                self._names[key] = name
                self._parts[key] = []
            if target >= len(primitive.targets) or "POSITION" not in primitive.targets[target]:
                continue
            attributes = primitive.targets[target]
            self._numbers.add(3 * count)
            moves = self._read(attributes["POSITION"], count, "positions")[kept]
            turns = self._read(attributes["NORMAL"], count, "normals")[kept] if "NORMAL" in attributes else None
            moved = np.abs(moves).max(axis=1, initial=0.0) > STILL_M
            if turns is not None:
                moved |= np.abs(turns).max(axis=1, initial=0.0) > STILL_M
            at = np.flatnonzero(moved)
            self._parts[key].append(
                ((at + first_vertex).astype(np.uint32), moves[at], None if turns is None else turns[at])
            )

    def _read(self, index: int, count: int, what: str) -> Floats:
        values = self._accessors.numbers(index, ("VEC3",), f"A shape's {what}")
        if len(values) != count:
            raise DamagedFile(f"A shape moves {len(values):,} points of a mesh that has {count:,}.")
        return values

    def found(self) -> tuple[Shape, ...]:
        names: set[str] = set()
        out = []
        for (node, _), parts in self._parts_in_order():
            name = self._names[node, _]
            if name in names:
                name = f"{name}_{node}"
            names.add(name)
            none = np.zeros((0, 3))
            moves = np.concatenate([none, *(m for _, m, _ in parts)])
            turned = bool(parts) and all(t is not None for _, _, t in parts)
            turns = np.concatenate([none, *(t for _, _, t in parts if t is not None)]) if turned else none
            vertices = np.concatenate([np.zeros(0, dtype=np.uint32), *(v for v, _, _ in parts)])
            out.append(Shape(name, vertices, moves.astype(np.float32), turns.astype(np.float32)))
        return tuple(out)

    def columns(self) -> dict[int, list[int]]:
        """Per node that shows a mesh with shapes, the places of its shapes among all."""
        out: dict[int, list[int]] = {}
        for place, ((node, _), _parts) in enumerate(self._parts_in_order()):
            out.setdefault(node, []).append(place)
        return out

    def rest_weights(self) -> Floats:
        """The weight of each shape where nothing animates it, (shapes,)."""
        out = []
        for (node, target), _ in self._parts_in_order():
            shown = self._document.nodes[node]
            mesh = self._document.meshes[shown.mesh or 0]
            weights = shown.weights if shown.weights is not None else mesh.weights
            out.append(weights[target] if target < len(weights) else 0.0)
        return np.array(out, dtype=np.float64)

    def _parts_in_order(self) -> list[tuple[tuple[int, int], list[tuple[NDArray[np.uint32], Floats, Floats | None]]]]:
        return sorted(self._parts.items(), key=lambda item: item[0])
