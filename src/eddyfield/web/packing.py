"""MessagePack with raw arrays: each array is an extension whose code tells its numbers, little-endian."""

from __future__ import annotations

from dataclasses import fields, is_dataclass
from fractions import Fraction
from typing import Any

import msgpack
import numpy as np
from pydantic import BaseModel

CODES = {"f4": 1, "i4": 2, "u1": 3, "u2": 4, "u4": 5, "f8": 6}
CONTENT_TYPE = "application/msgpack"


def pack(answer: BaseModel | dict[str, Any]) -> bytes:
    """An answer as MessagePack."""
    return bytes(msgpack.packb(answer, default=_default, use_bin_type=True))


def _default(value: Any) -> Any:
    if isinstance(value, BaseModel):
        return {name: getattr(value, name) for name in type(value).model_fields}
    if is_dataclass(value):
        return {f.name: getattr(value, f.name) for f in fields(value)}
    if isinstance(value, np.ndarray):
        return msgpack.ExtType(CODES[value.dtype.str[1:]], np.ascontiguousarray(value).tobytes())
    if isinstance(value, np.generic):
        return value.item()
    if isinstance(value, Fraction):
        return str(value)
    raise TypeError(f"{type(value).__name__} cannot be sent")
