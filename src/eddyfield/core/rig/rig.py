"""A rig: a hierarchy of nodes, what moves them, and what is drawn with them.

Evaluated for whole arrays of times at once; nodes are composed level by level down the hierarchy.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import cached_property
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from ..arrays import Floats, Ints
from ..errors import DomainError
from .look import Look, MeshPart, Shape
from .motion import Motion, Path, ShapeCurve, compiled_loops

BLOCK_NUMBERS = 300_000
JOINTS_REACH_M = 1.5
"""From the ankles to the head of a body that is 1.7 m high."""
USUAL_BODIES_M = (0.2, 20.0)
"""How high bodies stand: one that does not is asked about as it comes in."""
FEWEST_COMPILED = 8000
"""Nodes times times in a block: below, NumPy is done before what is compiled is loaded."""


@dataclass(frozen=True, eq=False)
class Mesh:
    """A triangle mesh whose vertices follow up to four slots of its rig's ``Skinning``, in metres of the rig.

    ``positions`` (V, 3), ``normals`` (V, 3), ``colors`` (V, 3) linear 0..1, ``slots`` and ``weights`` (V, 4),
    ``triangles`` (T, 3). ``uvs`` (V, 2) are places on the image of a look, u to the right, v downwards; empty without any.
    Without ``parts`` all of it is plain and flat.
    """

    positions: NDArray[np.float32]
    normals: NDArray[np.float32]
    colors: NDArray[np.float32]
    slots: NDArray[np.uint16]
    weights: NDArray[np.float32]
    triangles: NDArray[np.uint32]
    uvs: NDArray[np.float32] = field(default_factory=lambda: np.zeros((0, 2), dtype=np.float32))
    parts: tuple[MeshPart, ...] = ()
    looks: tuple[Look, ...] = ()
    images: tuple[bytes, ...] = ()
    shapes: tuple[Shape, ...] = ()


@dataclass(frozen=True, eq=False)
class Skinning:
    """What carries the vertices: slot i is node ``nodes[i]`` after ``joint_from_mesh[i]`` (4 x 4)."""

    nodes: Ints
    joint_from_mesh: Floats


@dataclass(frozen=True, eq=False)
class FileCamera:
    """A camera that came with a file, carried by ``node``. One of ``vertical_fov_deg`` and ``orthographic_height_m`` is
    given, or none where the file's camera cannot be looked through."""

    name: str
    node: int
    vertical_fov_deg: float | None
    orthographic_height_m: float | None
    near_m: float
    fov_curve: ShapeCurve | None = None
    """Its vertical field of view over time, radians, in one column; None where it does not change."""
    far_m: float | None = None
    back_mm: tuple[float, float] | None = None
    """Width and height of its film back, where the file knows of one."""
    off_middle_mm: tuple[float, float] = (0.0, 0.0)
    """How far right of and above the lens's axis the middle of the back lies."""
    focus_curve: ShapeCurve | None = None
    """Over time, in two columns: metres to what is sharp, and the f-number; None where all is sharp."""


