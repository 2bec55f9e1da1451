"""Faults are found where they were planted, and not where the motion is only quick."""

from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from benchmarks.judgement.arcs import run_class
from eddyfield.core.arrays import Floats
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.optics.camera_path import CameraPath
from eddyfield.core.optics.lens import DeliveryFrame, Lens
from eddyfield.core.readings.arc_readings import arc_readings, unframed_readings
from eddyfield.core.readings.arcs import ArcJudgement, judge_arc, with_causes
from eddyfield.core.readings.faults import find_faults, fit, travel_components
from eddyfield.core.readings.unframed import seen_otherwise, undetectable
from eddyfield.core.readings.window import NINE, Window
from eddyfield.core.rig import transforms
from eddyfield.core.time.frames import FrameRange, Rate

FRAME = DeliveryFrame()
COUNT = 96


def swing(seed: int, time: Floats | None = None) -> Floats:
    """An honest arc across the picture, quick and curved, with a little noise."""
    rng = np.random.default_rng(seed)
    t = np.arange(COUNT) if time is None else time
    turn, width, phase = rng.uniform(0.15, 0.9), rng.uniform(80, 600), rng.uniform(0, 6)
    across = 960 + width * np.sin(2 * np.pi * turn * t / 24 + phase)
    height = 540 - 0.3 * width * np.cos(4 * np.pi * turn * t / 24 + phase)
    noise = rng.normal(0, 0.1, (len(t), 2))
    return np.stack([across + 3.0 * t, height], axis=-1) + noise


def test_honest_motion_is_hardly_ever_flagged() -> None:
    found = sum(len(judge_arc(swing(seed), FRAME).faults) for seed in range(60))
    assert found <= 0.4e-3 * 60 * COUNT


@settings(max_examples=40)
@given(st.integers(0, 400), st.integers(8, 86), st.floats(0, 6.28), st.floats(6, 30))
def test_a_displaced_frame_is_found_with_its_size(seed: int, row: int, angle: float, size: float) -> None:
    shift = size * np.array([np.cos(angle), np.sin(angle)])
    track = swing(seed)
    track[row] += shift
    judged = judge_arc(track, FRAME)
    assert [f.row for f in judged.faults] == [row]
    fault = judged.faults[0]
    assert fault.kind in ("off_arc", "off_spacing")
    assert np.hypot(judged.off_arc[row], judged.off_spacing[row]) == pytest.approx(size, abs=1.5)
    assert np.allclose(fault.mend_px, -shift, atol=1.5)
    assert fault.least_px >= 1.62


def test_right_of_the_travel_is_positive() -> None:
    track = np.stack([100 + 12.0 * np.arange(COUNT), np.full(COUNT, 500.0)], axis=-1)
    track[40, 1] += 9  # travelling right with y down, the right-hand side is below
    fault = judge_arc(track, FRAME).faults[0]
    assert (fault.row, fault.kind) == (40, "off_arc")
    assert fault.size_px == pytest.approx(9, abs=0.1)


@pytest.mark.parametrize(("lost", "kind"), [(0.6, "hitch"), (-0.6, "pop")])
def test_time_lost_is_a_hitch_and_time_gained_a_pop(lost: float, kind: str) -> None:
    def way(time: Floats) -> Floats:
        return np.stack([200 + 15 * time + 40 * np.sin(time / 9), 500 + 60 * np.cos(time / 11)], axis=-1)

    time = np.arange(COUNT) - lost * (np.arange(COUNT) >= 50)
    faults = judge_arc(way(time), FRAME).faults
    assert [(f.row, f.kind) for f in faults] == [(50, kind)]
    step = way(time)[50] - way(np.arange(COUNT, dtype=np.float64))[50]
    assert abs(faults[0].size_px) == pytest.approx(np.hypot(*step), rel=0.1)


