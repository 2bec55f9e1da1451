"""The drawn part of a glTF file: all triangles of the default scene as one mesh, carried by joints or by nodes."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from eddyfield.core.arrays import Floats
from eddyfield.core.rig.look import MeshPart
from eddyfield.core.rig.rig import Mesh, Skinning

from ..errors import DamagedFile, FileError
from ..limits import MOST_INDICES, MOST_VERTICES, Total
from . import draco
from .accessors import Accessors
from .document import Document, Primitive
from .looks import Looks, transformed
from .shapes import Shapes

MOST_SLOTS = 4096
COMPRESSED = b"DRACO"
"""With what a compressed mesh begins."""
ARRAYS = ("positions", "normals", "colors", "slots", "weights", "triangles", "uvs")
PLAIN = (0.62, 0.58, 0.52)


class _Slots:
    """Numbers the carriers of vertices: a node and the matrix before it."""

    def __init__(self) -> None:
        self.nodes: list[int] = []
        self.matrices: list[Floats] = []

    def add(self, node: int, joint_from_mesh: Floats) -> int:
        if len(self.nodes) >= MOST_SLOTS:
            raise FileError(f"The file has more than {MOST_SLOTS:,} joints and parts.", "Bring in fewer at a time.")
        self.nodes.append(node)
        self.matrices.append(joint_from_mesh)
        return len(self.nodes) - 1


def check_meshes(document: Document, accessors: Accessors) -> None:
    """Raise ``DamagedFile`` for skins and compressed meshes that are none, whether anything is drawn with them or not."""
    for index, skin in enumerate(document.skins):
        if skin.inverse_bind_matrices is not None:
            what = f"Skin {index}'s inverse bind matrices"
            accessors.check_matrices(skin.inverse_bind_matrices, len(skin.joints), what)
    for index, mesh in enumerate(document.meshes):
        for primitive in mesh.primitives:
            packed = primitive.extensions.draco
            if packed and bytes(accessors.view(packed.buffer_view)[: len(COMPRESSED)]) != COMPRESSED:
                raise DamagedFile(f"Mesh {index} says that it is compressed (KHR_draco_mesh_compression), and is not.")


def read_mesh(
    document: Document, accessors: Accessors, reachable: set[int], looks: Looks, shapes: Shapes
) -> tuple[Mesh | None, Skinning | None]:
    """All triangles below the default scene's nodes; None where there is nothing to draw."""
    slots = _Slots()
    parts: list[MeshPart] = []
    skins: dict[int, NDArray[np.int64]] = {}
    pieces: list[Mesh] = []
    first_vertex = 0
    _bound(document, accessors, reachable)
    _unpack(document, accessors, reachable)
    for index in sorted(reachable):
        node = document.nodes[index]
        if node.mesh is None:
            continue
        if node.mesh >= len(document.meshes):
            raise DamagedFile(f"Node {index} shows mesh {node.mesh}, which does not exist.")
        own_slot: int | None = None
        for primitive in document.meshes[node.mesh].primitives:
            if primitive.mode not in (4, 5, 6) or "POSITION" not in primitive.attributes:
                continue
            if node.skin is not None and "JOINTS_0" in primitive.attributes:
                if node.skin not in skins:
                    skins[node.skin] = _skin_slots(document, accessors, node.skin, slots)
                piece = _piece(accessors, primitive, skins[node.skin], None, looks)
            else:
                if own_slot is None:
                    own_slot = slots.add(index, np.eye(4))
                piece = _piece(accessors, primitive, None, own_slot, looks)
            kept = np.unique(piece.triangles)
            shapes.add(index, node.mesh, primitive, first_vertex, len(piece.positions), kept)
            piece = _of_vertices(piece, kept, first_vertex)
            first_vertex += len(kept)
            pieces.append(piece)
            look = (
                None
                if primitive.material is None
                else looks.look(primitive.material, "TEXCOORD_0" in primitive.attributes)
            )
            first = parts[-1].end if parts else 0
            parts.append(MeshPart(first, first + len(piece.triangles), look, "NORMAL" in primitive.attributes))
    if not pieces:
        return None, None
    arrays = {name: np.concatenate([getattr(p, name) for p in pieces]) for name in ARRAYS}
    mesh = Mesh(
        **arrays, parts=_joined(parts), looks=tuple(looks.looks), images=tuple(looks.images), shapes=shapes.found()
    )
    return mesh, Skinning(np.array(slots.nodes, dtype=np.int64), np.stack(slots.matrices))


