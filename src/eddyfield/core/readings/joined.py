"""Readings of a long range that was judged block by block."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace

from ..time.frames import FrameRange
from .reading import Reading


def joined(blocks: Iterable[tuple[FrameRange, Sequence[Reading]]]) -> list[Reading]:
    """The readings of blocks that follow one another, each judged with some frames more at both ends: what lies in those alone is
    told by the next block, and a stretch that goes on over an edge is one."""
    out: list[Reading] = []
    latest: dict[tuple[object, ...], int] = {}
    for own, found in blocks:
        for reading in sorted(found, key=lambda r: r.first):
            if reading.last < own.first or reading.first > own.last:
                continue
            about = (reading.kind, reading.subject, reading.character_id, reading.camera_id, reading.joint)
            before = latest.get(about)
            if before is not None and reading.first <= own.first and out[before].last >= own.first - 1:
                out[before] = _as_one(out[before], reading)
            else:
                latest[about] = len(out)
                out.append(reading)
    return out


def _as_one(one: Reading, other: Reading) -> Reading:
    """By the part of it that hurts more."""
    worse = max((one, other), key=lambda r: r.weight)
    return replace(worse, first=min(one.first, other.first), last=max(one.last, other.last))
