"""A joint brought onto a line of sight: what it ends is bent, or what carries it is turned; bones keep their length."""

from __future__ import annotations

import numpy as np

from ..arrays import Floats
from .joint_change import JointChange, bending, changed, limb_above, moved_by, turning
from .rig import Rig

FARTHEST_SWEEP = 1.5
"""Of the way that a joint is brought: what else may be moved by a turn, where another would do."""
ON_SIGHT_M = 1e-9
LEAST_ARM_M = 1e-6


def pulled(rig: Rig, pose: Floats, joint: str, place: Floats, wanted: Floats, sight: Floats) -> tuple[JointChange, ...]:
    """What brings a ``place`` (3,) that a joint of a pose (nodes, 4, 4) carries onto the line through ``wanted`` (3,) along the
    unit vector ``sight`` (3,), as near to ``wanted`` as bones let it, or as near to the line where they do not reach. All in the
    axes of the pose. Only what hangs on no joint is moved."""
    carriers = _carriers(rig, joint)
    if not carriers:
        return (moved_by(rig, pose, joint, wanted - place),)
    limb = limb_above(rig, joint)
    if limb is not None:
        end = rig.index_of[joint]
        a, k, c = (pose[node, :3, 3] for node in (rig.index_of[limb], int(rig.parents[end]), end))
        upper, lower = float(np.linalg.norm(k - a)), float(np.linalg.norm(c - k))
        to = _on_sight(a, abs(upper - lower) + LEAST_ARM_M, upper + lower - LEAST_ARM_M, wanted - (place - c), sight)
        return bending(rig, pose, joint, limb, to)
    tries = [_turned(rig, pose, about, place, wanted, sight) for about in carriers]
    fits = [tried for tried in tries if tried[1] < ON_SIGHT_M]
    gentle = [tried for tried in fits if tried[2] <= FARTHEST_SWEEP]
    best = (gentle or fits or sorted(tries, key=lambda tried: tried[1]))[0]
    return (best[0],)


def _carriers(rig: Rig, joint: str) -> list[str]:
    """The joints that a joint hangs on, the nearest first; without the first of all, which carries the feet as well, where there
    are others."""
    joints, out = set(rig.joints.tolist()), []
    node = int(rig.parents[rig.index_of[joint]])
    while node in joints:
        out.append(rig.names[node])
        node = int(rig.parents[node])
    return out[:-1] or out


def _turned(
    rig: Rig, pose: Floats, about: str, place: Floats, wanted: Floats, sight: Floats
) -> tuple[JointChange, float, float]:
    """A turn about a joint, how far beside the line of sight it leaves the place, and how far it moves what moves most, in times
    the way."""
    pivot = pose[rig.index_of[about], :3, 3]
    arm = float(np.linalg.norm(place - pivot))
    to = _on_sight(pivot, arm, arm, wanted, sight)
    turn = turning(rig, pose, about, place, to)
    if arm < LEAST_ARM_M:
        return turn, np.inf, np.inf
    swept = np.linalg.norm((changed(rig, pose[None], [turn], np.ones(1))[0] - pose)[:, :3, 3], axis=1).max()
    beside = wanted - to
    missed = float(np.linalg.norm(beside - (beside @ sight) * sight))
    return turn, missed, float(swept / max(np.linalg.norm(to - place), LEAST_ARM_M))


def _on_sight(centre: Floats, nearest: float, farthest: float, wanted: Floats, sight: Floats) -> Floats:
    """The point of a line through ``wanted`` along ``sight`` that is nearest to ``wanted`` of those that are between two
    distances from a centre; where there is none, the point at one of these that is nearest to the line. All (3,)."""
    off = wanted - centre
    away, along = float(np.linalg.norm(off)), float(off @ sight)
    if nearest <= away <= farthest:
        return wanted
    reach = farthest if away > farthest else nearest
    under = along**2 - away**2 + reach**2
    if under >= 0:
        by = min((-along - np.sqrt(under), -along + np.sqrt(under)), key=abs)
        return np.asarray(wanted + by * sight)
    towards = off - along * sight
    return np.asarray(centre + towards * (reach / np.linalg.norm(towards)))
