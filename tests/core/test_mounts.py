"""Mounts: each keeps the picture when it is changed to; rails run evenly; trailing does not depend on the rate."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from eddyfield.core import edits
from eddyfield.core.arrays import Floats
from eddyfield.core.cameras.camera import Camera, CameraPose
from eddyfield.core.cameras.mounts import MOUNTS as KINDS
from eddyfield.core.cameras.mounts import Bump, Carried, Crane, Free, Mount, Orbit, Rail, Trailing
from eddyfield.core.cameras.subjects import Subject
from eddyfield.core.errors import DomainError
from eddyfield.core.rig import transforms
from eddyfield.core.scene import Scene
from eddyfield.core.time.frames import FrameRange
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
