"""Cameras as things of a scene, cameras made in one action, saved views, locks, and what readings find."""

from __future__ import annotations

import uuid
from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from eddyfield.core import edits, shots
from eddyfield.core.arrays import Floats
from eddyfield.core.cameras.aim import Aim
from eddyfield.core.cameras.camera import Camera, CameraPose, FilmBack, Glass
from eddyfield.core.cameras.camera_channels import LOCK_GROUPS
from eddyfield.core.cameras.face import measure_face
from eddyfield.core.cameras.framing import Framing
from eddyfield.core.cameras.mounts import Free
from eddyfield.core.cameras.placement import ACTION_SAFE
from eddyfield.core.cameras.subjects import Subject, Target, group_of
from eddyfield.core.errors import DomainError
from eddyfield.core.optics.lens import inside_frame
from eddyfield.core.readings.body_marks import body_marks
from eddyfield.core.readings.camera_readings import camera_readings
from eddyfield.core.readings.subject_figures import subject_figures
from eddyfield.core.rig import transforms
from eddyfield.core.scene import Scene
from eddyfield.demo import mill_race

from .scenery import SCENE, baker

ODA, QUILL = SCENE.characters


BANK, TWO, ZOOM = mill_race.BANK, mill_race.TWO, mill_race.ZOOM


def new_id() -> str:
    return str(uuid.uuid4())


def test_the_demo_has_the_coverage_of_a_scene() -> None:
    assert [c.mount.kind for c in SCENE.cameras][:7] == ["rail", "carried", "free", "free", "crane", "free", "carried"]
    assert [c.role for c in SCENE.cameras].count("review") == 4
    assert len({(c.tint, c.pattern) for c in SCENE.cameras}) == len(SCENE.cameras), "each by its own line"
    assert SCENE.camera(BANK).locked
    crane = baker().camera(SCENE.camera(mill_race.CRANE)).pose
    assert crane[-1, 1] - crane[65, 1] > 1.5, "up"
    readings = [r for c in SCENE.cameras for r in camera_readings(baker(), c)]
    assert not [r for r in readings if r.kind in ("lock_cannot_reach", "soft", "near_plane_cuts_in")]


# --- the bench ---


def test_names_stay_unique_and_lines_differ() -> None:
    scene = edits.add_camera(SCENE, Camera(new_id(), "Bank rail 35"))
    assert scene.cameras[-1].name == "Bank rail 35 (2)"
    scene = edits.add_camera(scene, Camera(new_id(), "Bank rail 35"))
    assert scene.cameras[-1].name == "Bank rail 35 (3)"
    assert len({(c.tint, c.pattern) for c in scene.cameras}) == len(scene.cameras)
    with pytest.raises(DomainError, match="already"):
        edits.add_camera(scene, scene.cameras[0])


def test_copying_and_ordering() -> None:
    copied = edits.CopyCamera(camera_id=BANK, new_id=new_id()).apply(SCENE)
    copy = copied.cameras[1]
    assert copy.name == "Bank rail 35 (2)"
    assert not copy.locks
    assert (copy.mount, copy.channels) == (SCENE.cameras[0].mount, SCENE.cameras[0].channels)
    assert np.allclose(
        baker(copied).camera_path(copy).world_from_camera, baker().camera_path(SCENE.camera(BANK)).world_from_camera
    )
    last = edits.OrderCamera(camera_id=BANK, index=99).apply(SCENE)
    assert last.cameras[-1].id == BANK
    assert edits.OrderCamera(camera_id=BANK, index=0).apply(last) == SCENE


def test_a_camera_of_the_cut_is_not_deleted_but_replaced() -> None:
    with pytest.raises(DomainError, match=r"The cut uses “Bank rail 35” from frame 1001.*Replace it"):
        edits.DeleteCamera(camera_id=BANK).apply(SCENE)
    with pytest.raises(DomainError, match="own place"):
        edits.DeleteCamera(camera_id=BANK, replace_by=BANK).apply(SCENE)
    replaced = edits.DeleteCamera(camera_id=BANK, replace_by=TWO).apply(SCENE)
    assert replaced.cut.camera_ids == (TWO,)
    assert BANK not in {c.id for c in replaced.cameras}
    assert len(edits.DeleteCamera(camera_id=TWO).apply(SCENE).cameras) == len(SCENE.cameras) - 1
    with pytest.raises(DomainError, match="only camera"):
        edits.DeleteCamera(camera_id=BANK, replace_by=BANK).apply(replace(SCENE, cameras=SCENE.cameras[:1]))


