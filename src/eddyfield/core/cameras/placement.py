"""Placing cameras by computation: the front of a character, its extent over a range, and a camera that frames it."""

from __future__ import annotations

import re
from collections.abc import Iterable

import numpy as np

from ..arrays import Floats, Ints
from ..optics.lens import DeliveryFrame, Lens
from ..rig import transforms
from ..rig.rig import Mesh, Rig

ACTION_SAFE = 0.93
_HIP = re.compile(r"(up(per)?[ _.-]*leg|thigh|hip|femur)", re.IGNORECASE)
_LEFT = re.compile(r"(left|(^|[^a-z])l([^a-z]|$)|^l(?=[A-Z]))")
_RIGHT = re.compile(r"(right|(^|[^a-z])r([^a-z]|$)|^r(?=[A-Z]))")
_PELVIS = re.compile(r"hips?$|pelvis", re.IGNORECASE)
_FOOT = re.compile(r"(foot|ankle|toe)", re.IGNORECASE)


def front_of(rig: Rig, positions: Floats, turn_deg: float = 0.0) -> Floats:
    """Level unit vector the character faces: +Z of the file where that is a rule of the format, else from its hips.

    ``positions`` (frames, nodes, 3) of all nodes; the hips are found by their names, left and right. It is placed with a turn of
    ``turn_deg`` to its left.
    """
    if rig.faces_z:
        return facing(turn_deg)
    left = [i for i, name in enumerate(rig.names) if _HIP.search(name) and _side(name) == "left"]
    right = [i for i, name in enumerate(rig.names) if _HIP.search(name) and _side(name) == "right"]
    if not left or not right:
        return facing(turn_deg)
    across = (positions[:, left[0]] - positions[:, right[0]]).mean(axis=0)
    front = np.cross(across, [0.0, 1.0, 0.0])
    return transforms.normalized(front * [1.0, 0.0, 1.0], (0.0, 0.0, 1.0))


def facing(turn_deg: float) -> Floats:
    """Level unit vector (3,): +Z, turned to the left."""
    turn = np.radians(turn_deg)
    return np.array([np.sin(turn), 0.0, np.cos(turn)])


def feet_of(rig: Rig) -> tuple[str, ...]:
    """Names of the joints that touch the ground: of all that are named foot, ankle or toe, the highest one of each side."""
    found: dict[str, str] = {}
    for joint in rig.joints:
        name = rig.names[int(joint)]
        side = _side(name)
        if _FOOT.search(name) and side and side not in found:
            found[side] = name
    return tuple(found.values())


def _side(name: str) -> str:
    lowered = name.lower()
    if (
        "left" in lowered
        or (_LEFT.search(name) and not _RIGHT.search(name))
        or re.search(r"(^|[_. -])l($|[_. -])", lowered)
    ):
        return "left"
    if "right" in lowered or _RIGHT.search(name) or re.search(r"(^|[_. -])r($|[_. -])", lowered):
        return "right"
    return ""


def calm_joint(rig: Rig) -> str:
    """The joint that carries the body: hips by name, else the first animated root."""
    for name in rig.joint_names:
        if _PELVIS.search(name):
            return name
    return rig.names[rig.default_anchor()]


def joint_or_stand_in(rig: Rig, name: str) -> int:
    """The node of a joint; of one that the rig does not have the one that carries the body, which stands in for it."""
    return rig.index_of.get(name, rig.index_of[calm_joint(rig)])


def body_points(rig: Rig, seconds: Floats) -> Floats:
    """Points whose convex hull holds the body at each time, (times, points, 3) in metres.

    With a mesh these are the corners of the box that each skinning slot's vertices fill, carried by the slot: a blended
    vertex is a convex mix of points of those boxes. Without one they are the joints and what hangs on them.
    """
    if rig.mesh is None or rig.skinning is None or not len(rig.mesh.positions):
        return rig.world_positions(seconds, rig.body_nodes)
    slots, ends = _slot_boxes(rig.mesh)
    # The eight corners of each box, (slots, 8, 3).
    box = np.stack([ends[[i, j, k], :, [0, 1, 2]].T for i in (0, 1) for j in (0, 1) for k in (0, 1)], axis=1)
    corners = transforms.apply(rig.skinning.joint_from_mesh[slots][:, None], box)
    world = rig.world_matrices(seconds, rig.skinning.nodes[slots])
    return transforms.apply(world[:, :, None], corners).reshape(len(seconds), -1, 3)


def _slot_boxes(mesh: Mesh) -> tuple[Ints, Floats]:
    """The slots that carry vertices, in order, and the lowest and highest corner of what each carries, (2, slots, 3)."""
    carries = mesh.weights > 0
    vertices = np.nonzero(carries)[0]
    order = np.argsort(mesh.slots[carries], kind="stable")
    slots, firsts = np.unique(mesh.slots[carries][order], return_index=True)
    places = mesh.positions[vertices[order]].astype(np.float64)
    ends = np.stack([np.minimum.reduceat(places, firsts), np.maximum.reduceat(places, firsts)])
    return slots.astype(np.int64), ends


def camera_that_frames(
    blocks: Iterable[Floats], rotation: Floats, lens: Lens, delivery: DeliveryFrame, safe: float
) -> Floats:
    """Place of the nearest camera of this rotation (3, 3) that holds all points inside the safe share of the frame.

    ``blocks`` are arrays of points (..., 3). In camera axes each edge of the frame is a plane through the camera, so the
    farthest point along each plane's normal decides: exact, for any number of points.
    """
    along_x, along_y = (float(a) for a in lens.pixels_per_slope(delivery))
    slopes = np.array([safe * delivery.width / 2 / along_x, safe * delivery.height / 2 / along_y])
    far, near, closest = np.full(2, -np.inf), np.full(2, -np.inf), -np.inf
    for block in blocks:
        points = block.reshape(-1, 3) @ rotation
        toward = points[:, 2:] * slopes
        far = np.maximum(far, (points[:, :2] + toward).max(axis=0))
        near = np.maximum(near, (-points[:, :2] + toward).max(axis=0))
        closest = max(closest, float(points[:, 2].max()))
    place = np.append((far - near) / 2, max(*((far + near) / (2 * slopes)), closest + 2 * lens.near_m))
    return np.asarray(rotation @ place)


def fitting_pose(
    blocks: Iterable[Floats], front: Floats, lens: Lens, delivery: DeliveryFrame, turn_deg: float = 35.0
) -> Floats:
    """``world_from_camera`` (4, 4) of a level camera in front of the character, ``turn_deg`` round to its left."""
    angle = np.arctan2(front[0], front[2]) + np.radians(turn_deg)
    toward = np.array([np.sin(angle), 0.0, np.cos(angle)])
    rotation = transforms.look_rotation(-toward, np.array([0.0, 1.0, 0.0]))
    return transforms.rigid(rotation, camera_that_frames(blocks, rotation, lens, delivery, ACTION_SAFE))
