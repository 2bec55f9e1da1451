"""glTF out: a small builder of .glb files."""

from __future__ import annotations

import struct
from typing import Any

import numpy as np
import orjson
from numpy.typing import NDArray

from eddyfield.core.errors import DomainError

from .container import BIN_CHUNK, JSON_CHUNK, MAGIC

_TYPES = {1: "SCALAR", 2: "VEC2", 3: "VEC3", 4: "VEC4", 16: "MAT4"}
_COMPONENTS = {"f4": 5126, "u4": 5125, "u2": 5123, "u1": 5121}
ARRAY_TARGET, INDEX_TARGET = 34962, 34963


class GltfWriter:
    """Collects arrays and JSON objects; ``to_glb`` gives the file. ``root`` is the JSON document as it stands."""

    def __init__(self, generator: str) -> None:
        self._binary = bytearray()
        self.root: dict[str, Any] = {"asset": {"version": "2.0", "generator": generator}}

    def add(self, kind: str, item: dict[str, Any]) -> int:
        """Append an object to a top-level list such as ``nodes``; returns its index."""
        items: list[dict[str, Any]] = self.root.setdefault(kind, [])
        items.append(item)
        return len(items) - 1

    def accessor(self, array: NDArray[np.generic], target: int | None = None, bounds: bool = False) -> int:
        """Store an array (count,) or (count, components), float64 as float32; matrices come column by column."""
        if array.dtype == np.float64:
            array = array.astype(np.float32)
        flat = np.ascontiguousarray(array.reshape(len(array), -1))
        view: dict[str, Any] = {"buffer": 0, "byteOffset": len(self._binary), "byteLength": flat.nbytes}
        if target is not None:
            view["target"] = target
        self._binary += flat.tobytes()
        self._binary += b"\x00" * (-len(self._binary) % 4)
        accessor: dict[str, Any] = {
            "bufferView": self.add("bufferViews", view),
            "componentType": _COMPONENTS[flat.dtype.str[1:]],
            "count": len(flat),
            "type": _TYPES[flat.shape[1]],
        }
        if bounds:
            accessor["min"], accessor["max"] = flat.min(axis=0).tolist(), flat.max(axis=0).tolist()
        return self.add("accessors", accessor)

    def sparse(self, array: NDArray[np.float64], bounds: bool = False) -> int:
        """Store an array (count, components) that is zero in most rows: only the others are written."""
        flat = array.astype(np.float32)
        rows = np.flatnonzero(np.any(flat, axis=1)).astype(np.uint32)
        accessor: dict[str, Any] = {
            "componentType": _COMPONENTS["f4"], "count": len(flat), "type": _TYPES[flat.shape[1]],
        }  # fmt: skip
        if len(rows):
            accessor["sparse"] = {
                "count": len(rows),
                "indices": {"bufferView": self.view(rows.tobytes()), "componentType": _COMPONENTS["u4"]},
                "values": {"bufferView": self.view(flat[rows].tobytes())},
            }
        if bounds:
            accessor["min"], accessor["max"] = flat.min(axis=0).tolist(), flat.max(axis=0).tolist()
        return self.add("accessors", accessor)

    def view(self, data: bytes) -> int:
        """Store bytes as they are, an image for instance; returns the buffer view's index."""
        at = len(self._binary)
        self._binary += data
        self._binary += b"\x00" * (-len(self._binary) % 4)
        return self.add("bufferViews", {"buffer": 0, "byteOffset": at, "byteLength": len(data)})

    def to_glb(self) -> bytes:
        document = dict(self.root)
        document["buffers"] = [{"byteLength": len(self._binary)}]
        text = orjson.dumps(document)
        text += b" " * (-len(text) % 4)
        length = 12 + 8 + len(text) + 8 + len(self._binary)
        if length >= 2**32:
            raise DomainError("The shot is too long for one .glb file.", "Export a shorter range.")
        return b"".join(
            [
                MAGIC,
                struct.pack("<II", 2, length),
                struct.pack("<II", len(text), JSON_CHUNK),
                text,
                struct.pack("<II", len(self._binary), BIN_CHUNK),
                bytes(self._binary),
            ]
        )