def test_a_step_across_the_travel_is_a_pop_of_its_whole_length() -> None:
    track = np.stack([100 + 12.0 * np.arange(COUNT), 500 + 30 * np.sin(np.arange(COUNT) / 9)], axis=-1)
    track[50:] += [-0.5, 14.0]
    (fault,) = judge_arc(track, FRAME).faults
    assert (fault.row, fault.kind) == (50, "pop")
    assert fault.size_px == pytest.approx(14.0, abs=0.3)
    assert fault.size_px >= fault.least_px


def corners(seed: int, what: str) -> Floats:
    """Honest motion with changes of velocity: a dead stop, linear keys far apart, a planted foot, a bounce now and then."""
    rng = np.random.default_rng(seed)
    t = np.arange(COUNT, dtype=float)
    if what == "dead stop":
        moved = np.minimum(t, rng.integers(40, 160) / 2)
        return np.stack([200 + rng.uniform(3, 25) * moved, 500 + rng.uniform(1, 6) * moved], axis=-1)
    if what == "linear keys":
        keys = np.array([0, *(np.array([20, 40, 60, 78]) + rng.integers(-2, 3, 4)), COUNT - 1])
        return np.stack([np.interp(t, keys, rng.uniform(200, 900, 6)) for _ in range(2)], axis=-1)
    if what == "planted foot":
        period = rng.uniform(20, 30)
        at = t / period + rng.uniform(0, 1)
        swing_ = np.clip((at % 1 - 0.6) / 0.4, 0, 1)
        eased = swing_ * swing_ * (3 - 2 * swing_)
        return np.stack([200 + (np.floor(at) + eased) * 200, 800 - 80 * np.sin(np.pi * swing_)], axis=-1)
    at = (t / 30 + rng.uniform(0, 1)) % 1
    return np.stack([200 + 8 * t, 800 - 4 * rng.uniform(60, 300) * at * (1 - at)], axis=-1)


@pytest.mark.parametrize("what", ["dead stop", "linear keys", "planted foot", "bounce"])
@pytest.mark.parametrize("noise", [0.0, 0.3, 1.0])
def test_corners_are_honest_and_no_faults(what: str, noise: float) -> None:
    found = 0
    for seed in range(25):
        track = corners(seed, what) + np.random.default_rng(seed + 99).normal(0, noise, (COUNT, 2))
        found += len(judge_arc(track, FRAME).faults)
    assert found <= 2.1e-3 * 25 * COUNT


@pytest.mark.parametrize("noise", [0.3, 1.0, 2.0])
def test_at_twice_the_least_that_can_be_told_a_fault_is_told(noise: float) -> None:
    found, count = 0, 60
    for seed in range(count):
        rng = np.random.default_rng(seed + 500)
        track = swing(seed) + rng.normal(0, noise, (COUNT, 2))
        row, angle = int(rng.integers(8, 86)), rng.uniform(0, 6.28)
        track[row] += 2 * judge_arc(track, FRAME).least[row] * np.array([np.cos(angle), np.sin(angle)])
        found += row in {f.row for f in judge_arc(track, FRAME).faults}
    assert found >= 0.97 * count


def test_whose_fault_it_is() -> None:
    """A displaced frame of the subject, a jolt of the camera, and both on one frame."""
    t = np.linspace(0, 4, COUNT)
    points = np.stack([np.sin(t), 1 + 0.3 * np.cos(t), 0 * t], axis=-1)
    eye = np.stack([0.3 * np.sin(t / 2), np.full(COUNT, 1.2), np.full(COUNT, 6.0)], axis=-1)
    for moves, jolts, cause in ((0.05, 0.0, "subject"), (0.0, 0.05, "camera"), (0.05, -0.06, "both")):
        moved, place = points.copy(), eye.copy()
        moved[50, 1] += moves
        place[50, 1] += jolts
        world = transforms.rigid(np.broadcast_to(np.eye(3), (COUNT, 3, 3)), place)
        path = CameraPath(world, Lens(35.0), FRAME)
        (fault,) = with_causes(judge_arc(path.project(moved).pixels, FRAME), path, moved).faults
        assert (fault.row, fault.cause) == (50, cause)
        told = arc_readings(
            "hand", ArcJudgement(t, t, t, (fault,)), FrameRange(1, COUNT), lambda row: Camera("c", "Bank")
        )
        assert [(r.kind, r.subject) for r in told] == {
            "subject": [("off_arc", "hand")],
            "camera": [("camera_jolts", "Bank")],
            "both": [("off_arc", "hand"), ("camera_jolts", "Bank")],
        }[cause]


