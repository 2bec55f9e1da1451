"""Planted feet, and hands that hold on: they stay where they are in the world while the body rides, each limb bent to reach by
two-bone inverse kinematics."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Bools, Floats, Ints
from ..rig import transforms
from ..rig.hanging import all_hanging_on
from ..rig.rig import Rig
from ..rig.two_bone import bent_to
from ..time.frames import Rate
from .carried import Carried
from .contacts import find_contacts
from .gripping import Grip

LEAST_BONE_M = 1e-3
PARTS = 3
"""Of a leg: what hangs on the hip joint, on the knee, on the ankle."""


@dataclass(frozen=True)
class Leg:
    """The nodes of a leg's joints."""

    hip: int
    knee: int
    ankle: int


def legs_of(rig: Rig, feet: tuple[str, ...]) -> tuple[Leg, ...]:
    """The legs of the feet: up from each to the next two joints that lie elsewhere. A foot without those, or one that hangs on
    another, has none."""
    rest = rig.rest_world[:, :3, 3]
    known = {rig.index_of[name] for name in feet if name in rig.index_of}
    out = []
    for ankle in sorted(known):
        chain = [ankle]
        at = int(rig.parents[ankle])
        while at >= 0 and len(chain) < PARTS:
            if at in known:
                break  # a toe of a foot that is planted itself
            if np.linalg.norm(rest[at] - rest[chain[-1]]) > LEAST_BONE_M:
                chain.append(at)
            at = int(rig.parents[at])
        if len(chain) == PARTS and rig.parents[chain[-1]] >= 0:
            out.append(Leg(chain[2], chain[1], chain[0]))
    return tuple(out)


def planted(
    rig: Rig, feet: tuple[str, ...], world: Floats, rows: Ints, whole: Floats, rate: Rate, hands: tuple[Grip, ...] = ()
) -> Carried:
    """A pose ``world`` (frames, nodes, 4, 4) of ``rows`` (frames,), carried by ``whole`` (frames, 4, 4) but for the feet that
    stand on the ground there: those stay as they stand, as long as heel or toe rests; and but for ``hands``, as long as they hold
    on."""
    held = sorted({grip.node for grip in hands})
    legs = (*legs_of(rig, feet), *(_arm(rig, node) for node in held))
    count = len(rows)
    group_of = np.full(len(rig.names), -1, dtype=np.int64)
    own = np.repeat(whole[:, None], PARTS * len(legs), axis=1)
    stretch, missed = np.zeros((2, count, len(legs)))
    rides = np.asarray(np.abs(whole - np.eye(4)).max(axis=(1, 2)) > 0)
    for number, leg in enumerate(legs):
        for part, node in enumerate(
            (leg.hip, leg.knee, leg.ankle)
        ):  # the lower ones come last, and keep what is theirs
            group_of[all_hanging_on(rig, node)] = PARTS * number + part
        stays = _holds_on(hands, leg.ankle, len(world)) if leg.ankle in held else _stands(rig, leg.ankle, world, rate)
        at = np.flatnonzero(rides & stays[rows])
        if len(at):
            hip, knee, ankle = (world[rows[at], node][:, :3, 3] for node in (leg.hip, leg.knee, leg.ankle))
            reached = _reach(hip, knee, ankle, whole[at], _ahead(rig, leg, world[rows[at]]))
            own[at, PARTS * number : PARTS * (number + 1)] = reached.parts
            stretch[at, number], missed[at, number] = reached.stretch, reached.missed_m
    return Carried(whole, group_of, own, stretch, missed)


@dataclass(frozen=True, eq=False)
class _Reached:
    parts: Floats
    """What carries thigh, shin and foot, (frames, 3, 4, 4)."""
    stretch: Floats
    missed_m: Floats


def _reach(hip: Floats, knee: Floats, ankle: Floats, whole: Floats, ahead: Floats) -> _Reached:
    """Bend a leg of a pose (each (n, 3)) whose hip is carried by ``whole`` so that its ankle stays; ``ahead`` (n, 3) is where a
    straight knee bends to."""
    a, k, c = (transforms.apply(whole, point) for point in (hip, knee, ankle))
    bent = bent_to(a, k, c, ankle, np.einsum("fij,fj->fi", whole[:, :3, :3], ahead))
    foot = transforms.rigid(np.broadcast_to(np.eye(3), (len(a), 3, 3)), bent.reached - ankle)
    missed = np.linalg.norm(bent.reached - ankle, axis=-1)
    return _Reached(np.stack([bent.upper @ whole, bent.lower @ whole, foot], axis=1), bent.stretch, missed)


def _arm(rig: Rig, hand: int) -> Leg:
    """As a leg is: from the shoulder by the elbow to the hand."""
    elbow = int(rig.parents[hand])
    return Leg(int(rig.parents[elbow]), elbow, hand)


def _holds_on(hands: tuple[Grip, ...], node: int, count: int) -> Bools:
    out = np.zeros(count, dtype=bool)
    for grip in hands:
        if grip.node == node:
            out[grip.first : grip.last + 1] = True
    return out


def _ahead(rig: Rig, leg: Leg, world: Floats) -> Floats:
    """Where the toes point, (n, 3): from the ankle to what hangs on it, else +Z of the file as the hip turns it."""
    toes = np.flatnonzero(rig.parents == leg.ankle)
    if len(toes):
        return np.asarray(world[:, toes].mean(axis=1)[:, :3, 3] - world[:, leg.ankle, :3, 3])
    return world[:, leg.hip, :3, 2]


def _stands(rig: Rig, ankle: int, world: Floats, rate: Rate) -> Bools:
    """On which rows of the motion a foot should stand still, on heel or toe: its joints that end nowhere else rest, (frames,)."""
    joints = [ankle, *(n for n in np.flatnonzero(rig.parents == ankle).tolist() if n in set(rig.joints.tolist()))]
    out = np.zeros(len(world), dtype=bool)
    for contact in find_contacts(np.ascontiguousarray(world[:, joints][..., :3, 3]), rate, size=rig.size):
        out[contact.rests : contact.leaves + 1] = True
    return out
