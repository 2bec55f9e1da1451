"""Buffer views compressed by EXT_meshopt_compression, unpacked in a process of its own, all those of a file together.

The process reads a pickled list of views, and writes plain arrays: the bytes of each, or what is wrong with one.
"""

from __future__ import annotations

import pickle
import sys
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..errors import DamagedFile
from ..own_process import answer, arrays_from, bounded

SECONDS, MEMORY_BYTES = 30, 2 * 2**30


@dataclass(frozen=True)
class PackedView:
    """``count`` elements of ``stride`` bytes, packed by a mode and a filter of the extension (None: without one)."""

    index: int
    count: int
    stride: int
    mode: str
    filter: str | None
    data: bytes


class _Wrong(Exception):
    """What is wrong with a view."""


def unpacked(views: list[PackedView]) -> dict[int, bytes]:
    """The bytes of views, by their indices. Raises ``DamagedFile`` for what cannot be unpacked, and ``FileError`` where it takes
    too long."""
    for view in views:
        fits = view.stride % 4 == 0 if view.mode == "ATTRIBUTES" else view.stride in (2, 4)
        if not fits or (view.mode == "TRIANGLES" and view.count % 3):
            raise DamagedFile(f"Buffer view {view.index} is compressed in a way that there is none.")
    arrays = arrays_from(
        __name__, data=pickle.dumps(views), seconds=SECONDS,
        what="a buffer view that cannot be unpacked (EXT_meshopt_compression)",
    )  # fmt: skip
    if "wrong" in arrays:
        raise DamagedFile(str(arrays["wrong"]))
    return {int(index): values.tobytes() for index, values in arrays.items()}


def _unpack(view: PackedView) -> NDArray[np.generic]:
    import meshopt

    try:
        out = meshopt.decode_gltf_buffer(view.data, view.count, view.stride, view.mode, view.filter)
    except Exception as error:  # whatever the library makes of it
        raise _Wrong(f"Buffer view {view.index} cannot be unpacked ({str(error)[:80]}).") from None
    raw = np.ascontiguousarray(out)
    if view.mode != "ATTRIBUTES":
        raw = raw.astype("<u2" if view.stride == 2 else "<u4")
    if raw.nbytes != view.count * view.stride:
        raise _Wrong(f"Buffer view {view.index} unpacks to {raw.nbytes:,} bytes.")
    return raw


def main() -> int:
    """What runs in the process."""
    views: list[PackedView] = pickle.loads(bounded(MEMORY_BYTES))
    try:
        arrays = {str(view.index): _unpack(view) for view in views}
    except _Wrong as wrong:
        arrays = {"wrong": np.array(str(wrong))}
    answer(**arrays)
    return 0


if __name__ == "__main__":
    sys.exit(main())
