"""Exact time, keyed channels and exposure lists against independent evaluations."""

from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.interpolate import CubicHermiteSpline, PchipInterpolator

from eddyfield.core.errors import DomainError
from eddyfield.core.performance.exposure import (
    Stepping,
    exposure_starts,
    lost_key_poses,
    nearest_frame,
    shown_beside_key_poses,
)
from eddyfield.core.rig.motion import Curve, Motion
from eddyfield.core.time.channels import Channel, frame_time, new_key
from eddyfield.core.time.frames import (
    FrameRange,
    Rate,
    exact_times,
    file_tolerance_s,
    last_frame_of,
    meant_frame_seconds,
    seconds_at,
)
from eddyfield.core.time.keys import Handle, Key
from eddyfield.demo import mill_race

RATES = ["24", "25", "30", "12", "24000/1001", "30000/1001", "23.976", "12.5", "48"]


@pytest.mark.parametrize("text", RATES)
@given(frame=st.integers(-100_000, 2_000_000))
def test_a_frame_survives_the_way_to_seconds_and_back(text: str, frame: int) -> None:
    rate = Rate.parse(text)
    seconds = float(seconds_at(np.array([frame]), 0, rate)[0])
    if frame >= 0:
        assert last_frame_of(seconds, 0, rate) == frame
    assert round(seconds * float(rate)) == frame


@given(st.lists(st.floats(0, 900), max_size=6), st.lists(st.integers(0, 20_000), max_size=6), st.sampled_from(RATES))
def test_exact_times_are_the_simplest_fractions_within_the_rounding_of_files(
    loose: list[float], whole: list[int], text: str
) -> None:
    rate = Rate.parse(text)
    seconds = np.array(loose + [float(n / rate.frames_per_second) for n in whole])
    found = exact_times(seconds, rate)
    for time, second in zip(found, seconds.tolist(), strict=True):
        off = abs(float(time) - second * float(rate))
        nearest = (Fraction(second) * rate.frames_per_second).limit_denominator(1000)
        assert off <= float(file_tolerance_s(second)) * float(rate) * 1.001 or time == nearest
        assert time.denominator <= nearest.denominator
    assert found[len(loose) :] == whole


@pytest.mark.parametrize("text", [*RATES, "29.970", "59.94", "120"])
def test_float32_times_of_frames_are_those_frames(text: str) -> None:
    """In exact times, in counting frames, and where a held sample starts, over an hour."""
    rate = Rate.parse(text)
    frames = np.unique(np.append(np.arange(2_000), np.linspace(0, 3600 * float(rate), 2_000).astype(int)))
    written = np.array([float(np.float32(float(f / rate.frames_per_second))) for f in frames.tolist()])
    assert exact_times(written, rate) == frames.tolist()
    assert [last_frame_of(s, 7, rate) - 7 for s in written] == frames.tolist()
    step = Motion((Curve(0, "translation", "step", written, np.repeat(frames[:, None], 3, axis=1) * 1.0),))
    rest = {"translation": np.zeros((1, 3)), "rotation": np.array([[0, 0, 0, 1.0]]), "scale": np.ones((1, 3))}
    shown = step.sample(seconds_at(frames, 0, rate), np.array([0]), rest)["translation"][0, 0]
    assert (shown == frames).all()


def test_rates_written_as_rounded_decimals_are_the_exact_ones() -> None:
    for texts, exact in (
        (("29.97", "29.970", "29.97003"), Fraction(30000, 1001)),
        (("23.976", "23.98", "23.9760", "23.976024"), Fraction(24000, 1001)),
        (("59.94", "59.940"), Fraction(60000, 1001)),
        (("119.88",), Fraction(120000, 1001)),
        (("12.5", "12.50"), Fraction(25, 2)),
        (("29.9",), Fraction(299, 10)),
    ):
        assert {Rate.parse(text).frames_per_second for text in texts} == {exact}


