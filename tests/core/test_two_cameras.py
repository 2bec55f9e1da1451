"""Two cameras over each other: places against a projection of their own, sizes and sides against plain geometry, hops against the
reading of the cut that would be made."""

from __future__ import annotations

import numpy as np
import pytest

from eddyfield.core import edits
from eddyfield.core.bake import Baker
from eddyfield.core.cameras.camera import Camera, CameraPose
from eddyfield.core.edits.cuts import CutTo
from eddyfield.core.readings.cut_readings import cut_readings
from eddyfield.core.readings.two_cameras import TwoCameras, two_cameras
from eddyfield.core.scene import Scene
from eddyfield.core.time.frames import FrameTime
from eddyfield.demo.mill_race import BANK, FACE, ODA, TWO

from .scenery import SCENE, baker
from .test_matching import ASIDE, CUT, FREE, face_seen


def compared(work: Baker, one: str, other: str) -> TwoCameras:
    return two_cameras(work, *(work.camera_path(work.scene.camera(camera)) for camera in (one, other)))


def test_places_in_both_pictures_agree_with_opencv() -> None:
    work, row = baker(ASIDE), CUT - 1001
    oda = compared(work, BANK, FREE).subjects[0]
    # On twos from 1001: 1040 shows the pose of 1039.
    one, other = (face_seen(work, camera, row, row - 1) for camera in (BANK, FREE))
    assert oda.one_px[row] == pytest.approx(one, abs=1e-6)
    assert oda.other_px[row] == pytest.approx(other, abs=1e-6)
    assert oda.apart_px[row] == pytest.approx(np.hypot(*(other - one)), abs=1e-6)


def test_the_nearest_frame_is_that_of_the_least_distance_between_the_two() -> None:
    oda = compared(baker(), BANK, TWO).subjects[0]
    assert oda.nearest_frame is not None
    assert oda.apart_px[oda.nearest_frame - 1001] == np.nanmin(oda.apart_px)


def test_size_and_side_are_those_of_the_geometry() -> None:
    work, row = baker(ASIDE), CUT - 1001
    oda = compared(work, BANK, FREE).subjects[0]
    body = work.shown_joints(work.scene.character(ODA))[row].mean(axis=0)
    paths = [work.camera_path(work.scene.camera(camera)) for camera in (BANK, FREE)]
    ways, sizes = [], []
    for path in paths:
        away = body - path.world_from_camera[row, :3, 3]
        ways.append(away / np.linalg.norm(away))
        focal = float(np.broadcast_to(path.lens.focal_mm, path.count)[row])
        sizes.append(focal / (-path.world_from_camera[row, :3, 2] @ away))
    assert oda.aside_deg[row] == pytest.approx(np.degrees(np.arccos(ways[0] @ ways[1])), abs=1e-6)
    assert oda.times_as_large[row] == pytest.approx(sizes[1] / sizes[0], rel=1e-9)


def test_a_camera_over_itself_differs_in_nothing() -> None:
    oda = compared(baker(), BANK, BANK).subjects[0]
    seen = np.isfinite(oda.apart_px)
    assert seen.any()
    assert np.all(oda.apart_px[seen] == 0)
    assert np.allclose(oda.times_as_large[seen], 1)
    assert np.allclose(oda.aside_deg, 0, atol=1e-5)


def test_what_is_not_in_both_pictures_has_no_distance_and_no_size() -> None:
    quill = compared(baker(), BANK, FACE).subjects[1]
    assert quill.nearest_frame is None
    assert np.isnan(quill.apart_px).all()
    assert np.isnan(quill.times_as_large).all()
    assert not quill.hops.any()


def test_a_cut_is_said_to_hop_where_the_reading_of_that_cut_says_so() -> None:
    told = []
    for x in (-4.9, -2.5, 0.0):
        scene = beside_the_bank(x)
        work = baker(scene)
        oda = compared(work, BANK, FREE).subjects[0]
        cut = CutTo(frame=CUT, camera_id=FREE).apply(scene)
        jumps = [r for r in cut_readings(baker(cut)) if r.kind == "jump_cut"]
        assert bool(oda.hops[CUT - 1001]) == bool(jumps)
        told.append(bool(jumps))
    assert True in told
    assert False in told


def test_the_background_is_as_fast_as_the_camera_makes_it() -> None:
    """A camera that stands still leaves it still; what pans moves it by the angle, in the middle of the frame."""
    still = edits.add_camera(SCENE, Camera(FREE, "Free"))
    found = compared(baker(still), FREE, BANK)
    assert np.allclose(found.background_one_px, 0)
    assert found.background_other_px.max() > 5


def beside_the_bank(x: float) -> Scene:
    """A camera that stands still, looking the way the bank's does, from further and further along."""
    work = baker()
    pose = work.camera(SCENE.camera(BANK)).pose[CUT - 1001]
    scene = edits.add_camera(SCENE, Camera(FREE, "Free"))
    placed = CameraPose(x, float(pose[1]), float(pose[2]), float(pose[3]) + 6 * (x + 5.0), 0.0, 0.0, 36.0)
    return edits.KeyCamera(camera_id=FREE, time=FrameTime(CUT), pose=placed).apply(scene, work)
