"""Hands that hold on to something in the world: they stand still in it while the body goes on, as a rail is gripped."""

from __future__ import annotations

import re
from dataclasses import dataclass

import numpy as np

from ..arrays import Floats
from ..rig.joint_change import limb_above
from ..rig.rig import Rig
from ..time.frames import Rate
from ..time.stretches import runs

STILL_M_PER_S, GOES_ON_M_PER_S = 0.05, 0.15
"""A hand moves less than the one in the world while the body moves more than the other beside it."""
LEAST_S = 0.25
HAND = re.compile("hand|wrist", re.IGNORECASE)


@dataclass(frozen=True)
class Grip:
    """Rows ``first`` to ``last`` (both included) on which the hand at ``node`` holds on."""

    node: int
    first: int
    last: int


def grips(rig: Rig, world: Floats, body: int, rate: Rate) -> tuple[Grip, ...]:
    """Of the hands that end an arm, in the unstepped motion ``world`` (frames, nodes, 4, 4); ``body`` is the node that carries
    the body."""
    if len(world) < 2:
        return ()
    out = []
    least, quicker = max(2, round(LEAST_S * float(rate))), float(np.sqrt(rig.size))
    for name in rig.joint_names:
        if not HAND.search(name) or limb_above(rig, name) is None:
            continue
        node = rig.index_of[name]
        hand, carrier = world[:, node, :3, 3], world[:, body, :3, 3]
        speed = np.linalg.norm(np.diff(hand, axis=0), axis=1) * float(rate)
        beside = np.linalg.norm(np.diff(carrier, axis=0), axis=1) * float(rate)
        # A step to a frame is of both frames that it joins.
        still = np.append(speed, np.inf) < STILL_M_PER_S * quicker
        still[1:] |= speed < STILL_M_PER_S * quicker
        for first, last in runs(still):
            if last - first + 1 >= least and np.median(beside[first:last]) > GOES_ON_M_PER_S * quicker:
                out.append(Grip(node, int(first), int(last)))
    return tuple(out)
