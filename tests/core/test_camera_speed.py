"""How fast a camera moves, against motions whose speed is known."""

from __future__ import annotations

import numpy as np
import pytest

from eddyfield.core.optics.camera_path import CameraPath
from eddyfield.core.optics.camera_speed import camera_speed, pan_limit_px
from eddyfield.core.optics.lens import DeliveryFrame, Lens
from eddyfield.core.rig import transforms

COUNT, RATE = 49, 24.0
FRAME = DeliveryFrame(1920, 1080)


def path(pan: np.ndarray, x: np.ndarray, focal: float = 35.0) -> CameraPath:
    place = np.stack([x, np.full(COUNT, 1.5), np.zeros(COUNT)], axis=-1)
    rotation = transforms.rotation_from_angles(pan, np.zeros(COUNT), np.zeros(COUNT))
    return CameraPath(transforms.rigid(rotation, place), Lens(focal), FRAME)


def test_a_truck_moves_the_background_by_what_it_goes_at_the_focus_distance() -> None:
    run = np.linspace(0, 2.0, COUNT)
    speed = camera_speed(path(np.zeros(COUNT), run), np.full(COUNT, 4.0), RATE)
    assert np.allclose(speed.place_m_per_s, 1.0)
    assert np.allclose(speed.turn_deg_per_s, 0, atol=1e-5)
    assert np.allclose(speed.background_px, (2.0 / 48) / 4.0 * 35 / 36 * 1920)


def test_a_pan_across_the_frame_in_seven_seconds_is_as_fast_as_may_be() -> None:
    seen = 2 * np.degrees(np.arctan(18 / 35))
    pan = np.arange(COUNT) * seen / (7 * RATE)
    slow = camera_speed(path(pan, np.zeros(COUNT)), np.full(COUNT, 4.0), RATE)
    assert np.allclose(slow.turn_deg_per_s, seen / 7)
    limit = pan_limit_px(path(pan, pan), RATE, 180.0)
    assert limit == pytest.approx(1920 / (7 * 24))
    # In the middle of the frame a degree is shorter than at its edges; the median of nine lies between.
    assert 0.85 * limit < np.median(slow.background_px) < 1.15 * limit
    assert pan_limit_px(path(pan, pan), RATE, 90.0) == pytest.approx(limit / 2)


def test_a_single_frame_has_no_speed() -> None:
    one = CameraPath(np.eye(4)[None], Lens(35.0), FRAME)
    assert camera_speed(one, np.ones(1), RATE).background_px.tolist() == [0.0]
