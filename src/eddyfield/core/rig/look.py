"""How the surface of a mesh looks, in the terms of glTF 2.0; colours are linear, 0..1."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

AlphaMode = Literal["opaque", "mask", "blend"]
Wrap = Literal["repeat", "clamp", "mirror"]


@dataclass(frozen=True)
class Look:
    """What is multiplied with the colours of the vertices: ``image`` is an index into the images of the mesh, wrapped as ``wrap``
    says across and down. ``opacity`` is multiplied with the image's own; ``mask`` shows what has at least ``cutoff`` of it."""

    name: str = ""
    image: int | None = None
    wrap: tuple[Wrap, Wrap] = ("repeat", "repeat")
    opacity: float = 1.0
    alpha: AlphaMode = "opaque"
    cutoff: float = 0.5
    both_sides: bool = False
    glow: tuple[float, float, float] = (0.0, 0.0, 0.0)
    lit: bool = True


@dataclass(frozen=True)
class MeshPart:
    """Triangles ``first`` to ``end`` (not included) of a mesh, with its look by index; None is plain. Where it is not ``smooth``
    every triangle is flat, whatever the normals say."""

    first: int
    end: int
    look: int | None = None
    smooth: bool = False


@dataclass(frozen=True, eq=False)
class Shape:
    """A shape that a mesh is drawn towards, by a weight: of some of its vertices (N,) how far they go, (N, 3), and what is added
    to their normals, (N, 3), empty where nothing is known of that."""

    name: str
    vertices: NDArray[np.uint32]
    moves: NDArray[np.float32]
    turns: NDArray[np.float32]
