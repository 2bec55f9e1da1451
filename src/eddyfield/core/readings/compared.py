"""What became better and worse from one state of a scene to another, reading by reading."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ..bake import Baker
from ..cameras.face import head_joint
from ..cameras.placement import calm_joint
from ..performance.character import Character
from ..scene import Thing
from .causes import CAUSES
from .reading import Figure, Reading
from .scene_readings import OnFault, arc_readings_of, scene_readings

Status = Literal["new", "worse", "better", "gone", "same"]
ORDER: tuple[Status, ...] = ("new", "worse", "better", "gone", "same")
CHANGED = 1.05
"""How many times as bad counts as worse, and the other way round as better."""
NEAR_FRAMES = 12
"""Stretches that lie no further apart are about the same thing."""
SAME_FAULT_FRAMES = 1
MOST_JUDGED = 200_000
"""Joints times frames."""
MOST_HANDS = 2
_HAND = re.compile("hand|wrist", re.IGNORECASE)


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


def readings_to_compare(baker: Baker, on_fault: OnFault) -> list[Reading]:
    """All readings of the cut, and the faults of every joint's arc through it, of characters and of what they hold. One fault
    goes through all joints that hang on the one that makes it: it is told once, of the joint in which it is worst, with how
    many more there are."""
    out = scene_readings(baker, None, None, on_fault)
    for character in baker.scene.characters:
        judged: list[tuple[Thing, str]] = [(character, joint) for joint in _judged_joints(baker, character)]
        for prop in baker.scene.pieces:
            if any(hold.character_id == character.id for hold in prop.holds):
                judged += [(prop, joint) for joint in _judged_joints(baker, prop)]
        faults = [
            reading
            for thing, joint in judged
            for reading in arc_readings_of(baker, thing, joint, None)
            if not reading.remark
        ]
        out += _worst_at_each_place(faults)
    return out


def _judged_joints(baker: Baker, thing: Thing) -> tuple[str, ...]:
    """All of them; of a long scene what carries the body, the head, the feet and the hands, and of a prop its first."""
    rig = baker.rig(thing)
    if baker.frames.count * len(rig.joint_names) <= MOST_JUDGED:
        return tuple(rig.joint_names)
    if not isinstance(thing, Character):
        return tuple(rig.joint_names[:1])
    hands = [name for name in rig.joint_names if _HAND.search(name)][:MOST_HANDS]
    return tuple(dict.fromkeys([calm_joint(rig), rig.names[head_joint(rig)], *thing.feet, *hands]))


def _worst_at_each_place(faults: Sequence[Reading]) -> list[Reading]:
    """Of faults that meet in time, of the same camera or of none, the one that hurts most."""
    out: list[Reading] = []
    counts: list[int] = []
    for fault in sorted(faults, key=lambda f: -f.weight):
        met = next(
            (i for i, o in enumerate(out) if o.camera_id == fault.camera_id and _apart(o, fault) <= SAME_FAULT_FRAMES),
            None,
        )
        if met is None:
            out.append(fault)
            counts.append(0)
        else:
            counts[met] += out[met].subject != fault.subject
    return [
        replace(fault, figures=(*fault.figures, Figure("further joints", more, ""))) if more else fault
        for fault, more in zip(out, counts, strict=True)
    ]


def _about(reading: Reading) -> tuple[object, ...]:
    """What a reading is of: a fault of an arc is its character's, in whichever joint it is worst."""
    subject = "" if CAUSES[reading.kind] == "arc" else reading.subject
    return reading.kind, subject, reading.camera_id, reading.character_id, reading.remark


def _apart(one: Reading, other: Reading) -> int:
    """Frames between two stretches, 0 where they meet."""
    return max(0, one.first - other.last, other.first - one.last)


def _harm(reading: Reading) -> float:
    """How much, for how long."""
    return abs(reading.weight) * (reading.last - reading.first + 1)
