"""Which points of a character lie behind the set or behind another character, by lines of sight from the camera."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Bools, Floats, Ints
from ..bake import Baker
from ..cameras.camera import Camera
from ..optics.sight_lines import behind_ellipsoids, hidden_rows, sight_origins
from ..parts import Part, RigOf
from ..performance.carried import Carried, carried_whole
from ..performance.character import Character
from ..performance.piece import Piece
from ..performance.piece_frames import ShownPiece
from ..rig import transforms
from ..rig.rig import Rig

FEWEST_VERTICES = 8
FULLNESS = 0.9
"""How much of the box of a limb's mesh the ellipsoid fills that stands for it."""


def hidden_points(baker: Baker, camera: Camera, character: Character, points: Floats, visible: Bools) -> Bools | None:
    """Of shown points (frames, points, 3) those that are in the frame (``visible``) and hidden; None where there is nothing
    that could hide them. What the camera does not see hides nothing."""
    scene, path = baker.scene, baker.camera_path(camera)
    pieces = [p for p in scene.pieces if p.showing.seen_by(camera.id)]
    others = [c for c in scene.characters if c.id != character.id and c.showing.seen_by(camera.id)]
    ellipsoids = [(c, e) for c in others if (e := _ellipsoids(baker, c)) is not None]
    if not pieces and not ellipsoids:
        return None
    rows = np.asarray(visible.any(axis=1), dtype=bool)
    origins = sight_origins(path, points)
    hidden = np.zeros(visible.shape, dtype=bool)
    standing = []
    for piece in pieces:
        shown, there = baker.shown_piece(piece), rows & piece.showing.there(scene.frames)
        if baker.rig(piece).motion.curves:
            limbs = _piece_ellipsoids(baker, piece)
            if limbs.shape[1]:
                hidden |= behind_ellipsoids(origins, points, limbs, there)
        elif len(shown.carried) == 1 and not piece.showing.hidden:
            standing.append(transforms.apply(shown.carried[0], baker.piece_triangles(piece)))
        else:  # seen from the piece, it is the line of sight that moves
            back = np.asarray(np.linalg.inv(shown.carried), dtype=np.float64)[:, None]
            seen = transforms.apply(back, origins), transforms.apply(back, points)
            hidden |= hidden_rows(*seen, baker.piece_triangles(piece), there)
    if standing:
        hidden |= hidden_rows(origins, points, np.concatenate(standing), rows)
    for other, world_from_unit in ellipsoids:
        hidden |= behind_ellipsoids(origins, points, world_from_unit, rows & other.showing.there(scene.frames))
    return hidden & visible


def _piece_ellipsoids(baker: Baker, piece: Piece) -> Floats:
    """Matrices (frames, limbs, 4, 4) of the ellipsoids that stand for what its file moves of a piece, as shown."""
    limbs = Part("limbs", limb_ellipsoids, (RigOf(piece.performance.source),))
    inputs = (limbs, baker.piece_in_file_part(piece), baker.shown_piece_part(piece))
    return baker.value(Part("limbs of a piece", _placed_piece_limbs, inputs))


def _placed_piece_limbs(limbs: Limbs, in_file: Floats, shown: ShownPiece) -> Floats:
    return placed_limbs(limbs, in_file, shown.rows, carried_whole(shown.carried))


def _ellipsoids(baker: Baker, character: Character) -> Floats | None:
    """Matrices (frames, limbs, 4, 4) that make unit spheres into the ellipsoids that stand for a character's limbs as shown;
    None without a mesh."""
    limbs = Part("limbs", limb_ellipsoids, (RigOf(character.performance.source),))
    if not len(baker.value(limbs).nodes):
        return None
    inputs = (
        limbs, baker.motion_part(character), baker.rows_part(character), baker.carried_part(character, character.ride)
    )  # fmt: skip
    return baker.value(Part("limbs as shown", placed_limbs, inputs))


@dataclass(frozen=True, eq=False)
class Limbs:
    """Limbs of a mesh: the node of each, and what makes a unit sphere into its ellipsoid, (limbs, 4, 4) in the node's axes."""

    nodes: Ints
    node_from_unit: Floats


def limb_ellipsoids(rig: Rig) -> Limbs:
    """An ellipsoid for all vertices that a node rules; none without a mesh."""
    nodes, boxes = [], []
    if rig.mesh is not None and rig.skinning is not None:
        mesh, skinning = rig.mesh, rig.skinning
        ruling = mesh.slots[np.arange(len(mesh.slots)), mesh.weights.argmax(axis=1)]
        for slot in range(len(skinning.nodes)):
            vertices = mesh.positions[ruling == slot]
            if len(vertices) < FEWEST_VERTICES:
                continue
            local = vertices @ skinning.joint_from_mesh[slot, :3, :3].T + skinning.joint_from_mesh[slot, :3, 3]
            low, high = local.min(axis=0), local.max(axis=0)
            box = np.eye(4)
            box[:3, :3], box[:3, 3] = np.diag(np.maximum((high - low) / 2 * FULLNESS, 1e-4)), (low + high) / 2
            nodes.append(int(skinning.nodes[slot]))
            boxes.append(box)
    return Limbs(np.array(nodes, dtype=np.int64), np.array(boxes).reshape(-1, 4, 4))


def placed_limbs(limbs: Limbs, world: Floats, rows: Ints, carried: Carried) -> Floats:
    """As shown, (frames, limbs, 4, 4): stepped to ``rows`` of the motion, and carried."""
    return np.asarray(carried.of_nodes(limbs.nodes) @ world[rows][:, limbs.nodes] @ limbs.node_from_unit)
