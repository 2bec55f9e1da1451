"""Cameras that a joint carries: what comes along, what is held back, and what lags."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp
from scipy.spatial.transform import Rotation

from eddyfield.core.arrays import Floats
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.cameras.camera_frames import camera_frames, channels_standing_at
from eddyfield.core.cameras.coming_along import coming_along
from eddyfield.core.cameras.lag import lagged, lagged_turns
from eddyfield.core.cameras.mounts import Carried, Trailing, attached
from eddyfield.core.optics.camera_path import CameraPath
from eddyfield.core.optics.lens import DeliveryFrame
from eddyfield.core.rig import transforms
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.frames import FrameRange, Rate
from eddyfield.demo import mill_race

from .scenery import SCENE, baker
from .surroundings import Stage, joint, wandering


def test_carried_keeps_the_offset_that_it_had_when_attached() -> None:
    surroundings = Stage({"head": wandering(1)})
    head = surroundings.joints["head"](surroundings.seconds)
    camera = Camera("c", "c", mount=attached(joint(), 20, surroundings))
    wanted = transforms.rigid(transforms.rotation_from_angles(160, -5, 3), np.array([0.4, 1.2, 2.0]))
    values = camera_frames(camera, surroundings, DeliveryFrame()).values
    standing = channels_standing_at(camera, wanted, 20, values, surroundings, keep_offset=False)
    channels = camera.channels.having(**{n: Channel(v) for n, v in standing.items()})
    path = camera_frames(replace(camera, channels=channels), surroundings, DeliveryFrame()).path
    offset = transforms.rigid_inverse(head) @ path.world_from_camera
    assert np.allclose(offset, offset[20], atol=1e-9)
    assert np.allclose(path.world_from_camera[20], wanted, atol=1e-9)


def test_each_axis_is_let_through_or_held() -> None:
    surroundings = Stage({"head": wandering(2)}, front=(0.6, 0.0, 0.8))
    head = surroundings.joints["head"](surroundings.seconds)
    whole = attached(joint(), 5, surroundings)
    for index in range(6):
        through = tuple(float(i == index) for i in range(6))
        found = replace(whole, through=through).world_from_mount({}, surroundings)  # type: ignore[arg-type]
        if index < 3:
            assert np.allclose(found[:, index, 3], head[:, index, 3])
            still = [i for i in range(3) if i != index]
            assert np.allclose(found[:, still, 3], head[5, still, 3])
            assert np.allclose(found[:, :3, :3], found[5, :3, :3])
        else:
            assert np.allclose(found[:, :3, 3], head[5, :3, 3])
            # Heading is the twist about the vertical, pitch and roll come from the swing that is left: by SciPy's rotations.
            facing = Rotation.from_matrix(found[5, :3, :3])
            since = facing.inv() * Rotation.from_matrix(head[:, :3, :3] @ head[5, :3, :3].T) * facing
            twist = Rotation.from_quat(since.as_quat() * [0, 1, 0, 1])
            swing = (twist.inv() * since).as_rotvec()
            assert np.allclose(swing[:, 1], 0, atol=1e-12)
            kept = (facing.inv() * Rotation.from_matrix(found[:, :3, :3])).as_rotvec()
            wanted = np.zeros_like(kept)
            if index == 3:
                wanted = twist.as_rotvec()
            else:
                wanted[:, 0 if index == 4 else 2] = swing[:, 0 if index == 4 else 2]
            assert np.allclose(kept, wanted, atol=1e-9)


@settings(max_examples=40)
@given(st.lists(st.floats(0, 1), min_size=6, max_size=6))
def test_a_share_of_each_movement_comes_along(shares: list[float]) -> None:
    surroundings = Stage({"head": wandering(3)})
    whole = attached(joint(), 5, surroundings)
    some = replace(whole, through=tuple(shares))  # type: ignore[arg-type]
    head = surroundings.joints["head"](surroundings.seconds)
    then = head[5, :3, 3]
    all_of_it, taken = (
        whole.movements(head),
        some.movements(some.world_from_mount({}, surroundings) @ start(whole, head)),
    )
    found = some.world_from_mount({}, surroundings)
    assert np.allclose(found[:, :3, 3] - then, (head[:, :3, 3] - then) * shares[:3], atol=1e-12)
    assert np.allclose(taken[:, 1], shares[1] * all_of_it[:, 1], atol=1e-9)
    assert np.allclose(taken[:, 2], shares[3] * all_of_it[:, 2], atol=1e-6), "turning"
    # Nodding and leaning are the two parts of one swing: their shares scale its rotation vector.
    assert np.allclose(taken[:, 3:], np.array(shares[4:]) * all_of_it[:, 3:], atol=1e-6)


def test_what_comes_along_is_told_in_metres_degrees_and_pixels() -> None:
    """Against taking all of one movement and nothing else: the subject's own step on the screen."""
    camera = SCENE.camera(mill_race.FACE)
    mount = camera.mount
    assert isinstance(mount, Carried)
    path = baker().camera_path(camera)
    movements, px = coming_along(mount, path, baker())
    head = baker().joint_frames(SCENE.characters[0].id, "head", "motion")
    assert np.allclose(np.diff(movements[:, 1]), np.diff(head[:, 1, 3]), atol=1e-9)
    assert px[1] == pytest.approx(np.ptp(movements[:, 1]) * pixels_a_metre_away(path, head), rel=0.02)
    turned = np.radians(np.ptp(movements[:, 2]))
    assert px[2] == pytest.approx(turned * 85 / 36 * 1920, rel=0.01), "85 mm on a back of 36"


