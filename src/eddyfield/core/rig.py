"""A rig: a hierarchy of nodes, what moves them, and what is drawn with them.

Evaluated for whole arrays of times at once; nodes are composed level by level down the hierarchy.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from . import transforms
from .errors import DomainError
from .motion import Motion
from .transforms import Floats

Ints = NDArray[np.int64]
BLOCK_BYTES = 32 * 2**20


@dataclass(frozen=True, eq=False)
class Mesh:
    """A triangle mesh whose vertices follow up to four slots of its rig's ``Skinning``, in metres of the rig.

    ``positions`` (V, 3), ``normals`` (V, 3), ``colors`` (V, 3) linear 0..1, ``slots`` and ``weights`` (V, 4),
    ``triangles`` (T, 3).
    """

    positions: NDArray[np.float32]
    normals: NDArray[np.float32]
    colors: NDArray[np.float32]
    slots: NDArray[np.uint16]
    weights: NDArray[np.float32]
    triangles: NDArray[np.uint32]


@dataclass(frozen=True, eq=False)
class Skinning:
    """What carries the vertices: slot i is node ``nodes[i]`` after ``joint_from_mesh[i]`` (4 x 4)."""

    nodes: Ints
    joint_from_mesh: Floats


@dataclass(frozen=True, eq=False)
class FileCamera:
    """A camera that came with a file, carried by ``node``. One of ``vertical_fov_deg`` and ``orthographic_height_m``."""

    name: str
    node: int
    vertical_fov_deg: float | None
    orthographic_height_m: float | None
    near_m: float


@dataclass(frozen=True, eq=False)
class Rig:
    """Nodes in file order with their rest transforms, motion, drawn parts and cameras.

    ``parents`` holds -1 for roots. ``joints`` are the nodes that count as the character's joints, in file order.
    ``rest_matrices`` (N, 4, 4) are local; nodes that the motion moves have ``rest_translation``, ``rest_quaternion`` and
    ``rest_scale`` to fall back on. ``scale`` is applied above every root: metres per unit of the file.
    """

    names: tuple[str, ...]
    parents: Ints
    rest_translation: Floats
    rest_quaternion: Floats
    rest_scale: Floats
    rest_matrices: Floats
    joints: Ints
    motion: Motion
    cameras: tuple[FileCamera, ...] = ()
    mesh: Mesh | None = None
    skinning: Skinning | None = None
    scale: float = 1.0
    notes: tuple[str, ...] = field(default=())

    @cached_property
    def index_of(self) -> dict[str, int]:
        return {name: index for index, name in enumerate(self.names)}

    @cached_property
    def joint_names(self) -> tuple[str, ...]:
        return tuple(self.names[j] for j in self.joints)

    @cached_property
    def levels(self) -> tuple[Ints, ...]:
        """Node indices by depth below the roots. Raises ``DomainError`` where nodes are their own ancestors."""
        depth = np.full(len(self.names), -1, dtype=np.int64)
        frontier = np.flatnonzero(self.parents < 0)
        children: list[list[int]] = [[] for _ in self.names]
        for child, parent in enumerate(self.parents):
            if parent >= 0:
                children[parent].append(child)
        levels: list[Ints] = []
        while len(frontier):
            depth[frontier] = len(levels)
            levels.append(frontier)
            frontier = np.array([c for p in frontier for c in children[p]], dtype=np.int64)
        if (depth < 0).any():
            lost = self.names[int(np.flatnonzero(depth < 0)[0])]
            raise DomainError(f"The node “{lost}” is its own ancestor.", "Mend the hierarchy of the file.")
        return tuple(levels)

    @cached_property
    def body_nodes(self) -> Ints:
        """The joints and all that hangs on them (end sites, hands without a skin), cameras left out, in file order."""
        body = np.zeros(len(self.names), dtype=bool)
        body[self.joints] = True
        for level in self.levels[1:]:
            body[level] |= body[self.parents[level]]
        body[[camera.node for camera in self.cameras]] = False
        return np.flatnonzero(body)

    @cached_property
    def moved_nodes(self) -> frozenset[int]:
        return frozenset(int(n) for n in self.motion.nodes)

    @cached_property
    def animated_joint_roots(self) -> Ints:
        """Joints that the motion moves and above which no other joint is moved, in file order."""
        joints = {int(j) for j in self.joints}
        roots = []
        for joint in joints:
            if joint not in self.moved_nodes:
                continue
            parent = int(self.parents[joint])
            while parent >= 0 and not (parent in joints and parent in self.moved_nodes):
                parent = int(self.parents[parent])
            if parent < 0:
                roots.append(joint)
        return np.array(sorted(roots), dtype=np.int64)

    def default_anchor(self) -> int:
        """The node a held pose is carried by: the first animated root of the joints, else their first root."""
        if len(self.animated_joint_roots):
            return int(self.animated_joint_roots[0])
        if not len(self.joints):
            raise DomainError("The file has no joints.", "Choose a file with a skin or with animated nodes.")
        joints = {int(j) for j in self.joints}
        return next((int(j) for j in self.joints if int(self.parents[j]) not in joints), int(self.joints[0]))

    def find(self, name: str) -> int:
        """Index of the node of this name. Raises ``DomainError`` that names some that there are."""
        index = self.index_of.get(name)
        if index is None:
            some = ", ".join(self.joint_names[:6]) + (" ..." if len(self.joint_names) > 6 else "")
            raise DomainError(f"There is no joint “{name}”.", f"Joints are: {some}." if some else "The file has none.")
        return index

    def world_matrices(self, seconds: Floats, nodes: Ints | None = None) -> Floats:
        """``world_from_node`` at times in seconds, shape (len(seconds), len(nodes) or N, 4, 4).

        Where only some nodes are asked for, only they and their ancestors are evaluated.
        """
        wanted = np.arange(len(self.names)) if nodes is None else np.asarray(nodes, dtype=np.int64)
        kept = self._with_ancestors(wanted)
        row_of = np.full(len(self.names), -1, dtype=np.int64)
        row_of[kept] = np.arange(len(kept))
        world = np.empty((len(seconds), len(kept), 4, 4))
        world[:] = self.rest_matrices[kept]
        moved = np.intersect1d(kept, self.motion.nodes)
        if len(moved):
            world[:, row_of[moved]] = self._moved_local(seconds, moved)
        roots = self.levels[0][row_of[self.levels[0]] >= 0]
        if self.scale != 1.0:
            world[:, row_of[roots], :3] *= self.scale
        for level in self.levels[1:]:
            rows = row_of[level]
            rows = rows[rows >= 0]
            if not len(rows):
                continue
            parents = row_of[self.parents[kept[rows]]]
            world[:, rows] = np.matmul(world[:, parents], world[:, rows])
        return world if nodes is None else world[:, row_of[wanted]]

    def world_positions(self, seconds: Floats, nodes: Ints) -> Floats:
        """Places of nodes in metres, shape (len(seconds), len(nodes), 3); evaluated in blocks, to bound the memory."""
        out = np.empty((len(seconds), len(nodes), 3))
        block = max(1, BLOCK_BYTES // (128 * len(self.names)))
        for first in range(0, len(seconds), block):
            rows = slice(first, first + block)
            out[rows] = self.world_matrices(seconds[rows], nodes)[..., :3, 3]
        return out

    def _with_ancestors(self, nodes: Ints) -> Ints:
        wanted: set[int] = set()
        for node in nodes:
            at = int(node)
            while at >= 0 and at not in wanted:
                wanted.add(at)
                at = int(self.parents[at])
        return np.array(sorted(wanted), dtype=np.int64)

    def _moved_local(self, seconds: Floats, nodes: Ints) -> Floats:
        count = len(seconds)
        shape = (count, len(nodes))
        translation = np.broadcast_to(self.rest_translation[nodes], (*shape, 3))
        quaternion = np.broadcast_to(self.rest_quaternion[nodes], (*shape, 4))
        scale = np.broadcast_to(self.rest_scale[nodes], (*shape, 3))
        translation, quaternion, scale = self.motion.sample(seconds, nodes, translation, quaternion, scale)
        return transforms.compose(translation, quaternion, scale)
