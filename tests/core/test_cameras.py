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
from eddyfield.core.cameras.camera import LOCK_GROUPS, Camera, CameraPose, FilmBack, Glass
from eddyfield.core.cameras.face import measure_face
from eddyfield.core.cameras.focus import Focus
from eddyfield.core.cameras.framing import Framing, SizeHold
from eddyfield.core.cameras.mounts import Carried, Free, attached
from eddyfield.core.cameras.placement import ACTION_SAFE
from eddyfield.core.cameras.room import Room
from eddyfield.core.cameras.subjects import Subject, Target, group_of
from eddyfield.core.errors import DomainError
from eddyfield.core.optics.camera_path import still_camera
from eddyfield.core.optics.lens import Lens, inside_frame
from eddyfield.core.optics.sight_lines import blocked, hidden_rows, sight_origins
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.readings.camera_readings import camera_readings
from eddyfield.core.readings.reading import Reading
from eddyfield.core.readings.subject_figures import subject_figures
from eddyfield.core.rig import transforms
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Channel, Key
from eddyfield.core.time.stretches import runs
from eddyfield.demo import mill_race

from .scenery import SCENE, baker

ODA, QUILL = SCENE.characters
BANK, TWO, ZOOM = mill_race.BANK, mill_race.TWO, mill_race.ZOOM


def new_id() -> str:
    return str(uuid.uuid4())


WALL_CAMERA = new_id()


# --- the demo ---


def test_the_demo_has_the_coverage_of_a_scene() -> None:
    assert [c.mount.kind for c in SCENE.cameras][:7] == ["rail", "carried", "free", "free", "crane", "free", "carried"]
    assert [c.role for c in SCENE.cameras].count("review") == 4
    assert len({(c.tint, c.pattern) for c in SCENE.cameras}) == len(SCENE.cameras), "each by its own line"
    assert SCENE.camera(BANK).locked
    crane = baker().camera(SCENE.camera(mill_race.CRANE)).pose
    assert crane[-1, 1] - crane[65, 1] > 1.5, "up"
    readings = [r for c in SCENE.cameras for r in camera_readings(baker(), c)]
    assert not [r for r in readings if r.kind in ("lock cannot reach", "soft", "near plane cuts in")]


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
    last = edits.OrderCamera(camera_id=BANK, place=99).apply(SCENE)
    assert last.cameras[-1].id == BANK
    assert edits.OrderCamera(camera_id=BANK, place=0).apply(last) == SCENE


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
    assert moved.camera(TWO).channels.x.default == pytest.approx(now.x + 1)
    keyed = edits.KeyCamera(camera_id=TWO, time=Fraction(1021)).apply(moved, baker(moved))
    assert keyed.camera(TWO).channels.x.keys
    assert not keyed.camera(TWO).channels.pan.keys, "a locked group is not keyed"
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
    assert back.camera("still").channels.x.default == dict(views[-1].values)["x"]
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
    assert scene.camera(TWO).channels.aperture.default == 2.8
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


# --- what readings find ---


def kinds(scene: Scene, camera_id: str) -> dict[str, Reading]:
    """What is found by kind; of more than one of a kind the one about Oda."""
    found = sorted(camera_readings(baker(scene), scene.camera(camera_id)), key=lambda r: r.subject.startswith("Oda"))
    return {r.kind: r for r in found}


def test_spans_of_a_mask() -> None:
    assert runs(np.array([], dtype=bool)) == []
    assert runs(np.array([True, True, False, True])) == [(0, 1), (3, 3)]


def test_a_straight_chord_is_found_and_an_orbit_mends_it() -> None:
    def ends(a: float, b: float) -> Channel:
        return Channel(a, (Key(Fraction(1005), a, "ease"), Key(Fraction(1030), b, "ease")))

    camera = Camera("c", "c")
    camera = replace(camera, channels=replace(camera.channels, x=ends(4, -4), z=ends(1.5, 1.2), pan=ends(-90, 90)))
    scene = replace(SCENE, cameras=(*SCENE.cameras, camera))
    found = kinds(scene, "c")["straight chord"]
    assert (found.first, found.last, found.joint, [f.title for f in found.fixes]) == (1005, 1030, "hips", ["Orbit"])
    assert found.size > 0.5
    mended = found.fixes[0].edit.apply(scene, baker(scene))
    assert "straight chord" not in kinds(mended, "c")


def test_an_aim_at_a_bobbing_joint_names_a_calmer_one() -> None:
    aim = Aim((Target((Subject("joint", ODA.id, "foot_l"),)),))
    scene = edits.AimCamera(camera_id=ZOOM, aim=aim, frame=1001).apply(SCENE, baker())
    found = kinds(scene, ZOOM)["aim bobs"]
    assert [f.title for f in found.fixes] == [f"Use {found.joint}"]
    mended = found.fixes[0].edit.apply(scene, baker(scene))
    assert "aim bobs" not in kinds(mended, ZOOM)
    locked = edits.LockCamera(camera_id=ZOOM, locks=("place", "angles", "lens")).apply(scene)
    assert kinds(locked, ZOOM)["aim bobs"].fixes == (), "a locked camera has no fix that would be refused"


