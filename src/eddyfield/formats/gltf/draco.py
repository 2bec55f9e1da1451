"""Meshes compressed by KHR_draco_mesh_compression, unpacked in a process of its own: what a file says of itself is not believed,
and whatever it does to the library ends with that process.

The process reads a pickled list of compressed meshes, and writes plain arrays: the indices and attributes of each.
"""

from __future__ import annotations

import pickle
import sys

import numpy as np
from numpy.typing import NDArray

from ..limits import MOST_INDICES, MOST_VERTICES
from ..own_process import answer, arrays_from, bounded

SECONDS, MEMORY_BYTES = 30, 3 * 2**30
Unpacked = tuple[NDArray[np.uint32], dict[int, NDArray[np.generic]]]
"""Indices (I,), and the attributes (V, components) by their ids."""


def unpacked(meshes: list[bytes]) -> list[Unpacked]:
    """Raises ``FileError`` for what cannot be unpacked, takes too long, or comes to too much."""
    arrays = arrays_from(
        __name__, data=pickle.dumps(meshes), seconds=SECONDS,
        what="a compressed mesh that cannot be unpacked (KHR_draco_mesh_compression)",
    )  # fmt: skip
    out: list[Unpacked] = [(arrays[f"{index} indices"], {}) for index in range(len(meshes))]
    for name in arrays:
        index, attribute = name.split()
        if attribute != "indices":
            out[int(index)][1][int(attribute)] = arrays[name]
    return out


def _unpack(data: bytes) -> Unpacked:
    import DracoPy

    mesh = DracoPy.decode(data)
    faces = np.asarray(mesh.faces, dtype=np.uint32).reshape(-1)
    attributes = {int(a["unique_id"]): np.asarray(a["data"]) for a in mesh.attributes}
    if len(faces) > MOST_INDICES or any(len(values) > MOST_VERTICES for values in attributes.values()):
        raise ValueError("more than a file may come to")
    return faces, {key: values.reshape(len(values), -1) for key, values in attributes.items()}


def main() -> int:
    """What runs in the process."""
    arrays: dict[str, NDArray[np.generic]] = {}
    for index, data in enumerate(pickle.loads(bounded(MEMORY_BYTES))):
        arrays[f"{index} indices"], attributes = _unpack(data)
        arrays |= {f"{index} {key}": values for key, values in attributes.items()}
    answer(**arrays)
    return 0


if __name__ == "__main__":
    sys.exit(main())