def test_neighbouring_faults_do_not_hide_each_other() -> None:
    track = swing(7)
    track[30] += [0, 20]
    track[36] += [0, 7]
    assert {f.row for f in judge_arc(track, FRAME).faults} == {30, 36}


def test_nothing_is_fitted_across_a_cut_or_an_unseen_frame() -> None:
    track = swing(3)
    track[48:] += [400, -100]
    assert judge_arc(track, FRAME, (0, 48)).faults == ()
    assert np.isnan(judge_arc(track, FRAME, (0, 48)).off_arc[45:51]).all()
    unseen = swing(3)
    unseen[20] = np.nan
    judged = judge_arc(unseen, FRAME)
    assert judged.faults == ()
    assert np.isnan(judged.least[17:24]).all()


def test_too_short_a_track_tells_nothing() -> None:
    assert np.isnan(judge_arc(swing(1)[:4], FRAME).least).all()


@pytest.mark.parametrize("count", [5, 6, 7, 8])
def test_of_few_frames_the_middle_is_told(count: int) -> None:
    track = np.stack([100 + 12.0 * np.arange(count), np.full(count, 500.0)], axis=-1)
    track[count // 2, 1] += 9
    (fault,) = judge_arc(track, FRAME).faults
    assert (fault.row, fault.kind, fault.window.degree) == (count // 2, "off_arc", (count - 1) // 2 * 2 - 3)
    assert fault.size_px == pytest.approx(9, abs=0.1)
    two_shots = np.concatenate([track, track + [900, 0]])
    per_metre = 1920 * 35 / 36 / 6  # six metres before a camera that stands still
    points = np.column_stack([(two_shots - [960, 540]) * [1, -1] / per_metre, np.full(2 * count, -6.0)])
    still = CameraPath(np.broadcast_to(np.eye(4), (2 * count, 4, 4)), Lens(35.0), FRAME)
    seen = with_causes(judge_arc(still.project(points).pixels, FRAME, (0, count)), still, points)
    assert [(f.row, f.cause) for f in seen.faults] == [(count // 2, "subject"), (count + count // 2, "subject")]


def test_the_window_lasts_as_long_at_every_rate() -> None:
    at_120 = Window.at(Rate(Fraction(120)))
    track = swing(5, np.arange(0, 96, 0.2)) + np.random.default_rng(1).normal(0, 0.5, (480, 2))
    assert at_120.count == 37
    nine, long = (np.nanmedian(fit(track, "step", 0.12, window=window).error) for window in (NINE, at_120))
    assert long < 0.6 * nine
    assert judge_arc(track, FRAME, window=at_120).faults == ()
    jump = 11 * float(long)
    track[240:] += [0, jump]
    assert judge_arc(track, FRAME).faults == ()
    (fault,) = judge_arc(track, FRAME, window=at_120).faults
    assert (fault.row, fault.kind, fault.size_px) == (240, "pop", pytest.approx(jump, rel=0.3))


@pytest.mark.parametrize("name", ["runs", "linear keys", "soft contacts"])
def test_a_jump_is_told_where_a_corner_would_explain_it_as_well(name: str) -> None:
    scores = run_class(name, 4, noises=(0.5, 1.0))
    assert scores["jump"].recall == 1
    assert scores["clean"].false == 0


def test_thresholds_are_per_mille_of_the_height() -> None:
    small, track = DeliveryFrame(960, 540), swing(11)
    track[30] += [0, 8]
    large, half = judge_arc(track, FRAME), judge_arc(track / 2, small)
    assert [f.row for f in large.faults] == [f.row for f in half.faults] == [30]
    assert half.faults[0].size_px == pytest.approx(large.faults[0].size_px / 2)
    assert half.faults[0].least_px == pytest.approx(large.faults[0].least_px / 2)


def test_the_fit_is_plain_least_squares() -> None:
    track = swing(5)
    track[40] += [3, -5]
    found = fit(track, "displaced", 0.12)
    t = np.arange(-4, 5)
    design = np.column_stack([t**k for k in range(6)] + [t == 0])
    solution, residual, *_ = np.linalg.lstsq(design.astype(float), track[36:45], rcond=None)
    assert np.allclose(found.size[40], solution[-1])
    assert np.allclose(found.slope[40], solution[1])
    pooled = max(0.12, float(np.sqrt(residual.sum() / (2 * 2))))
    covariance = np.linalg.inv(design.T.astype(float) @ design)
    assert found.error[40] == pytest.approx(pooled * np.sqrt(covariance[-1, -1]))
    parts = travel_components(found.size, found.slope)[40]
    assert np.hypot(*parts) == pytest.approx(np.hypot(*solution[-1]))


def test_where_faults_touch_every_window_the_search_still_ends() -> None:
    line = np.stack([np.arange(9.0) * 10, np.zeros(9)], axis=-1)
    line[4, 1] = 40.0
    found, _ = find_faults(line, 0.12, 1.5)
    assert [(f.row, f.shape) for f in found] == [(4, "displaced")]


def test_where_a_camera_shakes_too_much_the_arc_is_judged_otherwise() -> None:
    rng = np.random.default_rng(2)
    t = np.linspace(0, 4, COUNT)
    hand = np.stack([np.sin(t), 1 + 0.3 * np.cos(t), 0 * t], axis=-1)
    body = np.stack([0.2 * t, 1 + 0 * t, 0 * t], axis=-1)
    hand[50, 1] += 0.06
    eye = np.array([0, 1.2, 6.0]) + rng.normal(0, 0.06, (COUNT, 3)) * [1, 1, 0]
    world = transforms.rigid(np.broadcast_to(np.eye(3), (COUNT, 3, 3)), eye)
    path = CameraPath(world, Lens(35.0), FRAME)
    judged = judge_arc(path.project(hand).pixels, FRAME)
    assert undetectable(judged, 1080)[8:-8].all()
    assert judged.faults == ()
    (found,) = seen_otherwise(judged, path, hand, body, [(0, COUNT - 1)])
    assert [(f.fault.row, f.fault.kind) for f in found.faults] == [(50, "off_arc")]
    (told, fault) = unframed_readings("hand", (found,), FrameRange(1, COUNT), 1080)
    assert (told.kind, told.remark, told.threshold) == ("nothing_can_be_told", True, 10.8)
    assert told.size > 10.8
    assert (fault.first, fault.note) == (51, f"Told relative to {found.faults[0].basis}.")
    # A body that is carried along on a shaking cart: only relative to its parent anything can be told.
    cart = rng.normal(0, 0.06, (COUNT, 3))
    (carried,) = seen_otherwise(judged, path, hand + cart, body + cart, [(0, COUNT - 1)])
    assert carried.basis == "its parent joint"
    assert [(f.basis, f.fault.row) for f in carried.faults] == [("its parent joint", 50)]
    # A fault that the parent shares, on a body whose sway leaves less to be told in the world: only there it is seen.
    shared, sway = np.zeros((COUNT, 3)), rng.normal(0, 0.003, (COUNT, 3))
    shared[50, 1] = 0.08
    lantern, pole = hand + shared + sway, body + shared + sway
    lantern[50, 1] -= 0.06  # its own
    (both,) = seen_otherwise(judged, path, lantern, pole, [(0, COUNT - 1)])
    assert both.basis == "its parent joint"
    assert [(f.basis, f.fault.row) for f in both.faults] == [("the world", 50)]
    calm = CameraPath(np.broadcast_to(world[0], world.shape), Lens(35.0), FRAME)
    assert seen_otherwise(judge_arc(calm.project(hand).pixels, FRAME), calm, hand, body, [(0, COUNT - 1)]) == ()
