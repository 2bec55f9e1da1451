"""A character's face, measured: which joint carries it, where it is from that joint, how high it is, where its eyes are."""

from __future__ import annotations

import re
from dataclasses import dataclass

import numpy as np

from ..arrays import Floats
from ..errors import DomainError
from ..rig import transforms
from ..rig.hanging import hanging_points, hangs_on
from ..rig.rig import Rig
from .placement import front_of

SHARE_OF_HEIGHT = 0.13
"""Of the body's height, taken for the face where there is no mesh to measure."""
_HEAD = re.compile(r"head(?!.*(top|end|nub))", re.IGNORECASE)
_EYE = re.compile(r"(^|[^a-z])eyes?([^a-z]|$)", re.IGNORECASE)


@dataclass(frozen=True, eq=False)
class Face:
    """``centre`` and ``eyes`` are places in the axes of the joint, metres of the world, (3,); ``axes`` (3, 3) has as its
    columns what is right, up and back of a camera that looks where the face looks, in joint axes."""

    joint: str
    node: int
    centre: Floats
    eyes: Floats
    height_m: float
    axes: Floats
    measured: bool


def head_joint(rig: Rig) -> int:
    """The node that carries the head: by its name, else the highest joint at rest. Raises ``DomainError``."""
    for joint in rig.joints:
        if _HEAD.search(rig.names[int(joint)]):
            return int(joint)
    if not len(rig.joints):
        raise DomainError("The character has no joints.", "Choose one with a skeleton.")
    places = rig.world_positions(np.zeros(1), rig.joints)[0]
    return int(rig.joints[int(np.argmax(places[:, 1]))])


def measure_face(rig: Rig) -> Face:
    """The face at the start of the motion: the vertices that are mostly weighted to the head and what hangs on it.

    Without a mesh the height is a stated share
    of the body's, above the joint.
    """
    node = head_joint(rig)
    world = rig.world_matrices(np.zeros(1))[0]
    head = transforms.orthonormal(world[None, node])[0]
    # What is up and ahead of the face counts from the rest pose: the head may be turned when the motion begins.
    rest = _rest_rotation(rig, node)
    back = -front_of(rig, rig.rest_world[None, :, :3, 3])
    up = np.array([0.0, 1.0, 0.0])
    axes = rest.T @ np.stack([np.cross(up, back), up, back], axis=-1)
    points = hanging_points(rig, node, world)
    joints = [i for i in map(int, rig.joints) if _EYE.search(rig.names[i]) and hangs_on(rig, i, node)]
    if points is not None:
        local = transforms.apply(transforms.rigid_inverse(head), points) @ axes
        low, high = local.min(axis=0), local.max(axis=0)
        height, centre = float(high[1] - low[1]), axes @ ((low + high) / 2)
        ahead = -float(low[2])
    else:
        body = rig.world_positions(np.zeros(1), rig.body_nodes)[0]
        height = SHARE_OF_HEIGHT * float(np.ptp(body[:, 1]))
        centre, ahead = axes @ np.array([0.0, height / 2, 0.0]), height / 2
    if joints:
        eyes = transforms.apply(transforms.rigid_inverse(head), world[joints, :3, 3]).mean(axis=0)
    else:
        side = axes.T @ centre
        eyes = axes @ np.array([side[0], side[1] + 0.1 * height, -ahead])
    return Face(rig.names[node], node, centre, eyes, height, axes, points is not None)


def _rest_rotation(rig: Rig, node: int) -> Floats:
    """World rotation (3, 3) of a node in the bind pose, where a mesh gives one, else at rest."""
    if rig.skinning is not None:
        slots = np.flatnonzero(rig.skinning.nodes == node)
        if len(slots):
            bind = np.asarray(np.linalg.inv(rig.skinning.joint_from_mesh[slots[:1]]), dtype=np.float64)
            return transforms.orthonormal(bind)[0, :3, :3]
    return transforms.orthonormal(rig.rest_world[node][None])[0, :3, :3]