def _joined(parts: list[MeshPart]) -> tuple[MeshPart, ...]:
    """Neighbours that look alike as one."""
    out: list[MeshPart] = []
    for part in parts:
        if out and (out[-1].look, out[-1].smooth) == (part.look, part.smooth):
            out[-1] = replace(out[-1], end=part.end)
        elif part.end > part.first:
            out.append(part)
    return tuple(out)


def _bound(document: Document, accessors: Accessors, reachable: set[int]) -> None:
    """Refuse what would come to too much, before any of it is read."""
    points = Total("points of meshes", MOST_VERTICES, "Bring in a lighter model.")
    corners = Total("corners of triangles", MOST_INDICES, "Bring in a lighter model.")
    for mesh in (document.nodes[index].mesh for index in reachable):
        for primitive in document.meshes[mesh].primitives if mesh is not None and mesh < len(document.meshes) else ():
            if "POSITION" in primitive.attributes:
                points.add(accessors.count(primitive.attributes["POSITION"], "A mesh's positions"))
            if primitive.indices is not None:
                # A strip or fan makes a triangle of nearly every index.
                corners.add((1 if primitive.mode == 4 else 3) * accessors.count(primitive.indices, "A mesh's indices"))


def _unpack(document: Document, accessors: Accessors, reachable: set[int]) -> None:
    """Put what is compressed (KHR_draco_mesh_compression) where the accessors of its primitives are."""
    meshes = sorted(
        {m for index in reachable if (m := document.nodes[index].mesh) is not None and m < len(document.meshes)}
    )
    packed = [p for m in meshes for p in document.meshes[m].primitives if p.extensions.draco]
    if not packed:
        return
    views = [bytes(accessors.view(p.extensions.draco.buffer_view)) for p in packed if p.extensions.draco]
    for primitive, (indices, attributes) in zip(packed, draco.unpacked(views), strict=True):
        assert primitive.extensions.draco is not None
        if primitive.indices is not None:
            accessors.put(primitive.indices, indices[:, None], "A mesh's indices")
        for name, unique in primitive.extensions.draco.attributes.items():
            if name in primitive.attributes:
                if unique not in attributes:
                    raise DamagedFile(f"A compressed mesh lacks its {name}.")
                accessors.put(primitive.attributes[name], attributes[unique], f"A mesh's {name}")


def _skin_slots(document: Document, accessors: Accessors, index: int, slots: _Slots) -> NDArray[np.int64]:
    skin = document.skins[index]
    matrices = np.broadcast_to(np.eye(4), (len(skin.joints), 4, 4))
    if skin.inverse_bind_matrices is not None:
        stored = accessors.numbers(skin.inverse_bind_matrices, ("MAT4",), f"Skin {index}'s inverse bind matrices")
        matrices = stored[: len(skin.joints)].reshape(-1, 4, 4).transpose(0, 2, 1)
    return np.array([slots.add(j, m) for j, m in zip(skin.joints, matrices, strict=True)], dtype=np.int64)


