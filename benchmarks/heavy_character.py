"""A made-up character of the greatest size that is reckoned with: 100,000 triangles, 150 joints, 60 shapes, four 4k images."""

from __future__ import annotations

from io import BytesIO

import numpy as np
from PIL import Image

from eddyfield.core.arrays import Floats
from eddyfield.core.rig.transforms import quaternion_from_matrix
from eddyfield.demo.posing import rotation
from eddyfield.formats.gltf import GltfWriter
from eddyfield.formats.gltf.write import ARRAY_TARGET, INDEX_TARGET

JOINTS, SHAPES, TRIANGLES, IMAGES, IMAGE_PX = 150, 60, 100_000, 4, 4096
HEIGHT, RADIUS, FRAMES, RATE = 1.7, 0.25, 96, 24.0
RINGS = 500
SIDES = TRIANGLES // (2 * RINGS)


def glb() -> bytes:
    """A column of joints that sways, in a skin of four weights a corner that swells by its shapes."""
    writer = GltfWriter("Eddyfield benchmark")
    span = HEIGHT / JOINTS
    for joint in range(JOINTS):
        node: dict[str, object] = {"name": f"joint_{joint}", "translation": [0, span if joint else 0.0, 0]}
        if joint + 1 < JOINTS:
            node["children"] = [joint + 1]
        writer.add("nodes", node)
    inverse = np.tile(np.eye(4), (JOINTS, 1, 1))
    inverse[:, 1, 3] = -span * np.arange(JOINTS)
    matrices = writer.accessor(inverse.transpose(0, 2, 1).reshape(-1, 16))
    skin = writer.add("skins", {"joints": list(range(JOINTS)), "inverseBindMatrices": matrices})
    mesh = _mesh(writer)
    body = writer.add("nodes", {"name": "body", "mesh": mesh, "skin": skin})
    writer.add("scenes", {"nodes": [0, body]})
    _motion(writer, body)
    return writer.to_glb()


def _mesh(writer: GltfWriter) -> int:
    ring, side = (grid.reshape(-1) for grid in np.mgrid[0 : RINGS + 1, 0 : SIDES + 1])
    angle, height = 2 * np.pi * side / SIDES, HEIGHT * ring / RINGS
    out = np.stack([np.cos(angle), np.zeros_like(angle), np.sin(angle)], axis=1)
    places = out * RADIUS
    places[:, 1] = height
    low = np.clip((height / HEIGHT * (JOINTS - 1)).astype(int), 1, JOINTS - 3)
    slots = (low[:, None] + np.array([-1, 0, 1, 2])).astype(np.uint16)
    attributes = {
        "POSITION": writer.accessor(places, ARRAY_TARGET, bounds=True),
        "NORMAL": writer.accessor(out, ARRAY_TARGET),
        "TEXCOORD_0": writer.accessor(np.stack([side / SIDES, ring / RINGS], axis=1), ARRAY_TARGET),
        "JOINTS_0": writer.accessor(slots, ARRAY_TARGET),
        "WEIGHTS_0": writer.accessor(np.full((len(places), 4), 0.25), ARRAY_TARGET),
    }
    targets = []
    for shape in range(SHAPES):
        near = np.exp(-(((height - HEIGHT * (shape + 0.5) / SHAPES) / 0.02) ** 2))
        targets.append({"POSITION": writer.sparse(out * np.where(near > 0.01, 0.03 * near, 0)[:, None], bounds=True)})
    corner = (np.arange(RINGS)[:, None] * (SIDES + 1) + np.arange(SIDES)).reshape(-1)
    across = SIDES + 1
    faces = np.stack([corner, corner + across, corner + 1, corner + 1, corner + across, corner + across + 1], axis=1)
    primitives = []
    for part, triangles in enumerate(np.array_split(faces.reshape(-1, 3), IMAGES)):
        material = {"pbrMetallicRoughness": {"baseColorTexture": {"index": _image(writer, part)}}}
        primitives.append(
            {
                "attributes": attributes,
                "indices": writer.accessor(triangles.reshape(-1).astype(np.uint32), INDEX_TARGET),
                "material": writer.add("materials", material),
                "targets": targets,
            }
        )
    return writer.add("meshes", {"primitives": primitives, "weights": [0.0] * SHAPES})


def _image(writer: GltfWriter, number: int) -> int:
    row, column = np.mgrid[0:IMAGE_PX, 0:IMAGE_PX] // 256
    checks = ((row + column) % 2 * 60 + 120 + 20 * number).astype(np.uint8)
    out = BytesIO()
    Image.fromarray(np.stack([checks, checks // 2 + 60, 255 - checks], axis=2)).save(out, "PNG", compress_level=1)
    view = writer.view(out.getvalue())
    return writer.add("textures", {"source": writer.add("images", {"bufferView": view, "mimeType": "image/png"})})


def _motion(writer: GltfWriter, body: int) -> None:
    row = np.arange(FRAMES, dtype=np.float64)
    times = writer.accessor(row / RATE, bounds=True)
    samplers, channels = [], []

    def key(node: int, path: str, values: Floats) -> None:
        samplers.append({"input": times, "output": writer.accessor(values), "interpolation": "LINEAR"})
        channels.append({"sampler": len(samplers) - 1, "target": {"node": node, "path": path}})

    for joint in range(JOINTS):
        sway = 0.6 * np.sin(2 * np.pi * (row / 48 + joint / JOINTS))
        key(joint, "rotation", quaternion_from_matrix(rotation(sway, 0 * row, 0.5 * sway)))
    weights = np.clip(np.sin(2 * np.pi * (row[:, None] / 48 + np.arange(SHAPES) / SHAPES)), 0, 1)
    key(body, "weights", weights.reshape(-1, 1))
    writer.add("animations", {"name": "sways", "channels": channels, "samplers": samplers})
