"""Fewer keys, smoother keys, an even speed, and runs beyond the keys, each against an evaluation of its own."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core import edits
from eddyfield.core.arrays import Floats
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.edits.camera_keys import ChosenKeys
from eddyfield.core.edits.key_tools import EvenSpeed, GoOnBeyondKeys, ReduceCameraKeys, SmoothCameraKeys
from eddyfield.core.errors import DomainError
from eddyfield.core.picture_error import what_is_seen
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Beyond, Channel
from eddyfield.core.time.frames import FrameTime
from eddyfield.core.time.keys import Key
from eddyfield.core.time.smoothing import smoothed
from eddyfield.demo.mill_race import BANK, CRANE, ZOOM

from .scenery import SCENE, baker

UNLOCKED = edits.LockCamera(camera_id=BANK, locks=()).apply(SCENE)


def camera_of(scene: Scene, camera_id: str = ZOOM) -> Camera:
    return scene.camera(camera_id)


def error_px(before: Scene, after: Scene, camera_id: str) -> Floats:
    """How far the picture of a camera is off on every frame."""
    rows = slice(0, before.frames.count)
    return what_is_seen(baker(before), before.camera(camera_id), rows).error_px(
        baker(after).camera_path(after.camera(camera_id))
    )


@pytest.mark.parametrize("camera_id", [ZOOM, BANK, CRANE])
@pytest.mark.parametrize("px", [0.5, 4.0])
def test_fewer_keys_keep_the_picture_within_the_error(camera_id: str, px: float) -> None:
    camera = camera_of(UNLOCKED, camera_id)
    fewer = ReduceCameraKeys(keys=ChosenKeys(camera_id), error_px=px).apply(UNLOCKED, baker(UNLOCKED))
    first, last = (
        f([k.time for c in camera.channels.values() for k in c.keys]) for f in (min, max)
    )  # fmt: skip
    off = error_px(UNLOCKED, fewer, camera_id)
    assert off[int(first) - 1001 : int(last) - 1000].max() <= px
    counts = [max(len(c.keys) for c in s.camera(camera_id).channels.values()) for s in (UNLOCKED, fewer)]
    if camera_id == ZOOM:
        assert counts[1] < counts[0] / 2, "it had a key on every frame"
    again = ReduceCameraKeys(keys=ChosenKeys(camera_id), error_px=px).apply(fewer, baker(fewer))
    assert max(len(c.keys) for c in again.camera(camera_id).channels.values()) <= counts[1]


def test_only_the_chosen_stretch_and_channels_get_fewer_keys() -> None:
    camera = camera_of(SCENE)
    times = tuple(key.time for key in camera.channels["focal_mm"].keys if 1050 <= key.time <= 1062)
    fewer = ReduceCameraKeys(keys=ChosenKeys(ZOOM, times, ("lens",)), error_px=3.0).apply(SCENE, baker())
    after = camera_of(fewer)
    assert after.channels["x"] == camera.channels["x"]
    outside = [k for k in camera.channels["focal_mm"].keys if not 1050 <= k.time <= 1062]
    assert [k for k in after.channels["focal_mm"].keys if not 1050 <= k.time <= 1062] == outside
    assert len(after.channels["focal_mm"].keys) < len(camera.channels["focal_mm"].keys) - 8


@given(
    st.lists(st.tuples(st.floats(0.25, 9), st.floats(-50, 50)), min_size=3, max_size=30),
    st.floats(0.3, 40),
    st.floats(-5, 5),
    st.floats(-20, 20),
)
def test_smoothing_keeps_ends_and_lines_and_never_adds_waves(
    steps: list[tuple[float, float]], frames: float, slope: float, offset: float
) -> None:
    times, values = np.cumsum([gap for gap, _ in steps]), np.array([value for _, value in steps])
    even = smoothed(times, values, frames)
    assert even[[0, -1]] == pytest.approx(values[[0, -1]])
    line = slope * times + offset
    assert smoothed(times, values + line, frames) == pytest.approx(even + line, abs=1e-7), "it is linear"
    chord = np.interp(times, times[[0, -1]], values[[0, -1]])
    assert np.abs(even - chord).max() <= np.abs(values - chord).max() + 1e-9


def test_a_noisy_move_is_smoothed_towards_what_was_meant() -> None:
    """On even frames it is SciPy's Gaussian filter, away from the ends."""
    from scipy.ndimage import gaussian_filter1d

    rng = np.random.default_rng(4)
    times = np.arange(80.0)
    meant = 3 * np.sin(times / 14)
    noisy = meant + rng.normal(0, 0.3, 80)
    even = smoothed(times, noisy, 3.0)
    assert even[16:-16] == pytest.approx(gaussian_filter1d(noisy, 3.0, truncate=8)[16:-16], abs=1e-3)
    assert np.std(even - meant) < 0.55 * np.std(noisy - meant)


