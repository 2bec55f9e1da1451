"""Small files made for tests: glTF documents as dictionaries with one embedded buffer, and BVH texts."""

from __future__ import annotations

import base64
import json
import struct
from pathlib import Path
from typing import Any

import numpy as np

COMPONENT = {"<f4": 5126, "<u4": 5125, "<u2": 5123, "<i2": 5122, "|i1": 5120, "|u1": 5121}


class Gltf:
    """A document that grows; ``text`` gives .gltf bytes and ``glb`` .glb bytes."""

    def __init__(self, **members: Any) -> None:
        self.json: dict[str, Any] = {
            "asset": {"version": "2.0"}, "nodes": [], "accessors": [], "bufferViews": [], "animations": [], **members,
        }  # fmt: skip
        self.data = bytearray()

    def node(self, name: str | None = None, **members: Any) -> int:
        self.json["nodes"].append(({"name": name} if name is not None else {}) | members)
        return len(self.json["nodes"]) - 1

    def accessor(self, values: Any, dtype: str = "<f4", stride: int | None = None, **members: Any) -> int:
        array = np.asarray(values, dtype=np.dtype(dtype))
        array = array.reshape(len(array), -1)
        kind = {1: "SCALAR", 2: "VEC2", 3: "VEC3", 4: "VEC4", 16: "MAT4"}[array.shape[1]]
        view: dict[str, Any] = {"buffer": 0, "byteOffset": len(self.data)}
        width = array.shape[1] * array.itemsize
        for row in array:
            self.data += row.tobytes() + b"\xee" * ((stride or width) - width)
        view["byteLength"] = len(self.data) - view["byteOffset"]
        if stride:
            view["byteStride"] = stride
        self.data += b"\0" * (-len(self.data) % 4)
        self.json["bufferViews"].append(view)
        self.json["accessors"].append(
            {"bufferView": len(self.json["bufferViews"]) - 1, "componentType": COMPONENT[array.dtype.str],
             "count": len(array), "type": kind, **members}
        )  # fmt: skip
        return len(self.json["accessors"]) - 1

    def animate(self, *curves: tuple[int, str, Any, Any, str], name: str | None = None) -> None:
        """Add an animation of (node, path, seconds, values or an accessor's index, interpolation)."""
        samplers, channels = [], []
        for node, path, seconds, values, interpolation in curves:
            output = values if isinstance(values, int) else self.accessor(values)
            samplers.append({"input": self.accessor(seconds), "output": output, "interpolation": interpolation})
            channels.append({"sampler": len(samplers) - 1, "target": {"node": node, "path": path}})
        self.json["animations"].append({"channels": channels, "samplers": samplers} | ({"name": name} if name else {}))

    def text(self, uri: str | None = None) -> bytes:
        uri = uri or "data:application/octet-stream;base64," + base64.b64encode(self.data).decode()
        return json.dumps(self.json | {"buffers": [{"byteLength": len(self.data), "uri": uri}]}).encode()

    def glb(self) -> bytes:
        return pack_glb(
            json.dumps(self.json | {"buffers": [{"byteLength": len(self.data)}]}).encode(), bytes(self.data)
        )


def pack_glb(text: bytes, binary: bytes | None = None, length: int | None = None, version: int = 2) -> bytes:
    text += b" " * (-len(text) % 4)
    body = struct.pack("<II", len(text), 0x4E4F534A) + text
    if binary is not None:
        binary += b"\0" * (-len(binary) % 4)
        body += struct.pack("<II", len(binary), 0x004E4942) + binary
    return b"glTF" + struct.pack("<II", version, 12 + len(body) if length is None else length) + body


def walker() -> Gltf:
    """A skinned two-joint figure that walks along X for a second, with a camera that follows."""
    g = Gltf(scene=0, scenes=[{"nodes": [0, 3]}], skins=[{"joints": [0, 1]}])
    g.node("hips", children=[1], translation=[0, 1, 0])
    g.node("foot", translation=[0, -1, 0])
    g.node("body", skin=0)
    g.node("Shot", camera=0, translation=[0, 1, 5])
    g.json["cameras"] = [{"name": "Lens", "type": "perspective", "perspective": {"yfov": 0.7, "znear": 0.1}}]
    g.animate(
        (0, "translation", [0, 1], [[0, 1, 0], [1, 1, 0]], "LINEAR"),
        (3, "translation", [0, 1], [[0, 1, 5], [1, 1, 5]], "LINEAR"),
    )
    return g


BVH = (Path(__file__).parent / "walk.bvh").read_text()
