"""Rotations against SciPy, projection against OpenCV."""

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation, Slerp

from eddyfield.core.errors import DomainError
from eddyfield.core.optics.lens import GATES, DeliveryFrame, Lens, inside_frame, project
from eddyfield.core.rig import transforms

angles = st.floats(-720, 720)
unit = st.floats(-1, 1)
quaternions = st.tuples(unit, unit, unit, unit).filter(lambda q: np.linalg.norm(q) > 0.1)


@given(angles, st.floats(-89.5, 89.5), angles)
def test_angles_are_turned_as_the_conventions_say(pan: float, tilt: float, roll: float) -> None:
    own = transforms.rotation_from_angles(pan, tilt, roll)
    other = (
        Rotation.from_euler("y", -pan, degrees=True)
        * Rotation.from_euler("x", tilt, degrees=True)
        * Rotation.from_euler("z", -roll, degrees=True)
    ).as_matrix()
    assert np.allclose(own, other, atol=1e-12)
    back = transforms.angles_from_rotation(own, previous_pan=pan, previous_roll=roll)
    assert np.allclose(back, [pan, tilt, roll], atol=1e-6)


def test_signs_of_pan_tilt_and_roll() -> None:
    looks = -transforms.rotation_from_angles([90.0, 0.0], [0.0, 90.0], [0.0, 0.0])[:, :, 2]
    assert np.allclose(looks, [[1, 0, 0], [0, 1, 0]], atol=1e-12)
    right = transforms.rotation_from_angles(0.0, 0.0, 90.0)[:, 0]
    assert np.allclose(right, [0, -1, 0], atol=1e-12), "leaning clockwise brings the right-hand side down"


@pytest.mark.parametrize("tilt", [90.0, -90.0])
def test_straight_up_or_down_keeps_the_roll_of_the_frame_before(tilt: float) -> None:
    pan, roll = np.array([20.0, 20.0, 35.0]), np.array([12.0, 12.0, 12.0])
    rotations = transforms.rotation_from_angles(pan, np.array([tilt - np.sign(tilt), tilt, tilt]), roll)
    found = transforms.angles_from_rotation(rotations)
    assert np.allclose(found[:, 0], pan, atol=1e-6)
    assert np.allclose(found[:, 2], roll, atol=1e-6)


def test_a_long_pan_stays_unwrapped() -> None:
    pan = np.linspace(0, 630, 64)
    assert np.allclose(transforms.angles_from_rotation(transforms.rotation_from_angles(pan, 5.0, 0.0))[:, 0], pan)


@given(quaternions, quaternions, st.floats(0, 1))
def test_quaternions_agree_with_scipy(a: tuple[float, ...], b: tuple[float, ...], share: float) -> None:
    one, two = (transforms.quaternion_normalized(np.array(q)) for q in (a, b))
    if np.linalg.norm(one - two) < 1e-6 or np.linalg.norm(one + two) < 1e-6 or abs(one @ two) < 1e-6:
        return
    product = transforms.matrix_from_quaternion(transforms.quaternion_product(one, two))
    assert np.allclose(product, (Rotation.from_quat(one) * Rotation.from_quat(two)).as_matrix(), atol=1e-12)
    own = transforms.matrix_from_quaternion(transforms.slerp(one, two, np.array(share)))
    other = Slerp([0, 1], Rotation.from_quat([one, two if one @ two > 0 else -two]))(share).as_matrix()
    assert np.allclose(own, other, atol=1e-9)
    assert np.allclose(
        transforms.matrix_from_quaternion(transforms.quaternion_from_matrix(product)), product, atol=1e-9
    )


def test_camera_nodes_become_right_handed_and_lose_their_scale() -> None:
    mirrored = transforms.compose(np.zeros(3), np.array([0.0, 0.0, 0.0, 1.0]), np.array([-2.0, 3.0, 0.5]))
    rigid = transforms.orthonormal(mirrored)
    assert np.allclose(rigid, np.eye(4))
    sheared = np.eye(4)
    sheared[:3, 1] = [0.2, 1.0, 0.5]
    upright = transforms.orthonormal(sheared)[:3, :3]
    assert np.allclose(upright @ upright.T, np.eye(3))
    assert np.linalg.det(upright) == pytest.approx(1.0)
    assert np.allclose(upright[:, 2], [0, 0, 1])


