"""Accessors: typed arrays in the buffers of a glTF file. Every length is checked before anything is allocated."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from ..errors import DamagedFile
from ..limits import MOST_UNPACKED, Total
from .document import Accessor, Document
from .meshopt_views import PackedView, unpacked

COMPONENTS = {
    "SCALAR": (1, 1),
    "VEC2": (2, 1),
    "VEC3": (3, 1),
    "VEC4": (4, 1),
    "MAT2": (2, 2),
    "MAT3": (3, 3),
    "MAT4": (4, 4),
}
DTYPES = {5120: "<i1", 5121: "<u1", 5122: "<i2", 5123: "<u2", 5124: "<i4", 5125: "<u4", 5126: "<f4"}
MOST_ZERO_FILLED = 4_000_000


class Accessors:
    """Reads the accessors of one document. All of them are checked against their buffers at once."""

    def __init__(self, document: Document, buffers: Sequence[bytes | None]) -> None:
        self._document = document
        self._buffers = buffers
        self._unpacked: dict[int, bytes] = {}
        self._in_place: dict[int, NDArray[np.generic]] = {}
        self._numbers = Total("bytes of unpacked data", MOST_UNPACKED, "Bring in a lighter file.")
        for index, accessor in enumerate(document.accessors):
            self._check(index, accessor)

    def _check(self, index: int, accessor: Accessor) -> None:
        if accessor.component_type not in DTYPES:
            raise DamagedFile(f"Accessor {index} has the unknown component type {accessor.component_type}.")
        if accessor.buffer_view is not None:
            self._bytes(index, accessor.buffer_view, accessor.byte_offset, accessor.count, self._size(accessor), True)
        elif accessor.count * COMPONENTS[accessor.type][0] * COMPONENTS[accessor.type][1] > MOST_ZERO_FILLED:
            raise DamagedFile(f"Accessor {index} claims {accessor.count:,} elements without any data.")
        if accessor.sparse:
            sparse = accessor.sparse
            if sparse.count > accessor.count:
                raise DamagedFile(f"Accessor {index} replaces more elements than it has.")
            if sparse.indices.component_type not in (5121, 5123, 5125):
                raise DamagedFile(f"Accessor {index} has sparse indices that are no whole numbers.")
            width = np.dtype(DTYPES[sparse.indices.component_type]).itemsize
            self._bytes(index, sparse.indices.buffer_view, sparse.indices.byte_offset, sparse.count, width)
            self._bytes(index, sparse.values.buffer_view, sparse.values.byte_offset, sparse.count, self._size(accessor))

    @staticmethod
    def _size(accessor: Accessor) -> int:
        """Bytes of one element; matrix columns of small components are padded to four bytes."""
        rows, columns = COMPONENTS[accessor.type]
        column = rows * np.dtype(DTYPES[accessor.component_type]).itemsize
        return columns * (column + (-column % 4 if columns > 1 else 0))

    def _bytes(
        self, index: int, view: int, offset: int, count: int, size: int, strided: bool = False
    ) -> NDArray[np.uint8]:
        """The elements' bytes, shape (count, size), as a view on the buffer."""
        if view >= len(self._document.buffer_views):
            raise DamagedFile(f"Accessor {index} refers to buffer view {view}, which does not exist.")
        part = self._document.buffer_views[view]
        data = self.view(view)
        if strided and part.byte_stride is not None and part.byte_stride < size:
            raise DamagedFile(
                f"Buffer view {view} has a stride of {part.byte_stride} bytes, less than an element of {size}."
            )
        stride = (part.byte_stride or size) if strided else size
        if count and offset + stride * (count - 1) + size > len(data):
            raise DamagedFile(f"Accessor {index} reaches beyond its buffer view.")
        flat = np.frombuffer(data, np.uint8)[offset:]
        if not count:
            return np.zeros((0, size), np.uint8)
        return np.lib.stride_tricks.as_strided(flat, (count, size), (stride, 1), writeable=False)

    def view(self, index: int) -> memoryview | bytes:
        """The bytes of a buffer view, unpacked where it is compressed (EXT_meshopt_compression)."""
        if index >= len(self._document.buffer_views):
            raise DamagedFile(f"Buffer view {index} does not exist.")
        part = self._document.buffer_views[index]
        packed = part.extensions.meshopt
        if packed is None:
            return self._stretch(index, part.buffer, part.byte_offset, part.byte_length)
        if index not in self._unpacked:
            self._unpack()
        return self._unpacked[index]

    def _unpack(self) -> None:
        """All views that are compressed, at once."""
        views = []
        for index, part in enumerate(self._document.buffer_views):
            if (packed := part.extensions.meshopt) is not None:
                self._numbers.add(packed.count * packed.byte_stride)
                data = bytes(self._stretch(index, packed.buffer, packed.byte_offset, packed.byte_length))
                way = None if packed.filter == "NONE" else packed.filter
                views.append(PackedView(index, packed.count, packed.byte_stride, packed.mode, way, data))
        self._unpacked = unpacked(views)

    def _stretch(self, view: int, buffer: int, first: int, length: int) -> memoryview:
        if buffer >= len(self._buffers):
            raise DamagedFile(f"Buffer view {view} refers to buffer {buffer}, which does not exist.")
        data = self._buffers[buffer]
        if data is None:
            raise DamagedFile(f"Buffer {buffer} has no data.")
        if first + length > len(data):
            raise DamagedFile(f"Buffer view {view} reaches beyond its buffer.")
        return memoryview(data)[first : first + length]

    def put(self, index: int, values: NDArray[np.generic], what: str) -> None:
        """Let an accessor hold what was unpacked for it, (count, components), in the type that it says."""
        accessor = self._found(index, what)
        rows, columns = COMPONENTS[accessor.type]
        if values.shape != (accessor.count, rows * columns):
            raise DamagedFile(f"{what} should be {accessor.count:,} x {rows * columns}, and unpacks to {values.shape}.")
        self._in_place[index] = values.astype(DTYPES[accessor.component_type])

    def _elements(self, accessor: Accessor, raw: NDArray[np.uint8]) -> NDArray[np.generic]:
        """(count, components) of the stored type, matrices column by column."""
        rows, columns = COMPONENTS[accessor.type]
        dtype = np.dtype(DTYPES[accessor.component_type])
        column = self._size(accessor) // columns
        cells = raw.reshape(len(raw), columns, column)[:, :, : rows * dtype.itemsize]
        return np.ascontiguousarray(cells).view(dtype).reshape(len(raw), columns * rows)

    def count(self, index: int, what: str) -> int:
        """How many elements there are, without reading them."""
        return self._found(index, what).count

    def check_matrices(self, index: int, least: int, what: str) -> None:
        """Raise ``DamagedFile`` for what is no float32 matrices, as the format asks for in some places, or too few of them."""
        accessor = self._found(index, what)
        if accessor.type != "MAT4":
            raise DamagedFile(f"{what} should be MAT4 and are {accessor.type}.")
        if DTYPES[accessor.component_type] != "<f4":
            raise DamagedFile(f"{what} are no floating-point numbers.")
        if accessor.count < least:
            raise DamagedFile(f"{what} are {accessor.count}, of {least} joints.")

    def _found(self, index: int, what: str) -> Accessor:
        if index >= len(self._document.accessors):
            raise DamagedFile(f"{what} refers to accessor {index}, which does not exist.")
        return self._document.accessors[index]

    def stored(self, index: int, types: tuple[str, ...], what: str) -> NDArray[np.generic]:
        """The elements as stored, (count, components)."""
        accessor = self._found(index, what)
        if accessor.type not in types:
            raise DamagedFile(f"{what} should be {' or '.join(types)} and is {accessor.type}.")
        if index in self._in_place:
            return self._in_place[index]
        size = self._size(accessor)
        if accessor.buffer_view is None:
            raw = np.zeros((accessor.count, size), np.uint8)
        else:
            raw = self._bytes(index, accessor.buffer_view, accessor.byte_offset, accessor.count, size, True)
        elements = self._elements(accessor, raw)
        if accessor.sparse:
            sparse = accessor.sparse
            dtype = np.dtype(DTYPES[sparse.indices.component_type])
            at = self._bytes(
                index, sparse.indices.buffer_view, sparse.indices.byte_offset, sparse.count, dtype.itemsize
            )
            places = np.ascontiguousarray(at).view(dtype).reshape(-1)
            if len(places) and int(places.max()) >= accessor.count:
                raise DamagedFile(f"Accessor {index} replaces an element that it does not have.")
            values = self._bytes(index, sparse.values.buffer_view, sparse.values.byte_offset, sparse.count, size)
            elements = elements.copy()
            elements[places] = self._elements(accessor, values)
        return elements

    def numbers(self, index: int, types: tuple[str, ...], what: str) -> NDArray[np.float64]:
        """The elements as real numbers, (count, components), normalized integers scaled to -1..1 or 0..1."""
        stored = self.stored(index, types, what)
        out = stored.astype(np.float64)
        if self._document.accessors[index].normalized and np.issubdtype(stored.dtype, np.integer):
            out = np.maximum(out / np.iinfo(DTYPES[self._document.accessors[index].component_type]).max, -1.0)
        if not np.isfinite(out).all():
            raise DamagedFile(f"{what} holds values that are no numbers.")
        return out

    def whole_numbers(self, index: int, types: tuple[str, ...], what: str) -> NDArray[np.int64]:
        """The elements as whole numbers, (count, components)."""
        stored = self.stored(index, types, what)
        if not np.issubdtype(stored.dtype, np.integer):
            raise DamagedFile(f"{what} should hold whole numbers.")
        return stored.astype(np.int64)
