"""Readings of cameras, and what they go by."""

from __future__ import annotations

import uuid
from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest

from eddyfield.core import edits
from eddyfield.core.bake import Baker
from eddyfield.core.cameras.aim import Aim
from eddyfield.core.cameras.camera import Camera, CameraPose, FilmBack, Glass
from eddyfield.core.cameras.focus import Focus
from eddyfield.core.cameras.framing import Framing, SizeHold
from eddyfield.core.cameras.mounts import Carried, attached
from eddyfield.core.cameras.room import Room
from eddyfield.core.cameras.subjects import Subject, Target
from eddyfield.core.errors import DomainError
from eddyfield.core.optics.camera_path import still_camera
from eddyfield.core.optics.lens import Lens
from eddyfield.core.optics.sight_lines import blocked, hidden_rows, sight_origins
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.readings.camera_readings import camera_readings
from eddyfield.core.readings.reading import Reading
from eddyfield.core.rig import transforms
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.key_reduction import keys_on_every_frame
from eddyfield.core.time.keys import Key
from eddyfield.core.time.stretches import runs
from eddyfield.demo import mill_race

from .scenery import SCENE, baker

ODA, QUILL = SCENE.characters


BANK, TWO, ZOOM = mill_race.BANK, mill_race.TWO, mill_race.ZOOM


def new_id() -> str:
    return str(uuid.uuid4())


WALL_CAMERA = new_id()


# --- the demo ---


pose = CameraPose(1, 2, 9, 0, 0, 0, 50)


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
    camera = replace(camera, channels=camera.channels.having(x=ends(4, -4), z=ends(1.5, 1.2), pan=ends(-90, 90)))
    scene = replace(SCENE, cameras=(*SCENE.cameras, camera))
    found = kinds(scene, "c")["straight_chord"]
    assert (found.first, found.last, found.better_joint, [f.title for f in found.fixes]) == (
        1005,
        1030,
        "hips",
        ["Orbit"],
    )
    assert found.size > 0.5
    assert 1010 < (found.frame or 0) < 1025
    mended = found.fixes[0].edit.apply(scene, baker(scene))
    assert "straight_chord" not in kinds(mended, "c")


def test_a_chord_is_found_in_a_move_with_a_key_on_every_frame() -> None:
    frames = SCENE.frames.frames().astype(float)
    u = np.clip((frames - 1020) / 30, 0, 1)
    ease = u * u * (3 - 2 * u)
    straight = {"x": 4 - 8 * ease, "z": 1.9 - 0.3 * ease}
    round_it = {"x": 4 * np.cos(np.pi * ease), "z": 1.9 + 4 * np.sin(np.pi * ease)}
    for way, is_told in ((straight, True), (round_it, False)):
        camera = Camera("c", "c")
        camera = replace(camera, channels=camera.channels.having(**keys_on_every_frame(frames, way)))
        found = kinds(replace(SCENE, cameras=(*SCENE.cameras, camera)), "c")
        assert ("straight_chord" in found) == is_told
        if is_told:
            assert 1020 <= found["straight_chord"].first < found["straight_chord"].last <= 1050
            assert not found["straight_chord"].fixes


def test_an_aim_at_a_bobbing_joint_names_a_calmer_one() -> None:
    aim = Aim((Target((Subject("joint", ODA.id, "foot_l"),)),))
    scene = edits.AimCamera(camera_id=ZOOM, aim=aim, frame=1001).apply(SCENE, baker())
    found = kinds(scene, ZOOM)["aim_bobs"]
    assert [f.title for f in found.fixes] == [f"Use {found.better_joint}"]
    mended = found.fixes[0].edit.apply(scene, baker(scene))
    assert "aim_bobs" not in kinds(mended, ZOOM)
    locked = edits.LockCamera(camera_id=ZOOM, locks=("place", "angles", "lens")).apply(scene)
    assert kinds(locked, ZOOM)["aim_bobs"].fixes == (), "a locked camera has no fix that would be refused"


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
    rigs = {ODA.performance.source: still}
    work = Baker(replace(SCENE, pieces=()), lambda source: rigs.get(source) or mill_race.demo_rig("quill"), {})
    mount = attached(Subject("joint", ODA.id, "placement"), 0, work)
    camera = replace(SCENE.camera(ZOOM), aim=None, mount=mount)
    found = {r.kind: r for r in camera_readings(work, camera)}["carried_by_still_joint"]
    assert (found.better_joint, [f.title for f in found.fixes]) == ("hips", ["Use hips"])
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
    assert kinds(near, ZOOM)["near_plane_cuts_in"].size > 0.3
    far = edits.SetCameraLens(camera_id=ZOOM, back=FilmBack(), glass=Glass(far_m=2.0)).apply(SCENE)
    assert kinds(far, ZOOM)["far_plane_cuts_off"].size > 1


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
    return {r.subject for r in found if r.kind in ("head_hidden", "body_hidden")}


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