# --- locks ---


pose = CameraPose(1, 2, 9, 0, 0, 0, 50)


@pytest.mark.parametrize(
    ("group", "refused"),
    [
        ("place", lambda s: edits.PlaceCamera(camera_id=ZOOM, pose=pose, frame=1001).apply(s, baker(s))),
        ("place", lambda s: edits.MountCamera(camera_id=ZOOM, mount=Free(), frame=1001).apply(s, baker(s))),
        ("angles", lambda s: edits.AimCamera(camera_id=ZOOM, aim=None, frame=1001).apply(s, baker(s))),
        (
            "angles",
            lambda s: edits.FrameCamera(camera_id=ZOOM, framing=Framing((Subject(),)), frame=1001).apply(s, baker(s)),
        ),
        ("lens", lambda s: edits.SetCameraLens(camera_id=ZOOM, back=FilmBack(), glass=Glass()).apply(s)),
        ("lens", lambda s: edits.FocusCamera(camera_id=ZOOM, focus=None, frame=1001).apply(s, baker(s))),
        ("lens", lambda s: edits.SetCameraValues(camera_id=ZOOM, values={"aperture": 2.0}).apply(s)),
        ("place", lambda s: edits.BakeCamera(camera_id=ZOOM, first=1001, last=1020).apply(s, baker(s))),
        ("place", lambda s: edits.RecallView(camera_id=ZOOM, view_id=s.camera(ZOOM).views[0].id).apply(s)),
    ],
)
def test_a_locked_group_says_why_when_it_is_pushed(group: str, refused: object) -> None:
    saved = edits.SaveView(camera_id=ZOOM, view_id=new_id(), name="view", time=Fraction(1001)).apply(SCENE)
    locks = LOCK_GROUPS if "recall" in str(refused) else (group,)
    locked = edits.LockCamera(camera_id=ZOOM, locks=locks).apply(saved)  # type: ignore[arg-type]
    with pytest.raises(DomainError, match="locked"):
        refused(locked)  # type: ignore[operator]


def test_what_is_not_locked_can_be_moved() -> None:
    locked = edits.LockCamera(camera_id=TWO, locks=("angles", "lens")).apply(SCENE)
    now = baker(locked).camera(locked.camera(TWO)).pose_at(20)
    moved = edits.PlaceCamera(camera_id=TWO, pose=replace(now, x=now.x + 1), frame=1021).apply(locked, baker(locked))
    assert moved.camera(TWO).channels["x"].default == pytest.approx(now.x + 1)
    keyed = edits.KeyCamera(camera_id=TWO, time=Fraction(1021)).apply(moved, baker(moved))
    assert keyed.camera(TWO).channels["x"].keys
    assert not keyed.camera(TWO).channels["pan"].keys, "a locked group is not keyed"
    with pytest.raises(DomainError, match="The angles of"):
        edits.PlaceCamera(camera_id=TWO, pose=replace(now, pan=now.pan + 5), frame=1021).apply(locked, baker(locked))


# --- saved views ---


@settings(max_examples=25, deadline=None)
@given(st.integers(1001, 1096), st.sampled_from([BANK, TWO, ZOOM, mill_race.CRANE, mill_race.FACE]))
def test_a_saved_view_brings_back_the_picture(frame: int, camera_id: str) -> None:
    scene = edits.LockCamera(camera_id=camera_id, locks=()).apply(SCENE)
    scene = edits.SaveView(camera_id=camera_id, view_id=new_id(), name="A view", time=Fraction(frame)).apply(scene)
    view = scene.camera(camera_id).views[0]
    before = baker(scene).camera_path(scene.camera(camera_id)).world_from_camera[frame - 1001]
    moved = edits.MountCamera(camera_id=camera_id, mount=Free(), frame=frame).apply(scene, baker(scene))
    moved = edits.PlaceCamera(camera_id=camera_id, pose=pose, frame=frame).apply(moved, baker(moved))
    back = edits.RecallView(camera_id=camera_id, view_id=view.id).apply(moved)
    assert np.allclose(
        baker(back).camera_path(back.camera(camera_id)).world_from_camera[frame - 1001], before, atol=1e-9
    )
    assert back.camera(camera_id).mount == view.mount