def test_a_carrier_that_stands_still_while_its_character_goes_is_told() -> None:
    rig = mill_race.demo_rig("oda")
    still = replace(
        rig, names=tuple("placement" if n == "coat_back" else n for n in rig.names),
    )  # fmt: skip
    place = still.names.index("placement")
    parents = still.parents.copy()
    parents[place] = -1
    motion = replace(still.motion, curves=tuple(c for c in still.motion.curves if c.node != place))
    still = replace(still, parents=parents, motion=motion)
    work = baker()
    work.rig_of = lambda source: still if source == ODA.source else mill_race.demo_rig("quill")
    work.scene = replace(SCENE, set_pieces=())
    mount = attached(Subject("joint", ODA.id, "placement"), 0, work)
    camera = replace(SCENE.camera(ZOOM), aim=None, mount=mount)
    found = {r.kind: r for r in camera_readings(work, camera)}["carried by a still joint"]
    assert (found.joint, [f.title for f in found.fixes]) == ("hips", ["Use hips"])
    assert isinstance(mount, Carried)
    mended = found.fixes[0].edit.apply(work.scene.with_camera(camera), work)
    assert mended.camera(ZOOM).mount.subjects[0].joint == "hips"


def test_focus_that_misses_its_subject_is_told() -> None:
    scene = edits.SetCameraValues(camera_id=ZOOM, values={"aperture": 1.4}).apply(SCENE)
    scene = edits.FocusCamera(camera_id=ZOOM, focus=None, frame=1001).apply(scene, baker(scene))
    found = kinds(scene, ZOOM)["soft"]
    assert found.subject == "Oda chest"
    assert found.size > found.threshold
    sharp = edits.FocusCamera(
        camera_id=ZOOM, focus=Focus((Target((Subject("joint", ODA.id, "chest"),)),)), frame=1001
    ).apply(scene, baker(scene))
    assert "soft" not in kinds(sharp, ZOOM)


def test_planes_that_cut_are_told() -> None:
    near = edits.SetCameraLens(camera_id=ZOOM, back=FilmBack(), glass=Glass(near_m=4.0)).apply(SCENE)
    assert kinds(near, ZOOM)["near plane cuts in"].size > 0.3
    far = edits.SetCameraLens(camera_id=ZOOM, back=FilmBack(), glass=Glass(far_m=2.0)).apply(SCENE)
    assert kinds(far, ZOOM)["far plane cuts off"].size > 1


def test_a_wall_in_the_way_hides_and_a_near_plane_cuts_it_away() -> None:
    view = CameraPose(9.5, 1.6, 6.0, -60, 0, 0, 35)
    scene = edits.MakeCamera(camera_id=WALL_CAMERA, pose=view, role="shot", frame=1001).apply(SCENE, baker())
    scene = edits.AimCamera(camera_id=WALL_CAMERA, aim=Aim((Target((Subject("body", ODA.id),)),)), frame=1001).apply(
        scene, baker(scene)
    )
    assert "Oda" in hidden(scene, WALL_CAMERA)
    cut = edits.SetCameraLens(camera_id=WALL_CAMERA, back=FilmBack(), glass=Glass(near_m=8.5)).apply(scene)
    assert "Oda" not in hidden(cut, WALL_CAMERA)


def hidden(scene: Scene, camera_id: str) -> set[str]:
    found = camera_readings(baker(scene), scene.camera(camera_id))
    return {r.subject for r in found if r.kind in ("head hidden", "body hidden")}


@pytest.mark.parametrize("height_m", [None, 4.0])
def test_a_line_of_sight_begins_on_the_near_plane_and_leads_to_the_same_pixel(height_m: float | None) -> None:
    world = transforms.rigid(transforms.rotation_from_angles(30.0, -10.0, 5.0), np.array([1.0, 2.0, 3.0]))
    path = still_camera(world, Lens(35.0, near_m=2.0, orthographic_height_m=height_m), SCENE.delivery, 2)
    inside = np.array([[0.3, -0.2, -5.0], [-1.0, 0.4, -2.5], [0.1, 0.1, -1.0]])
    points = np.broadcast_to(transforms.apply(world, inside), (2, 3, 3))
    origins = sight_origins(path, points)
    assert np.array_equal(origins[:, 2], points[:, 2]), "cut away itself"
    depth = -transforms.apply(transforms.rigid_inverse(world), origins)[..., 2]
    assert np.allclose(depth[:, :2], 2.0)
    just_beyond = origins + (points - origins) * 1e-6
    assert np.allclose(path.project(just_beyond).pixels[:, :2], path.project(points).pixels[:, :2], atol=1e-6)


