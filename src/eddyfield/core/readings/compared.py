"""What became better and worse from one state of a scene to another, reading by reading."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from .causes import CAUSES
from .hurting import hurts
from .reading import Reading

Status = Literal["new", "worse", "better", "gone", "same"]
ORDER: tuple[Status, ...] = ("new", "worse", "better", "gone", "same")
CHANGED = 1.05
"""How many times as bad counts as worse, and the other way round as better."""
NEAR_FRAMES = 12
"""Stretches that lie no further apart are about the same thing."""


@dataclass(frozen=True)
class Change:
    """One matter in two states: the reading of it before, and after; None where there is none."""

    status: Status
    before: Reading | None
    after: Reading | None

    @property
    def reading(self) -> Reading:
        found = self.after or self.before
        assert found is not None
        return found


def compared(before: Sequence[Reading], after: Sequence[Reading]) -> list[Change]:
    """Readings of two states matched: of the same kind, about the same, nearest in time. What is new or worse comes first,
    within that what hurts most."""
    left: dict[tuple[object, ...], list[Reading]] = defaultdict(list)
    for reading in before:
        left[_about(reading)].append(reading)
    out = []
    for reading in after:
        others = left[_about(reading)]
        nearest = min(others, key=lambda other: _apart(other, reading), default=None)
        if nearest is None or _apart(nearest, reading) > NEAR_FRAMES:
            out.append(Change("new", None, reading))
            continue
        others.remove(nearest)
        was, now = _harm(nearest), _harm(reading)
        status: Status = "worse" if now > CHANGED * was else "better" if was > CHANGED * now else "same"
        out.append(Change(status, nearest, reading))
    out += [Change("gone", reading, None) for others in left.values() for reading in others]
    return sorted(out, key=lambda change: (ORDER.index(change.status), -change.reading.weight))


def _about(reading: Reading) -> tuple[object, ...]:
    """What a reading is of: a fault of an arc is its character's, in whichever joint it is worst."""
    subject = "" if CAUSES[reading.kind] == "arc" else reading.subject
    return reading.kind, subject, reading.camera_id, reading.character_id, reading.remark


def _apart(one: Reading, other: Reading) -> int:
    """Frames between two stretches, 0 where they meet."""
    return max(0, one.first - other.last, other.first - one.last)


def _harm(reading: Reading) -> float:
    """How much, for how long."""
    return hurts(reading)
