"""What hangs on a joint of a rig: the nodes below it, and the points of the mesh that it carries."""

from __future__ import annotations

import numpy as np

from ..arrays import Floats, Ints
from . import transforms
from .rig import Rig

MOSTLY = 0.5
DIRECTIONS = np.array(
    [[x, y, z] for x in (-1, 0, 1) for y in (-1, 0, 1) for z in (-1, 0, 1) if (x, y, z) != (0, 0, 0)], dtype=np.float64
)


def hangs_on(rig: Rig, node: int, above: int) -> bool:
    """Whether a node is another one, or lies somewhere below it."""
    while node >= 0:
        if node == above:
            return True
        node = int(rig.parents[node])
    return False


def ancestors(rig: Rig, node: int) -> tuple[int, ...]:
    """A node and all that it hangs on, itself first."""
    out = []
    while node >= 0:
        out.append(node)
        node = int(rig.parents[node])
    return tuple(out)


def all_hanging_on(rig: Rig, node: int) -> Ints:
    """A node and all that lie below it, in file order."""
    found = {node}
    for level in rig.levels[1:]:
        found.update(int(n) for n in level if int(rig.parents[n]) in found)
    return np.array(sorted(found), dtype=np.int64)


def hanging_points(rig: Rig, node: int, world: Floats) -> Floats | None:
    """Places (V, 3), as ``world`` (nodes, 4, 4) puts them, of the vertices that are mostly weighted to a node and what hangs
    on it; None where there are fewer than three."""
    if rig.mesh is None or rig.skinning is None:
        return None
    of_node = np.array([hangs_on(rig, int(n), node) for n in rig.skinning.nodes])
    share = (rig.mesh.weights * of_node[rig.mesh.slots]).sum(axis=1)
    chosen = share > MOSTLY
    if chosen.sum() < 3:
        return None
    skin = world[rig.skinning.nodes] @ rig.skinning.joint_from_mesh
    blended = np.einsum("vs,vsij->vij", rig.mesh.weights[chosen].astype(np.float64), skin[rig.mesh.slots[chosen]])
    return transforms.apply(blended, rig.mesh.positions[chosen].astype(np.float64))


def outermost(rig: Rig, node: int) -> Floats | None:
    """Those of the points that hang on a node which reach farthest in 26 directions, in the rigid axes of the node at the
    start of the motion, metres, (up to 26, 3): they go along with it. None without a mesh there."""
    world = rig.world_matrices(np.zeros(1))[0]
    points = hanging_points(rig, node, world)
    if points is None:
        return None
    local = transforms.apply(transforms.rigid_inverse(transforms.orthonormal(world[None, node])[0]), points)
    return np.asarray(local[np.unique(np.argmax(local @ DIRECTIONS.T, axis=0))])
