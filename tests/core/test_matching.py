"""Both sides of a cut: where the faces are and how fast, against a projection of their own; and the turn that matches them."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from eddyfield.core import edits
from eddyfield.core.arrays import Floats
from eddyfield.core.bake import Baker
from eddyfield.core.cameras.camera import Camera, CameraPose
from eddyfield.core.cameras.subjects import Subject
from eddyfield.core.edits.cuts import CutTo
from eddyfield.core.edits.match_place import MatchPlace
from eddyfield.core.errors import DomainError
from eddyfield.core.readings.cut_readings import cut_readings
from eddyfield.core.readings.matching import match_at
from eddyfield.core.scene import Scene
from eddyfield.core.shots import face_of
from eddyfield.core.time.frames import FrameTime
from eddyfield.demo.mill_race import BANK, ODA, TWO

from .scenery import SCENE, baker

CUT = 1040
FREE = "00000000-0000-4000-8000-00000000f4ee"


def with_free_camera(pose: CameraPose, mm: float = 40.0) -> Scene:
    """The demo cut on a frame to a free camera that is keyed twice."""
    scene = edits.add_camera(SCENE, Camera(FREE, "Free"))
    for frame, by in ((1036, 0.0), (1060, 0.4)):
        moved = CameraPose(pose.x + by, pose.y, pose.z, pose.pan + 5 * by, pose.tilt, pose.roll, mm)
        scene = edits.KeyCamera(camera_id=FREE, time=FrameTime(frame), pose=moved).apply(scene, baker(scene))
    return CutTo(frame=CUT, camera_id=FREE).apply(scene)


ASIDE = with_free_camera(CameraPose(-4.0, 1.4, 3.0, 78.0, -3.0, 2.0, 40.0))


def face_seen(work: Baker, camera_id: str, row: int, pose_row: int) -> Floats:
    """Where Oda's face is in a camera, by OpenCV."""
    path = work.camera_path(work.scene.camera(camera_id))
    oda = work.scene.character(ODA)
    face = face_of(work, oda)
    joint = work.world(oda)[pose_row, work.rig(oda).find(face.joint)]
    place = joint[:3, :3] @ face.centre + joint[:3, 3]
    world = path.world_from_camera[row]
    to_cv = np.diag([1.0, -1.0, -1.0]) @ world[:3, :3].T
    focal = float(np.broadcast_to(path.lens.focal_mm, path.count)[row])
    f = focal / 36 * 1920
    matrix = np.array([[f, 0, 960], [0, f, 540], [0, 0, 1.0]])
    seen, _ = cv2.projectPoints(place[None], cv2.Rodrigues(to_cv)[0], -to_cv @ world[:3, 3], matrix, None)
    return np.asarray(seen[0, 0])


def test_places_and_speeds_on_both_sides_agree_with_opencv() -> None:
    work = baker(ASIDE)
    match, row = match_at(work, CUT), CUT - 1001
    oda = match.subjects[0]
    # On twos from 1001: 1039 shows its own pose, 1040 that of 1039.
    assert oda.before == pytest.approx(face_seen(work, BANK, row - 1, row - 1), abs=1e-6)
    assert oda.after == pytest.approx(face_seen(work, FREE, row, row - 1), abs=1e-6)
    assert oda.jump_px == pytest.approx(np.hypot(*np.subtract(oda.after, oda.before)))
    steps = [
        np.hypot(*(face_seen(work, camera, at + 1, at + 1) - face_seen(work, camera, at, at)))
        for camera, at in ((BANK, row - 2), (FREE, row))
    ]
    assert (oda.speed_before_px, oda.speed_after_px) == pytest.approx(tuple(steps), abs=1e-6)
    assert (match.out_first, match.in_last) == (1001, 1096)
    assert match.background_after_px == pytest.approx(6, abs=6)


def test_the_turn_brings_her_face_in_where_it_went_out_over_the_whole_move_alike() -> None:
    turned = MatchPlace(first=CUT, character_id=ODA).apply(ASIDE, baker(ASIDE))
    oda = match_at(baker(turned), CUT).subjects[0]
    assert oda.after == pytest.approx(oda.before, abs=1e-6)
    paths = [baker(s).camera(s.camera(FREE)).pose for s in (ASIDE, turned)]
    assert np.allclose(paths[1][:, :3], paths[0][:, :3]), "it only turns"
    change = paths[1][:, 3:5] - paths[0][:, 3:5]
    assert np.ptp(change, axis=0).max() < 1e-9, "by the same on every frame"
    assert turned.cut == ASIDE.cut


@pytest.mark.parametrize("mount", ["carried", "orbit", "crane", "trailing"])
def test_a_camera_that_something_carries_is_turned_in_the_axes_of_that(mount: str) -> None:
    """Its angles lie in its carrier's axes: a head that nods and leans."""
    subject = Subject("joint", ODA, "head" if mount != "orbit" else "hips")
    carry = edits.CarryCamera(camera_id=FREE, mount=mount, frame=CUT + 9, subject=subject, afresh=True)
    scene = carry.apply(ASIDE, baker(ASIDE))
    before = match_at(baker(scene), CUT).subjects[0]
    turned = MatchPlace(first=CUT, character_id=ODA).apply(scene, baker(scene))
    oda = match_at(baker(turned), CUT).subjects[0]
    assert before.jump_px > 5
    assert oda.after == pytest.approx(oda.before, abs=1e-4)


def test_what_cannot_be_matched_is_refused_with_its_reason() -> None:
    held = CutTo(frame=CUT, camera_id=TWO).apply(SCENE)
    away = with_free_camera(CameraPose(-4.0, 1.4, 3.0, -100.0, -3.0, 0.0, 40.0))
    locked = edits.LockCamera(camera_id=FREE, locks=("angles",)).apply(ASIDE)
    for scene, first, who, why in (
        (held, CUT, ODA, "holds in the frame"),
        (away, CUT, ODA, "behind"),
        (locked, CUT, ODA, "locked"),
        (ASIDE, CUT + 1, ODA, "No shot"),
        (ASIDE, 1001, ODA, "No shot"),
    ):
        with pytest.raises(DomainError, match=why):
            MatchPlace(first=first, character_id=who).apply(scene, baker(scene))
    with pytest.raises(DomainError, match="No shot"):
        match_at(baker(ASIDE), 1001)


def test_a_place_that_jumps_is_told_and_mended_by_the_turn() -> None:
    """The only one that goes on over the cut is at the other side of the frame."""
    aside = with_free_camera(CameraPose(-4.0, 1.4, 1.6, 97.0, 0.0, 0.0, 100.0), 100.0)
    oda, quill = match_at(baker(aside), CUT).subjects
    assert quill.jump_px is None, "Quill is in one of the two alone"
    (jump,) = (r for r in cut_readings(baker(aside)) if r.kind == "place_jumps")
    assert (jump.character_id, jump.first) == (ODA, CUT)
    assert jump.size == pytest.approx(oda.jump_px)
    (fix,) = jump.fixes
    mended = fix.edit.apply(aside, baker(aside))
    assert not [r for r in cut_readings(baker(mended)) if r.kind == "place_jumps"]
    assert not [r for r in cut_readings(baker(ASIDE)) if r.kind == "place_jumps"], "a smaller one is none"