def _piece(
    accessors: Accessors,
    primitive: Primitive,
    skin_slots: NDArray[np.int64] | None,
    own_slot: int | None,
    looks: Looks,
) -> Mesh:
    attributes = primitive.attributes
    positions = accessors.numbers(attributes["POSITION"], ("VEC3",), "A mesh's positions")
    count = len(positions)
    triangles = _triangles(accessors, primitive, count)
    if "NORMAL" in attributes:
        normals = accessors.numbers(attributes["NORMAL"], ("VEC3",), "A mesh's normals")
        _same_count(normals, count, "normals")
    else:
        normals = _computed_normals(positions, triangles)
    colors = np.tile(np.array(PLAIN), (count, 1))
    if primitive.material is not None:
        colors[:] = np.clip(looks.material(primitive.material).base.factor[:3], 0, 1)
    if "COLOR_0" in attributes:
        vertex_colors = accessors.numbers(attributes["COLOR_0"], ("VEC3", "VEC4"), "A mesh's colours")[:, :3]
        _same_count(vertex_colors, count, "colours")
        colors = vertex_colors if primitive.material is None else colors * vertex_colors
    uvs = _coordinates(accessors, primitive, count, looks)
    if skin_slots is None:
        slots = np.zeros((count, 4), dtype=np.int64)
        slots[:, 0] = own_slot or 0
        weights = np.tile([1.0, 0.0, 0.0, 0.0], (count, 1))
    else:
        joints = accessors.whole_numbers(attributes["JOINTS_0"], ("VEC4",), "A mesh's joints")
        if "WEIGHTS_0" not in attributes:
            raise DamagedFile("A skinned mesh has no weights.")
        weights = accessors.numbers(attributes["WEIGHTS_0"], ("VEC4",), "A mesh's weights")
        _same_count(joints, count, "joints")
        _same_count(weights, count, "weights")
        joints = np.where(weights > 0, joints, 0)
        if len(joints) and (joints.max() >= len(skin_slots) or joints.min() < 0):
            raise DamagedFile("A mesh follows a joint that its skin does not have.")
        total = weights.sum(axis=1, keepdims=True)
        weights = np.where(total > 1e-9, weights / np.where(total > 1e-9, total, 1.0), [1.0, 0.0, 0.0, 0.0])
        slots = skin_slots[joints]
    return Mesh(
        positions.astype(np.float32), normals.astype(np.float32), colors.astype(np.float32),
        slots.astype(np.uint16), weights.astype(np.float32), triangles.astype(np.uint32),
        uvs.astype(np.float32),
    )  # fmt: skip


def _of_vertices(piece: Mesh, kept: NDArray[np.uint32], first_vertex: int) -> Mesh:
    """A piece of only those vertices that its triangles use, numbered from ``first_vertex``: files share their points among
    parts that use a few of them each."""
    arrays = {name: getattr(piece, name)[kept] for name in ARRAYS if name != "triangles"}
    triangles = np.searchsorted(kept, piece.triangles) + first_vertex
    return replace(piece, **arrays, triangles=triangles.astype(np.uint32))


def _coordinates(accessors: Accessors, primitive: Primitive, count: int, looks: Looks) -> Floats:
    """Where each vertex lies on the image of its look, (V, 2), u to the right and v downwards; 0 where there is none."""
    info = None if primitive.material is None else looks.material(primitive.material).base.texture
    name = f"TEXCOORD_{info.coordinates}" if info else ""
    if info is None or name not in primitive.attributes:
        return np.zeros((count, 2))
    uvs = accessors.numbers(primitive.attributes[name], ("VEC2",), "A mesh's texture coordinates")
    _same_count(uvs, count, "texture coordinates")
    return transformed(uvs, info)


def _same_count(values: NDArray[np.generic], count: int, what: str) -> None:
    if len(values) != count:
        raise DamagedFile(f"A mesh has {count:,} positions and {len(values):,} {what}.")


def _triangles(accessors: Accessors, primitive: Primitive, count: int) -> NDArray[np.int64]:
    if primitive.indices is None:
        order = np.arange(count)
    else:
        order = accessors.whole_numbers(primitive.indices, ("SCALAR",), "A mesh's indices")[:, 0]
        if len(order) and (order.max() >= count or order.min() < 0):
            raise DamagedFile("A mesh's triangles refer to points that it does not have.")
    if primitive.mode == 4:
        return order[: len(order) // 3 * 3].reshape(-1, 3)
    if len(order) < 3:
        return np.zeros((0, 3), dtype=np.int64)
    if primitive.mode == 6:
        return np.stack([np.full(len(order) - 2, order[0]), order[1:-1], order[2:]], axis=-1)
    strip = np.stack([order[:-2], order[1:-1], order[2:]], axis=-1)
    strip[1::2] = strip[1::2][:, [1, 0, 2]]
    return strip


def _computed_normals(positions: Floats, triangles: NDArray[np.int64]) -> Floats:
    normals = np.zeros_like(positions)
    corners = positions[triangles]
    faces = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    for corner in range(3):
        np.add.at(normals, triangles[:, corner], faces)
    length = np.linalg.norm(normals, axis=-1, keepdims=True)
    return np.asarray(np.where(length > 1e-20, normals / np.where(length > 1e-20, length, 1.0), [0.0, 1.0, 0.0]))