def test_sight_lines_against_a_wall() -> None:
    wall = np.array([[[0, -1, 1.0], [2, -1, 1], [0, 3, 1]]])
    eyes = np.zeros((3, 3))
    points = np.array([[0.5, 0.2, 2], [-0.5, 0.2, 2], [0.5, 0.2, 0.9]], dtype=float)
    assert blocked(eyes, points, wall).tolist() == [True, False, False]
    way = np.stack([np.linspace(-1, 1, 41), np.full(41, 0.1), np.full(41, 2.0)], axis=-1)[:, None]
    rows = np.ones(41, dtype=bool)
    found = hidden_rows(np.zeros((41, 1, 3)), way, wall, rows)[:, 0]
    assert np.array_equal(found, blocked(np.zeros((41, 3)), way[:, 0], wall)), "coarse and fine agree"


def test_the_frame_that_loses_a_head_or_crowds_it_is_told() -> None:
    pose_now = baker().camera(SCENE.camera(BANK)).pose_at(0)
    unlocked = edits.LockCamera(camera_id=BANK, locks=()).apply(SCENE)
    freed = edits.BakeCamera(camera_id=BANK, first=1001, last=1096, error_px=0.5).apply(unlocked, baker(unlocked))
    near = edits.PlaceCamera(camera_id=BANK, pose=replace(pose_now, x=-2.2, z=2.4, pan=90, tilt=-2), frame=1001).apply(
        freed, baker(freed)
    )
    found = kinds(near, BANK)
    assert {"entrance", "exit"} <= set(found), "she walks through the frame by herself: no fault"
    assert "head out of the frame" not in {k for k, r in found.items() if r.subject == "Oda"}
    above = edits.PlaceCamera(camera_id=BANK, pose=replace(pose_now, tilt=-15), frame=1001).apply(freed, baker(freed))
    assert kinds(above, BANK)["head out of the frame"].subject in ("Oda", "Quill")
    knee = Framing((Subject("joint", ODA.id, "shin_l"),), 0.5, 0.997)
    low = edits.FrameCamera(camera_id=BANK, framing=knee, frame=1001).apply(freed, baker(freed))
    assert any(kind.startswith("cut at") for kind in kinds(low, BANK))


def test_the_room_that_is_wanted_is_what_readings_go_by() -> None:
    assert kinds(SCENE, BANK)["little headroom"].subject == "Quill"
    more = edits.SetRoom(room=Room(headroom_least=0.3, headroom_most=0.9)).apply(SCENE)
    found = kinds(more, BANK)["little headroom"]
    assert (found.subject, found.threshold) == ("Oda", 0.3)
    assert found.size < 0.3
    for wrong in ((0.4, 0.3, 0.3), (0.1, 0.3, 1.0), (-0.1, 0.3, 0.3)):
        with pytest.raises(DomainError):
            Room(*wrong)


def test_a_lock_out_of_reach_and_a_size_that_drifts_are_told() -> None:
    framing = Framing((Subject("body", ODA.id),), size=SizeHold("zoom", 2.0, longest_mm=40))
    scene = edits.FrameCamera(camera_id=ZOOM, framing=framing, frame=1001).apply(SCENE, baker())
    assert "size cannot be held" in kinds(scene, ZOOM)
    marks = (Subject("joint", ODA.id, "head"), Subject("joint", ODA.id, "hips"))
    framing = Framing((Subject("body", ODA.id),), size=SizeHold("zoom", 2.0, marks, longest_mm=40))
    scene = edits.FrameCamera(camera_id=ZOOM, framing=framing, frame=1001).apply(SCENE, baker())
    assert kinds(scene, ZOOM)["size cannot be held"].size < -0.5
    drift = edits.FrameCamera(camera_id=mill_race.CRANE, framing=Framing((Subject("body", ODA.id),)), frame=1001).apply(
        SCENE, baker()
    )
    assert kinds(drift, mill_race.CRANE)["size drifts"].size > 0.15


def test_cameras_follow_the_motion_or_the_shown_pose() -> None:
    stepped = edits.StepCharacter(character_id=ODA.id, stepping=Stepping(4)).apply(SCENE)
    aim = Aim((Target((Subject("joint", ODA.id, "hand_l"),)),), "shown")
    scene = edits.AimCamera(camera_id=ZOOM, aim=aim, frame=1001).apply(stepped, baker(stepped))
    hand = baker(scene).joint_frames(ODA.id, "hand_l", "shown")[:, :3, 3]
    assert np.allclose(hand[4:8], hand[4]), "held for four frames"
    assert np.allclose(baker(scene).camera_path(scene.camera(ZOOM)).project(hand).pixels, [960, 540], atol=1e-6)
    on_ones = edits.StepCharacter(character_id=ODA.id, stepping=Stepping(1)).apply(scene)
    assert baker(on_ones).camera_part(on_ones.camera(ZOOM)).key != baker(scene).camera_part(scene.camera(ZOOM)).key
    assert baker(on_ones).camera_part(on_ones.camera(TWO)).key == baker(scene).camera_part(scene.camera(TWO)).key, (
        "one that follows the motion is not baked again when poses are stepped otherwise"
    )
