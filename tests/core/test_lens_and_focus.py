"""Depth of field against closed forms and a traced cone; focus pulls; the dolly zoom; lenses that differ in a cut."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from eddyfield.core import edits
from eddyfield.core.cameras.camera import FilmBack, Glass
from eddyfield.core.cameras.dolly_zoom import apparent_sizes_px, solve_places, subject_depths, wanted_sizes
from eddyfield.core.cameras.focus import Focus
from eddyfield.core.cameras.framing import Framing, SizeHold
from eddyfield.core.cameras.subjects import Subject, Target, group_of
from eddyfield.core.cut.cut import Cut
from eddyfield.core.errors import DomainError
from eddyfield.core.optics.depth_of_field import blur_disc_mm, blur_disc_px, circle_of_confusion_mm, sharp_range
from eddyfield.core.optics.lens import DeliveryFrame, Lens
from eddyfield.core.time.channels import Channel
from eddyfield.demo import mill_race

from .scenery import SCENE, baker
from .surroundings import Stage, joint, wandering

focals, apertures, distances = st.floats(12, 300), st.floats(1, 22), st.floats(0.7, 80)
ZOOM, ODA = mill_race.ZOOM, Subject("body", mill_race.ODA)


@given(focals, apertures, distances, st.floats(0.005, 0.06))
def test_the_limits_are_where_the_disc_is_the_circle_of_confusion(f: float, n: float, s: float, circle: float) -> None:
    near, far, hyperfocal = sharp_range(np.array(f), np.array(n), np.array(s), circle)
    assert near <= s <= far
    assert float(blur_disc_mm(near, np.array(f), np.array(n), np.array(s))) == pytest.approx(circle, rel=1e-6)
    if np.isfinite(far):
        assert float(blur_disc_mm(far, np.array(f), np.array(n), np.array(s))) == pytest.approx(circle, rel=1e-6)
    else:
        assert s >= hyperfocal
    half = sharp_range(np.array(f), np.array(n), hyperfocal, circle)
    assert half.far > 1e9
    assert float(half.near) == pytest.approx(float(hyperfocal) / 2, rel=2e-3 + f / 1000 / float(hyperfocal))


@given(focals, apertures, distances, distances)
def test_the_blur_disc_is_the_cone_behind_the_lens(f: float, n: float, s: float, d: float) -> None:
    """By the lens equation: images of both distances, and the cone of the aperture cut by the back."""
    image = lambda metres: 1 / (1 / f - 1 / (metres * 1000))  # noqa: E731
    cone = (f / n) * abs(image(d) - image(s)) / image(d)
    found = float(blur_disc_mm(np.array(d), np.array(f), np.array(n), np.array(s)))
    assert found == pytest.approx(cone, rel=1e-9, abs=1e-12)


def test_discs_in_pixels_and_the_circle_of_the_used_back() -> None:
    lens, frame = Lens(50), DeliveryFrame()
    assert float(blur_disc_px(np.array(0.036), lens, frame)) == pytest.approx(1.92)
    assert circle_of_confusion_mm(lens, frame) == pytest.approx(np.hypot(36, 20.25) / 1500)
    assert circle_of_confusion_mm(lens, frame, 0.02) == 0.02
    assert np.isnan(blur_disc_mm(np.array([-1.0, 2.0]), np.array(50.0), np.array(2.0), np.array(0.04))).all()


def test_a_focus_pull_goes_from_one_subject_to_the_other() -> None:
    surroundings = Stage({"head": wandering(1), "hips": wandering(2)})
    scene = edits.SetCameraValues(camera_id=mill_race.SHOULDER, values={"aperture": 2.0}).apply(SCENE)
    found = baker(scene).camera(scene.camera(mill_race.SHOULDER))
    depth = {
        who: subject_depths(found.path, baker().joint_frames(who, "head", "motion")[:, :3, 3])
        for who in (mill_race.ODA, mill_race.QUILL)
    }
    first, last = mill_race.SEES - 1001, mill_race.SEES + 14 - 1001
    assert np.allclose(found.focus_m[: first + 1], depth[mill_race.QUILL][: first + 1])
    assert np.allclose(found.focus_m[last:], depth[mill_race.ODA][last:])
    assert found.focus_m[first] < found.focus_m[first + 7] < found.focus_m[last]
    held = Focus((Target((joint(),)),))
    assert surroundings.frames.count
    assert held.follows == "motion"
    let_go = edits.FocusCamera(camera_id=mill_race.SHOULDER, focus=None, frame=1080).apply(scene, baker(scene))
    after = baker(let_go).camera(let_go.camera(mill_race.SHOULDER))
    assert np.allclose(after.focus_m, found.focus_m[79])


# --- dolly zoom ---


def test_the_demo_dolly_zoom_holds_its_size_to_a_millionth() -> None:
    found = baker().camera(SCENE.camera(ZOOM))
    rows = slice(mill_race.SEES - 1001, mill_race.LOOKED - 1000)
    sizes = apparent_sizes_px(found.path, group_of((ODA,), baker()))[rows]
    assert np.allclose(sizes, sizes[0], rtol=1e-6)
    assert np.ptp(found.pose[rows, 6]) > 20, "and the lens did it"


@settings(max_examples=25, deadline=None)
@given(
    st.integers(1001, 1050), st.integers(5, 40), st.sampled_from(["move", "lens"]), st.floats(0.3, 2), st.floats(0.3, 2),
    st.sampled_from(["even", "slow in", "slow out", "slow in and out"]),
)  # fmt: skip
def test_a_dolly_zoom_gives_the_sizes_that_were_asked_for(
    first: int, length: int, given_: edits.Given, a: float, b: float, ease: str
) -> None:
    scene = edits.AimCamera(camera_id=ZOOM, aim=None, frame=first).apply(SCENE, baker())
    wanted = edits.DollyZoom(ODA, first, first + length, given_, a, b, ease)  # type: ignore[arg-type]
    before = baker(scene).camera(scene.camera(ZOOM))
    solved = edits.SolveDollyZoom(camera_id=ZOOM, wanted=wanted).apply(scene, baker(scene))
    after = baker(solved).camera(solved.camera(ZOOM))
    rows = slice(first - 1001, first + length - 1000)
    sizes = apparent_sizes_px(after.path, group_of((ODA,), baker()))[rows]
    frames = np.arange(first, first + length + 1.0)
    asked = wanted_sizes(frames, first, first + length, a * 1080, b * 1080, ease)  # type: ignore[arg-type]
    assert np.allclose(sizes, asked, rtol=1e-6)
    kept = [0, 1, 2, 3, 4, 5] if given_ == "move" else [6]
    assert np.allclose(after.pose[rows][:, kept], before.pose[rows][:, kept]), "the path that is given stays"


@pytest.mark.parametrize("given_", ["move", "lens"])
@pytest.mark.parametrize("half_life", [0.0, 0.3])
@pytest.mark.parametrize("weight", [1.0, 0.7])
def test_a_dolly_zoom_is_exact_on_the_final_camera_under_an_off_centre_lock(
    given_: edits.Given, half_life: float, weight: float
) -> None:
    """On the demo: the dolly-zoom camera holds Oda far from the middle of the frame by a wide lens."""
    first, last = 1010, 1060
    camera = replace(SCENE.camera(ZOOM), framing=Framing((ODA,), 0.15, 0.8, half_life_s=half_life))
    camera = replace(camera, channels=camera.channels.having(framing_weight=Channel(weight), focal_mm=Channel(18.0)))
    scene = SCENE.with_camera(camera)
    before = baker(scene).camera(camera)
    height = float(apparent_sizes_px(before.path, group_of((ODA,), baker()))[first - 1001]) / 1080
    wanted = edits.DollyZoom(ODA, first, last, given_, height, 1.3 * height)
    solved = edits.SolveDollyZoom(camera_id=ZOOM, wanted=wanted).apply(scene, baker(scene))
    after = baker(solved).camera(solved.camera(ZOOM))
    rows = slice(first - 1001, last - 1000)
    sizes = apparent_sizes_px(after.path, group_of((ODA,), baker()))[rows]
    frames = np.arange(first, last + 1.0)
    asked = wanted_sizes(frames, first, last, height * 1080, 1.3 * height * 1080, "even")
    assert np.abs(sizes / asked - 1).max() < 1e-6
    assert solved.camera(ZOOM).framing == camera.framing, "the lock goes on"
    if weight == 1.0 and half_life == 0.0:
        place = after.path.project(group_of((ODA,), baker()).place).pixels[rows]
        assert np.allclose(place, [0.15 * 1920, 0.8 * 1080], atol=1e-3)


def test_a_dolly_zoom_and_a_held_size_contradict_each_other() -> None:
    camera = replace(SCENE.camera(ZOOM), framing=Framing((ODA,), size=SizeHold("zoom", 0.5)))
    scene = SCENE.with_camera(camera)
    with pytest.raises(DomainError, match="keeps the size"):
        edits.SolveDollyZoom(camera_id=ZOOM, wanted=edits.DollyZoom(ODA, 1010, 1060)).apply(scene, baker(scene))


def test_moving_along_the_axis_keeps_the_place_at_a_constant_size() -> None:
    found = baker().camera(SCENE.camera(ZOOM))
    group = group_of((ODA,), baker())
    sizes = np.full(96, 500.0)
    moved = found.path.world_from_camera.copy()
    moved[:, :3, 3] = solve_places(found.path, group, sizes)
    path = replace(found.path, world_from_camera=moved)
    assert np.allclose(apparent_sizes_px(path, group), 500, rtol=1e-9)
    centred = found.path.project(group.place).pixels - [960, 540]
    scale = 500 / apparent_sizes_px(found.path, group)
    assert np.allclose(path.project(group.place).pixels - [960, 540], centred * scale[:, None], atol=1e-6)


@pytest.mark.parametrize(
    ("wanted", "told"),
    [
        (edits.DollyZoom(ODA, 1020, 1050, share_from=0.001, share_to=0.001), "would have to go"),
        (edits.DollyZoom(Subject("joint", mill_race.ODA, "head"), 1020, 1050), "no size"),
        (edits.DollyZoom(ODA, 2020, 2050), "outside"),
        (edits.DollyZoom(ODA, 1020, 1050, "lens"), "free camera"),
    ],
)
def test_a_dolly_zoom_that_cannot_be_is_refused(wanted: edits.DollyZoom, told: str) -> None:
    camera = mill_race.CRANE if wanted.given == "lens" else ZOOM
    with pytest.raises(DomainError, match=told):
        edits.SolveDollyZoom(camera_id=camera, wanted=wanted).apply(SCENE, baker())
    with pytest.raises(DomainError):
        edits.DollyZoom(ODA, 10, 10)


# --- the lens itself ---


def test_squeeze_shift_and_planes_are_checked_and_kept() -> None:
    scene = edits.SetCameraLens(
        camera_id=ZOOM, back=FilmBack(24.89, 18.66, "reach", 2.0), glass=Glass(0.1, -0.2, 0.5, 40.0)
    ).apply(SCENE)
    lens = scene.camera(ZOOM).lens()
    assert (lens.squeeze, lens.shift_x, lens.shift_y, lens.near_m) == (2.0, 0.1, -0.2, 0.5)
    for wrong in (
        lambda: Glass(shift_x=9),
        lambda: Glass(near_m=0),
        lambda: Glass(near_m=1, far_m=0.5),
        lambda: Glass(orthographic_height_m=0),
        lambda: Glass(circle_mm=0),
        lambda: Glass(shutter_deg=400),
        lambda: edits.SetCameraLens(camera_id=ZOOM, back=FilmBack(0, 24), glass=Glass()).apply(SCENE),
        lambda: edits.SetDelivery(delivery=DeliveryFrame(0, 10)).apply(SCENE),
    ):
        with pytest.raises(DomainError):
            wrong()


def test_a_cut_between_lenses_shows_each_through_its_own() -> None:
    front = next(c for c in SCENE.cameras if c.name == "Front Oda")
    scene = edits.SetCameraLens(camera_id=ZOOM, back=FilmBack(12, 9), glass=Glass(0.1, 0.05, 0.2)).apply(SCENE)
    scene = replace(scene, cut=Cut.of((1001, mill_race.BANK), (1030, front.id), (1060, ZOOM)))
    work = baker(scene)
    points = work.joint_positions(scene.characters[0])
    cut = work.cut_path().project(points).pixels
    for first, last, camera_id in ((0, 29, mill_race.BANK), (29, 59, front.id), (59, 96, ZOOM)):
        own = work.camera_path(scene.camera(camera_id)).project(points).pixels
        assert np.allclose(cut[first:last], own[first:last], equal_nan=True, atol=1e-9)
