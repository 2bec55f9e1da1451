"""Rigs and baked parts kept in memory, up to a bound, the least recently used going first."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Iterator, MutableMapping
from dataclasses import fields, is_dataclass
from typing import Any

import numpy as np

from eddyfield.core.content import content_name
from eddyfield.core.rig import Rig
from eddyfield.core.scene import RigSource
from eddyfield.formats.table import read_rig
from eddyfield.store.blobs import Blobs


def size_of(value: Any) -> int:
    """Bytes that a baked value holds, as far as arrays go."""
    if isinstance(value, np.ndarray):
        return value.nbytes
    if is_dataclass(value):
        return 200 + sum(size_of(getattr(value, f.name)) for f in fields(value))
    if isinstance(value, dict):
        return 200 + sum(size_of(v) for v in value.values())
    if isinstance(value, (tuple, list)):
        return 100 + sum(size_of(v) for v in value)
    return 50


class PartMemory(MutableMapping[str, Any]):
    """A bounded memory that many threads may use."""

    def __init__(self, limit_bytes: int) -> None:
        self._limit = limit_bytes
        self._held = 0
        self._parts: OrderedDict[str, tuple[Any, int]] = OrderedDict()
        self._lock = threading.Lock()

    def __getitem__(self, name: str) -> Any:
        with self._lock:
            value, _ = self._parts[name]
            self._parts.move_to_end(name)
            return value

    def get(self, name: str, default: Any = None) -> Any:
        with self._lock:
            if name not in self._parts:
                return default
            self._parts.move_to_end(name)
            return self._parts[name][0]

    def __setitem__(self, name: str, value: Any) -> None:
        size = size_of(value)
        with self._lock:
            self._drop(name)
            self._parts[name] = (value, size)
            self._held += size
            while self._held > self._limit and len(self._parts) > 1:
                self._drop(next(iter(self._parts)))

    def __delitem__(self, name: str) -> None:
        with self._lock:
            if name not in self._parts:
                raise KeyError(name)
            self._drop(name)

    def __iter__(self) -> Iterator[str]:
        with self._lock:
            return iter(list(self._parts))

    def __len__(self) -> int:
        return len(self._parts)

    def _drop(self, name: str) -> None:
        held = self._parts.pop(name, None)
        if held is not None:
            self._held -= held[1]


class Rigs:
    """Reads rigs from the store when they are first asked for."""

    def __init__(self, blobs: Blobs, memory: PartMemory) -> None:
        self._blobs = blobs
        self._memory = memory

    def __call__(self, source: RigSource) -> Rig:
        name = content_name("rig file", source)
        rig = self._memory.get(name)
        if rig is None:
            rig = read_rig(self._blobs.get(source.digest), source)
            self._memory[name] = rig
        assert isinstance(rig, Rig)
        return rig
