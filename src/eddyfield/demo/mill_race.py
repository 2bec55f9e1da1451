"""The mill race as a scene: Oda's rig, the set, the camera move, and how all that is stored."""

from __future__ import annotations

import uuid
from fractions import Fraction

import numpy as np

from eddyfield.core.channels import Channel, new_key
from eddyfield.core.exposure import Stepping
from eddyfield.core.scene import CHANNEL_NAMES, Camera, CameraChannels, Character, CutEntry, RigSource, Scene, SetPiece
from eddyfield.core.time import FrameRange, Rate
from eddyfield.formats.gltf import GltfWriter
from eddyfield.formats.gltf.write import ARRAY_TARGET, INDEX_TARGET

from . import mill_set, oda_crossing, oda_model
from .modelling import Model

FIRST, LAST = 1001, 1096
_HOME = uuid.UUID("6d1f2f0e-6f0c-4b52-9c25-0a1b5f2f7a10")


def demo_id(name: str) -> str:
    """The same id for the same demo thing on every machine."""
    return str(uuid.uuid5(_HOME, name))


def oda_glb() -> bytes:
    """Oda with her crossing: skinned mesh, 47 joints, keyed as cubic splines."""
    writer = GltfWriter("Eddyfield demo")
    names = list(oda_model.NAMES)
    for name in names:
        parent = oda_model.PARENT[name]
        offset = oda_model.PLACE[name] - (oda_model.PLACE[parent] if parent else 0)
        writer.add("nodes", {"name": name, "translation": [round(float(v), 6) for v in offset]})
    for index, name in enumerate(names):
        children = [names.index(n) for n in names if oda_model.PARENT[n] == name]
        if children:
            writer.root["nodes"][index]["children"] = children
    matrices = np.tile(np.eye(4), (len(names), 1, 1))
    for index, name in enumerate(names):
        matrices[index, :3, 3] = -oda_model.PLACE[name]
    inverse = writer.accessor(matrices.transpose(0, 2, 1).reshape(-1, 16))
    skin = writer.add("skins", {"joints": list(range(len(names))), "inverseBindMatrices": inverse, "skeleton": 0})
    mesh = _add_mesh(writer, oda_model.model(), names)
    body = writer.add("nodes", {"name": "Oda", "mesh": mesh, "skin": skin})
    writer.add("scenes", {"name": "crossing", "nodes": [0, body]})
    writer.root["scene"] = 0
    _add_crossing(writer, names)
    return writer.to_glb()


def _add_mesh(writer: GltfWriter, model: Model, joints: list[str] | None) -> int:
    positions, colors, slots, weights, triangles = model.arrays(joints or ["world"])
    attributes = {
        "POSITION": writer.accessor(positions, ARRAY_TARGET, bounds=True),
        "COLOR_0": writer.accessor(colors, ARRAY_TARGET),
    }
    if joints:
        attributes["JOINTS_0"] = writer.accessor(slots, ARRAY_TARGET)
        attributes["WEIGHTS_0"] = writer.accessor(weights, ARRAY_TARGET)
    indices = writer.accessor(triangles.reshape(-1), INDEX_TARGET)
    return writer.add("meshes", {"primitives": [{"attributes": attributes, "indices": indices}]})


def _add_crossing(writer: GltfWriter, names: list[str]) -> None:
    rotations, hips = oda_crossing.poses()
    samplers: list[dict[str, object]] = []
    channels: list[dict[str, object]] = []
    times: dict[bytes, int] = {}

    def key(node: int, path: str, rows: np.ndarray, values: np.ndarray) -> None:
        slopes = oda_crossing.tangents(rows, values)
        seconds = (rows / oda_crossing.RATE).astype(np.float32)
        if seconds.tobytes() not in times:
            times[seconds.tobytes()] = writer.accessor(seconds, bounds=True)
        triples = np.stack([slopes, values, slopes], axis=1).reshape(-1, values.shape[1])
        output = writer.accessor(triples)
        samplers.append({"input": times[seconds.tobytes()], "output": output, "interpolation": "CUBICSPLINE"})
        channels.append({"sampler": len(samplers) - 1, "target": {"node": node, "path": path}})

    for node, name in enumerate(names):
        rows = oda_crossing.key_rows(name)
        key(node, "rotation", rows, rotations[rows, node])
    rows = oda_crossing.key_rows("hips")
    key(names.index("hips"), "translation", rows, hips[rows])
    writer.add("animations", {"name": "crossing", "channels": channels, "samplers": samplers})


def set_glb() -> bytes:
    """The set: stones, banks, mill, mooring post, water; nothing of it moves."""
    writer = GltfWriter("Eddyfield demo")
    mesh = _add_mesh(writer, mill_set.model(), None)
    writer.add("scenes", {"nodes": [writer.add("nodes", {"name": "Mill race", "mesh": mesh})]})
    writer.root["scene"] = 0
    return writer.to_glb()


# The camera runs along the bank beside her: frame, x y z (metres), pan tilt roll (degrees), focal length (mm).
BANK_RAIL = (
    (1001, -5.30, 1.25, 0.45, 92.0, -4.0, 0.0, 35.0),
    (1024, -5.00, 1.20, 1.15, 90.0, -3.5, 0.0, 35.0),
    (1048, -4.70, 1.18, 2.05, 87.0, -3.2, 0.0, 35.0),
    (1072, -4.55, 1.26, 2.95, 84.0, -3.8, 0.0, 35.0),
    (1096, -4.40, 1.35, 3.75, 81.0, -4.5, 0.0, 35.0),
)


def scene(oda_digest: str, set_digest: str) -> Scene:
    """The scene “Crossing”: Oda on twos, and a camera that runs along the bank beside her, locked."""
    moves = {name: Channel(BANK_RAIL[0][place]) for place, name in enumerate(CHANNEL_NAMES, 1)}
    for frame, *values in BANK_RAIL:
        for name, value in zip(CHANNEL_NAMES, values, strict=True):
            moves[name] = new_key(moves[name], Fraction(frame), value)
    channels = CameraChannels(**moves)
    camera = Camera(demo_id("bank rail"), "Bank rail 35", locked=True, channels=channels)
    oda = Character(
        demo_id("oda"),
        "Oda",
        RigSource(oda_digest, "gltf"),
        start=FIRST,
        stepping=Stepping(2),
        feet=("foot_l", "foot_r"),
    )
    return Scene(
        demo_id("crossing"),
        "Crossing",
        Rate(Fraction(24)),
        FrameRange(FIRST, LAST),
        cameras=(camera,),
        characters=(oda,),
        set_pieces=(SetPiece(demo_id("mill race set"), "Mill race", RigSource(set_digest, "gltf")),),
        cut=(CutEntry(FIRST, camera.id),),
    )
