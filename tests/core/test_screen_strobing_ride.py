"""Shares, slip, reversals and Ride: their algebra, and a brute-force evaluation frame by frame."""

from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from eddyfield.core.errors import DomainError
from eddyfield.core.optics import screen
from eddyfield.core.optics.camera_path import CameraPath, still_camera
from eddyfield.core.optics.lens import DeliveryFrame, Lens
from eddyfield.core.performance.contacts import Contact, find_contacts, slide_m, slide_per_row
from eddyfield.core.performance.exposure import Stepping, exposure_starts
from eddyfield.core.performance.ride import Ride, ride_transforms
from eddyfield.core.readings.strobing import strobing
from eddyfield.core.rig import transforms
from eddyfield.core.time.frames import FrameRange, Rate

from .scenery import moving_points, wandering_camera

SQUEEZED = DeliveryFrame(1440, 1080, 4 / 3)


@given(st.integers(0, 500), st.sampled_from([DeliveryFrame(), SQUEEZED]))
def test_the_shares_add_up(seed: int, delivery: DeliveryFrame) -> None:
    camera, points = wandering_camera(20, seed, delivery=delivery), moving_points(20, 1, seed)[:, 0]
    subject, carried = screen.shares(camera, points)
    moved = np.diff(screen.track(camera, points).pixels, axis=0)
    assert np.allclose((subject + carried)[1:], moved, atol=1e-9)
    assert np.isnan(subject[0]).all()
    along = screen.component_along(subject[1:], moved, camera) + screen.component_along(carried[1:], moved, camera)
    assert np.allclose(along, screen.spacing(screen.track(camera, points).pixels, camera)[1:], atol=1e-9)


def test_shares_of_a_still_camera_and_of_a_still_subject() -> None:
    count, points = 12, moving_points(12, 1)[:, 0]
    still = still_camera(wandering_camera(1).world_from_camera[0], Lens(), DeliveryFrame(), count)
    assert np.allclose(screen.shares(still, points)[1][1:], 0)
    assert np.allclose(screen.shares(wandering_camera(count), np.tile(points[:1], (count, 1)))[0][1:], 0)


def test_a_frozen_track_uses_one_camera() -> None:
    camera, points = wandering_camera(10), moving_points(10, 2)
    frozen = screen.track(screen.frozen(camera, 4), points).pixels
    assert np.allclose(frozen[4], screen.track(camera, points).pixels[4])
    alone = still_camera(camera.world_from_camera[4], camera.lens, camera.delivery, 10)
    assert np.allclose(frozen, screen.track(alone, points).pixels)


def brute_force_slip(camera: CameraPath, shown: np.ndarray, starts: np.ndarray, first: int) -> list[float | None]:
    """The definition, read aloud: a frame at a time, a point at a time."""
    out: list[float | None] = []
    for row, start in enumerate(starts):
        if start == first + row:
            out.append(0.0)
            continue
        distances = []
        for point in range(shown.shape[1]):
            now = camera.at_rows(np.array([row])).project(shown[row : row + 1, point]).pixels[0]
            then_row = int(start) - first
            then = camera.at_rows(np.array([then_row])).project(shown[then_row : then_row + 1, point]).pixels[0]
            if not np.isnan([now, then]).any():
                distances.append(float(np.hypot((now[0] - then[0]) * camera.delivery.pixel_aspect, now[1] - then[1])))
        out.append(float(np.median(distances)) if distances else None)
    return out


@settings(max_examples=30)
@given(st.integers(0, 300), st.integers(1, 5), st.integers(0, 4), st.sampled_from([DeliveryFrame(), SQUEEZED]))
def test_slip_is_as_defined(seed: int, step: int, offset: int, delivery: DeliveryFrame) -> None:
    camera, points = wandering_camera(24, seed, delivery=delivery), moving_points(24, 5, seed)
    points[:, 0] += [0, 0, 5.0]  # one point comes and goes behind the camera
    starts = exposure_starts(Stepping(step, offset), FrameRange(101, 124))
    shown = points[starts - 101]
    found = strobing(camera, shown, starts, 101)
    expected = brute_force_slip(camera, shown, starts, 101)
    own = [None if np.isnan(v) else v for v in found.slip_px.tolist()]
    assert own == pytest.approx(expected, abs=1e-9)
    held = [v for v, s, f in zip(expected, starts, range(101, 125), strict=True) if s != f and v is not None]
    assert found.rms_px == pytest.approx(np.sqrt(np.mean(np.square(held))) if held else 0.0)
    if held:
        assert found.slip_px[found.max_frame - 101] == found.max_px


