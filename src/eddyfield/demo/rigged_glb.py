"""A demo character as .glb: skeleton, skinned mesh, and its performance keyed as cubic splines."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from eddyfield.core.arrays import Floats
from eddyfield.formats.gltf import GltfWriter
from eddyfield.formats.gltf.write import ARRAY_TARGET, INDEX_TARGET

from .modelling import Model
from .pictures import add_look
from .posing import RATE, tangents

FACE = "face"
"""What the rows on which shapes are keyed are asked by."""
FACE_CREASE_DEG = 80.0


@dataclass(frozen=True)
class Performer:
    """A skeleton (joints in order, the root first, every joint's own axes the world's), its mesh and its motion: local
    rotations (rows, joints, 4), places of the root (rows, 3), and the rows on which a joint is keyed."""

    name: str
    action: str
    joints: tuple[str, ...]
    parent: Mapping[str, str]
    place: Mapping[str, Floats]
    model: Model
    rotations: Floats
    root_places: Floats
    key_rows: Callable[[str], NDArray[np.int64]]
    crease_deg: float
    face: Model | None = None
    """The part of the mesh that has shapes, where there is one."""
    weights: Floats | None = None
    """How much of every shape (rows, shapes)."""


def rigged_glb(performer: Performer) -> bytes:
    """The file's bytes, the same every time."""
    writer = GltfWriter("Eddyfield demo")
    names = list(performer.joints)
    for name in names:
        parent = performer.parent[name]
        offset = performer.place[name] - (performer.place[parent] if parent else 0)
        writer.add("nodes", {"name": name, "translation": [round(float(v), 6) for v in offset]})
    for index, name in enumerate(names):
        children = [names.index(n) for n in names if performer.parent[n] == name]
        if children:
            writer.root["nodes"][index]["children"] = children
    matrices = np.tile(np.eye(4), (len(names), 1, 1))
    for index, name in enumerate(names):
        matrices[index, :3, 3] = -performer.place[name]
    inverse = writer.accessor(matrices.transpose(0, 2, 1).reshape(-1, 16))
    skin = writer.add("skins", {"joints": list(range(len(names))), "inverseBindMatrices": inverse, "skeleton": 0})
    skinned = []
    parts = [(performer.name, performer.model, performer.crease_deg)]
    if performer.face:
        parts.append((f"{performer.name} face", performer.face, FACE_CREASE_DEG))
    for name, model, crease_deg in parts:
        mesh = add_mesh(writer, model, names, crease_deg)
        skinned.append(writer.add("nodes", {"name": name, "mesh": mesh, "skin": skin}))
    writer.add("scenes", {"name": performer.action, "nodes": [0, *skinned]})
    writer.root["scene"] = 0
    _add_motion(writer, performer, skinned[-1])
    return writer.to_glb()


def add_mesh(writer: GltfWriter, model: Model, joints: list[str] | None, crease_deg: float | None = None) -> int:
    """A mesh of the file, skinned where ``joints`` are given, smooth where a ``crease_deg`` is; one primitive a look."""
    mesh = model.arrays(joints or ["world"], crease_deg)
    attributes = {
        "POSITION": writer.accessor(mesh.positions, ARRAY_TARGET, bounds=True),
        "COLOR_0": writer.accessor(mesh.colors, ARRAY_TARGET),
    }
    if mesh.normals is not None:
        attributes["NORMAL"] = writer.accessor(mesh.normals, ARRAY_TARGET)
    if any(mesh.triangles):
        attributes["TEXCOORD_0"] = writer.accessor(mesh.uvs, ARRAY_TARGET)
    if joints:
        attributes["JOINTS_0"] = writer.accessor(mesh.slots, ARRAY_TARGET)
        attributes["WEIGHTS_0"] = writer.accessor(mesh.shares, ARRAY_TARGET)
    targets = [
        {"POSITION": writer.sparse(moves, bounds=True), "NORMAL": writer.sparse(turns)}
        for moves, turns in mesh.shapes.values()
    ]
    primitives: list[dict[str, object]] = []
    for look, triangles in mesh.triangles.items():
        primitive: dict[str, object] = {
            "attributes": attributes, "indices": writer.accessor(triangles.reshape(-1), INDEX_TARGET),
        }  # fmt: skip
        if look:
            primitive["material"] = add_look(writer, look)
        if targets:
            primitive["targets"] = targets
        primitives.append(primitive)
    item: dict[str, object] = {"primitives": primitives}
    if targets:
        item |= {"weights": [0.0] * len(targets), "extras": {"targetNames": list(mesh.shapes)}}
    return writer.add("meshes", item)


def _add_motion(writer: GltfWriter, performer: Performer, face: int) -> None:
    samplers: list[dict[str, object]] = []
    channels: list[dict[str, object]] = []
    times: dict[bytes, int] = {}

    def key(node: int, path: str, rows: NDArray[np.int64], values: Floats) -> None:
        slopes = tangents(rows, values)
        seconds = (rows / RATE).astype(np.float32)
        if seconds.tobytes() not in times:
            times[seconds.tobytes()] = writer.accessor(seconds, bounds=True)
        triples = np.stack([slopes, values, slopes], axis=1).reshape(-1, 1 if path == "weights" else values.shape[1])
        output = writer.accessor(triples)
        samplers.append({"input": times[seconds.tobytes()], "output": output, "interpolation": "CUBICSPLINE"})
        channels.append({"sampler": len(samplers) - 1, "target": {"node": node, "path": path}})

    for node, name in enumerate(performer.joints):
        rows = performer.key_rows(name)
        key(node, "rotation", rows, performer.rotations[rows, node])
    rows = performer.key_rows(performer.joints[0])
    key(0, "translation", rows, performer.root_places[rows])
    if performer.weights is not None:
        rows = performer.key_rows(FACE)
        key(face, "weights", rows, performer.weights[rows])
    writer.add("animations", {"name": performer.action, "channels": channels, "samplers": samplers})
