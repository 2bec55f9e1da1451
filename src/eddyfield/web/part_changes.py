"""A part as what is different in it from one that the browser holds: of a long scene most stays when one thing is edited."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import fields, is_dataclass
from itertools import compress, count
from operator import ne
from typing import Any

import numpy as np
from pydantic import BaseModel

from eddyfield.core.time.keys import shared_ends

from .parts import PartChange, Splice

SHORT = 64
"""What has no more items than this is sent whole."""
MOST_SHARE = 0.5
"""Of a part: where more of it is different, it is sent whole."""


def change_of(base: str, before: BaseModel, after: BaseModel) -> PartChange | None:
    """What turns the part called ``base`` into another one; None where that is most of it, or they are of two kinds."""
    if type(before) is not type(after):
        return None
    splices = list(_splices((), before, after))
    sent = sum(_size(splice.items) for splice in splices)
    return None if sent > MOST_SHARE * _size(after) else PartChange(base=base, splices=splices)


def changed_by(part: Any, change: Mapping[str, Any]) -> Any:
    """The unpacked part that an unpacked change makes of the one it is based on."""
    for splice in change["splices"]:
        part = _spliced(part, splice["path"], splice)
    return part


def _splices(path: tuple[str, ...], before: Any, after: Any) -> Iterator[Splice]:
    if before is after:
        return
    if _is_row(before) and _is_row(after) and _alike(before, after):
        begins, ends = _shared_ends(before, after)
        removed, items = len(before) - begins - ends, after[begins : len(after) - ends]
        if removed or len(items):
            yield Splice(path=list(path), at=_flat(after, begins), removed=_flat(after, removed), items=items)
        return
    ours, theirs = _members(before), _members(after)
    if ours is not None and theirs is not None and ours.keys() == theirs.keys():
        for name, value in theirs.items():
            yield from _splices((*path, name), ours[name], value)
    elif not _same(before, after):
        yield Splice(path=list(path), at=None, removed=0, items=after)


def _is_row(value: Any) -> bool:
    return isinstance(value, np.ndarray | list) and len(value) > SHORT


def _alike(before: Any, after: Any) -> bool:
    """Whether one can be made of the other item by item."""
    if type(before) is not type(after):
        return False
    return isinstance(after, list) or (before.dtype == after.dtype and before.shape[1:] == after.shape[1:])


def _shared_ends(before: Any, after: Any) -> tuple[int, int]:
    """How many items two rows have in common at their beginnings, and after those at their ends."""
    most = min(len(before), len(after))
    if isinstance(after, np.ndarray):
        differs = _bits(before[:most]) != _bits(after[:most])
        begins = _first(differs, most)
        tail = most - begins
        differs = (_bits(before[len(before) - tail :]) != _bits(after[len(after) - tail :]))[::-1]
        return begins, _first(differs, tail)
    begins, ends = shared_ends(before, after)  # mostly they are the same objects, which is soon told
    begins += next(compress(count(), map(ne, before[begins:most], after[begins:most])), most - begins)
    rest = most - begins
    ends = min(ends, rest)
    tails = (list(reversed(row))[ends:rest] for row in (before, after))
    return begins, ends + next(compress(count(), map(ne, *tails)), rest - ends)


def _first(differs: Any, most: int) -> int:
    if differs.ndim > 1:
        differs = differs.any(axis=tuple(range(1, differs.ndim)))
    return int(np.argmax(differs)) if differs.any() else most


def _bits(values: Any) -> Any:
    """Numbers by how they are written, so that what is no number is like itself."""
    return values.view(f"u{values.dtype.itemsize}") if values.flags.c_contiguous else values


def _flat(values: Any, items: int) -> int:
    """So many items of an array that is sent flat."""
    return items * int(np.prod(values.shape[1:])) if isinstance(values, np.ndarray) else items


def _members(value: Any) -> dict[str, Any] | None:
    if isinstance(value, BaseModel):
        return {name: getattr(value, name) for name in type(value).model_fields}
    if isinstance(value, dict):
        return value
    if is_dataclass(value):
        return {f.name: getattr(value, f.name) for f in fields(value)}
    return None


def _same(before: Any, after: Any) -> bool:
    if isinstance(after, np.ndarray):
        return isinstance(before, np.ndarray) and before.dtype == after.dtype and np.array_equal(
            _bits(before), _bits(after)
        )  # fmt: skip
    return bool(type(before) is type(after) and before == after)


def _size(value: Any) -> int:
    """About how much of it there is to be sent."""
    if isinstance(value, np.ndarray):
        return value.nbytes
    if isinstance(value, list):
        return len(value) * (8 + _size(value[0])) if value else 8
    members = _members(value)
    return 8 if members is None else sum(map(_size, members.values()))


def _spliced(part: Any, path: Sequence[str], splice: Mapping[str, Any]) -> Any:
    if path:
        return {**part, path[0]: _spliced(part[path[0]], path[1:], splice)}
    at, removed, items = splice["at"], splice["removed"], splice["items"]
    if at is None:
        return items
    if isinstance(part, np.ndarray):
        return np.concatenate([part[:at], items, part[at + removed :]])
    return [*part[:at], *items, *part[at + removed :]]