def test_no_point_in_sight_is_unknown_and_not_nought() -> None:
    camera, behind = wandering_camera(6), moving_points(6, 3) + [0, 0, 50.0]
    starts = exposure_starts(Stepping(2), FrameRange(1, 6))
    found = strobing(camera, behind[starts - 1], starts, 1)
    assert np.isnan(found.slip_px[[1, 3, 5]]).all()
    assert found.slip_px[[0, 2, 4]].tolist() == [0, 0, 0]
    assert np.isnan(found.rms_px)
    assert found.max_frame is None


def test_a_tracking_camera_on_twos_strobes_and_ones_do_not() -> None:
    count = 24
    place = np.stack([np.arange(count) * 0.05, np.ones(count), np.full(count, 5.0)], axis=-1)
    camera = CameraPath(transforms.rigid(np.broadcast_to(np.eye(3), (count, 3, 3)), place), Lens(), DeliveryFrame())
    walker = moving_points(1, 4)[[0] * count] + np.arange(count)[:, None, None] * [0.05, 0, 0]
    on_twos = exposure_starts(Stepping(2), FrameRange(1, count))
    found = strobing(camera, walker[on_twos - 1], on_twos, 1)
    assert found.rms_px > 10
    assert found.reversals == tuple(range(3, count, 2)), "each pose change jumps back against the drift of its hold"
    on_ones = exposure_starts(Stepping(1), FrameRange(1, count))
    calm = strobing(camera, walker, on_ones, 1)
    assert (calm.rms_px, calm.max_px, calm.max_frame, calm.reversals) == (0.0, 0.0, None, ())


def test_a_cut_is_no_reversal() -> None:
    count = 12
    place = np.stack([np.arange(count) * 0.05, np.ones(count), np.full(count, 5.0)], axis=-1)
    place[5:, 0] += 2.0  # another camera, farther along
    camera = CameraPath(transforms.rigid(np.broadcast_to(np.eye(3), (count, 3, 3)), place), Lens(), DeliveryFrame())
    walker = moving_points(1, 4)[[0] * count] + np.arange(count)[:, None, None] * [0.05, 0, 0]
    starts = exposure_starts(Stepping(2), FrameRange(0, 11))
    spans = np.where(np.arange(count) >= 5, 5, 0)
    found = strobing(camera, walker[starts], np.maximum(starts, spans), 0, span_starts=(0, 5))
    assert found.reversals == (2, 4, 8, 10), "the cut on 5 starts no exposure, and 6 follows no hold of its span"


def test_a_cut_ends_the_comparison() -> None:
    camera, points = wandering_camera(8), moving_points(8, 3)
    starts = exposure_starts(Stepping(4), FrameRange(1, 8))
    spans = np.array([1, 1, 3, 3, 3, 3, 3, 3])
    found = strobing(camera, points[starts - 1], np.maximum(starts, spans), 1)
    assert found.slip_px[2] == 0
    assert not found.held[2]
    assert found.held[3]


def test_a_short_move_in_a_long_scene_does_not_drown() -> None:
    """Ten minutes on twos under a still camera, that moves for a second here and half a second there."""
    count = 14_400
    x = np.zeros(count)
    x[5000:5024] = np.linspace(0, 1.0, 24)
    x[5024:] = 1.0
    x[9000:9012] += np.linspace(0, 0.5, 12)
    x[9012:] += 0.5
    place = np.stack([x, np.ones(count), np.full(count, 5.0)], axis=-1)
    camera = CameraPath(transforms.rigid(np.broadcast_to(np.eye(3), (count, 3, 3)), place), Lens(), DeliveryFrame())
    starts = exposure_starts(Stepping(2), FrameRange(0, count - 1))
    points = np.broadcast_to(moving_points(1, 4), (count, 4, 3))
    found = strobing(camera, points, starts, 0)
    assert found.rms_px < 1.08, "over the whole scene it is under the threshold"
    assert [(4998 <= s.first <= 5002, 5022 <= s.last <= 5026) for s in found.stretches[:1]] == [(True, True)]
    assert len(found.stretches) == 2
    first = found.stretches[0]
    slip = found.slip_px[first.first : first.last + 1]
    held = found.held[first.first : first.last + 1]
    assert first.rms_px == pytest.approx(float(np.sqrt(np.mean(slip[held] ** 2))))
    assert first.max_px == pytest.approx(float(slip.max()))
    near = strobing(camera, points, starts, 0, bridged_frames=5000)
    assert len(near.stretches) == 1, "gaps up to that are bridged"
    assert len(strobing(camera, points, starts, 0, 1.0, (0, 5010)).stretches) == 3, "and a cut ends a stretch"


