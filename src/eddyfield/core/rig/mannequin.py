"""A plain body for a rig that came without a mesh, or with a token of one: a tapered limb from each joint to what hangs on it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from ..arrays import Floats
from .rig import Mesh, Rig, Skinning

SIDES = 7
# Along a limb: share of its length, and thickness there; the ends are rounded.
PROFILE = ((-0.03, 0.30), (0.02, 0.85), (0.18, 1.0), (0.75, 0.72), (0.97, 0.55), (1.03, 0.2))
THICKNESS, LEAST_SHARE, MOST_SHARE = 0.16, 0.007, 0.035
CLAY = (0.47, 0.29, 0.22)
FEWEST_JOINTS, TOKEN_TRIANGLES = 12, 4
"""Of a rig of that many joints and more: fewer triangles a joint than that are no body."""


def with_body(rig: Rig) -> Rig:
    """The rig with limbs to draw, each carried by the joint at its upper end. A rig that has a mesh stays as it is, unless that
    is only a token: then a note says what was left out."""
    limbs = _limbs(rig)
    notes = rig.notes
    if rig.mesh is not None:
        joints, drawn = len(rig.joints), len(rig.mesh.triangles)
        if not limbs or joints < FEWEST_JOINTS or drawn >= TOKEN_TRIANGLES * joints:
            return rig
        notes = (
            *notes,
            f"Its mesh has {drawn:,} triangles for {joints:,} joints: a plain body is drawn in its place.",
        )
    if not limbs:
        return rig
    tall = _height(rig)
    pieces = [_limb(offset, tall) for _, offset in limbs]
    count = len(pieces[0][0])
    carriers = sorted({node for node, _ in limbs})
    slot_of = {node: slot for slot, node in enumerate(carriers)}
    slots = np.zeros((len(limbs) * count, 4), dtype=np.uint16)
    slots[:, 0] = np.repeat([slot_of[node] for node, _ in limbs], count)
    weights = np.zeros(slots.shape, dtype=np.float32)
    weights[:, 0] = 1.0
    positions = np.concatenate([places for places, _ in pieces]).astype(np.float32)
    triangles = np.concatenate([pieces[0][1] + count * i for i in range(len(limbs))]).astype(np.uint32)
    mesh = Mesh(
        positions,
        np.concatenate(_normals(pieces)).astype(np.float32),
        np.broadcast_to(np.array(CLAY, dtype=np.float32), positions.shape).copy(),
        slots,
        weights,
        triangles,
    )
    skinning = Skinning(np.array(carriers, dtype=np.int64), np.broadcast_to(np.eye(4), (len(carriers), 4, 4)))
    still = replace(rig.motion, shape_curves=(), rest_weights=np.zeros(0))  # it has no shapes
    return replace(rig, mesh=mesh, skinning=skinning, motion=still, notes=notes)


def _limbs(rig: Rig) -> list[tuple[int, Floats]]:
    """(upper node, offset of the lower one) for everything that hangs on a joint."""
    joints = set(rig.joints.tolist())
    out = []
    for node in rig.body_nodes.tolist():
        parent = int(rig.parents[node])
        offset = rig.rest_matrices[node][:3, 3]
        if parent in joints and np.linalg.norm(offset) > 1e-9:
            out.append((parent, offset))
    return out


def _height(rig: Rig) -> float:
    """Height of the rig at the start of its motion, in units of the file."""
    return float(np.ptp(rig.world_positions(np.zeros(1), rig.body_nodes)[..., 1])) / rig.scale


def _limb(offset: Floats, tall: float) -> tuple[Floats, NDArray[np.int64]]:
    length = float(np.linalg.norm(offset))
    along = offset / length
    side = np.cross(along, [0.0, 0.0, 1.0] if abs(along[2]) < 0.9 else [1.0, 0.0, 0.0])
    side /= np.linalg.norm(side)
    front = np.cross(along, side)
    radius = float(np.clip(THICKNESS * length, LEAST_SHARE * tall, MOST_SHARE * tall))
    angles = 2 * np.pi * np.arange(SIDES) / SIDES
    ring = np.outer(np.cos(angles), side) + np.outer(np.sin(angles), front)
    places = np.concatenate([along * length * share + ring * radius * thick for share, thick in PROFILE])
    triangles = []
    for row in range(len(PROFILE) - 1):
        for corner in range(SIDES):
            a, b = row * SIDES + corner, row * SIDES + (corner + 1) % SIDES
            triangles += [(a, b, a + SIDES), (b, b + SIDES, a + SIDES)]
    last = (len(PROFILE) - 1) * SIDES
    for corner in range(1, SIDES - 1):
        triangles += [(0, corner + 1, corner), (last, last + corner, last + corner + 1)]
    return places, np.array(triangles, dtype=np.int64)


def _normals(pieces: list[tuple[Floats, NDArray[np.int64]]]) -> list[Floats]:
    """Outwards from the middle line of each limb, near enough for a body that is drawn with flat faces."""
    out = []
    for places, _ in pieces:
        middle = places.reshape(len(PROFILE), SIDES, 3).mean(axis=1).repeat(SIDES, axis=0)
        away = places - middle
        out.append(away / np.linalg.norm(away, axis=-1, keepdims=True))
    return out