def test_a_frame_of_boots_alone_is_told_first_of_all() -> None:
    """Tilted down all the shot until only boots are left: nothing was in the frame before that could be lost."""
    scene = edits.LockCamera(camera_id=BANK, locks=()).apply(SCENE)
    pose = baker(scene).camera(scene.camera(BANK)).pose_at(0)
    down = edits.PlaceCamera(camera_id=BANK, pose=replace(pose, tilt=-27.0), frame=1001).apply(scene, baker(scene))
    found = camera_readings(baker(down), down.camera(BANK))
    told = next(r for r in found if r.kind == "no_head_in_frame")
    assert (told.subject, told.unit, told.character_id) == ("Oda", "share", ODA.id)
    assert told.size > 0.5
    assert told.weight == max(r.weight for r in found if r.kind != "strobes")
    for camera in SCENE.cameras[:5]:
        assert "no_head_in_frame" not in kinds(SCENE, camera.id), camera.name


def test_the_frame_that_loses_a_head_or_crowds_it_is_told() -> None:
    pose_now = baker().camera(SCENE.camera(BANK)).pose_at(0)
    unlocked = edits.LockCamera(camera_id=BANK, locks=()).apply(SCENE)
    baked = edits.BakeCamera(camera_id=BANK, first=1001, last=1096, error_px=0.5).apply(unlocked, baker(unlocked))
    freed = edits.DeleteCameraKeys(keys=edits.ChosenKeys(BANK)).apply(baked)
    near = edits.PlaceCamera(camera_id=BANK, pose=replace(pose_now, x=-2.2, z=2.4, pan=90, tilt=-2), frame=1003).apply(
        freed, baker(freed)
    )
    found = kinds(near, BANK)
    assert {"entrance", "exit"} <= set(found), "she walks through the frame by herself: no fault"
    assert "head_out_of_frame" not in {k for k, r in found.items() if r.subject == "Oda"}
    above = edits.PlaceCamera(camera_id=BANK, pose=replace(pose_now, tilt=-15), frame=1003).apply(freed, baker(freed))
    assert kinds(above, BANK)["head_out_of_frame"].subject in ("Oda", "Quill")
    knee = Framing((Subject("joint", ODA.id, "shin_l"),), 0.5, 0.997)
    low = edits.FrameCamera(camera_id=BANK, framing=knee, frame=1001).apply(freed, baker(freed))
    assert any(kind.startswith("cut_at") for kind in kinds(low, BANK))


def test_the_room_that_is_wanted_is_what_readings_go_by() -> None:
    assert kinds(SCENE, BANK)["little_headroom"].subject == "Quill"
    more = edits.SetRoom(room=Room(headroom_least=0.3, headroom_most=0.9)).apply(SCENE)
    found = kinds(more, BANK)["little_headroom"]
    assert (found.subject, found.threshold) == ("Oda", 0.3)
    assert found.size < 0.3
    for wrong in ((0.4, 0.3, 0.3), (0.1, 0.3, 1.0), (-0.1, 0.3, 0.3)):
        with pytest.raises(DomainError):
            Room(*wrong)


def test_a_lock_out_of_reach_and_a_size_that_drifts_are_told() -> None:
    framing = Framing((Subject("body", ODA.id),), size=SizeHold("zoom", 2.0, longest_mm=40))
    scene = edits.FrameCamera(camera_id=ZOOM, framing=framing, frame=1001).apply(SCENE, baker())
    assert "size_cannot_be_held" in kinds(scene, ZOOM)
    marks = (Subject("joint", ODA.id, "head"), Subject("joint", ODA.id, "hips"))
    framing = Framing((Subject("body", ODA.id),), size=SizeHold("zoom", 2.0, marks, longest_mm=40))
    scene = edits.FrameCamera(camera_id=ZOOM, framing=framing, frame=1001).apply(SCENE, baker())
    assert kinds(scene, ZOOM)["size_cannot_be_held"].size < -0.5
    drift = edits.FrameCamera(camera_id=mill_race.CRANE, framing=Framing((Subject("body", ODA.id),)), frame=1001).apply(
        SCENE, baker()
    )
    assert kinds(drift, mill_race.CRANE)["size_drifts"].size > 0.15


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