def test_reversals_count_in_their_stretch() -> None:
    count = 48
    place = np.stack([np.arange(count) * 0.05, np.ones(count), np.full(count, 5.0)], axis=-1)
    camera = CameraPath(transforms.rigid(np.broadcast_to(np.eye(3), (count, 3, 3)), place), Lens(), DeliveryFrame())
    walker = moving_points(1, 4)[[0] * count] + np.arange(count)[:, None, None] * [0.05, 0, 0]
    on_twos = exposure_starts(Stepping(2), FrameRange(0, count - 1))
    (stretch,) = strobing(camera, walker[on_twos], on_twos, 0).stretches
    assert (stretch.first, stretch.last) == (0, count - 1)
    assert stretch.reversals == stretch.pose_changes == count // 2 - 1


@settings(max_examples=40)
@given(st.integers(0, 1000), st.integers(2, 6), st.integers(0, 5))
def test_riding_rigidly_under_a_still_lens_takes_all_slip_away(seed: int, step: int, offset: int) -> None:
    camera, points = wandering_camera(30, seed), moving_points(30, 6, seed)
    starts = exposure_starts(Stepping(step, offset), FrameRange(1, 30))
    rows = starts - 1
    carried = ride_transforms(Ride("rigid"), camera, points[rows, 0], rows)
    shown = transforms.apply(carried[:, None], points[rows])
    assert strobing(camera, shown, starts, 1).max_px < 1e-8
    assert np.allclose(carried[rows == np.arange(30)], np.eye(4))


@given(st.integers(0, 300), st.sampled_from(["position", "picture"]))
def test_the_anchor_stands_still_whatever_way_it_rides(seed: int, way: str) -> None:
    camera, points = wandering_camera(20, seed), moving_points(20, 3, seed)
    rows = exposure_starts(Stepping(3), FrameRange(0, 19))
    anchor = points[rows, 0]
    carried = ride_transforms(Ride(way), camera, anchor, rows)
    assert np.allclose(carried[:, :3, :3], np.eye(3))
    shown = transforms.apply(carried, anchor)
    seen = camera.project(shown)
    assert np.allclose(seen.pixels, seen.pixels[rows], atol=1e-8)
    if way == "picture":
        assert np.allclose(seen.depth, camera.project(anchor).depth)


def test_a_zoom_during_a_hold_leaves_a_residue_that_picture_takes_from_the_anchor() -> None:
    camera, points = wandering_camera(12, focal=np.linspace(35, 60, 12)), moving_points(12, 4)
    rows = exposure_starts(Stepping(3), FrameRange(0, 11))
    rigid = transforms.apply(ride_transforms(Ride("rigid"), camera, points[rows, 0], rows)[:, None], points[rows])
    assert strobing(camera, rigid, rows, 0).max_px > 1
    anchor = transforms.apply(ride_transforms(Ride("picture"), camera, points[rows, 0], rows), points[rows, 0])
    seen = camera.project(anchor).pixels
    assert np.allclose(seen, seen[rows], atol=1e-8)


def test_weight_nought_does_nothing_and_half_turns_half_way() -> None:
    camera, points = wandering_camera(10), moving_points(10, 1)[:, 0]
    rows = exposure_starts(Stepping(5), FrameRange(0, 9))
    assert np.allclose(ride_transforms(Ride("rigid", 0.0), camera, points[rows], rows), np.eye(4))
    full = ride_transforms(Ride("rigid", 1.0), camera, points[rows], rows)
    half = ride_transforms(Ride("rigid", 0.5), camera, points[rows], rows)
    anchors = points[rows]
    moved_full, moved_half = transforms.apply(full, anchors) - anchors, transforms.apply(half, anchors) - anchors
    assert np.allclose(moved_half, 0.5 * moved_full)
    assert np.allclose(half[:, :3, :3] @ half[:, :3, :3], full[:, :3, :3], atol=1e-9)
    with pytest.raises(DomainError):
        Ride("rigid", 1.5)