def test_smoothed_keys_stay_at_their_times_and_ends() -> None:
    camera = camera_of(SCENE)
    keys = tuple(
        replace(key, value=key.value + (0.5 if n % 2 else -0.5))
        for n, key in enumerate(camera.channels["focal_mm"].keys)
    )
    shaken = camera.channels.having(focal_mm=replace(camera.channels["focal_mm"], keys=keys))
    shaky = SCENE.with_camera(replace(camera, channels=shaken))
    smooth = SmoothCameraKeys(keys=ChosenKeys(ZOOM, None, ("lens",)), strength=3.0).apply(shaky)
    before, after = (camera_of(s).channels["focal_mm"] for s in (shaky, smooth))
    assert [k.time for k in after.keys] == [k.time for k in before.keys]
    assert (after.keys[0], after.keys[-1].value) == (before.keys[0], before.keys[-1].value)
    wiggle = [np.abs(np.diff([k.value for k in c.keys], 2)).mean() for c in (before, after)]
    assert wiggle[1] < 0.2 * wiggle[0]
    assert camera_of(smooth).channels["x"] == camera.channels["x"]


def test_an_even_speed_along_the_very_same_way() -> None:
    even = EvenSpeed(keys=ChosenKeys(ZOOM)).apply(SCENE, baker())
    before, after = (baker(s).camera(camera_of(s)).pose[45:74, :3] for s in (SCENE, even))
    steps = [np.linalg.norm(np.diff(way, axis=0), axis=1) for way in (before, after)]
    assert np.ptp(steps[0]) / steps[0].mean() > 0.5, "it eased in and out"
    assert np.ptp(steps[1]) / steps[1].mean() < 0.06
    assert after[[0, -1]] == pytest.approx(before[[0, -1]], abs=1e-6)
    nearest = np.linalg.norm(after[:, None] - np.linspace(before[:-1], before[1:], 60).reshape(-1, 3), axis=-1).min(
        axis=1
    )
    assert nearest.max() < 0.02, "on the way that it went"


runs = st.sampled_from(["hold", "cycle", "drift"])
moves = st.lists(st.tuples(st.integers(1, 9), st.floats(-20, 20)), min_size=2, max_size=6)


@given(moves, runs, runs, st.floats(-120, 160))
def test_beyond_its_keys_a_channel_runs_through_them_again(
    steps: list[tuple[int, float]], before: str, after: str, time: float
) -> None:
    times = np.cumsum([gap for gap, _ in steps])
    keys = tuple(Key(FrameTime(int(t)), value) for t, (_, value) in zip(times, steps, strict=True))
    plain = Channel(0.0, keys)
    channel = replace(plain, beyond=Beyond(before, after))  # type: ignore[arg-type]
    first, last = float(times[0]), float(times[-1])
    way = "hold" if first <= time <= last else before if time < first else after
    local, lift = time, 0.0
    while way != "hold" and not first <= local <= last:
        step = (last - first) if local < first else -(last - first)
        local += step
        if way == "drift":
            lift += (keys[-1].value - keys[0].value) * (-1 if step > 0 else 1)
    # At a seam both ends of a run are right.
    if abs(local - first) > 1e-6 and abs(local - last) > 1e-6:
        assert float(channel.at(time)) == pytest.approx(float(plain.at(local)) + lift, abs=1e-6)
    assert channel.content != plain.content or (before, after) == ("hold", "hold")


def test_a_camera_goes_on_swaying_beyond_its_keys_and_backwards_when_it_is_run_backwards() -> None:
    on = GoOnBeyondKeys(camera_id=ZOOM, groups=("place",), after="cycle").apply(SCENE)
    camera = camera_of(on)
    assert camera.channels["x"].beyond == Beyond("hold", "cycle")
    assert camera.channels["focal_mm"].beyond == Beyond()
    xs = baker(on).camera(camera).values["x"]
    assert xs[74:96] == pytest.approx(xs[74 - 28 : 96 - 28])
    mirrored = edits.RetimeCameraKeys(keys=ChosenKeys(ZOOM), stretch=FrameTime(-1), about=FrameTime(1060)).apply(on)
    assert camera_of(mirrored).channels["x"].beyond == Beyond("cycle", "hold")
    with pytest.raises(DomainError, match="locked"):
        GoOnBeyondKeys(camera_id=BANK, after="cycle").apply(SCENE)


@pytest.mark.parametrize(
    ("edit", "why"),
    [
        (ReduceCameraKeys(keys=ChosenKeys(ZOOM), error_px=0.0), "not usable"),
        (ReduceCameraKeys(keys=ChosenKeys(ZOOM, (FrameTime(1046),)), error_px=1.0), "no stretch"),
        (
            SmoothCameraKeys(keys=ChosenKeys(ZOOM, (FrameTime(1046), FrameTime(1047))), strength=2.0),
            "nothing to smooth",
        ),
        (SmoothCameraKeys(keys=ChosenKeys(ZOOM), strength=99.0), "not usable"),
        (EvenSpeed(keys=ChosenKeys(BANK)), "locked"),
    ],
)
def test_what_cannot_be_done_is_refused(edit: edits.Edit, why: str) -> None:
    with pytest.raises(DomainError, match=why):
        edit.apply(SCENE, baker())
