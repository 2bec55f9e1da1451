"""Framing locks that are soft, weighted, free within a zone, on a parallel camera, or over a change of mount."""

from __future__ import annotations

import itertools
from dataclasses import replace
from typing import Literal

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import nnls
from scipy.spatial.transform import Rotation

from eddyfield.core import edits
from eddyfield.core.arrays import Floats
from eddyfield.core.cameras.aim import Aim
from eddyfield.core.cameras.camera import Camera, Glass
from eddyfield.core.cameras.camera_channels import POSE_NAMES, camera_channels
from eddyfield.core.cameras.camera_frames import camera_frames
from eddyfield.core.cameras.framing import Framing, SizeHold
from eddyfield.core.cameras.free_zone import nearest_in_hull, place_in_zone
from eddyfield.core.cameras.mounts import Carried, Free, Mount, Orbit, Rail
from eddyfield.core.cameras.subjects import Subject, Target, group_of
from eddyfield.core.optics.camera_path import CameraPath
from eddyfield.core.optics.lens import DeliveryFrame, Lens
from eddyfield.core.rig import transforms
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.frames import FrameRange
from eddyfield.core.time.key_reduction import keys_on_every_frame
from eddyfield.demo import mill_race

from .scenery import SCENE, baker
from .surroundings import Stage, joint
from .test_aim_and_framing import AROUND, HD, drifting

ODA_HEAD = Subject("joint", mill_race.ODA, "head")


def still(**settings: object) -> Camera:
    return Camera("c", "c", channels=camera_channels(z=Channel(0.0)), **settings)  # type: ignore[arg-type]


def circling(radius: float = 3.0, turns: float = 1.0, rise: float = 0.3) -> Stage:
    """A joint that goes round the place of a ``still`` camera, beginning in front of it."""

    def at(seconds: Floats) -> Floats:
        angle = 2 * np.pi * turns * seconds / 3.0
        place = np.stack([radius * np.sin(angle), 1.5 + rise * np.cos(3 * angle), -radius * np.cos(angle)], axis=-1)
        return transforms.rigid(np.eye(3), place)

    return Stage({"head": at}, FrameRange(1001, 1073))


# --- half-life ---


def test_a_move_that_frames_well_by_itself_is_left_exactly_as_it_is() -> None:
    hard = camera_frames(drifting(4, framing=Framing((joint(),), 0.4, 0.6)), AROUND, HD)
    frames = AROUND.frames.frames().astype(np.float64)
    keyed = keys_on_every_frame(frames, dict(zip(POSE_NAMES, hard.pose.T, strict=True)))
    camera = Camera("c", "c", channels=camera_channels(**keyed), framing=Framing((joint(),), 0.4, 0.6, half_life_s=0.7))
    soft = camera_frames(camera, AROUND, HD)
    assert np.allclose(soft.pose, hard.pose, atol=1e-9)


@pytest.mark.parametrize("by", ["dolly", "zoom"])
def test_the_correction_lags_and_the_rail_and_the_lens_do_not(by: Literal["dolly", "zoom"]) -> None:
    """On the demo's rail beside a walker: the followed correction against the follower's own recurrence."""
    size = SizeHold(by, 0.6)
    plain = SCENE.camera(mill_race.BANK)
    hold = Framing((Subject("body", mill_race.ODA),), 0.45, 0.5, size=size)
    scenes = {h: SCENE.with_camera(replace(plain, framing=replace(hold, half_life_s=h))) for h in (0.0, 0.4)}
    hard, soft = (baker(s).camera(s.camera(mill_race.BANK)) for s in scenes.values())
    alone = baker().camera(plain)
    full = np.log(hard.pose[:, 6] / alone.pose[:, 6])
    if by == "dolly":
        place = group_of(hold.subjects, baker()).place
        full = np.log(
            np.linalg.norm(hard.pose[:, :3] - place, axis=1) / np.linalg.norm(alone.pose[:, :3] - place, axis=1)
        )
    step, kept, tau = 1 / 24, 2 ** (-1 / 24 / 0.4), 0.4 / np.log(2)
    late = [full[0]]
    for before, now in itertools.pairwise(full):
        speed = (now - before) / step
        late.append(now - speed * tau + (late[-1] - before + speed * tau) * kept)
    if by == "dolly":
        off = np.linalg.norm(soft.pose[:, :3] - place, axis=1) / np.linalg.norm(alone.pose[:, :3] - place, axis=1)
        assert np.allclose(soft.pose[:, 6], alone.pose[:, 6])
    else:
        off = soft.pose[:, 6] / alone.pose[:, 6]
        assert np.allclose(soft.pose[:, :3], alone.pose[:, :3], atol=1e-12), "the camera stays on its rail"
    assert np.allclose(np.log(off), late, atol=1e-9)


