"""Corrections: a joint exactly where it should be in the picture, limbs of the length they have, and only as long as the file
stays as it was."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation

from eddyfield.core.arrays import Floats
from eddyfield.core.bake import Baker
from eddyfield.core.edits.contents import TimeThing
from eddyfield.core.edits.corrections import CorrectFault, CorrectJoint, DropCorrection
from eddyfield.core.edits.versions import BringNextVersion
from eddyfield.core.errors import DomainError
from eddyfield.core.performance.at_source import changes_at_source
from eddyfield.core.performance.correction import Correction, Moment
from eddyfield.core.performance.nested import LEVEL
from eddyfield.core.performance.placing import placing
from eddyfield.core.performance.timing import Timing
from eddyfield.core.readings.compared import compared
from eddyfield.core.readings.reading import Reading
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.core.rig import transforms
from eddyfield.core.rig.joint_change import JointChange, bending, change_to, changed, limb_above
from eddyfield.core.rig.source import RigSource
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.fading import fading
from eddyfield.demo import mill_race
from eddyfield.formats import gltf

from .scenery import SCENE, baker, fail

ODA = SCENE.characters[0]
POLE = next(piece for piece in SCENE.pieces if piece.kind == "prop")
WORK = baker()
RIG = WORK.rig(ODA)
POSE = WORK.world(ODA)[30]
SHIFT_PX = st.tuples(st.floats(-30, 30), st.floats(-30, 30)).filter(lambda s: s != (0.0, 0.0))
KINKED = 1043


def _corrected(scene: Scene = SCENE, work: Baker = WORK, **of: object) -> Baker:
    return work.of(CorrectJoint(**{"thing_id": ODA.id, "on_frame": 1031, **of}).apply(scene, work))  # type: ignore[arg-type]


def _world(work: Baker) -> Floats:
    return work.world(work.scene.character(ODA.id))


def _seen(work: Baker, joint: str, thing: object = ODA) -> Floats:
    of = work.scene.thing(thing.id)  # type: ignore[attr-defined]
    return work.arc(of, work.rig(of).index_of[joint], None).pixels


@settings(max_examples=30, deadline=None)
@given(SHIFT_PX, st.sampled_from(["hand_r", "thumb_2_l", "hips"]), st.integers(1002, 1094))
def test_a_joint_comes_to_the_very_pixel_and_no_other_frame_moves(
    shift: tuple[float, float], joint: str, frame: int
) -> None:
    after = _corrected(joint=joint, on_frame=frame, shift_px=shift)
    moved = _seen(after, joint) - _seen(WORK, joint)
    row = frame - SCENE.frames.first
    assert moved[row] == pytest.approx(shift, abs=1e-6)
    assert np.abs(np.delete(moved, row, axis=0)).max() == 0
    assert np.array_equal(np.delete(_world(after), row, axis=0), np.delete(WORK.world(ODA), row, axis=0))


@settings(max_examples=60, deadline=None)
@given(
    st.tuples(st.floats(-90, 90), st.floats(-90, 90)).filter(lambda s: np.hypot(*s) > 1e-3),
    st.sampled_from([name for name in RIG.joint_names if name != "root"]),
    st.integers(1002, 1094),
)
def test_bones_keep_their_length_wherever_a_joint_is_pulled(shift: tuple[float, float], joint: str, frame: int) -> None:
    after, row = _corrected(joint=joint, on_frame=frame, shift_px=shift), frame - SCENE.frames.first
    bones = [
        (int(RIG.parents[node]), node) for node in RIG.joints.tolist() if RIG.parents[node] in set(RIG.joints.tolist())
    ]
    before, now = (
        np.array([np.linalg.norm(np.subtract(*pose[list(bone), :3, 3])) for bone in bones])
        for pose in (WORK.world(ODA)[row], _world(after)[row])
    )
    assert np.abs(now - before).max() < 1e-9
    came = (_seen(after, joint) - _seen(WORK, joint))[row]
    assert np.linalg.norm(came - shift) < np.linalg.norm(shift) + 1e-6, "never farther from where it should be"


@pytest.mark.parametrize("mount", ["perspective", "parallel"])
def test_where_bones_reach_it_comes_to_the_very_pixel(mount: str) -> None:
    scene, camera = SCENE, SCENE.cameras[0]
    if mount == "parallel":
        glass = replace(camera.glass, orthographic_height_m=2.4)
        camera = replace(camera, glass=glass)
        scene = SCENE.with_camera(camera)
    work = WORK.of(scene)
    for joint, shift in (
        ("hand_l", (-6.0, -6.0)),
        ("foot_r", (8.0, -9.0)),
        ("head", (9.0, 4.0)),
        ("thumb_2_r", (5.0, 5.0)),
    ):
        after = _corrected(scene, work, joint=joint, shift_px=shift, camera_id=camera.id)
        node = RIG.index_of[joint]
        came = after.arc(after.scene.character(ODA.id), node, camera).pixels - work.arc(ODA, node, camera).pixels
        assert came[30] == pytest.approx(shift, abs=1e-4), joint


def test_what_is_held_comes_to_the_very_pixel_with_the_hand() -> None:
    lantern = WORK.rig(POLE).joint_names[-1]
    after = _corrected(thing_id=POLE.id, joint=lantern, shift_px=(9.0, -4.0))
    assert (_seen(after, lantern, POLE) - _seen(WORK, lantern, POLE))[30] == pytest.approx((9.0, -4.0), abs=1e-6)
    assert after.scene.piece(POLE.id) is SCENE.piece(POLE.id), "it is the hand that is corrected"
    nobody = SCENE.with_thing(replace(POLE, holds=()))
    with pytest.raises(DomainError, match="Nobody holds"):
        CorrectJoint(thing_id=POLE.id, joint=lantern, on_frame=1031, shift_px=(9.0, -4.0)).apply(
            nobody, WORK.of(nobody)
        )


def test_a_limb_is_bent_and_keeps_its_bones() -> None:
    now = _world(_corrected(joint="hand_r", shift_px=(12.0, -8.0)))[30]
    for upper, lower in (("upper_arm_r", "forearm_r"), ("forearm_r", "hand_r")):
        ends = [RIG.index_of[name] for name in (upper, lower)]
        lengths = [float(np.linalg.norm(np.diff(pose[ends][:, :3, 3], axis=0))) for pose in (POSE, now)]
        assert lengths[1] == pytest.approx(lengths[0], abs=1e-9)
    hand = RIG.index_of["hand_r"]
    assert np.allclose(now[hand, :3, :3], POSE[hand, :3, :3], atol=1e-9), "it keeps its turn"


def test_limbs_are_found_where_nothing_else_hangs_on_them() -> None:
    found = {name: limb_above(RIG, name) for name in ("hand_r", "foot_l", "head", "chest", "hips", "thumb_2_r")}
    assert found == {
        "hand_r": "upper_arm_r", "foot_l": "thigh_l", "head": None, "chest": None, "hips": None, "thumb_2_r": None,
    }  # fmt: skip


@settings(max_examples=40, deadline=None)
@given(st.lists(st.floats(-0.15, 0.15), min_size=3, max_size=3), st.sampled_from(["hand_l", "foot_r"]))
def test_a_limb_comes_where_it_is_wanted_as_far_as_it_reaches(shift: list[float], end: str) -> None:
    begin = limb_above(RIG, end)
    assert begin is not None
    node = RIG.index_of[end]
    now = changed(RIG, POSE[None], bending(RIG, POSE, end, begin, POSE[node, :3, 3] + shift), np.ones(1))[0]
    wanted = POSE[node, :3, 3] + shift
    line = [RIG.index_of[begin], int(RIG.parents[node]), node]
    lengths = np.linalg.norm(np.diff(POSE[line][:, :3, 3], axis=0), axis=1)
    away = np.linalg.norm(wanted - POSE[RIG.index_of[begin], :3, 3])
    if abs(lengths[0] - lengths[1]) < away < 1.04 * lengths.sum():
        assert now[node, :3, 3] == pytest.approx(wanted, abs=1e-8)


@settings(max_examples=40, deadline=None)
@given(st.lists(st.floats(-40, 40), min_size=3, max_size=3), st.lists(st.floats(-0.3, 0.3), min_size=3, max_size=3))
def test_a_change_is_in_the_axes_above_and_told_back(turn: list[float], shift: list[float]) -> None:
    """Against SciPy: turned in the axes of the parent, about the joint."""
    node, parent = RIG.index_of["forearm_l"], RIG.index_of["upper_arm_l"]
    change = JointChange("forearm_l", tuple(turn), tuple(shift))  # type: ignore[arg-type]
    now = changed(RIG, POSE[None], [change], np.ones(1))[0]
    axes = Rotation.from_matrix(POSE[parent, :3, :3])
    local = axes.inv() * Rotation.from_matrix(POSE[node, :3, :3])
    wanted = axes * Rotation.from_rotvec(turn, degrees=True) * local
    assert np.allclose(now[node, :3, :3], wanted.as_matrix(), atol=1e-9)
    assert np.allclose(now[node, :3, 3], POSE[node, :3, 3] + axes.apply(shift), atol=1e-9)
    told = change_to(RIG, POSE, "forearm_l", now[node] @ np.linalg.inv(POSE[node]))
    assert (told.turn_deg, told.shift_m) == (pytest.approx(turn, abs=1e-6), pytest.approx(shift, abs=1e-9))


def test_what_is_near_turns_where_it_sweeps_nothing_that_is_farther_away() -> None:
    (head,) = _corrected(joint="head", shift_px=(10.0, 0.0)).scene.character(ODA.id).performance.corrections
    assert [c.joint for c in head.changes] == ["spine"], "on a short neck"
    (thumb,) = _corrected(joint="thumb_2_r", shift_px=(2.0, 0.0)).scene.character(ODA.id).performance.corrections
    assert [c.joint for c in thumb.changes] == ["thumb_1_r"]


def test_it_is_blended_over_the_frames_beside_it_and_a_step_goes_both_ways() -> None:
    after = _corrected(joint="hips", shift_px=(10.0, 0.0), fades=3)
    across = (_seen(after, "hips") - _seen(WORK, "hips"))[:, 0]
    assert across[30 - 3 : 30 + 4] / 10 == pytest.approx(fading(3, False)[1:-1], abs=0.02), (
        "as large as it is seen there"
    )
    step = _corrected(joint="hand_r", shift_px=(10.0, 0.0), fades=4, step=True)
    across = (_seen(step, "hand_r") - _seen(WORK, "hand_r"))[:, 0]
    assert across[30] - across[29] == pytest.approx(10.0, rel=0.03)
    assert np.abs(across[[25, 34]]).max() == pytest.approx(0, abs=1e-9)


def test_it_goes_with_the_performance_in_time_and_place() -> None:
    after = _corrected(joint="head", shift_px=(10.0, 0.0))
    later = TimeThing(thing_id=ODA.id, timing=replace(ODA.performance.timing, start=ODA.performance.timing.start + 7))
    moved = WORK.of(later.apply(after.scene, after))
    plain = WORK.of(later.apply(SCENE, WORK))
    off = _world(moved) - _world(plain)
    assert np.flatnonzero(np.abs(off).max(axis=(1, 2, 3))).tolist() == [37]
    turned = replace(after.scene.character(ODA.id), placing=placing(turn=Channel(90.0), x=Channel(2.0)))
    elsewhere = WORK.of(after.scene.with_thing(turned))
    bare = replace(turned, performance=ODA.performance)
    ways = [
        w.world(c)[30, RIG.index_of["head"], :3, 3] - without.world(b)[30, RIG.index_of["head"], :3, 3]
        for w, c, without, b in (
            (elsewhere, turned, WORK.of(SCENE.with_thing(bare)), bare),
            (after, after.scene.character(ODA.id), WORK, ODA),
        )
    ]
    assert ways[0] == pytest.approx(transforms.rotation_from_angles(-90.0, 0.0, 0.0) @ ways[1], abs=1e-9)


def _second_version() -> tuple[RigSource, Baker]:
    source = RigSource("e" * 64, "gltf")
    second = gltf.read(mill_race.oda_glb(second=True), with_mesh=True)
    rig_of = WORK.rig_of
    return source, Baker(SCENE, lambda s: second if s == source else rig_of(s), {})


def test_the_next_version_takes_it_along_while_its_frames_are_unchanged() -> None:
    source, work = _second_version()
    scene = CorrectJoint(thing_id=ODA.id, joint="hand_r", on_frame=KINKED, shift_px=(0.0, -11.0)).apply(SCENE, work)
    scene = CorrectJoint(thing_id=ODA.id, joint="hand_l", on_frame=1060, shift_px=(6.0, 0.0)).apply(
        scene, work.of(scene)
    )
    newer = BringNextVersion(character_id=ODA.id, source=source).apply(scene, work.of(scene))
    character = newer.character(ODA.id)
    assert character.performance.corrections == scene.character(ODA.id).performance.corrections
    rests = [c.rests(work.rig_of(source)) for c in character.performance.corrections]
    assert rests == [True, False], "the kink is mended there: what mended it here would be one itself"
    plain = work.of(newer.with_thing(replace(character, performance=replace(character.performance, corrections=()))))
    off = _world(work.of(newer)) - _world(plain)
    assert np.flatnonzero(np.abs(off).max(axis=(1, 2, 3))).tolist() == [1060 - SCENE.frames.first]
    again = BringNextVersion(character_id=ODA.id, source=ODA.performance.source).apply(newer, work.of(newer))
    assert np.array_equal(_world(work.of(again)), _world(work.of(scene))), "the version it was made for has it again"


def test_renamed_joints_take_it_along_and_lost_ones_let_it_rest() -> None:
    (correction,) = _corrected(joint="hand_r", shift_px=(3.0, 0.0)).scene.character(ODA.id).performance.corrections
    renamed = correction.renamed({"hand_r": "paw", "forearm_r": "foreleg"})
    assert {renamed.joint, *(c.joint for c in renamed.changes)} == {"paw", "foreleg", "upper_arm_r"}
    assert not correction.rests(RIG)
    assert renamed.rests(RIG)


def test_the_change_at_the_source_is_told_in_the_world_and_in_the_axes_of_the_joint() -> None:
    after = _corrected(joint="head", shift_px=(10.0, 0.0), fades=2)
    character = after.scene.character(ODA.id)
    (told,) = changes_at_source(
        RIG, character.performance.corrections, character.performance.timing, SCENE.frames, SCENE.rate,
        character.placing, LEVEL,
    )  # fmt: skip
    assert (told.joint, told.frame, told.first, told.last, told.rests) == ("head", 1031, 1029, 1033, False)
    head = RIG.index_of["head"]
    assert told.shift_m == pytest.approx(after.world(character)[30, head, :3, 3] - POSE[head, :3, 3], abs=1e-9)
    again = changed(RIG, POSE[None], told.changes, np.ones(1))[0]
    assert np.allclose(again, after.world(character)[30], atol=1e-9), "whoever does that has what is shown here"
    before_it = Timing(start=5000)
    (unseen,) = changes_at_source(
        RIG, character.performance.corrections, before_it, SCENE.frames, SCENE.rate, character.placing, LEVEL
    )
    assert (unseen.frame, unseen.first, unseen.last) == (None, None, None)


def _told(work: Baker) -> list[Reading]:
    return [r for r in scene_readings(work, None, None, fail) if not r.remark]


def test_the_fix_of_the_kinked_hand_clears_it_and_raises_nothing() -> None:
    before = _told(WORK)
    (kink,) = (r for r in before if r.kind == "off_arc")
    assert (kink.frame, [f.title for f in kink.fixes]) == (KINKED, ["Correct it"])
    edit = kink.fixes[0].edit
    after = WORK.of(edit.apply(SCENE, WORK))
    (correction,) = after.scene.character(ODA.id).performance.corrections
    assert [c.joint for c in correction.changes[:3]] == ["upper_arm_r", "forearm_r", "hand_r"], "the arm, bent wrongly"
    changes = [c for c in compared(before, _told(after)) if c.status != "same"]
    assert [(c.status, c.reading.kind) for c in changes] == [("gone", "off_arc")]
    with pytest.raises(DomainError, match="Too near the end"):
        CorrectFault(thing_id=ODA.id, joint="head", on_frame=1002).apply(SCENE, WORK)


@pytest.mark.parametrize("arm", [(2.0, 5.0), (5.0, -7.0)])
def test_an_arm_is_corrected_though_a_leg_has_a_fault_of_its_own_on_that_frame(arm: tuple[float, float]) -> None:
    """No one joint makes both, and neither stands in the way of the other."""
    spoilt = _corrected(joint="hand_l", on_frame=1060, shift_px=arm)
    spoilt = _corrected(spoilt.scene, spoilt, joint="foot_r", on_frame=1060, shift_px=(-9.0, 4.0))
    for limb in (("hand_l", "forearm_l", "fingers_1_l"), ("shin_r", "foot_r")):
        fault = next(r for r in _told(spoilt) if r.frame == 1060 and r.kind in ("off_arc", "off_spacing"))
        assert fault.joint in limb
        spoilt = spoilt.of(fault.fixes[0].edit.apply(spoilt.scene, spoilt))
    assert not [r for r in _told(spoilt) if r.frame == 1060 and r.fixes]


def test_pushed_again_on_the_same_frames_it_is_one_correction() -> None:
    once = _corrected(joint="hand_r", shift_px=(10.0, 4.0), fades=2)
    twice = _corrected(once.scene, once, joint="hand_r", shift_px=(-3.0, 5.0), fades=2)
    (whole,) = twice.scene.character(ODA.id).performance.corrections
    (at_once,) = (
        _corrected(joint="hand_r", shift_px=(7.0, 9.0), fades=2).scene.character(ODA.id).performance.corrections
    )
    assert (_seen(twice, "hand_r") - _seen(WORK, "hand_r"))[30] == pytest.approx((7.0, 9.0), abs=1e-6)
    for one, other in zip(whole.changes, at_once.changes, strict=True):
        assert one.joint == other.joint
        assert one.turn_deg == pytest.approx(other.turn_deg, abs=1e-6)
    beside = _corrected(once.scene, once, joint="hand_r", shift_px=(-3.0, 5.0), fades=4)
    assert len(beside.scene.character(ODA.id).performance.corrections) == 2, "blended otherwise it is one of its own"


def test_what_is_no_correction_is_refused_and_one_can_be_dropped() -> None:
    for wrong, said in (
        ({"on_frame": 999}, "not in the scene"),
        ({"fades": 400}, "blended over 400"),
        ({"shift_px": (9e3, 0.0)}, "farther than a picture"),
        ({"joint": "tail"}, "no joint"),
        ({"changes": (JointChange("tail"),)}, "no joint"),
    ):
        with pytest.raises(DomainError, match=said):
            _corrected(**{"joint": "head", "shift_px": (3.0, 0.0), **wrong})
    assert CorrectJoint(thing_id=ODA.id, joint="head", on_frame=1031, shift_px=(0.0, 0.0)).apply(SCENE, WORK) is SCENE
    scene = _corrected(joint="head", shift_px=(3.0, 0.0)).scene
    assert DropCorrection(character_id=ODA.id, place=0).apply(scene) == SCENE
    with pytest.raises(DomainError, match="not there any more"):
        DropCorrection(character_id=ODA.id, place=1).apply(scene)
    with pytest.raises(DomainError, match="changes nothing"):
        Correction("head", (), (Moment(0.0, (0.0, 0.0, 0.0), 1.0),))


@pytest.mark.parametrize("turns_on", range(1026, 1037))
@pytest.mark.parametrize("fades", [0, 1, 4])
def test_a_correction_does_not_pop_where_a_motion_turns_back(turns_on: int, fades: int) -> None:
    there_and_back = Timing(ODA.performance.timing.start, last=Fraction(turns_on - 1001), repeats="back and forth")
    timed = TimeThing(thing_id=ODA.id, timing=there_and_back).apply(SCENE, WORK)
    plain = WORK.of(timed)
    work = _corrected(timed, plain, joint="hand_r", shift_px=(0.0, -20.0), fades=fades)
    away = np.linalg.norm((_world(work) - _world(plain))[:, RIG.index_of["hand_r"], :3, 3], axis=1)
    at = 1031 - timed.frames.first
    assert np.linalg.norm(_seen(work, "hand_r")[at] - _seen(plain, "hand_r")[at] - [0, -20]) < 0.05
    most = 1.3 * away[at] if fades == 0 else 0.75 * away[at] if fades == 1 else 0.45 * away[at]
    assert np.abs(np.diff(away[at - 12 : at + 13])).max() <= most
