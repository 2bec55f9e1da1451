"""Changes of single joints of a pose: turned and moved within what they hang on, with all that hangs on them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..arrays import Floats
from . import transforms
from .hanging import all_hanging_on
from .rig import Rig
from .two_bone import bent_to

Vector = tuple[float, float, float]
NO_CHANGE: Vector = (0.0, 0.0, 0.0)


@dataclass(frozen=True)
class JointChange:
    """A joint is turned about itself, by ``turn_deg`` (a rotation vector, degrees), and moved by ``shift_m``; both in the axes of
    what it hangs on, those of the file where that is nothing."""

    joint: str
    turn_deg: Vector = NO_CHANGE
    shift_m: Vector = NO_CHANGE


def changed(rig: Rig, world: Floats, changes: Sequence[JointChange], shares: Floats) -> Floats:
    """Poses ``world`` (times, nodes, 4, 4) with changes, one after the other, to ``shares`` (times,) of them."""
    out = world.copy()
    for change in changes:
        node = rig.index_of[change.joint]
        axes = _axes_above(rig, out, node)
        turn = transforms.matrix_from_rotation_vector(shares[:, None] * np.radians(change.turn_deg))
        turn = axes @ turn @ np.swapaxes(axes, -1, -2)
        shift = np.einsum("fij,j->fi", axes, change.shift_m) * shares[:, None]
        place = out[:, node, :3, 3]
        carried = transforms.rigid(turn, place + shift - np.einsum("fij,fj->fi", turn, place))
        hanging = all_hanging_on(rig, node)
        out[:, hanging] = carried[:, None] @ out[:, hanging]
    return out


def change_to(rig: Rig, pose: Floats, joint: str, carried: Floats) -> JointChange:
    """What carries a joint of a pose (nodes, 4, 4) with a rigid matrix (4, 4) from world to world."""
    node = rig.index_of[joint]
    axes = _axes_above(rig, pose[None], node)[0]
    turn = transforms.rotation_vector_from_matrix((axes.T @ carried[:3, :3] @ axes)[None])[0]
    place = pose[node, :3, 3]
    shift = axes.T @ (transforms.apply(carried, place) - place)
    return JointChange(joint, vector(np.degrees(turn)), vector(shift))


def moved_by(rig: Rig, pose: Floats, joint: str, shift: Floats) -> JointChange:
    """What moves a joint of a pose by (3,) in the axes of the pose."""
    return change_to(rig, pose, joint, transforms.rigid(np.eye(3), shift))


def bending(rig: Rig, pose: Floats, end: str, begin: str, wanted: Floats) -> tuple[JointChange, ...]:
    """What bends a limb of a pose (nodes, 4, 4), from the joint ``begin`` on, so that its ``end`` comes to ``wanted`` (3,),
    turned as it is."""
    middle = rig.names[int(rig.parents[rig.index_of[end]])]
    nodes = [rig.index_of[name] for name in (begin, middle, end)]
    a, k, c = (pose[None, node, :3, 3] for node in nodes)
    bent = bent_to(a, k, c, wanted[None], pose[None, nodes[0], :3, 2])
    here = transforms.rigid(np.eye(3), bent.reached[0] - c[0])
    changes: list[JointChange] = []
    now = pose
    for joint, carried in ((begin, bent.upper[0]), (middle, bent.lower[0]), (end, here)):
        node = rig.index_of[joint]
        still = carried @ pose[node] @ np.linalg.inv(now[node])  # of what was done above it, too
        changes.append(
            change_to(rig, now, joint, transforms.rigid(transforms.orthonormal(still)[:3, :3], still[:3, 3]))
        )
        now = changed(rig, now[None], changes[-1:], np.ones(1))[0]
    return tuple(changes)


def limb_above(rig: Rig, joint: str) -> str | None:
    """The joint at which the two bones that end in a joint begin; None where it does not end a limb: what they carry beside it
    hangs on nothing else."""
    end = rig.index_of[joint]
    middle = int(rig.parents[end])
    begin = int(rig.parents[middle]) if middle >= 0 else -1
    if begin < 0 or begin not in rig.joints or rig.parents[begin] < 0:
        return None
    beside = np.setdiff1d(all_hanging_on(rig, begin), [begin, middle, *all_hanging_on(rig, end)])
    return None if np.isin(rig.parents[beside], beside).any() else rig.names[begin]


def shortest_turn(from_: Floats, to: Floats) -> Floats:
    """The rotation (3, 3) that turns one direction (3,) into another the shortest way; none where one has no length.

    >>> shortest_turn(np.array([1.0, 0.0, 0.0]), np.array([0.0, 2.0, 0.0])).round(6)[:, 0]
    array([0., 1., 0.])
    """
    axis = np.cross(from_, to)
    sine = float(np.linalg.norm(axis))
    angle = float(np.arctan2(sine, np.dot(from_, to)))
    turn: Floats = transforms.matrix_from_rotation_vector((axis * (angle / sine if sine > 0 else 0.0))[None])[0]
    return turn


def turning(rig: Rig, pose: Floats, about: str, place: Floats, wanted: Floats) -> JointChange:
    """What turns all that hangs on a joint so that a ``place`` (3,) comes as near to ``wanted`` as it can."""
    pivot = pose[rig.index_of[about], :3, 3]
    turn = shortest_turn(place - pivot, wanted - pivot)
    return change_to(rig, pose, about, transforms.rigid(turn, pivot - turn @ pivot))


def vector(values: Floats) -> Vector:
    x, y, z = values.tolist()
    return x, y, z


def _axes_above(rig: Rig, world: Floats, node: int) -> Floats:
    """Rotations (times, 3, 3) of what a node hangs on."""
    parent = int(rig.parents[node])
    if parent < 0:
        return np.broadcast_to(np.eye(3), (len(world), 3, 3))
    return transforms.orthonormal(world[:, parent])[:, :3, :3]
