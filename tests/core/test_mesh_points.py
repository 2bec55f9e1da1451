"""Points on meshes, followed like joints; and arcs of props."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from eddyfield.core.errors import DomainError
from eddyfield.core.performance.holding import Hold
from eddyfield.core.rig.mesh_points import MeshPoint, followed_on, mesh_point_world
from eddyfield.core.time.frames import seconds_at
from eddyfield.demo import mill_race

from .scenery import SCENE, baker

ODA = SCENE.characters[0]
RIG = mill_race.demo_rig("oda")


def slowly(vertex: int, second: float) -> np.ndarray:
    """Where a vertex is, one joint and one shape after the other."""
    mesh, skinning = RIG.mesh, RIG.skinning
    assert mesh is not None
    assert skinning is not None
    place = [float(v) for v in mesh.positions[vertex]]
    for shape, weight in zip(mesh.shapes, RIG.motion.shape_weights(np.array([second]))[0], strict=True):
        moves = dict(zip(shape.vertices.tolist(), shape.moves.tolist(), strict=True))
        place = [p + float(weight) * m for p, m in zip(place, moves.get(vertex, (0, 0, 0)), strict=True)]
    world = RIG.world_matrices(np.array([second]))[0]
    out = np.zeros(4)
    for slot, share in zip(mesh.slots[vertex], mesh.weights[vertex], strict=True):
        out += float(share) * (world[skinning.nodes[slot]] @ (skinning.joint_from_mesh[slot] @ np.array([*place, 1.0])))
    return out[:3]


def test_a_point_on_the_face_goes_with_joints_and_shapes() -> None:
    mesh = RIG.mesh
    assert mesh is not None
    smile = next(shape for shape in mesh.shapes if shape.name == "smile")
    corner = int(smile.vertices[np.linalg.norm(smile.moves, axis=1).argmax()])
    seconds = seconds_at(SCENE.frames.frames(), ODA.performance.timing.start, SCENE.rate)
    world = mesh_point_world(RIG, baker().world(ODA), RIG.motion.shape_weights(seconds), corner)
    for row in (0, 20, 63, 76, 95):
        assert world[row, 0, :3, 3] == pytest.approx(slowly(corner, float(seconds[row])), abs=1e-6)
    assert np.array_equal(world[:, 1], baker().world(ODA)[:, RIG.find("head")]), (
        "and it hangs on what carries most of it"
    )
    still = mesh_point_world(RIG, baker().world(ODA), 0 * RIG.motion.shape_weights(seconds), corner)
    assert np.linalg.norm(world[95, 0, :3, 3] - still[95, 0, :3, 3]) > 0.005, "she smiles"
    arc = baker().arc(ODA, MeshPoint(corner), None)
    seen = baker().path_part(None)
    pixels = baker().value(seen).project(world[:, 0, :3, 3]).pixels
    assert np.allclose(arc.pixels, pixels, atol=1e-6)
    assert baker().judged_arc(ODA, MeshPoint(corner), None).judgement.least.shape == (96,)


def test_what_is_followed_is_named() -> None:
    assert followed_on(RIG, "head") == RIG.find("head")
    assert followed_on(RIG, "point 12") == MeshPoint(12)
    assert MeshPoint(12).name == "point 12"
    with pytest.raises(DomainError, match="has no point 999999"):
        followed_on(RIG, "point 999999")
    with pytest.raises(DomainError, match="no joint"):
        followed_on(RIG, "point of view")


def test_a_prop_in_a_hand_has_the_arc_of_the_hand() -> None:
    held = replace(SCENE.pieces[0], kind="prop", holds=(Hold(1001, ODA.id, "hand_r"),))
    work = baker(SCENE.with_thing(held))
    node = work.rig(held).find("Mill race")
    rigid = np.linalg.inv(work.world(ODA)[:, RIG.find("hand_r")]) @ work.world(held)[:, node]
    assert np.allclose(rigid, rigid[0], atol=1e-9)
    track = work.arc(held, node, None)
    path = work.value(work.path_part(None))
    assert np.allclose(track.pixels, path.project(work.world(held)[:, node, :3, 3]).pixels, atol=1e-6, equal_nan=True)