def test_behind_a_steadily_turning_subject_the_lag_is_speed_times_time_constant() -> None:
    stage = circling(turns=0.4, rise=0.0)
    soft = camera_frames(still(framing=Framing((joint(),), half_life_s=0.3)), stage, HD)
    hard = camera_frames(still(framing=Framing((joint(),))), stage, HD)
    behind = (hard.pose[:, 3] - soft.pose[:, 3])[-5:]
    assert np.allclose(behind, 0.4 * 360 / 3.0 * 0.3 / np.log(2), atol=0.05)


MOUNTS: list[Mount] = [
    Free(),
    Orbit(pivot=Subject("joint", mill_race.ODA, "hips")),
    Rail(points=((-3.0, 1.2, 6.0), (3.0, 1.4, 6.0))),
    Carried(subject=Subject("joint", mill_race.ODA, "chest")),
]


@pytest.mark.parametrize("mount", MOUNTS, ids=lambda m: m.kind)
@pytest.mark.parametrize("weight", [1.0, 0.6])
@pytest.mark.parametrize("frame", [1003, 1040, 1090])
def test_a_change_of_mount_under_a_soft_lock_keeps_the_picture(mount: Mount, weight: float, frame: int) -> None:
    camera = replace(
        SCENE.camera(mill_race.BANK),
        locks=(),
        framing=Framing((ODA_HEAD,), 0.4, 0.35, half_life_s=0.5, size=SizeHold("zoom", 0.2)),
    )
    camera = replace(camera, framing=replace(camera.framing, subjects=(replace(ODA_HEAD, radius_m=0.2),)))  # type: ignore[type-var]
    camera = replace(camera, channels=camera.channels.having(framing_weight=Channel(weight)))
    scene: Scene = SCENE.with_camera(camera)
    changed = edits.MountCamera(camera_id=camera.id, mount=mount, frame=frame).apply(scene, baker(scene))
    row = frame - 1001
    before = baker(scene).camera(camera)
    after = baker(changed).camera(changed.camera(camera.id))
    points = baker().joint_positions(SCENE.characters[0])[row : row + 1]
    one, other = (f.path.at_rows(np.array([row])).project(points).pixels for f in (before, after))
    assert np.abs(one - other).max() < 1e-6
    again = edits.MountCamera(camera_id=camera.id, mount=Free(), frame=frame).apply(changed, baker(changed))
    third = baker(again).camera(again.camera(camera.id)).path.at_rows(np.array([row])).project(points).pixels
    assert np.abs(one - third).max() < 1e-6


# --- weight ---


@pytest.mark.parametrize("weight", [0.25, 0.5, 0.9])
@pytest.mark.parametrize("half_life", [0.0, 0.2])
def test_a_weighted_lock_never_spins_as_its_subject_circles_behind(weight: float, half_life: float) -> None:
    stage = circling(turns=2.0)
    camera = still(framing=Framing((joint(),), 0.6, 0.45, half_life_s=half_life))
    camera = replace(camera, channels=camera.channels.having(framing_weight=Channel(weight)))
    found = camera_frames(camera, stage, HD)
    steps = Rotation.from_matrix(
        np.swapaxes(found.path.world_from_camera[:-1, :3, :3], 1, 2) @ found.path.world_from_camera[1:, :3, :3]
    ).magnitude()
    subject_step = np.radians(2.0 * 360 / 72)
    assert steps.max() < 1.4 * subject_step