def test_saved_views_have_names_and_put_back_returns_to_the_last() -> None:
    scene = replace(SCENE, cameras=(*SCENE.cameras, Camera("still", "Still")))
    for name in ("First", "First", "Other"):
        scene = edits.SaveView(camera_id="still", view_id=new_id(), name=name, time=Fraction(1001)).apply(scene)
        scene = edits.PlaceCamera(
            camera_id="still", pose=replace(pose, x=len(scene.camera("still").views)), frame=1001
        ).apply(scene, baker(scene))
    views = scene.camera("still").views
    assert [v.name for v in views] == ["First", "First (2)", "Other"]
    back = edits.PutCameraBack(camera_id="still").apply(scene)
    assert back.camera("still").channels["x"].default == dict(views[-1].values)["x"]
    with pytest.raises(DomainError, match="Nothing to put back"):
        edits.PutCameraBack(camera_id="still").apply(back)
    with pytest.raises(DomainError, match="Another view"):
        edits.RenameView(camera_id="still", view_id=views[0].id, name="Other").apply(scene)
    assert (
        edits.RenameView(camera_id="still", view_id=views[0].id, name="Own").apply(scene).camera("still").views[0].name
        == "Own"
    )
    assert len(edits.DeleteView(camera_id="still", view_id=views[1].id).apply(scene).camera("still").views) == 2
    with pytest.raises(DomainError, match="no such saved view"):
        edits.RecallView(camera_id="still", view_id=new_id()).apply(scene)


def test_channels_are_set_and_keyed_one_by_one() -> None:
    scene = edits.SetCameraValues(camera_id=TWO, values={"aperture": 2.8}).apply(SCENE)
    assert scene.camera(TWO).channels["aperture"].default == 2.8
    scene = edits.KeyCameraValues(camera_id=TWO, time=Fraction(1010), values={"aperture": 4.0}).apply(scene)
    scene = edits.KeyCameraValues(camera_id=TWO, time=Fraction(1030), values={"aperture": 8.0}).apply(scene)
    assert float(baker(scene).camera(scene.camera(TWO)).aperture[29]) == 8.0
    loose = edits.SetCameraValues(camera_id=TWO, values={"aperture": 5.6}).apply(scene)
    assert dict(loose.camera(TWO).unkeyed) == {"aperture": 5.6}
    assert (baker(loose).camera(loose.camera(TWO)).aperture == 5.6).all()
    assert edits.PutCameraBack(camera_id=TWO).apply(loose) == scene
    for wrong in ({"aperture": 0.0}, {"nothing": 1.0}, {"aim_weight": 2.0}, {"focus_m": float("nan")}):
        with pytest.raises(DomainError):
            edits.SetCameraValues(camera_id=TWO, values=wrong).apply(SCENE)


# --- cameras in one action ---


def pixels_of_face(scene: Scene, camera: Camera, frame: int) -> Floats:
    """Top and bottom of Oda's face, px, on a frame: by her vertices."""
    face = shots.face_of(baker(scene), ODA)
    joint = transforms.orthonormal(baker(scene).joint_frames(ODA.id, face.joint, "motion")[frame - 1001][None])[0]
    up = face.axes[:, 1] * face.height_m / 2
    ends = transforms.apply(joint, np.stack([face.centre + up, face.centre - up]))
    path = baker(scene).camera_path(camera)
    return np.asarray(path.at_rows(np.array([frame - 1001])).project(ends[None]).pixels[0])


@pytest.mark.parametrize("frame", [1001, 1050])
def test_a_face_camera_fills_two_thirds_and_stays_with_the_head(frame: int) -> None:
    scene = edits.MakeFaceCamera(camera_id=new_id(), character_id=ODA.id, frame=frame).apply(SCENE, baker())
    camera = scene.cameras[-1]
    assert (camera.role, camera.name) == ("face", "Face Oda 85 (2)")
    for at in (frame, 1020, 1090):
        top, bottom = pixels_of_face(scene, camera, at)
        assert bottom[1] - top[1] == pytest.approx(720, rel=1e-6), "all of the head's turns are followed"
        assert np.allclose((top + bottom) / 2, [960, 540], atol=1e-6)
    still = edits.MakeFaceCamera(camera_id=new_id(), character_id=ODA.id, frame=frame, turns_with_head=False).apply(
        SCENE, baker()
    )
    turn = baker(still).camera_path(still.cameras[-1]).world_from_camera[:, :3, :3]
    assert np.allclose(turn, turn[0]), "its place only"


