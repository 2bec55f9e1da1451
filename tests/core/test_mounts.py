"""Mounts: each keeps the picture when it is changed to; rails run evenly; trailing does not depend on the rate."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp
from scipy.spatial.transform import Rotation

from eddyfield.core import edits
from eddyfield.core.arrays import Floats
from eddyfield.core.cameras.camera import Camera, CameraPose
from eddyfield.core.cameras.camera_frames import camera_frames, channels_standing_at
from eddyfield.core.cameras.coming_along import coming_along
from eddyfield.core.cameras.lag import lagged, lagged_turns
from eddyfield.core.cameras.mounts import MOUNTS as KINDS
from eddyfield.core.cameras.mounts import Bump, Carried, Crane, Free, Mount, Orbit, Rail, Trailing, attached
from eddyfield.core.cameras.subjects import Subject
from eddyfield.core.errors import DomainError
from eddyfield.core.optics.camera_path import CameraPath
from eddyfield.core.optics.lens import DeliveryFrame
from eddyfield.core.rig import transforms
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.frames import FrameRange, Rate
from eddyfield.demo import mill_race

from .scenery import SCENE, baker
from .surroundings import Stage, joint, wandering

CAMERA = mill_race.ZOOM


HEAD, HIPS = Subject("joint", mill_race.ODA, "head"), Subject("joint", mill_race.ODA, "hips")


POINTS = ((-2.0, 1.0, 0.0), (-1.0, 1.4, 2.0), (1.0, 1.0, 2.5), (2.5, 1.2, 0.5))


MOUNTS: list[Mount] = [
    Free(),
    Rail(points=POINTS),
    Rail(points=POINTS, closed=True, facing="along", height_m=0.3, bumps=(Bump(0.3),)),
    Crane(base=(1.0, 0.5, 6.0), heading=30),
    Crane(base=(1.0, 0.5, 6.0), heading=-100, follow_pitch=True, follow_yaw=True),
    Orbit(pivot=HIPS),
    Orbit(pivot=Subject("point", offset=(0.0, 1.0, 2.0))),
    Carried(subject=HEAD),
    Carried(subject=HIPS, through=(1.0, 0.0, 0.5, 1.0, 0.0, 0.0)),
    Trailing(subject=HEAD, half_life_s=0.3),
]


poses = st.builds(
    CameraPose,
    *[st.floats(-6, 6)] * 3,
    st.floats(-180, 180),
    st.floats(-80, 80),
    st.floats(-60, 60),
    st.floats(14, 200),
)


def world_at(scene: object, frame: int) -> Floats:
    path = baker(scene).camera_path(scene.camera(CAMERA))  # type: ignore[arg-type, attr-defined]
    return np.asarray(path.world_from_camera[frame - 1001])


FREE = edits.AimCamera(camera_id=CAMERA, aim=None, frame=1001).apply(SCENE, baker())


@settings(max_examples=40, deadline=None)
@given(st.sampled_from(MOUNTS), st.sampled_from(MOUNTS), poses, st.integers(1001, 1096))
def test_a_change_of_mount_keeps_the_picture(first: Mount, second: Mount, pose: CameraPose, frame: int) -> None:
    work = baker()
    scene = edits.PlaceCamera(camera_id=CAMERA, pose=pose, frame=frame).apply(FREE, work)
    scene = edits.KeyCamera(camera_id=CAMERA, time=Fraction(frame)).apply(scene, baker(scene))
    for mount in (first, second):
        before = world_at(scene, frame)
        scene = edits.MountCamera(camera_id=CAMERA, mount=mount, frame=frame).apply(scene, baker(scene))
        assert np.allclose(world_at(scene, frame), before, atol=1e-9)
        assert float(baker(scene).camera(scene.camera(CAMERA)).pose[frame - 1001, 6]) == pytest.approx(pose.focal_mm)


def carried_otherwise(scene: Scene, kind: str, frame: int, **how: object) -> Scene:
    subject = Subject("joint", mill_race.ODA, "head")
    edit = edits.CarryCamera(camera_id=CAMERA, mount=kind, frame=frame, subject=subject, **how)  # type: ignore[arg-type]
    return edit.apply(scene, baker(scene))


@settings(max_examples=25, deadline=None)
@given(
    st.sampled_from(MOUNTS),
    poses,
    st.lists(st.tuples(st.sampled_from(sorted(KINDS)), st.integers(1001, 1096)), min_size=1, max_size=4),
)
def test_trying_other_mounts_loses_nothing(mount: Mount, pose: CameraPose, tried: list[tuple[str, int]]) -> None:
    steady = edits.DeleteCameraKeys(keys=edits.ChosenKeys(CAMERA)).apply(FREE)
    scene = edits.MountCamera(camera_id=CAMERA, mount=mount, frame=1040).apply(steady, baker(steady))
    scene = edits.KeyCamera(camera_id=CAMERA, time=Fraction(1010)).apply(scene, baker(scene))
    scene = edits.PlaceCamera(camera_id=CAMERA, pose=pose, frame=1060).apply(scene, baker(scene))
    begun = scene.camera(CAMERA)
    for kind, frame in tried:
        if kind != scene.camera(CAMERA).mount.kind:
            scene = carried_otherwise(scene, kind, frame)
            if kind != mount.kind:
                moved = edits.PlaceCamera(camera_id=CAMERA, pose=replace(pose, x=1.0), frame=frame)
                scene = moved.apply(scene, baker(scene))
            kinds = [left.mount.kind for left in scene.camera(CAMERA).left]
            assert len(set(kinds)) == len(kinds)
            assert scene.camera(CAMERA).mount.kind not in kinds
    if scene.camera(CAMERA).mount.kind != mount.kind:
        assert scene.camera(CAMERA).left_mount(mount.kind) is not None
        scene = carried_otherwise(scene, mount.kind, 1001)
    assert scene.camera(CAMERA).mount == begun.mount
    assert np.allclose(baker(scene).camera(scene.camera(CAMERA)).pose, baker().camera(begun).pose, atol=1e-9)


@pytest.mark.parametrize("kind", sorted(set(KINDS) - {"rail"}))
def test_a_mount_begun_afresh_keeps_the_picture(kind: str) -> None:
    scene = edits.MountCamera(camera_id=CAMERA, mount=Rail(points=POINTS), frame=1040).apply(FREE, baker(FREE))
    scene = edits.RunRail(camera_id=CAMERA, first=1001, last=1096).apply(scene, baker(scene))
    scene = scene.with_camera(replace(scene.camera(CAMERA), left=()))
    for afresh in (False, True):
        before = world_at(scene, 1050)
        scene = carried_otherwise(scene, kind, 1050, afresh=afresh)
        assert np.allclose(world_at(scene, 1050), before, atol=1e-9)
        scene = carried_otherwise(scene, "rail", 1050, afresh=afresh)
        assert np.allclose(world_at(scene, 1050), before, atol=1e-9)
        assert (scene.camera(CAMERA).mount == Rail(points=POINTS)) is not afresh


def test_a_camera_that_nothing_carried_and_that_has_no_keys_leaves_nothing_behind() -> None:
    scene = carried_otherwise(FREE.with_camera(Camera(CAMERA, "new")), "crane", 1001)
    assert scene.camera(CAMERA).left == ()
    values = {"arm_pitch": 60.0}
    scene = edits.SetCameraValues(camera_id=CAMERA, values=values).apply(scene)
    raised = world_at(scene, 1001)
    assert np.allclose(world_at(carried_otherwise(scene, "free", 1001), 1001), raised, atol=1e-9)


@pytest.mark.parametrize("kind", ["carried", "orbit"])
def test_begun_afresh_it_goes_by_what_is_asked_for_else_by_what_it_went_by(kind: str) -> None:
    head, hips = Subject("joint", mill_race.ODA, "head"), Subject("joint", mill_race.ODA, "hips")
    scene = FREE
    for asked, gone_by in ((head, head), (hips, hips), (None, hips)):
        edit = edits.CarryCamera(camera_id=CAMERA, mount=kind, frame=1040, subject=asked, afresh=True)
        before = world_at(scene, 1040)
        scene = edit.apply(scene, baker(scene))
        assert scene.camera(CAMERA).mount.subjects == (gone_by,)
        assert np.allclose(world_at(scene, 1040), before, atol=1e-9)


def test_what_cannot_be_carried_so_is_refused() -> None:
    with pytest.raises(DomainError, match="nothing to carry it"):
        edits.CarryCamera(camera_id=CAMERA, mount="carried", frame=1001).apply(FREE, baker(FREE))
    with pytest.raises(DomainError, match="no mount “lift”"):
        edits.CarryCamera(camera_id=CAMERA, mount="lift", frame=1001).apply(FREE, baker(FREE))
    scene = carried_otherwise(carried_otherwise(FREE, "crane", 1001), "free", 1001)
    scene = edits.LockCamera(camera_id=CAMERA, locks=("angles",)).apply(scene)
    with pytest.raises(DomainError, match=r"angles of .* are locked"):
        carried_otherwise(scene, "crane", 1001)


def test_one_that_was_carried_trails_the_same_thing_as_far() -> None:
    carried = Carried(subject=Subject("joint", mill_race.ODA, "hips"), through=(1.0, 0.25, 1.0, 1.0, 1.0, 0.0))
    scene = edits.MountCamera(camera_id=CAMERA, mount=carried, frame=1040).apply(FREE, baker(FREE))
    mount = carried_otherwise(scene, "trailing", 1040).camera(CAMERA).mount
    assert isinstance(mount, Trailing)
    assert (mount.subject, mount.through) == (carried.subject, carried.through)


@settings(max_examples=30, deadline=None)
@given(st.sampled_from(MOUNTS), poses, st.integers(1001, 1096))
def test_one_that_is_put_where_it_stands_stays_there(mount: Mount, pose: CameraPose, frame: int) -> None:
    """Also beside its rail, or off the end of its arm."""
    scene = edits.MountCamera(camera_id=CAMERA, mount=mount, frame=1030).apply(FREE, baker(FREE))
    scene = edits.PlaceCamera(camera_id=CAMERA, pose=pose, frame=frame).apply(scene, baker(scene))
    scene = edits.SetCameraValues(camera_id=CAMERA, values={"x": 0.4, "y": -0.2, "z": 0.7}).apply(scene)
    now = baker(scene).camera(scene.camera(CAMERA)).pose_at(frame - 1001)
    held = edits.PlaceCamera(camera_id=CAMERA, pose=now, frame=frame, keep_offset=True).apply(scene, baker(scene))
    assert np.allclose(world_at(held, frame), world_at(scene, frame), atol=1e-6)


@pytest.mark.parametrize("crane", [m for m in MOUNTS if isinstance(m, Crane)])
def test_the_head_of_a_crane_reaches_a_place(crane: Crane) -> None:
    scene = edits.MountCamera(camera_id=CAMERA, mount=crane, frame=1030).apply(FREE, baker(FREE))
    place = (2.0, 3.0, 4.0)
    reached = edits.ReachWithMount(camera_id=CAMERA, place=place, frame=1030).apply(scene, baker(scene))
    values = baker(reached).camera(reached.camera(CAMERA)).values
    assert np.allclose(crane.world_from_mount(values, baker(reached))[29, :3, 3], place, atol=1e-9)
    with pytest.raises(DomainError, match="nothing that reaches"):
        edits.ReachWithMount(camera_id=CAMERA, place=place, frame=1030).apply(FREE, baker(FREE))


@settings(max_examples=30, deadline=None)
@given(st.sampled_from(MOUNTS), poses, st.integers(1001, 1096))
def test_a_mounted_camera_is_put_exactly_where_it_is_wanted(mount: Mount, pose: CameraPose, frame: int) -> None:
    scene = edits.MountCamera(camera_id=CAMERA, mount=mount, frame=1030).apply(FREE, baker(FREE))
    placed = edits.PlaceCamera(camera_id=CAMERA, pose=pose, frame=frame).apply(scene, baker(scene))
    wanted = transforms.rigid(
        transforms.rotation_from_angles(pose.pan, pose.tilt, pose.roll), np.array([pose.x, pose.y, pose.z])
    )
    assert np.allclose(world_at(placed, frame), wanted, atol=1e-9)


@given(st.floats(-8, 8), st.floats(0.2, 4), st.floats(-8, 8))
def test_kept_on_its_rail_a_camera_goes_where_the_rail_is_nearest(x: float, y: float, z: float) -> None:
    rail = Rail(points=POINTS)
    fine = rail.at(np.linspace(0, 1, 4001))[0]
    found = rail.at(np.array([rail.nearest(np.array([x, y, z]))]))[0][0]
    assert np.linalg.norm(found - [x, y, z]) <= np.linalg.norm(fine - [x, y, z], axis=1).min() + 1e-4


# --- rail ---


def _is_a_way(knots: list[tuple[float, float, float]]) -> bool:
    """Points apart from each other, without a hairpin: where a way turns on the spot its length cannot be told by chords."""
    legs = np.diff(np.array([*knots, knots[0], knots[1]]), axis=0)
    length = np.linalg.norm(legs, axis=1)
    if (length < 0.4).any():
        return False
    turn = (legs[1:] * legs[:-1]).sum(axis=1) / (length[1:] * length[:-1])
    return bool((turn > -0.8).all() and length.max() < 12 * length.min())


points = st.lists(st.tuples(*[st.floats(-6, 6)] * 3), min_size=3, max_size=7).filter(_is_a_way)


@settings(max_examples=40, deadline=None)
@given(points, st.booleans())
def test_an_even_position_is_an_even_speed(knots: list[tuple[float, float, float]], closed: bool) -> None:
    rail = Rail(points=tuple(knots), closed=closed)
    positions = np.linspace(0, 1, 97)
    # The length of the way between two positions, by the spline through many points of it.
    between = np.linspace(0, 1, 96 * 64 + 1)
    steps = np.linalg.norm(np.diff(rail.at(between)[0], axis=0), axis=1).reshape(96, 64).sum(axis=1)
    assert np.allclose(steps, rail.length_m / 96, rtol=1e-4)
    assert np.allclose(rail.at(positions[:1])[0][0], knots[0], atol=1e-9)
    places, directions = rail.at(np.array([0.2, 0.51]))
    ahead = rail.at(np.array([0.2, 0.51]) + 1e-6)[0] - places
    assert np.allclose(ahead / np.linalg.norm(ahead, axis=1, keepdims=True), directions, atol=1e-3)


def test_a_rail_runs_through_its_points_and_a_closed_one_goes_on_round() -> None:
    rail = Rail(points=POINTS, closed=True)
    for point in POINTS:
        assert np.linalg.norm(rail.at(np.array([rail.nearest(np.array(point))]))[0][0] - point) < 1e-3
    assert np.allclose(rail.at(np.array([1.3]))[0], rail.at(np.array([0.3]))[0])
    smooth = np.linalg.norm(np.diff(rail.at(np.linspace(0.99, 1.01, 200))[1], axis=0), axis=1)
    assert smooth.max() < 0.02, "no corner where it closes"
    straight = Rail(points=((0, 0, 0), (0, 0, 5)))
    assert np.allclose(straight.at(np.array([0.25, 2.0]))[0], [[0, 0, 1.25], [0, 0, 5]])


def test_the_spline_is_the_centripetal_one() -> None:
    knots = np.array(POINTS)
    padded = np.vstack([2 * knots[0] - knots[1], knots, 2 * knots[-1] - knots[-2]])
    times = np.concatenate([[0], np.cumsum(np.sqrt(np.linalg.norm(np.diff(padded, axis=0), axis=1)))])

    def barry_goldman(segment: int, t: float) -> Floats:
        p, q = padded[segment : segment + 4], times[segment : segment + 4]
        for order in (1, 2, 3):
            p = np.array(
                [
                    ((q[i + order] - t) * p[i] + (t - q[i]) * p[i + 1]) / (q[i + order] - q[i])
                    if order == 1
                    else _blend(p, q, i, order, t)
                    for i in range(4 - order)
                ]
            )
        return p[0]

    def _blend(p: Floats, q: Floats, i: int, order: int, t: float) -> Floats:
        low, high = (q[i], q[i + order]) if order != 2 else (q[i], q[i + 2])
        if order == 3:
            low, high = q[1], q[2]
        return ((high - t) * p[i] + (t - low) * p[i + 1]) / (high - low)

    rail = Rail(points=POINTS)
    fine = rail.at(np.linspace(0, 1, 20001))[0]
    for segment in range(3):
        for share in (0.2, 0.5, 0.9):
            t = times[segment + 1] + share * (times[segment + 2] - times[segment + 1])
            assert np.linalg.norm(fine - barry_goldman(segment, t), axis=1).min() < 2e-3


def test_bumps_and_height_lift_the_head() -> None:
    surroundings = Stage({})
    rail = Rail(points=((0, 0, 0), (10, 0, 0)), height_m=0.5, bumps=(Bump(0.5, 0.04, 1.0),))
    positions = np.linspace(0, 1, surroundings.frames.count)
    lift = rail.world_from_mount({"rail": positions}, surroundings)[:, 1, 3]
    assert lift.max() == pytest.approx(0.54, abs=2e-3)
    away = np.abs(positions - 0.5) * 10
    assert np.allclose(lift[away > 0.5], 0.5)
    assert np.allclose(lift[away < 0.5], 0.5 + 0.02 * (1 + np.cos(2 * np.pi * away[away < 0.5])), atol=1e-12)


@pytest.mark.parametrize(
    "wrong",
    [
        lambda: Rail(points=((0, 0, 0),)),
        lambda: Rail(points=((0, 0, 0), (0, 0, 0))),
        lambda: Rail(points=((0, 0, 0), (1, 0, 0)), closed=True),
        lambda: Rail(points=((0, 0, float("nan")), (1, 0, 0))),
        lambda: Bump(0.5, 0.1, 0.0),
        lambda: Trailing(half_life_s=-1),
        lambda: Carried(turn=(0, 0, 0, 0)),
        lambda: Crane(base=(float("inf"), 0, 0)),
    ],
)
def test_mounts_that_cannot_be_are_refused(wrong: object) -> None:
    with pytest.raises(DomainError):
        wrong()  # type: ignore[operator]


# --- crane and orbit ---


def test_a_crane_by_hand() -> None:
    surroundings = Stage({})
    ones = np.ones(surroundings.frames.count)
    values = {"arm_pitch": 30 * ones, "arm_yaw": 90 * ones, "arm_length": 2 * ones}
    level = Crane(base=(1, 2, 3)).world_from_mount(values, surroundings)[0]
    # Heading 0 looks along -Z; yaw 90 to the right is +X, 30 degrees up.
    assert np.allclose(level[:3, 3], [1 + 2 * np.cos(np.pi / 6), 2 + 1, 3])
    assert np.allclose(level[:3, :3], np.eye(3)), "the head stays level and keeps its own heading"
    following = Crane(base=(1, 2, 3), follow_pitch=True, follow_yaw=True).world_from_mount(values, surroundings)[0]
    assert np.allclose(-following[:3, 2], [np.cos(np.pi / 6), 0.5, 0]), "along the arm"


def test_an_orbit_counts_from_the_front_and_looks_at_its_pivot() -> None:
    surroundings = Stage({"head": wandering(3)}, front=(1.0, 0.0, 0.0))
    ones = np.ones(surroundings.frames.count)
    values = {"azimuth": 90 * ones, "elevation": 30 * ones, "distance": 4 * ones}
    found = Orbit(pivot=joint()).world_from_mount(values, surroundings)
    pivot = surroundings.joints["head"](surroundings.seconds)[:, :3, 3]
    # It faces +X: its left is -Z.
    assert np.allclose(found[:, :3, 3] - pivot, [0, 2, -4 * np.cos(np.pi / 6)])
    toward = transforms.normalized(pivot - found[:, :3, 3], (0, 0, 1))
    assert np.allclose(-found[:, :3, 2], toward)


# --- carried and trailing ---


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


def test_a_rail_that_goes_straight_up_keeps_its_heading() -> None:
    points = ((0.0, 1.0, 0.0), (1.0, 1.0, -1.0), (2.0, 1.5, -2.0), (2.0, 3.0, -2.0), (2.0, 4.5, -2.0), (2.0, 6.0, -2.0))
    rail = Rail(points=points, facing="along")
    surroundings = Stage({"head": wandering(3)}, FrameRange(1, 200))
    for positions in (np.linspace(0, 1, 200), np.linspace(1, 0, 200)):
        turns = rail.world_from_mount({"rail": positions}, surroundings)[:, :3, :3]
        pan = transforms.angles_from_rotation(turns)[:, 0]
        assert np.abs(np.diff(pan)).max() < 12, "no flip anywhere"
    _, direction = rail.at(np.linspace(0.7, 1, 20))
    assert (np.hypot(direction[:, 0], direction[:, 2]) < 0.01).any(), "it does stand upright"
    mast = Rail(points=((0.0, 0.0, 0.0), (0.0, 2.0, 0.0), (0.0, 4.0, 0.0)), facing="along")
    assert np.allclose(mast.world_from_mount({"rail": np.linspace(0, 1, 200)}, surroundings)[:, :3, :3], np.eye(3))


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


# --- rails laid in one action ---