@pytest.mark.parametrize(
    ("written", "meant"),
    [(0.0333333, 30), (0.033333, 30), (0.0416667, 24), (0.041667, 24), (0.00833333, 120), (0.04170833, 24000 / 1001)],
)
def test_written_frame_times_mean_the_common_rates(written: float, meant: float) -> None:
    assert meant_frame_seconds(written) == pytest.approx(1 / meant, rel=1e-12)
    assert meant_frame_seconds(0.037) == 0.037


@pytest.mark.parametrize("text", ["", "0", "-24", "24/0", "abc", "1e3", "24,0", "2000"])
def test_rates_that_cannot_be_are_refused(text: str) -> None:
    with pytest.raises(DomainError):
        Rate.parse(text)


def test_a_range_that_ends_before_it_begins_is_refused() -> None:
    with pytest.raises(DomainError):
        FrameRange(10, 9)


times = st.lists(st.integers(0, 400), min_size=2, max_size=8, unique=True).map(sorted)


@given(times, st.data())
def test_smooth_keys_are_scipys_pchip(at: list[int], data: st.DataObject) -> None:
    values = data.draw(
        st.lists(st.integers(-50_000, 50_000).map(lambda n: n / 1000), min_size=len(at), max_size=len(at))
    )
    channel = Channel(0.0, tuple(Key(Fraction(t), v, "smooth") for t, v in zip(at, values, strict=True)))
    probe = np.linspace(at[0], at[-1], 97)
    assert np.allclose(channel.at(probe), PchipInterpolator(at, values)(probe), atol=1e-9)
    assert channel.at(at[0] - 10.0) == values[0]
    assert channel.at(at[-1] + 10.0) == values[-1]


def test_shapes_rule_their_segments() -> None:
    keys = (
        Key(Fraction(0), 0.0, "hold"),
        Key(Fraction(10), 5.0, "linear"),
        Key(Fraction(20), 0.0, "ease"),
        Key(Fraction(30), 8.0, "ease"),
    )
    channel = Channel(0.0, keys)
    assert channel.at([0, 9.99, 10, 15, 20]).tolist() == pytest.approx([0, 0, 5, 2.5, 0])
    hermite = CubicHermiteSpline([20, 30], [0, 8], [0, 0])
    probe = np.linspace(20, 30, 33)
    assert np.allclose(channel.at(probe), hermite(probe))


@given(st.floats(0, 25), st.floats(-9, 9), st.floats(0, 25), st.floats(-9, 9))
def test_curve_keys_follow_their_bezier(out_frames: float, out_value: float, in_frames: float, in_value: float) -> None:
    start = Key(Fraction(3), 1.0, "curve", None, Handle(out_frames, out_value))
    end = Key(Fraction(15), 4.0, "curve", Handle(in_frames, in_value), None)
    channel = Channel(0.0, (start, end))
    cut = [min(1.0, 12 / f) if f else 1.0 for f in (out_frames, in_frames)]
    x = np.array([3, 3 + out_frames * cut[0], 15 - in_frames * cut[1], 15])
    y = np.array([1, 1 + out_value * cut[0], 4 + in_value * cut[1], 4])
    u = np.linspace(0, 1, 2001)
    basis = np.stack([(1 - u) ** 3, 3 * u * (1 - u) ** 2, 3 * u**2 * (1 - u), u**3])
    on_curve_x, on_curve_y = x @ basis, y @ basis
    assert (np.diff(on_curve_x) >= -1e-9).all()
    steep = np.gradient(on_curve_y, u) / np.maximum(np.gradient(on_curve_x, u), 1e-9)
    gentle = np.abs(steep) < 50
    assert np.allclose(channel.at(on_curve_x)[gentle], on_curve_y[gentle], atol=1e-6)


def test_new_keys_take_the_shape_a_person_expects() -> None:
    channel = Channel(2.0)
    for time in (10, 30, 20):
        channel = new_key(channel, frame_time(time), float(time))
    assert [(int(k.time), k.shape) for k in channel.keys] == [(10, "ease"), (20, "smooth"), (30, "ease")]
    channel = new_key(channel, frame_time(40), 0.0)
    assert [k.shape for k in channel.keys] == ["ease", "smooth", "smooth", "ease"]
    assert Channel(2.0).with_key(Key(Fraction(1), 7.0)).without_key(Fraction(1)) == Channel(7.0)


