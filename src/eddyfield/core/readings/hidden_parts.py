"""Which points of a character lie behind the set or behind another character, by lines of sight from the camera."""

from __future__ import annotations

import numpy as np

from ..arrays import Bools, Floats
from ..bake import Baker
from ..content import content_key
from ..optics.camera_path import CameraPath
from ..optics.sight_lines import behind_ellipsoids, hidden_rows, sight_origins
from ..scene import Character

FEWEST_VERTICES = 8
FULLNESS = 0.9
"""How much of the box of a limb's mesh the ellipsoid fills that stands for it."""


def hidden_points(baker: Baker, path: CameraPath, character: Character, points: Floats, visible: Bools) -> Bools | None:
    """Of shown points (frames, points, 3) those that are in the frame (``visible``) and hidden; None where there is nothing
    that could hide them."""
    pieces = [baker.set_triangles(p) for p in baker.scene.set_pieces]
    others = [e for c in baker.scene.characters if c.id != character.id if (e := _ellipsoids(baker, c)) is not None]
    if not pieces and not others:
        return None
    rows = np.asarray(visible.any(axis=1), dtype=bool)
    origins = sight_origins(path, points)
    hidden = np.zeros(visible.shape, dtype=bool)
    if pieces:
        hidden |= hidden_rows(origins, points, np.concatenate(pieces), rows)
    for world_from_unit in others:
        hidden |= behind_ellipsoids(origins, points, world_from_unit, rows)
    return hidden & visible


def _ellipsoids(baker: Baker, character: Character) -> Floats | None:
    """Matrices (frames, limbs, 4, 4) that make unit spheres into the ellipsoids that stand for a character's limbs as shown;
    None without a mesh."""
    rig = baker.rig_of(character.source)
    if rig.mesh is None or rig.skinning is None:
        return None
    mesh, skinning = rig.mesh, rig.skinning

    def compute() -> tuple[Floats, Floats]:
        ruling = mesh.slots[np.arange(len(mesh.slots)), mesh.weights.argmax(axis=1)]
        nodes, boxes = [], []
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
        return np.array(nodes, dtype=np.float64), np.array(boxes).reshape(-1, 4, 4)

    nodes, boxes = baker.part(content_key("limbs", character.source), compute)
    if not len(nodes):
        return None

    def placed() -> Floats:
        posed = baker.exposure_starts(character) - baker.scene.frames.first
        world = baker.world(character)[posed][:, nodes.astype(np.int64)]
        carried = baker.ride_transforms(character)
        return np.asarray(carried[:, None] @ world @ boxes)

    return baker.part(content_key("limbs as shown", baker.shown_key(character)), placed)