def pixels_a_metre_away(path: CameraPath, head: Floats) -> float:
    one = path.project(head[:, :3, 3]).pixels
    other = path.project(head[:, :3, 3] + path.world_from_camera[:, :3, 1] * 0.01).pixels
    return float(np.median(np.linalg.norm(one - other, axis=-1)) * 100)


def start(whole: Carried, head: Floats) -> Floats:
    """What brings the mount of a camera that takes all along back to the turn of its subject, (4, 4)."""
    mounted = whole.let_through(head)
    turn = transforms.rigid_inverse(mounted[5:6])[0] @ head[5]
    turn[:3, 3] = 0
    return turn


def tumbling(seconds: Floats) -> Floats:
    """A joint that nods over, far past the vertical, while it turns and leans a little."""
    pitch = 160 * np.sin(1.5 * seconds)
    turn = Rotation.from_euler("YXZ", np.stack([20 * seconds, pitch, 5 * seconds], axis=-1), degrees=True)
    return transforms.rigid(turn.as_matrix(), np.zeros(3))


@pytest.mark.parametrize(
    "through", [(0.0, 1.0, 1.0), (1.0, 1.0, 0.0), (1.0, 0.0, 1.0), (0.0, 1.0, 0.0), (0.5, 1.0, 0.3)]
)
def test_nothing_flips_as_a_joint_goes_past_the_vertical(through: tuple[float, float, float]) -> None:
    surroundings = Stage({"head": tumbling}, FrameRange(1, 97), Rate(Fraction(48)))
    head = surroundings.joints["head"](surroundings.seconds)[:, :3, :3]
    carried = replace(attached(joint(), 0, surroundings), through=(1.0, 1.0, 1.0, *through))  # type: ignore[arg-type]
    for mount in (carried, Trailing(joint(), carried.through, half_life_s=0.1)):
        turns = mount.world_from_mount({}, surroundings)[:, :3, :3]
        steps, own = (Rotation.from_matrix(np.swapaxes(t[:-1], 1, 2) @ t[1:]).magnitude() for t in (turns, head))
        assert steps.max() < 1.5 * own.max(), mount.kind


def test_turns_lag_by_the_follower_about_one_axis() -> None:
    """About one axis the rotation vector is an angle: the scalar follower, past half a turn and the vertical as well."""
    surroundings = Stage({"head": wandering(3)}, FrameRange(1, 97))
    angle = 2.0 * np.sin(2 * surroundings.seconds) + 3 * surroundings.seconds
    axis = np.array([2.0, -1.0, 2.0]) / 3
    turns = Rotation.from_rotvec(angle[:, None] * axis).as_matrix()
    late = lagged(angle, 1 / 24, 0.2)
    expected = Rotation.from_rotvec(late[:, None] * axis).as_matrix()
    assert np.allclose(lagged_turns(turns, 1 / 24, 0.2), expected, atol=1e-9)


def test_trailing_agrees_at_24_48_and_96_frames_a_second() -> None:
    rng = np.random.default_rng(4)
    knots = rng.normal(size=(25, 3))

    def linear_between_24ths(seconds: Floats) -> Floats:
        place = np.stack([np.interp(seconds, np.arange(25) / 24, knots[:, i]) for i in range(3)], axis=-1)
        pan = np.interp(seconds, np.arange(25) / 24, rng_pan)
        return transforms.rigid(transforms.rotation_from_angles(pan, 0, 0), place)

    rng_pan = rng.uniform(-80, 80, 25)
    found = {}
    for rate in (24, 48, 96):
        frames = FrameRange(0, rate)
        surroundings = Stage({"head": linear_between_24ths}, frames, Rate(Fraction(rate)))
        mount = Trailing(subject=joint(), half_life_s=0.17)
        found[rate] = mount.world_from_mount({}, surroundings)[:: rate // 24]
    assert np.allclose(found[24], found[48], atol=1e-9)
    assert np.allclose(found[24], found[96], atol=1e-9)


def test_the_follower_solves_its_differential_equation() -> None:
    times, half_life = np.arange(48) / 24, 0.2
    values = np.random.default_rng(0).normal(size=48).cumsum()
    tau = half_life / np.log(2)
    solved = solve_ivp(
        lambda t, y: (np.interp(t, times, values) - y) / tau, (0, times[-1]), [values[0]], t_eval=times,
        max_step=1 / 480, rtol=1e-9, atol=1e-10,
    )  # fmt: skip
    assert np.allclose(lagged(values, 1 / 24, half_life), solved.y[0], atol=1e-6)
    assert np.array_equal(lagged(values, 1 / 24, 0), values)
    step = np.array([0.0] + [1.0] * 24)
    half = lagged(step, 1 / 24, 6 / 24)
    # Once the jump (which takes a frame) is over, the rest halves in every half-life.
    assert (1 - half[7]) / (1 - half[1]) == pytest.approx(0.5)