def test_a_weight_takes_its_share_of_the_turn() -> None:
    plain, whole = (camera_frames(drifting(9, framing=f), AROUND, HD) for f in (None, Framing((joint(),), 0.3, 0.6)))
    camera = drifting(9, framing=Framing((joint(),), 0.3, 0.6))
    camera = replace(camera, channels=camera.channels.having(framing_weight=Channel(0.5)))
    half = camera_frames(camera, AROUND, HD)

    def angle(a: Floats, b: Floats) -> Floats:
        ahead = (m[:, :3, 2] for m in (a, b))
        return np.asarray(np.arccos(np.clip(np.einsum("fi,fi->f", *ahead), -1, 1)))

    from_own, to_full = (angle(half.path.world_from_camera, other.path.world_from_camera) for other in (plain, whole))
    assert np.allclose(from_own, to_full, atol=0.02)
    assert np.allclose(half.pose[:, 3:5], (plain.pose + whole.pose)[:, 3:5] / 2)
    assert np.allclose(half.pose[:, 5], plain.pose[:, 5]), "the roll stays the camera's own"


# --- free zone ---


@settings(max_examples=60)
@given(
    st.floats(-3, 3), st.floats(0.2, 1), st.floats(0.2, 0.8), st.floats(0.2, 0.8), st.floats(0, 0.5), st.floats(0, 0.5)
)
def test_nothing_jumps_as_a_subject_walks_past(
    aside: float, up: float, x: float, y: float, zone_x: float, zone_y: float
) -> None:
    if abs(aside) < 0.1:
        aside = 0.5
    middle, half = np.array([x * 1920, y * 1080]), np.array([zone_x * 1920, zone_y * 1080]) / 2

    def wanted(count: int) -> Floats:
        ahead = np.linspace(3, -3, count)
        anchor = np.stack([np.full(count, aside), up + 0.3 * np.sin(ahead), -ahead], axis=-1)
        alone = CameraPath(np.broadcast_to(np.eye(4), (count, 4, 4)), Lens(35.0), HD)
        corners = np.array([(-1, -1), (1, -1), (1, 1), (-1, 1)]) * half
        return place_in_zone(alone, anchor, middle + corners)

    coarse, fine = (np.abs(np.diff(wanted(n), axis=0)).max() for n in (2001, 20001))
    assert fine <= max(0.25 * coarse, 0.1), "ever smaller with smaller steps: no jump at all"
    places = wanted(2001)
    assert (places >= middle - half - 1e-9).all()
    assert (places <= middle + half + 1e-9).all()
    aside_px = 35 / 36 * 1920 * abs(aside) / 3
    if aside_px > 960 + half[0]:  # never within the mirrored zone
        edge = middle[0] + half[0] * np.sign(aside)
        assert np.allclose(places[1001:, 0], edge), "behind the camera it is the edge on the side where it left"


@settings(max_examples=60)
@given(st.lists(st.tuples(st.integers(0, 50), st.integers(0, 50)), min_size=1, max_size=9), st.integers(0, 2**32 - 1))
def test_the_nearest_place_in_a_room_of_any_shape(corners: list[tuple[int, int]], seed: int) -> None:
    places = np.random.default_rng(seed).uniform(-30, 80, (20, 2))
    points = np.array(corners, dtype=np.float64)
    found = nearest_in_hull(places, points)
    # By brute force: shares of the corners that come nearest, by a solver that knows nothing of edges.
    for place, nearest in zip(places[:5], found[:5], strict=True):
        great = 1e4  # the shares have to add up to one
        system = np.vstack([points.T, np.full(len(points), great)])
        shares, _ = nnls(system, np.append(place, great))
        assert np.linalg.norm(nearest - place) <= np.linalg.norm(points.T @ shares / shares.sum() - place) + 1e-3
        inside, _ = nnls(system, np.append(nearest, great))
        assert np.allclose(points.T @ inside / inside.sum(), nearest, atol=1e-3), "it is within the room"