@given(
    st.sampled_from(GATES),
    st.floats(12, 200),
    st.floats(1.0, 2.0),
    st.sampled_from(
        [DeliveryFrame(1920, 1080), DeliveryFrame(1080, 1920), DeliveryFrame(2048, 858, 1.3), DeliveryFrame(640, 480)]
    ),
)
def test_projection_agrees_with_opencv(gate: str, focal: float, squeeze: float, frame: DeliveryFrame) -> None:
    lens = Lens(focal, 36.0, 24.0, gate, squeeze, shift_x=0.05, shift_y=-0.1)
    points = np.random.default_rng(3).uniform([-3, -2, -9], [3, 2, -0.5], (50, 3))
    own = project(points[None], lens, frame).pixels[0]
    width, height = lens.used_back_mm(frame)
    matrix = np.array(
        [
            [focal / width * frame.width, 0, frame.width * 0.55],
            [0, focal / height * frame.height, frame.height * 0.6],
            [0, 0, 1],
        ]
    )
    other, _ = cv2.projectPoints(points * [1, -1, -1], np.zeros(3), np.zeros(3), matrix, None)
    assert np.allclose(own, other[:, 0], atol=1e-6)


@given(st.sampled_from(GATES), st.floats(1.0, 2.0), st.integers(200, 4000), st.integers(200, 4000))
def test_used_back_has_the_aspect_of_the_frame(gate: str, squeeze: float, width: int, height: int) -> None:
    frame, lens = DeliveryFrame(width, height), Lens(35.0, 36.0, 24.0, gate, squeeze)
    used = lens.used_back_mm(frame)
    assert used[0] / used[1] == pytest.approx(frame.aspect)
    inside = used[0] <= 36 * squeeze + 1e-9 and used[1] <= 24 + 1e-9
    surroundings = used[0] >= 36 * squeeze - 1e-9 and used[1] >= 24 - 1e-9
    assert {"crop": inside, "reach": surroundings, "width": used[0] == 36 * squeeze, "height": used[1] == 24.0}[gate]


def test_field_of_view_and_a_given_vertical_one() -> None:
    frame = DeliveryFrame()
    across, upright = Lens(35.0, 36.0, 24.0).field_of_view_deg(frame)
    assert across == pytest.approx(2 * np.degrees(np.arctan(36 / 70)))
    assert upright == pytest.approx(2 * np.degrees(np.arctan(36 / (16 / 9) / 70)))
    _, kept = Lens(vertical_fov_deg=40.0).field_of_view_deg(frame)
    assert kept == pytest.approx(40.0)


def test_points_behind_and_on_the_border() -> None:
    frame, lens = DeliveryFrame(100, 100), Lens(18.0, 36.0, 36.0)
    points = np.array([[0, 0, 1.0], [0, 0, -0.005], [-1, 1, -1.0], [1, 0, -1.0], [0, 0, -5]])
    seen = project(points[None], lens, frame)
    assert seen.in_front[0].tolist() == [False, False, True, True, True]
    assert np.isnan(seen.pixels[0, :2]).all()
    assert np.allclose(seen.pixels[0, 2], [0, 0])
    assert inside_frame(seen, frame)[0].tolist() == [False, False, True, False, True]


def test_orthographic_view() -> None:
    seen = project(np.array([[[1.0, 0.5, -3.0]]]), Lens(orthographic_height_m=2.0), DeliveryFrame(400, 200, 2.0))
    assert np.allclose(seen.pixels[0, 0], [200 + 100 / 2, 100 - 50])


def test_lenses_that_cannot_be_are_refused() -> None:
    for wrong in ({"focal_mm": 0.0}, {"focal_mm": np.nan}, {"back_width_mm": -1.0}, {"gate": "stretch"}):
        with pytest.raises(DomainError):
            Lens(**wrong)
    with pytest.raises(DomainError):
        DeliveryFrame(0, 100)
