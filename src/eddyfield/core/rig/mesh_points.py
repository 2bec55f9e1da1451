"""Points on the mesh of a rig: the corner of a mouth, the edge of a lid, the tip of a boot. They are followed like joints."""

from __future__ import annotations

import re
from dataclasses import dataclass

import numpy as np

from ..arrays import Floats
from ..errors import DomainError
from .rig import Rig

_NAMED = re.compile(r"point (\d{1,9})")


@dataclass(frozen=True)
class MeshPoint:
    """A vertex of the mesh, by its number."""

    vertex: int

    @property
    def name(self) -> str:
        """What it is called wherever a joint could be named."""
        return f"point {self.vertex}"


def followed_on(rig: Rig, name: str) -> int | MeshPoint:
    """The node of this name, or the point on the mesh. Raises ``DomainError`` for what the rig does not have."""
    named = _NAMED.fullmatch(name)
    if name in rig.index_of or named is None:
        return rig.find(name)
    count = 0 if rig.mesh is None or rig.skinning is None else len(rig.mesh.positions)
    if int(named[1]) >= count:
        raise DomainError(f"The mesh has no {name}: it has {count:,}.", "Choose one in the Picture.")
    return MeshPoint(int(named[1]))


def mesh_point_world(rig: Rig, world: Floats, shape_weights: Floats, vertex: int) -> Floats:
    """Where a point of the mesh is, and the joint that carries most of it, (frames, 2, 4, 4), of ``world_from_node`` ``world``
    (frames, nodes, 4, 4) and the weights of the shapes (frames, shapes). Linear blend skinning as in glTF 2.0: the shapes are
    laid on first."""
    mesh, skinning = rig.mesh, rig.skinning
    assert mesh is not None
    assert skinning is not None
    place = np.broadcast_to(mesh.positions[vertex].astype(np.float64), (len(world), 3)).copy()
    for shape, weights in zip(mesh.shapes, shape_weights.T, strict=True):
        for at in np.flatnonzero(shape.vertices == vertex):
            place += weights[:, None] * shape.moves[at]
    slots, shares = mesh.slots[vertex], mesh.weights[vertex].astype(np.float64)
    carried = world[:, skinning.nodes[slots]] @ skinning.joint_from_mesh[slots]
    each = np.einsum("fsij,fj->fsi", carried[..., :3, :3], place) + carried[..., :3, 3]
    out = np.zeros((len(world), 2, 4, 4))
    out[:, 0] = np.eye(4)
    out[:, 0, :3, 3] = np.einsum("s,fsi->fi", shares, each)
    out[:, 1] = world[:, skinning.nodes[slots[int(shares.argmax())]]]
    return out
