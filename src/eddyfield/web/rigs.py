"""Rigs and baked parts kept in memory, up to a bound, the least recently used going first."""

from __future__ import annotations

import threading
from collections.abc import Iterator, MutableMapping
from contextlib import suppress
from dataclasses import fields, is_dataclass
from typing import Any

import numpy as np
from cachetools import LRUCache
from pydantic import BaseModel

from eddyfield.core.content import content_key
from eddyfield.core.errors import DomainError
from eddyfield.core.rig.rig import Rig
from eddyfield.core.rig.source import RigSource
from eddyfield.formats.table import read_rig
from eddyfield.store.blobs import Blobs

SAMPLED = 16


def size_of(value: Any) -> int:
    """Bytes that a baked value or an answer about it holds."""
    if isinstance(value, np.ndarray):
        return value.nbytes + 100
    if isinstance(value, (str, bytes)):
        return len(value) + 50
    if is_dataclass(value):
        return 200 + sum(size_of(getattr(value, f.name)) for f in fields(value))
    if isinstance(value, BaseModel):
        return 200 + sum(size_of(getattr(value, name)) for name in type(value).model_fields)
    if isinstance(value, dict):
        return 200 + sum(size_of(v) + size_of(k) for k, v in value.items())
    if isinstance(value, (tuple, list)):
        if len(value) > SAMPLED:  # of thousands that are alike some tell enough
            some = value[:: len(value) // SAMPLED]
            return 100 + len(value) * sum(map(size_of, some)) // len(some)
        return 100 + sum(size_of(v) for v in value)
    return 50


class PartMemory(MutableMapping[str, Any]):
    """A bounded memory that many threads may use: what was not used for the longest time goes first. What alone is larger
    than the bound is not kept at all."""

    def __init__(self, limit_bytes: int) -> None:
        self._parts: LRUCache[str, tuple[Any, int]] = LRUCache(limit_bytes, getsizeof=lambda sized: sized[1])
        self._lock = threading.Lock()

    def __getitem__(self, name: str) -> Any:
        with self._lock:
            return self._parts[name][0]

    def __setitem__(self, name: str, value: Any) -> None:
        size = size_of(value) + size_of(name)
        with self._lock, suppress(ValueError):
            self._parts[name] = (value, size)

    def __delitem__(self, name: str) -> None:
        with self._lock:
            del self._parts[name]

    def __iter__(self) -> Iterator[str]:
        with self._lock:
            return iter(list(self._parts))

    def __len__(self) -> int:
        return len(self._parts)

    @property
    def held_bytes(self) -> int:
        """What is kept, as it is counted."""
        return int(self._parts.currsize)


class Rigs:
    """Reads rigs from the store when they are first asked for."""

    def __init__(self, blobs: Blobs, memory: PartMemory) -> None:
        self._blobs = blobs
        self._memory = memory

    def __call__(self, source: RigSource) -> Rig:
        name = content_key("rig file", source)
        rig = self._memory.get(name)
        if rig is None:
            try:
                data = self._blobs.get(source.digest)
            except KeyError:
                raise DomainError("The uploaded file is not there any more.", "Bring it in again.") from None
            rig = read_rig(data, source)
            self._memory[name] = rig
        assert isinstance(rig, Rig)
        return rig
