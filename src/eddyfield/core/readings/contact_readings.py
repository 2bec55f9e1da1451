"""Readings of feet on the ground: planted ones that slide, and such as stand lower or higher than they do otherwise."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Floats
from ..bake import Baker
from ..performance.character import Character
from ..performance.contacts import DOWN_SPEED_M_PER_S, REST_SPEED_M_PER_S, find_contacts, slides
from ..time.stretches import runs
from .limits import USUAL
from .reading import Reading, ReadingKind
from .thresholds import STILL_ON_GROUND_M

LEAST_ROWS = 4
AGREE_M = 0.01
"""How far apart a foot may rest on what is the same ground."""


def contact_readings(baker: Baker, character: Character) -> list[Reading]:
    """Of each contact that slides, as the performance is shown; and of each on flat ground that sinks or hovers."""
    rig, first = baker.rig(character), baker.frames.first
    feet = [name for name in character.feet if name in rig.index_of]
    if not feet:
        return []
    nodes = np.array([rig.index_of[name] for name in feet])
    points = baker.world(character)[..., :3, 3][:, nodes]
    rows = baker.exposure_starts(character) - first
    shown = baker.shown_points(character, points, nodes)
    contacts = find_contacts(points, baker.rate, size=rig.size)
    out, most = [], baker.limits.slide_m * rig.size
    for contact, (held, away) in zip(contacts, slides(contacts, shown, rows), strict=True):
        if not len(held) or away.max() <= most:
            continue
        begin, end, worst = (first + int(row) for row in (contact.rests, contact.leaves, held[away.argmax()]))
        size = float(away.max())
        out.append(
            Reading(
                "feet_slide",
                character.name,
                begin,
                end,
                size,
                "m",
                most,
                joint=feet[contact.point],
                frame=worst,
            )
        )
    least = baker.limits.off_ground_m * rig.size
    for foot, heights, places in zip(feet, points[..., 1].T, np.moveaxis(points, 1, 0), strict=True):
        for stand in off_the_ground(heights, places, float(baker.rate), least, rig.size):
            kind: ReadingKind = "sinks" if stand.above_m < 0 else "hovers"
            begin, end = first + stand.first, first + stand.last
            size = abs(stand.above_m)
            out.append(Reading(kind, character.name, begin, end, size, "m", least, joint=foot, frame=begin))
    return out


@dataclass(frozen=True)
class Stand:
    """Rows ``first`` to ``last`` (both included) on which a foot rests, so far above where it mostly does."""

    first: int
    last: int
    above_m: float


def off_the_ground(
    heights: Floats, places: Floats, rate: float, least_m: float = USUAL.off_ground_m, size: float = 1.0
) -> list[Stand]:
    """Where a foot of ``heights`` (frames,) at ``places`` (frames, 3) rests lower or higher than on most frames on which it
    rests, of a body of a size (as ``find_contacts``). Where it mostly rests on no one height the ground is not flat, and nothing
    is told."""
    if len(heights) < 2:
        return []
    speed = np.abs(np.diff(places, axis=0, prepend=places[:1])) * rate
    down, rest = np.sqrt(size) * DOWN_SPEED_M_PER_S, np.sqrt(size) * REST_SPEED_M_PER_S
    rests = (speed[:, 1] < down) & (np.hypot(speed[:, 0], speed[:, 2]) < rest)
    stands = [(a, b, float(np.median(heights[a : b + 1]))) for a, b in runs(rests) if b - a + 1 >= LEAST_ROWS]
    if len(stands) < 2:
        return []
    lasts = np.array([b - a + 1 for a, b, _ in stands])
    levels = np.array([level for *_, level in stands])
    alike = np.abs(levels[:, None] - levels) <= AGREE_M * size
    most = int((alike * lasts).sum(axis=1).argmax())
    if (alike[most] * lasts).sum() * 2 < lasts.sum() or alike[most].sum() < 2:
        return []
    ground = float(np.average(levels[alike[most]], weights=lasts[alike[most]]))
    return [
        Stand(a, b, level - ground)
        for a, b, level in stands
        if least_m < abs(level - ground) < STILL_ON_GROUND_M * size
    ]