def test_the_face_is_measured_or_a_stated_share() -> None:
    rig = mill_race.demo_rig("oda")
    face = measure_face(rig)
    assert (face.joint, face.measured) == ("head", True)
    assert 0.2 < face.height_m < 0.45
    bare = measure_face(replace(rig, mesh=None, skinning=None))
    assert not bare.measured
    body = rig.world_positions(np.zeros(1), rig.body_nodes)[0]
    assert bare.height_m == pytest.approx(0.13 * np.ptp(body[:, 1]))
    # The eyes lie before the middle of the head, where she looks.
    ahead = (face.axes.T @ (face.eyes - face.centre))[2]
    assert ahead < 0


def test_a_point_of_view_looks_from_the_eyes_where_the_face_looks() -> None:
    scene = edits.MakePointOfView(camera_id=new_id(), character_id=ODA.id, frame=1060).apply(SCENE, baker())
    world = baker(scene).camera_path(scene.cameras[-1]).world_from_camera
    rig = mill_race.demo_rig("oda")
    eyes = baker().joint_positions(ODA)[:, [rig.joint_names.index(n) for n in ("eye_l", "eye_r")]].mean(axis=1)
    away = np.linalg.norm(world[:, :3, 3] - eyes, axis=1)
    assert np.allclose(away, away[0], atol=1e-6), "it goes with the head"
    assert away[0] < 0.08
    head = baker().joint_frames(ODA.id, "head", "motion")
    assert np.allclose(-world[:, :3, 2], head[:, :3, 2], atol=1e-6), "Oda's head looks along its +Z"


def test_over_the_shoulder_and_two_shot_show_both() -> None:
    scene = edits.MakeOverTheShoulder(camera_id=new_id(), character_id=QUILL.id, other_id=ODA.id, frame=1056).apply(
        SCENE, baker()
    )
    path = baker(scene).camera_path(scene.cameras[-1])
    head = baker().joint_frames(QUILL.id, "head", "motion")[:, :3, 3]
    seen = path.project(head)
    assert inside_frame(seen, path.delivery)[55], "the shoulder's own head is in the picture"
    faces = pixels_of_face(scene, scene.cameras[-1], 1056)
    assert np.allclose(faces.mean(axis=0), [0.58 * 1920, 0.34 * 1080], atol=6)
    for one, other in ((ODA.id, ODA.id), (ODA.id, new_id())):
        with pytest.raises(DomainError):
            edits.MakeTwoShot(camera_id=new_id(), character_id=one, other_id=other, frame=1056).apply(SCENE, baker())
    two = edits.MakeTwoShot(camera_id=new_id(), character_id=QUILL.id, other_id=ODA.id, frame=1040).apply(
        SCENE, baker()
    )
    bank = baker().camera_path(SCENE.camera(BANK)).world_from_camera[39, :3, 3]
    eye = baker(two).camera_path(two.cameras[-1]).world_from_camera[39, :3, 3]
    line = head[39] - baker().joint_frames(ODA.id, "hips", "motion")[39, :3, 3]
    side = lambda p: np.sign(np.cross(line * [1, 0, 1], (p - head[39]) * [1, 0, 1])[1])  # noqa: E731
    assert side(eye) == side(bank), "the screen direction stays"


@pytest.mark.parametrize("parallel", [False, True])
def test_a_review_set_holds_the_whole_way_from_four_sides(parallel: bool) -> None:
    scene = edits.MakeReviewSet(camera_id=new_id(), character_id=ODA.id, parallel=parallel).apply(SCENE, baker())
    made = scene.cameras[-4:]
    blocks = baker().body_blocks(ODA)
    points = np.concatenate([b.reshape(-1, 3) for b in blocks])
    looks = []
    for camera in made:
        path = baker(scene).camera_path(camera).at_rows(np.zeros(1, dtype=np.int64))
        seen = path.project(points[None])
        share = np.abs(seen.pixels / [1920, 1080] * 2 - 1).max()
        assert share == pytest.approx(ACTION_SAFE, abs=1e-6)
        looks.append(-path.world_from_camera[0, :3, 2])
    front, side, quarter, top = looks
    assert np.allclose(front, [0, 0, -1])
    assert np.allclose(side, [-1, 0, 0])
    assert quarter[0] < -0.5 < 0 > quarter[1]
    assert np.allclose(top, [0, -1, 0])