def test_a_walker_past_the_camera_leaves_no_jump_in_the_picture() -> None:
    """Oda walks past a camera on the stones: the lock's turn per frame stays a turn, never a jerk."""
    camera = replace(
        SCENE.camera(mill_race.BANK),
        mount=Free(),
        aim=None,
        framing=Framing((ODA_HEAD,), slack=((-0.2, -0.15), (0.2, -0.15), (0.2, 0.15), (-0.2, 0.15))),
        unkeyed=(),
        channels=camera_channels(x=Channel(-1.0), y=Channel(1.0), z=Channel(1.5), pan=Channel(10.0)),
    )
    scene = SCENE.with_camera(camera)
    found = baker(scene).camera(camera)
    wanted = np.abs(np.diff(found.wanted_px, axis=0)).max(axis=1)  # type: ignore[call-overload]
    assert wanted.max() < 120, "the place that is held"


# --- parallel cameras ---


@settings(max_examples=30)
@given(st.integers(0, 500), st.floats(0.1, 0.9), st.floats(0.1, 0.9), st.sampled_from([1.0, 1.5]))
def test_a_parallel_camera_slides_to_hold_its_subject(seed: int, x: float, y: float, pixel_aspect: float) -> None:
    delivery = DeliveryFrame(1440, 1080, pixel_aspect)
    glass = Glass(orthographic_height_m=3.0, shift_x=0.1)
    camera = drifting(seed, framing=Framing((joint(),), x, y), glass=glass)
    found = camera_frames(camera, AROUND, delivery)
    alone = camera_frames(replace(camera, framing=None), AROUND, delivery)
    place = AROUND.joints["head"](AROUND.seconds)[:, :3, 3]
    local = transforms.apply(transforms.rigid_inverse(found.path.world_from_camera), place)
    pixels = np.stack([1440 * 0.6 + local[:, 0] * 1080 / 3 / pixel_aspect, 540 - local[:, 1] * 1080 / 3], axis=-1)
    assert np.abs(pixels - [x * 1440, y * 1080]).max() < 1e-6
    assert np.allclose(found.path.world_from_camera[:, :3, :3], alone.path.world_from_camera[:, :3, :3])
    moved = found.pose[:, :3] - alone.pose[:, :3]
    assert np.abs(np.einsum("fi,fi->f", moved, alone.path.world_from_camera[:, :3, 2])).max() < 1e-9
    assert (found.place_reached == (-local[:, 2] > 0.01)).all()


@pytest.mark.parametrize("marks", [False, True])
def test_a_parallel_camera_holds_a_size_by_the_height_of_its_view(marks: bool) -> None:
    ends = (joint(offset=(0, 0.4, 0)), joint(offset=(0.3, -0.4, 0.1))) if marks else None
    hold = Framing((joint(radius_m=0.5),), size=SizeHold("dolly", 0.4, ends))
    camera = drifting(2, framing=hold, glass=Glass(orthographic_height_m=3.0))
    found = camera_frames(camera, AROUND, HD)
    assert found.size_reached.all()
    assert found.view_height_m is not None
    if ends is None:
        assert np.allclose(2 * 0.5 / found.view_height_m, 0.4)
        return
    pixels = [found.path.project(group_of((e,), AROUND).place).pixels for e in ends]
    assert np.allclose(np.linalg.norm(pixels[0] - pixels[1], axis=1), 0.4 * 1080, rtol=1e-9)


# --- through the zenith ---


def test_an_aim_through_the_zenith_keeps_its_pan_where_none_is_told() -> None:
    def over(seconds: Floats) -> Floats:
        place = np.stack([0 * seconds, 1.5 + 4.0 + 0 * seconds, 3.0 - 3.0 * seconds], axis=-1)
        return transforms.rigid(np.eye(3), place)

    stage = Stage({"head": over}, FrameRange(1, 49))
    channels = camera_channels(x=Channel(0.0), z=Channel(0.0), pan=Channel(77.0), roll=Channel(5.0))
    camera = Camera("c", "c", channels=channels, aim=Aim((Target((joint(),)),)))
    pose = camera_frames(camera, stage, HD).pose
    overhead = int(np.argmin(np.abs(3.0 - 3.0 * stage.seconds)))
    assert pose[overhead, 4] == pytest.approx(90.0)
    assert pose[overhead, 3] == pytest.approx(pose[overhead - 1, 3]), "not the mount's"
    assert np.allclose(pose[:, 5], 5.0)