def test_contacts_are_found_and_their_slide_measured() -> None:
    rate, frames = Rate.parse("24"), 48
    height = np.maximum(0, np.sin(np.linspace(0, 4 * np.pi, frames))) * 0.2
    path = np.zeros((frames, 1, 3))
    path[:, 0, 1] = height + 0.08  # an ankle never touches the floor
    found = find_contacts(path, rate)
    assert len(found) == 2
    assert all((height[c.first : c.last + 1] <= 0.03 + 0.5 / 24).all() for c in found)
    slipping, poses = path.copy(), np.arange(frames)
    slipping[found[0].first : found[0].last + 1, 0, 2] = np.linspace(0, 0.12, found[0].last + 1 - found[0].first)
    assert slide_m(found, slipping, poses) == pytest.approx(0.12)
    assert np.nanmax(slide_per_row(found, slipping, poses)) == pytest.approx(0.12)
    assert slide_m((), slipping, poses) == 0.0


def test_a_contact_lasts_between_its_two_thresholds() -> None:
    path = np.zeros((6, 1, 3))
    path[:, 0, 1] = [0.0, 0.005, 0.015, 0.025, 0.05, 0.05]  # rises at 0.24 m/s: down until it is over 3 cm
    assert find_contacts(path, Rate.parse("24")) == (Contact(0, 0, 3, 0, 3),)


def gait(stride_m: float, cycle: float, skate_m: float = 0.0, frames: int = 120) -> np.ndarray:
    """A foot that is planted for six tenths of its cycle and swings for four, landing and leaving on the move."""
    at = np.arange(frames) / cycle
    share = np.clip((at % 1 - 0.6) / 0.4, 0, 1)
    eased = share * share * (3 - 2 * share)
    planted = np.clip(at % 1 / 0.6, 0, 1) * skate_m
    path = np.zeros((frames, 1, 3))
    path[:, 0, 0] = (np.floor(at) + eased) * stride_m + planted * (share == 0)
    path[:, 0, 1] = 0.08 + 0.12 * np.sin(np.pi * share)
    return path


@pytest.mark.parametrize("step", [1, 2, 3, 4])
@pytest.mark.parametrize("cycle", [17, 20, 23, 24, 26, 29.5])
@pytest.mark.parametrize("stride", [0.6, 1.1])
def test_planted_feet_do_not_slide_on_ones_to_fours(step: int, cycle: float, stride: float) -> None:
    path = gait(stride, cycle)
    found = find_contacts(path, Rate.parse("24"))
    assert len(found) >= 3
    for offset in range(step):
        poses = exposure_starts(Stepping(step, offset), FrameRange(0, 119))
        assert slide_m(found, path[poses], poses) < 0.012, "what is left is the rest of landing and leaving"


def test_a_foot_that_skates_slides() -> None:
    path = gait(0.8, 24, skate_m=0.2)
    found = find_contacts(path, Rate.parse("24"))
    for step in (1, 2, 3):
        poses = exposure_starts(Stepping(step), FrameRange(0, 119))
        assert slide_m(found, path[poses], poses) > 0.1
    never = path.copy()
    never[:, 0, 0] = np.arange(120) * 0.02  # 0.48 m/s all the time: it never comes to rest
    whole = find_contacts(never, Rate.parse("24"))
    assert slide_m(whole, never, np.arange(120)) == pytest.approx(max(0.02 * (c.last - c.first) for c in whole))


@settings(max_examples=30)
@given(st.floats(0.01, 100), st.floats(17, 30), st.floats(0, 0.3))
def test_a_small_body_is_told_as_a_large_one_that_moves_like_it(size: float, cycle: float, skate_m: float) -> None:
    path, poses = gait(0.9, cycle, skate_m), np.arange(120)
    slower = Rate(Fraction(24 / size**0.5).limit_denominator(1000))
    found = find_contacts(path, Rate.parse("24"))
    assert find_contacts(path * size, slower, size=size) == found
    assert slide_m(found, path * size, poses) == pytest.approx(size * slide_m(found, path, poses))