@pytest.mark.parametrize(
    ("distance", "focal", "name"),
    [(40, 24, "Wide 24"), (5.4, 50, "Full Oda 50"), (3.2, 50, "Medium Oda 50"), (1.6, 100, "Close-up Oda 100")],
)
def test_a_new_camera_is_named_by_what_it_shows(distance: float, focal: float, name: str) -> None:
    hips = baker().joint_frames(ODA.id, "hips", "motion")[0, :3, 3]
    view = CameraPose(hips[0], hips[1] + 0.2, hips[2] + distance, 0, 0, 0, focal)
    alone = replace(SCENE, characters=(ODA,), cameras=SCENE.cameras[:1])
    assert (
        edits.MakeCamera(camera_id=new_id(), pose=view, role="shot", frame=1001)
        .apply(alone, baker(alone))
        .cameras[-1]
        .name
        == name
    )


def test_views_that_differ_by_what_is_aimed_at_bring_back_their_pictures() -> None:
    scene, row = SCENE, 20
    frame = scene.frames.first + row
    targets = (Subject("joint", ODA.id, "head"), Subject("body", scene.characters[1].id))
    seen = []
    for subject in targets:
        aim = Aim((Target((subject,)),))
        scene = edits.AimCamera(camera_id=ZOOM, aim=aim, frame=frame).apply(scene, baker(scene))
        seen.append(baker(scene).camera(scene.camera(ZOOM)).pose[row])
        scene = edits.SaveView(camera_id=ZOOM, view_id=new_id(), name="view", time=Fraction(frame)).apply(scene)
    scene = edits.AimCamera(camera_id=ZOOM, aim=None, frame=frame).apply(scene, baker(scene))
    assert not np.allclose(seen[0], seen[1], atol=1)
    for view, pose in zip(scene.camera(ZOOM).views, seen, strict=True):
        recalled = edits.RecallView(camera_id=ZOOM, view_id=view.id).apply(scene)
        assert np.allclose(baker(recalled).camera(recalled.camera(ZOOM)).pose[row], pose)
    old = replace(scene.camera(ZOOM).views[0], rigging=None)
    known = scene.with_camera(replace(scene.camera(ZOOM), views=(old,)))
    recalled = edits.RecallView(camera_id=ZOOM, view_id=old.id).apply(known)
    assert recalled.camera(ZOOM).aim is None, "what an old view does not know of stays"


def test_figures_of_a_subject_in_a_camera() -> None:
    face = group_of((shots.head_subject(shots.face_of(baker(), ODA), ODA),), baker()).place[10]
    camera = Camera("c", "c")
    view = CameraPose(face[0] + 3, face[1] + 1, face[2], -90, -10, 0, 50)
    scene = edits.PlaceCamera(camera_id="c", pose=view, frame=1011).apply(
        replace(SCENE, cameras=(*SCENE.cameras, camera)), baker()
    )
    found = subject_figures(baker(scene), scene.camera("c"))[0]
    assert found.name == "Oda"
    assert found.angle_deg[10] == pytest.approx(90, abs=4), "to her left"
    assert found.above_m[10] == pytest.approx(1)
    assert found.distance_m[10] == pytest.approx(np.sqrt(10))
    # Frame by frame from the shown pose: no sphere, which is taller than she is.
    made, row = baker(scene), 10
    marks = body_marks(made, ODA)
    body = np.concatenate([made.joint_positions(ODA), marks.head, marks.soles], axis=1)
    shown = made.shown_points(ODA, body)[row]
    world = made.camera_path(scene.camera("c")).world_from_camera[row]
    local = (shown - world[:3, 3]) @ world[:3, :3]
    assert found.height_px[row] == pytest.approx(np.ptp(local[:, 1] / -local[:, 2]) * 50 / 20.25 * 1080, rel=1e-9)
    assert found.height_px[row] < 0.97 * found.size_px[row]


# --- what readings find ---