def test_keys_that_cannot_be_are_refused() -> None:
    with pytest.raises(DomainError):
        Channel(0.0, (Key(Fraction(2), 0.0), Key(Fraction(2), 1.0)))
    for wrong in ({"value": float("nan")}, {"shape": "bouncy"}, {"handle_in": Handle(-1, 0)}):
        with pytest.raises(DomainError):
            Key(**{"time": Fraction(1), "value": 0.0, **wrong})
    with pytest.raises(DomainError):
        frame_time("1/0")


@given(st.integers(1, 9), st.integers(-20, 20), st.integers(-50, 50), st.integers(1, 80))
def test_exposures_follow_their_definition(step: int, offset: int, first: int, count: int) -> None:
    frames = FrameRange(first, first + count - 1)
    starts = exposure_starts(Stepping(step, offset), frames)
    for frame, start in zip(range(first, first + count), starts.tolist(), strict=True):
        anchor = first + offset
        expected = max(first, anchor + step * ((frame - anchor) // step))
        assert start == expected
        assert start <= frame
        assert starts[start - first] == start, "an exposure shows the pose of its own start"


@given(st.integers(2, 6), st.integers(0, 5), st.sets(st.integers(1, 40), max_size=6))
def test_key_poses_are_kept_and_the_old_grid_goes_on(step: int, offset: int, poses: set[int]) -> None:
    frames, exact = FrameRange(1, 40), tuple(Fraction(p) for p in sorted(poses))
    plain = exposure_starts(Stepping(step, offset), frames)
    kept = exposure_starts(Stepping(step, offset, True), frames, exact)
    assert lost_key_poses(kept, frames, exact) == ()
    assert set(kept.tolist()) == set(plain.tolist()) | poses
    assert set(lost_key_poses(plain, frames, exact)) == {p for p in exact if int(p) not in set(plain.tolist())}


def test_a_key_pose_between_frames_is_shown_by_the_frame_nearest_to_it() -> None:
    frames, poses = FrameRange(1, 6), (Fraction(5, 2), Fraction(13, 4), Fraction(601, 200))
    on_ones = exposure_starts(Stepping(1), frames)
    assert lost_key_poses(on_ones, frames, poses) == ()
    assert shown_beside_key_poses(on_ones, frames, poses) == (
        (Fraction(5, 2), Fraction(1, 2)),
        (Fraction(13, 4), Fraction(-1, 4)),
    )
    on_threes = exposure_starts(Stepping(3), frames)
    assert lost_key_poses(on_threes, frames, poses) == poses
    with pytest.raises(DomainError):
        Stepping(0)


@pytest.mark.parametrize("rate", ["25", "24000/1001", "30", "12"])
@pytest.mark.parametrize("step", [1, 2, 3])
def test_keeping_key_poses_of_a_file_at_24_keeps_them_at_any_rate(rate: str, step: int) -> None:
    """The demo's own performance, keyed at 24, in scenes of other rates: none lies on a whole frame at most of them."""
    motion = mill_race.demo_rig("oda").motion
    times = exact_times(motion.key_pose_seconds, Rate.parse(rate))
    poses = tuple(t + 1 for t in times)
    frames = FrameRange(1, last_frame_of(motion.duration_seconds, 1, Rate.parse(rate)))
    kept = exposure_starts(Stepping(step, 0, True), frames, poses)
    assert len(poses) > 5
    assert lost_key_poses(kept, frames, poses) == ()
    inside = [p for p in poses if nearest_frame(p) in frames]
    assert {nearest_frame(p) for p in inside} <= set(kept.tolist())
    beside = dict(shown_beside_key_poses(kept, frames, poses))
    assert beside.keys() == {p for p in inside if abs(nearest_frame(p) - p) > Fraction(1, 100)}
    # A time half a frame or more from every frame: no crash either where not one is whole.
    assert len(exposure_starts(Stepping(step, 0, True), frames, (Fraction(3, 2), Fraction(7, 2)))) == frames.count