@dataclass(frozen=True, eq=False)
class Rig:
    """Nodes in file order with their rest transforms, motion, drawn parts and cameras.

    ``parents`` holds -1 for roots. ``joints`` are the nodes that count as the character's joints, in file order.
    ``rest_matrices`` (N, 4, 4) are local; nodes that the motion moves have ``rest_translation``, ``rest_quaternion`` and
    ``rest_scale`` to fall back on. ``scale`` is applied above every root: metres per unit of the file.
    ``faces_z``: the format's own rule says that its characters face +Z.
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
    faces_z: bool = False
    notes: tuple[str, ...] = field(default=())
    alternatives: tuple[str, ...] = ()
    """Names of the rigs of its file, any of which can be had by itself; none where there is no choice."""

    @cached_property
    def index_of(self) -> dict[str, int]:
        return {name: index for index, name in enumerate(self.names)}

    @property
    def rest(self) -> dict[Path, Floats]:
        """Local translation, rotation and scale of every node where nothing moves it."""
        return {"translation": self.rest_translation, "rotation": self.rest_quaternion, "scale": self.rest_scale}

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
    def size(self) -> float:
        """How large the body is, beside one that is 1.7 m high: what is told of lengths on it goes by that. By how high its
        joints reach where nothing moves them, or how far they lie apart where that is much farther."""
        sides = np.ptp(self.rest_world[self.body_nodes, :3, 3], axis=0) if len(self.body_nodes) else np.zeros(3)
        reaches = float(sides[1] if 2 * sides[1] > sides.max() else sides.max())
        return reaches / JOINTS_REACH_M if reaches > 0 else 1.0

    @cached_property
    def rest_world(self) -> Floats:
        """``world_from_node`` (N, 4, 4) where nothing moves."""
        out = np.array(self.rest_matrices)
        out[self.levels[0], :3] *= self.scale
        for level in self.levels[1:]:
            out[level] = out[self.parents[level]] @ out[level]
        return out

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
        plan = self._plan(nodes)
        out = np.empty((len(seconds), len(plan.wanted), 4, 4))
        for rows in _blocks(len(seconds), len(plan.kept)):
            self._evaluate_into(plan, seconds[rows], out[rows])
        return out

    def world_positions(self, seconds: Floats, nodes: Ints) -> Floats:
        """Places of nodes in metres, shape (len(seconds), len(nodes), 3)."""
        plan = self._plan(nodes)
        out = np.empty((len(seconds), len(plan.wanted), 3))
        for rows in _blocks(len(seconds), len(plan.kept)):
            out[rows] = self._evaluate(plan, seconds[rows])[:, 3, plan.wanted].transpose(2, 1, 0)
        return out

    def _evaluate_into(self, plan: _Plan, seconds: Floats, out: Floats) -> None:
        """World matrices of the wanted nodes into (times, wanted, 4, 4)."""
        compiled = compiled_loops() if len(seconds) * len(plan.kept) >= FEWEST_COMPILED else None
        if compiled is None:
            out[:, :, :3] = self._evaluate(plan, seconds)[:, :, plan.wanted].transpose(3, 2, 0, 1)
            out[:, :, 3] = (0.0, 0.0, 0.0, 1.0)
            return
        moved = self.motion.sample_rows(seconds, plan.kept[plan.moved], self.rest)
        compiled.compose_hierarchy(
            plan.parents, plan.columns, plan.wanted, self.rest_matrices[plan.kept], float(self.scale),
            moved["translation"], moved["rotation"], moved["scale"], out,
        )  # fmt: skip

    def _evaluate(self, plan: _Plan, seconds: Floats) -> Floats:
        """Affine world matrices (3, 4, kept nodes, times): times run along memory, so that every product of a level is
        one operation over long rows."""
        if len(plan.moved) == len(plan.kept):
            world = self._moved_local(seconds, plan.kept)
        else:
            world = np.empty((3, 4, len(plan.kept), len(seconds)))
            world[:] = self.rest_matrices[plan.kept][:, :3].transpose(1, 2, 0)[..., None]
            if len(plan.moved):
                world[:, :, plan.moved] = self._moved_local(seconds, plan.kept[plan.moved])
        if self.scale != 1.0:
            world[:, :, : plan.ends[0]] *= self.scale
        for first, end in pairwise(plan.ends):
            parents = plan.parents[first:end]
            # Siblings of one parent need no copy of it.
            alone = (parents == parents[0]).all()
            above = world[:, :, parents[0], None] if alone else world[:, :, parents]
            local = world[:, :, first:end]
            product = above[:, 0, None] * local[None, 0]
            term = above[:, 1, None] * local[None, 1]
            product += term
            product += np.multiply(above[:, 2, None], local[None, 2], out=term)
            product[:, 3] += above[:, 3]
            world[:, :, first:end] = product
        return world

    def _plan(self, nodes: Ints | None) -> _Plan:
        """Which nodes are evaluated, in what order, for the nodes that are asked for."""
        key = None if nodes is None else nodes.tobytes()
        plan = self._plans.get(key)
        if plan is None:
            wanted = np.arange(len(self.names)) if nodes is None else np.asarray(nodes, dtype=np.int64)
            needed = np.zeros(len(self.names), dtype=bool)
            needed[self._with_ancestors(wanted)] = True
            levels = [level[needed[level]] for level in self.levels]
            kept = np.concatenate([np.zeros(0, dtype=np.int64), *levels])
            index = np.full(len(self.names), -1, dtype=np.int64)
            index[kept] = np.arange(len(kept))
            parents = np.where(self.parents[kept] >= 0, index[self.parents[kept]], -1)
            ends = tuple(np.cumsum([len(level) for level in levels if len(level)]).tolist())
            moved = np.flatnonzero(np.isin(kept, self.motion.nodes))
            plan = _Plan(kept, index[wanted], parents, ends, moved)
            self._plans[key] = plan
        return plan

    @cached_property
    def _plans(self) -> dict[bytes | None, _Plan]:
        return {}

    def _with_ancestors(self, nodes: Ints) -> Ints:
        wanted: set[int] = set()
        for node in nodes:
            at = int(node)
            while at >= 0 and at not in wanted:
                wanted.add(at)
                at = int(self.parents[at])
        return np.array(sorted(wanted), dtype=np.int64)

    def _moved_local(self, seconds: Floats, nodes: Ints) -> Floats:
        """Local matrices (3, 4, nodes, times)."""
        moved = self.motion.sample(seconds, nodes, self.rest)
        x, y, z, w = moved["rotation"]
        out = np.empty((3, 4, len(nodes), len(seconds)))
        twice_x, twice_y, twice_z = x + x, y + y, z + z
        xx, yy, zz = x * twice_x, y * twice_y, z * twice_z
        xy, xz, yz = x * twice_y, x * twice_z, y * twice_z
        wx, wy, wz = w * twice_x, w * twice_y, w * twice_z
        out[0, 0], out[0, 1], out[0, 2] = 1 - yy - zz, xy - wz, xz + wy
        out[1, 0], out[1, 1], out[1, 2] = xy + wz, 1 - xx - zz, yz - wx
        out[2, 0], out[2, 1], out[2, 2] = xz - wy, yz + wx, 1 - xx - yy
        if not (moved["scale"] == 1.0).all():
            out[:, :3] *= moved["scale"]
        out[:, 3] = moved["translation"]
        return out


@dataclass(frozen=True, eq=False)
class _Plan:
    """Nodes to evaluate, level by level: ``kept`` in that order, ``wanted`` and ``parents`` as places in it, the ``ends``
    of the levels, and the places of those that ``moved``."""

    kept: Ints
    wanted: Ints
    parents: Ints
    ends: tuple[int, ...]
    moved: Ints

    @cached_property
    def columns(self) -> Ints:
        """Per kept node its place among those that are moved, -1 where it stands still."""
        columns = np.full(len(self.kept), -1, dtype=np.int64)
        columns[self.moved] = np.arange(len(self.moved))
        return columns


def _blocks(count: int, nodes: int) -> Iterator[slice]:
    """Rows of times that are evaluated together: as many as stay near the processor."""
    size = max(16, BLOCK_NUMBERS // (12 * max(1, nodes)))
    for first in range(0, count, size):
        yield slice(first, min(first + size, count))
