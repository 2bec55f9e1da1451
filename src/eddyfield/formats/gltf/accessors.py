"""Accessors: typed arrays in the buffers of a glTF file. Every length is checked before anything is allocated."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from ..errors import DamagedFile
from .document import Accessor, Document

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
        if part.buffer >= len(self._buffers):
            raise DamagedFile(f"Buffer view {view} refers to buffer {part.buffer}, which does not exist.")
        data = self._buffers[part.buffer]
        if data is None:
            raise DamagedFile(f"Buffer {part.buffer} has no data.")
        if part.byte_offset + part.byte_length > len(data):
            raise DamagedFile(f"Buffer view {view} reaches beyond its buffer.")
        if strided and part.byte_stride is not None and part.byte_stride < size:
            raise DamagedFile(
                f"Buffer view {view} has a stride of {part.byte_stride} bytes, less than an element of {size}."
            )
        stride = (part.byte_stride or size) if strided else size
        if count and offset + stride * (count - 1) + size > part.byte_length:
            raise DamagedFile(f"Accessor {index} reaches beyond its buffer view.")
        flat = np.frombuffer(data, np.uint8, offset=part.byte_offset, count=part.byte_length)[offset:]
        if not count:
            return np.zeros((0, size), np.uint8)
        return np.lib.stride_tricks.as_strided(flat, (count, size), (stride, 1), writeable=False)

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

    def is_of_floats(self, index: int, what: str) -> bool:
        """Whether the elements are stored as float32, as the format asks for in some places."""
        return DTYPES[self._found(index, what).component_type] == "<f4"

    def _found(self, index: int, what: str) -> Accessor:
        if index >= len(self._document.accessors):
            raise DamagedFile(f"{what} refers to accessor {index}, which does not exist.")
        return self._document.accessors[index]

    def stored(self, index: int, types: tuple[str, ...], what: str) -> NDArray[np.generic]:
        """The elements as stored, (count, components)."""
        accessor = self._found(index, what)
        if accessor.type not in types:
            raise DamagedFile(f"{what} should be {' or '.join(types)} and is {accessor.type}.")
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
