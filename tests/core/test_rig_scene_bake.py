"""Rigs against a brute-force walk of the hierarchy; placements; edits and their algebra; the bake."""

import sys
from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation, Slerp

from eddyfield.core import edits
from eddyfield.core import rig as rig_room
from eddyfield.core.arrays import Floats
from eddyfield.core.bake import Baker
from eddyfield.core.cameras import placement
from eddyfield.core.cameras.camera import Camera, CameraPose
from eddyfield.core.errors import DomainError
from eddyfield.core.optics.lens import DeliveryFrame, Lens, inside_frame, project
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.ride import Ride
from eddyfield.core.rig import motion, transforms
from eddyfield.core.rig import rig as rig_module
from eddyfield.core.rig.mannequin import with_body
from eddyfield.core.rig.motion import Curve, Motion
from eddyfield.core.rig.rig import Rig
from eddyfield.demo import mill_race
from eddyfield.formats import gltf

from .scenery import SCENE, baker

ODA = gltf.read(mill_race.oda_glb(), with_mesh=True)


def chain(seed: int, count: int = 7) -> Rig:
    """A random tree with curves of all kinds, mirrored and unevenly scaled nodes among them."""
    rng = np.random.default_rng(seed)
    parents = np.array([-1] + [int(rng.integers(0, i)) for i in range(1, count)])
    translation, scale = rng.normal(size=(count, 3)), rng.uniform(0.5, 2, (count, 3)) * rng.choice([-1, 1], (count, 3))
    quaternion = transforms.quaternion_normalized(rng.normal(size=(count, 4)))
    curves = []
    for node in range(0, count, 2):
        seconds = np.sort(rng.choice(np.arange(0, 3, 0.13), size=int(rng.integers(1, 6)), replace=False))
        keys = len(seconds)
        rotations = transforms.quaternion_normalized(rng.normal(size=(keys, 4)))
        curves.append(Curve(node, "rotation", "linear", seconds, rotations))
        kind = ("step", "linear", "cubic")[node // 2 % 3]
        values, slopes = rng.normal(size=(keys, 3)), rng.normal(size=(2, keys, 3))
        curves.append(Curve(node, "translation", kind, seconds, values, slopes[0], slopes[1]))
    matrices = transforms.compose(translation, quaternion, scale)
    names = tuple(f"n{i}" for i in range(count))
    joints = np.arange(count)
    return Rig(names, parents, translation, quaternion, scale, matrices, joints, Motion(tuple(curves), 3.0), scale=0.7)


def one_local(rig: Rig, node: int, time: float) -> Floats:
    place, turn = rig.rest_translation[node], rig.rest_quaternion[node]
    for curve in rig.motion.curves:
        if curve.node != node:
            continue
        t = np.clip(time, curve.seconds[0], curve.seconds[-1])
        after = int(np.searchsorted(curve.seconds, t, side="right"))
        low, high = after - 1, min(after, len(curve.seconds) - 1)
        if curve.path == "rotation":
            turn = curve.values[low]
            if high != low:
                pair = Rotation.from_quat([turn, curve.values[high] * (1 if turn @ curve.values[high] >= 0 else -1)])
                turn = Slerp(curve.seconds[[low, high]], pair)(t).as_quat()
        else:
            a, b = curve.values[low], curve.values[high]
            gap = curve.seconds[high] - curve.seconds[low]
            s = (t - curve.seconds[low]) / gap if gap else 0.0
            place = a
            if curve.interpolation == "linear":
                place = a + (b - a) * s
            elif curve.interpolation == "cubic" and gap:
                assert curve.tangents_in is not None
                assert curve.tangents_out is not None
                m0, m1 = curve.tangents_out[low] * gap, curve.tangents_in[high] * gap
                place = (2*s**3 - 3*s**2 + 1)*a + (s**3 - 2*s**2 + s)*m0 + (-2*s**3 + 3*s**2)*b + (s**3 - s**2)*m1  # fmt: skip
    moved = any(c.node == node for c in rig.motion.curves)
    if not moved:
        return rig.rest_matrices[node]
    local = np.eye(4)
    local[:3, :3] = Rotation.from_quat(turn).as_matrix() * rig.rest_scale[node]
    local[:3, 3] = place
    return local


@settings(max_examples=12)
@given(st.integers(0, 1000))
def test_world_matrices_agree_with_a_walk_up_the_tree(seed: int) -> None:
    _agrees_with_a_walk_up_the_tree(seed)


@settings(max_examples=12)
@given(st.integers(0, 1000))
def test_so_do_the_compiled_loops(seed: int) -> None:
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(rig_module, "FEWEST_COMPILED", 0)
        _agrees_with_a_walk_up_the_tree(seed)


def test_without_its_compiler_a_rig_is_evaluated_all_the_same(monkeypatch: pytest.MonkeyPatch) -> None:
    rig, seconds = chain(3), np.linspace(-0.5, 3.5, 4000)
    compiled = rig.world_matrices(seconds)
    monkeypatch.setitem(sys.modules, "eddyfield.core.rig.compiled", None)  # importing it fails
    monkeypatch.delattr(rig_room, "compiled")
    motion.compiled_loops.cache_clear()
    assert motion.compiled_loops() is None
    assert np.allclose(rig.world_matrices(seconds), compiled, rtol=0, atol=1e-12)
    motion.compiled_loops.cache_clear()


def _agrees_with_a_walk_up_the_tree(seed: int) -> None:
    rig = chain(seed)
    seconds = np.linspace(-0.5, 3.5, 23)
    world = rig.world_matrices(seconds)
    for row in (0, 7, 15, 22):
        for node in range(len(rig.names)):
            expected, at = np.eye(4), node
            while at >= 0:
                expected = one_local(rig, at, seconds[row]) @ expected
                at = int(rig.parents[at])
            expected = np.diag([0.7, 0.7, 0.7, 1.0]) @ expected
            assert np.allclose(world[row, node], expected, atol=1e-9)
    some = np.array([5, 2])
    assert np.array_equal(rig.world_matrices(seconds, some), world[:, some])
    assert np.allclose(rig.world_positions(seconds, some), world[..., :3, 3][:, some], rtol=0, atol=1e-12)


def test_a_node_that_is_its_own_ancestor_is_refused() -> None:
    rig = chain(1)
    with pytest.raises(DomainError, match="own ancestor"):
        _ = replace(rig, parents=np.array([-1, 2, 1, 0, 0, 0, 0])).levels


def test_oda_is_a_whole_character() -> None:
    assert 40 <= len(ODA.joints) <= 50
    assert {"jaw", "brow_l", "lid_r", "eye_l", "hand_r", "foot_l"} <= set(ODA.joint_names)
    assert ODA.mesh is not None
    assert ODA.skinning is not None
    assert np.allclose(ODA.mesh.weights.sum(axis=1), 1, atol=1e-5)
    assert ODA.names[ODA.default_anchor()] == "hips"
    skin = ODA.world_matrices(np.zeros(1))[0, ODA.skinning.nodes] @ ODA.skinning.joint_from_mesh
    assert np.abs(skin[..., 3, :] - [0, 0, 0, 1]).max() < 1e-6
    height = np.ptp(placement.body_points(ODA, np.zeros(1))[..., 1])
    assert 1.4 < height < 2.0, "a person"
    assert len(baker().key_poses(SCENE.characters[0])) == 25


def test_the_crossing_has_planted_feet_and_one_planted_kink() -> None:
    price = baker().contact_price(SCENE.characters[0], Ride())
    assert price is not None
    assert price.before_m < 0.005
    found = baker()
    character = SCENE.characters[0]
    for joint in ("hand_l", "head", "hips", "foot_r"):
        assert found.judged_arc(character, ODA.find(joint), None).judgement.faults == ()
    pole = SCENE.piece(mill_race.POLE)
    for thing, joint in ((character, "hand_r"), (pole, "lantern")):
        (kink,) = found.judged_arc(thing, found.rig(thing).find(joint), None).judgement.faults
        assert (kink.row, kink.kind) == (42, "off_arc"), "what the hand holds goes with it"


def test_the_demo_strobes_on_twos_and_riding_ends_it_at_a_price() -> None:
    character = SCENE.characters[0]
    still, ridden = baker().strobing(character), baker().strobing(character, Ride("rigid"))
    assert still.rms_px > 5
    assert len(still.reversals) > 30
    assert ridden.max_px < 1e-6
    price = baker().contact_price(character, Ride("rigid"))
    assert price is not None
    assert price.after_m > price.before_m


def test_a_part_is_computed_once_and_again_only_when_something_it_depends_on_changed() -> None:
    memory: dict[str, object] = {}
    first = Baker(SCENE, lambda _: ODA, memory)
    character = SCENE.characters[0]
    first.strobing(character)
    first.arc(character, ODA.find("hand_r"), None)
    held = set(memory)
    again = Baker(edits.RenameScene(name="Other").apply(SCENE), lambda _: ODA, memory)
    again.strobing(character)
    again.arc(character, ODA.find("hand_r"), None)
    assert set(memory) == held
    stepped = edits.StepCharacter(character_id=character.id, stepping=Stepping(3)).apply(SCENE)
    Baker(stepped, lambda _: ODA, memory).strobing(stepped.characters[0])
    new = {name.split(" ")[0] for name in set(memory) - held}
    assert new == {"strobing", "ride", "exposures", "compared"}, "neither motion nor camera is baked again"


def test_the_fitting_camera_holds_the_whole_body_inside_action_safe() -> None:
    seconds = np.linspace(0, 4, 97)
    points = placement.body_points(ODA, seconds)
    frame, lens = DeliveryFrame(), Lens(35.0)
    pose = placement.fitting_pose([points[:50], points[50:]], placement.front_of(ODA, np.zeros((1, 1, 3))), lens, frame)
    seen = project(transforms.apply(transforms.rigid_inverse(pose), points), lens, frame)
    assert inside_frame(seen, frame).all()
    share = np.abs(seen.pixels / [frame.width, frame.height] * 2 - 1).max(axis=(0, 1))
    assert share.max() == pytest.approx(placement.ACTION_SAFE, abs=1e-6), "and no farther away than that asks for"


def test_skinned_vertices_lie_within_the_body_points() -> None:
    assert ODA.mesh is not None
    assert ODA.skinning is not None
    seconds = np.array([0.0, 1.3, 2.9])
    skin = ODA.world_matrices(seconds, ODA.skinning.nodes) @ ODA.skinning.joint_from_mesh
    blended = np.einsum("vs,fvsij->fvij", ODA.mesh.weights, skin[:, ODA.mesh.slots])
    vertices = transforms.apply(blended, ODA.mesh.positions.astype(float))
    box = placement.body_points(ODA, seconds)
    for direction in np.random.default_rng(0).normal(size=(40, 3)):
        assert ((vertices @ direction).max(axis=1) <= (box @ direction).max(axis=1) + 1e-5).all()


def test_front_and_feet_by_name() -> None:
    assert placement.feet_of(ODA) == ("foot_l", "foot_r")
    names = ("Hips", "LeftUpLeg", "RightUpLeg")
    places = np.array([[[0, 1, 0], [0, 1, -0.1], [0, 1, 0.1]]], dtype=float)
    rig = replace(chain(0, 3), names=names)
    assert np.allclose(placement.front_of(rig, places), [1, 0, 0]), "left hip at -Z: facing +X"


pose_values = st.floats(-50, 50)
poses = st.builds(CameraPose, *[pose_values] * 6, st.floats(10, 200))
CAMERA = SCENE.cameras[0].id
UNLOCKED = edits.BakeCamera(camera_id=CAMERA, first=1001, last=1096, error_px=0.5).apply(
    edits.LockCamera(camera_id=CAMERA, locks=()).apply(SCENE), baker()
)
AT_WORK = baker(UNLOCKED)


@given(poses, st.integers(900, 1200))
def test_a_key_is_where_it_was_set(pose: CameraPose, frame: int) -> None:
    keyed = edits.KeyCamera(camera_id=CAMERA, time=Fraction(frame), pose=pose).apply(UNLOCKED, AT_WORK)
    values = [float(c.at(frame)) for c in keyed.camera(CAMERA).channels.values()][:7]
    assert values == pytest.approx([pose.x, pose.y, pose.z, pose.pan, pose.tilt, pose.roll, pose.focal_mm])


@given(poses)
def test_a_moved_camera_stands_there_on_every_frame_until_keyed_or_put_back(pose: CameraPose) -> None:
    moved = edits.PlaceCamera(camera_id=CAMERA, pose=pose, frame=1010).apply(UNLOCKED, AT_WORK)
    path = baker(moved).camera_path(moved.camera(CAMERA)).world_from_camera
    assert np.allclose(path, path[0])
    assert np.allclose(path[0, :3, 3], [pose.x, pose.y, pose.z])
    assert edits.PutCameraBack(camera_id=CAMERA).apply(moved) == UNLOCKED
    keyed = edits.KeyCamera(camera_id=CAMERA, time=Fraction(1030)).apply(moved, baker(moved))
    assert keyed.camera(CAMERA).unkeyed == ()
    assert float(keyed.camera(CAMERA).channels["x"].at(1030)) == pytest.approx(pose.x)


@given(st.floats(-2000, 2000), st.floats(-2000, 2000))
def test_a_camera_put_somewhere_by_direction_does_not_spin(pan: float, roll: float) -> None:
    pose = CameraPose(0, 0, 0, pan, 0, roll, 35)
    placed = dict(
        edits.PlaceCamera(camera_id=CAMERA, pose=pose, frame=1048).apply(UNLOCKED, AT_WORK).camera(CAMERA).unkeyed
    )
    assert abs(placed["pan"] - 87) <= 180 + 1e-9
    assert abs(placed["roll"]) <= 180 + 1e-9
    turned = transforms.rotation_from_angles(placed["pan"], 0, placed["roll"])
    assert np.allclose(turned, transforms.rotation_from_angles(pan, 0, roll), atol=1e-9)


def at(*time: int) -> edits.ChosenKeys:
    return edits.ChosenKeys(CAMERA, (Fraction(*time),))


def test_moving_and_deleting_keys() -> None:
    rail = edits.LockCamera(camera_id=CAMERA, locks=()).apply(SCENE)
    moved = edits.RetimeCameraKeys(keys=at(1024), by=Fraction(13, 2)).apply(rail)
    assert [str(k.time) for k in moved.camera(CAMERA).channels["rail"].keys] == [
        "1001",
        "2061/2",
        "1048",
        "1072",
        "1096",
    ]
    assert edits.RetimeCameraKeys(keys=at(2061, 2), by=Fraction(-13, 2)).apply(moved) == rail
    with pytest.raises(DomainError, match="already"):
        edits.RetimeCameraKeys(keys=at(1024), by=Fraction(24)).apply(rail)
    with pytest.raises(DomainError, match="no key"):
        edits.DeleteCameraKeys(keys=at(1025)).apply(rail)
    gone = edits.DeleteCameraKeys(keys=at(1024)).apply(rail)
    assert len(gone.camera(CAMERA).channels["rail"].keys) == 4


def test_a_locked_camera_says_why_it_does_not_move() -> None:
    pose = CameraPose(0, 0, 0, 0, 0, 0, 35)
    for refused in (
        lambda: edits.PlaceCamera(camera_id=CAMERA, pose=pose, frame=1001).apply(SCENE, baker()),
        lambda: edits.KeyCamera(camera_id=CAMERA, time=Fraction(1001)).apply(SCENE, baker()),
        lambda: edits.DeleteCameraKeys(keys=at(1001)).apply(SCENE),
        lambda: edits.RetimeCameraKeys(keys=at(1001), by=Fraction(1)).apply(SCENE),
        lambda: edits.ShapeCameraKeys(keys=at(1001), shape="hold").apply(SCENE),
    ):
        with pytest.raises(DomainError, match=r"“Bank rail 35” is locked.*Unlock it first"):
            refused()


def test_names_and_ranges_are_checked() -> None:
    two = replace(SCENE, cameras=(*SCENE.cameras, Camera("other", "Other")))
    with pytest.raises(DomainError, match="Another camera"):
        edits.RenameCamera(camera_id="other", name=" Bank  rail 35 ").apply(two)
    assert (
        edits.RenameCamera(camera_id="other", name=" Close-up\tOda 85 ").apply(two).camera("other").name
        == "Close-up Oda 85"
    )
    for wrong in ("", "   ", "x" * 121):
        with pytest.raises(DomainError):
            edits.RenameScene(name=wrong).apply(SCENE)
    with pytest.raises(DomainError):
        edits.SetFrames(first=10, last=5).apply(SCENE)
    with pytest.raises(DomainError):
        edits.StepCharacter(character_id="nobody", stepping=Stepping(2)).apply(SCENE)
    with pytest.raises(DomainError):
        CameraPose(0, 0, 0, 0, 0, 0, 0.1)


def test_a_rig_without_a_mesh_gets_a_body_that_follows_its_joints() -> None:
    bare = replace(ODA, mesh=None, skinning=None)
    body = with_body(bare)
    assert body.mesh is not None
    assert body.skinning is not None
    assert with_body(ODA) is ODA
    assert ODA.mesh is not None
    token = replace(ODA, mesh=replace(ODA.mesh, triangles=ODA.mesh.triangles[:60]))
    told = with_body(token)
    assert told.mesh is not None
    assert np.array_equal(told.mesh.positions, body.mesh.positions), "as if there were none"
    assert told.notes[-1] == "Its mesh has 60 triangles for 43 joints: a plain body is drawn in its place."
    assert told.motion.shape_weights(np.zeros(1)).shape == (1, 0)
    time = np.array([1.0])
    skin = body.world_matrices(time, body.skinning.nodes)[0] @ body.skinning.joint_from_mesh
    drawn = transforms.apply(skin[body.mesh.slots[:, 0]], body.mesh.positions.astype(float))
    joints = body.world_positions(time, body.joints)[0]
    nearest = np.linalg.norm(joints[:, None] - drawn[None], axis=-1).min(axis=1)
    assert nearest.max() < 0.1, "every joint lies in or on the body"


def test_what_is_on_ones_is_not_judged_again_when_the_camera_moves() -> None:
    oda, quill = SCENE.characters
    moved = edits.LockCamera(camera_id=SCENE.cameras[0].id, locks=()).apply(SCENE)
    moved = edits.SetCameraValues(camera_id=SCENE.cameras[0].id, values={"rail": 0.2}).apply(moved)
    before, after = baker(), baker(moved)
    assert before.strobing_key(quill) == after.strobing_key(quill)
    assert after.strobing(quill).rms_px == 0
    assert before.strobing_key(oda) != after.strobing_key(oda)
    riding = replace(quill, ride=Ride("rigid"))
    assert np.allclose(after.carried(riding).whole, np.eye(4)), "nothing is held, so nothing rides"
