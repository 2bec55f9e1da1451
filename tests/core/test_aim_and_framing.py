"""Aims and framing locks: closed forms against SciPy's rotations and OpenCV's projection, exactness over whole ranges."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

import cv2
import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation

from eddyfield.core import edits
from eddyfield.core.arrays import Floats
from eddyfield.core.cameras.aim import Aim, aim_directions, turn_towards
from eddyfield.core.cameras.camera import Camera, FilmBack, Glass
from eddyfield.core.cameras.camera_channels import camera_channels
from eddyfield.core.cameras.camera_frames import CameraFrames, camera_frames
from eddyfield.core.cameras.dolly_zoom import apparent_sizes_px
from eddyfield.core.cameras.framing import Framing, SizeHold
from eddyfield.core.cameras.mounts import Orbit
from eddyfield.core.cameras.subjects import Subject, Target, group_of, place_of
from eddyfield.core.errors import DomainError
from eddyfield.core.optics.lens import DeliveryFrame, inside_frame
from eddyfield.core.rig import transforms
from eddyfield.core.shots import face_of
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.ease import EASES, eased, share_between
from eddyfield.core.time.frames import FrameTime
from eddyfield.core.time.keys import Key
from eddyfield.demo import mill_race

from .scenery import SCENE, baker
from .surroundings import WHO, Stage, joint, wandering

HD = DeliveryFrame()
AROUND = Stage({"head": wandering(1), "hips": wandering(2)})


def drifting(seed: int, **settings: object) -> Camera:
    """A camera some metres before the origin that drifts, turns, rolls and zooms."""
    rng = np.random.default_rng(seed)

    def channel(middle: float, reach: float) -> Channel:
        times = (1001, 1020, 1044, 1072)
        return Channel(0, tuple(Key(FrameTime(t), middle + reach * rng.uniform(-1, 1)) for t in times))

    channels = camera_channels(
        x=channel(0, 2), y=channel(1.5, 1), z=channel(8, 1), pan=channel(0, 20), tilt=channel(0, 10),
        roll=channel(0, 25), focal_mm=channel(50, 20),
    )  # fmt: skip
    return Camera("c", "c", channels=channels, **settings)  # type: ignore[arg-type]


def seen(found: CameraFrames, points: Floats) -> Floats:
    """By OpenCV: camera axes turned to y down, z ahead."""
    flip = np.diag([1.0, -1.0, -1.0])
    out = []
    slope_x, slope_y = (np.broadcast_to(s, len(points)) for s in found.path.lens.pixels_per_slope(found.path.delivery))
    lens, delivery = found.path.lens, found.path.delivery
    for row, point in enumerate(points):
        inverse = np.linalg.inv(found.path.world_from_camera[row])
        matrix = np.array(
            [
                [slope_x[row], 0, delivery.width * (0.5 + np.asarray(lens.shift_x))],
                [0, slope_y[row], delivery.height * (0.5 - np.asarray(lens.shift_y))],
                [0, 0, 1],
            ],
            dtype=float,
        )
        turn, _ = cv2.Rodrigues(flip @ inverse[:3, :3])
        out.append(cv2.projectPoints(point.reshape(1, 3), turn, flip @ inverse[:3, 3], matrix, None)[0].ravel())
    return np.array(out)


# --- eases and subjects ---


@given(st.sampled_from(EASES), st.floats(-1, 2))
def test_eases_run_from_nothing_to_all(ease: Literal["even"], share: float) -> None:
    ends = eased(np.array([0.0, 1.0, share, share + 0.01]), ease)
    assert ends[:2].tolist() == [0.0, 1.0]
    assert 0 <= ends[2] <= ends[3] <= 1
    assert share_between(np.array([9.0, 10, 11]), 10, 10, ease).tolist() == [0, 1, 1]


def test_a_group_is_its_weighted_middle_and_holds_all_of_it() -> None:
    subjects = (joint("head", weight=3.0, radius_m=0.2), joint("hips"), Subject("point", offset=(1, 2, 3)))
    group = group_of(subjects, AROUND)
    places = [place_of(s, AROUND) for s in subjects]
    assert np.allclose(group.place, (3 * places[0] + places[1] + places[2]) / 5)
    for place, radius in zip(places, (0.2, 0, 0), strict=True):
        assert (np.linalg.norm(place - group.place, axis=1) + radius <= group.radius_m + 1e-12).all()
    head = AROUND.joints["head"](AROUND.seconds)
    turned = place_of(joint("head", offset=(0.1, 0.2, 0.3), axes="joint"), AROUND)
    assert np.allclose(turned, transforms.apply(head, np.array([0.1, 0.2, 0.3])))
    level = place_of(joint("head", offset=(0.1, 0.2, 0.3)), AROUND)
    assert np.allclose(level, head[:, :3, 3] + [0.1, 0.2, 0.3])


@pytest.mark.parametrize(
    "wrong",
    [
        lambda: Subject("joint", WHO),
        lambda: Subject("body"),
        lambda: Subject(weight=0),
        lambda: Subject(offset=(float("nan"), 0, 0)),
        lambda: Target(()),
        lambda: Target((joint(),), 20, 10),
        lambda: Aim((Target((joint(),)), Target((joint(),)))),
        lambda: Aim((Target((joint(),)), Target((joint(),), 10, 30), Target((joint(),), 20, 40))),
        lambda: Framing(()),
        lambda: Framing((joint(),), x=float("nan")),
        lambda: Framing((joint(),), slack=((2.0, 0.0),)),
        lambda: SizeHold(share=0),
        lambda: SizeHold(nearest_m=3, farthest_m=2),
        lambda: SizeHold(shortest_mm=30, longest_mm=20),
    ],
)
def test_what_cannot_be_followed_is_refused(wrong: object) -> None:
    with pytest.raises(DomainError):
        wrong()  # type: ignore[operator]


# --- aim ---

unit = (
    st.tuples(*[st.floats(-1, 1)] * 3)
    .filter(lambda v: np.linalg.norm(v) > 0.1)
    .map(lambda v: np.array(v) / np.linalg.norm(v))
)


@settings(max_examples=200)
@given(unit, st.floats(-0.8, 0.8), st.floats(-0.8, 0.8), st.floats(-170, 170), st.floats(-500, 500))
def test_turning_brings_a_direction_onto_a_line_of_sight(
    world: Floats, x: float, y: float, roll: float, near_pan: float
) -> None:
    sight = np.array([x, y, -1.0]) / np.linalg.norm([x, y, 1])
    found = turn_towards(world[None], sight[None], np.array([roll]), np.array([near_pan]))
    rotation = Rotation.from_euler("YXZ", [[-found.pan[0], found.tilt[0], -roll]], degrees=True)
    if found.reached[0]:
        assert np.allclose(rotation.apply(sight)[0], world, atol=1e-7)
    else:
        # The nearest that pan and tilt can do is no farther than any other tilt tried.
        pans, tilts = (a.ravel() for a in np.meshgrid(np.linspace(-180, 180, 73), np.linspace(-90, 90, 37)))
        angles = np.column_stack([-pans, tilts, np.full(len(pans), -roll)])
        tried = Rotation.from_euler("YXZ", angles, degrees=True).apply(sight) @ world
        assert rotation.apply(sight)[0] @ world >= tried.max() - 1e-6
    assert abs(found.pan[0] - near_pan) <= 360


def test_straight_up_the_pan_stays_and_what_is_out_of_reach_is_told() -> None:
    up = np.array([[0.0, 1.0, 0.0]])
    axis = np.array([[0.0, 0.0, -1.0]])
    found = turn_towards(up, axis, np.zeros(1), np.array([77.0]))
    assert (found.pan[0], found.tilt[0], bool(found.reached[0])) == (77.0, pytest.approx(90.0), True)
    beside = np.array([[0.6, 0.0, -0.8]])
    assert not turn_towards(up, beside, np.zeros(1), np.zeros(1)).reached[0], (
        "right of the middle nothing is straight up"
    )


@settings(max_examples=25, deadline=None)
@given(st.integers(0, 1000))
def test_an_aim_turns_pan_and_tilt_and_keeps_the_roll(seed: int) -> None:
    plain, aimed = drifting(seed), drifting(seed, aim=Aim((Target((joint(),)),)))
    before, after = (camera_frames(c, AROUND, HD) for c in (plain, aimed))
    assert np.allclose(seen(after, place_of(joint(), AROUND)), [960, 540], atol=1e-6)
    assert np.allclose(after.pose[:, [0, 1, 2, 5, 6]], before.pose[:, [0, 1, 2, 5, 6]])
    half = camera_frames(replace(aimed, channels=aimed.channels.having(aim_weight=Channel(0.0))), AROUND, HD)
    assert np.allclose(half.path.world_from_camera, before.path.world_from_camera, atol=1e-9), "weight 0 is no aim"


def test_a_hand_over_goes_from_one_direction_to_the_other() -> None:
    place = np.broadcast_to([0.0, 1.5, 8.0], (AROUND.frames.count, 3))
    one, other = (aim_directions(Aim((Target((joint(n),)),)), place, AROUND) for n in ("head", "hips"))
    both = aim_directions(Aim((Target((joint("head"),)), Target((joint("hips"),), 1020, 1040, "even"))), place, AROUND)
    assert np.allclose(both[:20], one[:20])
    assert np.allclose(both[39:], other[39:])
    whole = np.degrees(np.arccos(np.clip((one[29] * other[29]).sum(), -1, 1)))
    part = np.degrees(np.arccos(np.clip((one[29] * both[29]).sum(), -1, 1)))
    assert part == pytest.approx(whole / 2, abs=1e-6), "half of the frames, half of the angle"


# --- framing lock ---

lenses = st.builds(
    lambda squeeze, sx, sy: (FilmBack(24.89, 18.66, "crop", squeeze), Glass(shift_x=sx, shift_y=sy)),
    st.sampled_from([1.0, 2.0]), st.floats(-0.2, 0.2), st.floats(-0.2, 0.2),
)  # fmt: skip


@settings(max_examples=40, deadline=None)
@given(st.integers(0, 1000), st.floats(0.05, 0.95), st.floats(0.05, 0.95), lenses, st.sampled_from([1.0, 1.5]))
def test_a_held_joint_stays_at_its_place_to_a_thousandth_of_a_pixel(
    seed: int, x: float, y: float, lens: tuple[FilmBack, Glass], pixel_aspect: float
) -> None:
    delivery = DeliveryFrame(1440, 1080, pixel_aspect)
    camera = drifting(seed, framing=Framing((joint(),), x, y), back=lens[0], glass=lens[1])
    found = camera_frames(camera, AROUND, delivery)
    assume(found.place_reached.all())
    away = seen(found, place_of(joint(), AROUND)) - [x * 1440, y * 1080]
    assert np.abs(away).max() < 1e-3


@settings(max_examples=30, deadline=None)
@given(
    st.integers(0, 1000), st.floats(0.2, 0.8), st.floats(0.2, 0.8), st.floats(0.1, 0.7),
    st.sampled_from(["dolly", "zoom"]), st.booleans(),
)  # fmt: skip
def test_a_held_size_is_held_to_a_thousandth_by_dolly_and_by_zoom(
    seed: int, x: float, y: float, share: float, by: Literal["dolly", "zoom"], with_marks: bool
) -> None:
    marks = (joint(offset=(0, 0.4, 0)), joint(offset=(0.1, -0.4, 0))) if with_marks else None
    subject = joint(radius_m=0.4)
    size = SizeHold(by, share, marks, 0.3, 500, 2, 5000)
    found = camera_frames(drifting(seed, framing=Framing((subject,), x, y, size=size)), AROUND, HD)
    assume(found.place_reached.all())
    assert found.size_reached.all()
    assert np.abs(seen(found, place_of(subject, AROUND)) - [x * 1920, y * 1080]).max() < 1e-3
    if marks:
        measured = np.linalg.norm(np.subtract(*(seen(found, place_of(m, AROUND)) for m in marks)), axis=1)
    else:
        measured = apparent_sizes_px(found.path, group_of((subject,), AROUND))
    assert np.allclose(measured, share * 1080, rtol=1e-3)
    if by == "dolly":
        assert np.allclose(found.pose[:, 6], camera_frames(drifting(seed), AROUND, HD).pose[:, 6])
    else:
        assert np.allclose(found.pose[:, :3], camera_frames(drifting(seed), AROUND, HD).pose[:, :3])


def test_what_a_lock_cannot_reach_is_told_frame_by_frame() -> None:
    above = Stage({"head": lambda s: transforms.rigid(np.eye(3), np.stack([0 * s, 30 + 0 * s, 40 * s - 60], axis=-1))})
    camera = Camera("c", "c", framing=Framing((joint(),), 0.95, 0.5))
    found = camera_frames(replace(camera, channels=camera_channels(focal_mm=Channel(18.0))), above, HD)
    assert 0 < found.place_reached.sum() < len(found.place_reached)
    reached = seen(found, place_of(joint(), above))[found.place_reached]
    assert np.allclose(reached, [0.95 * 1920, 540], atol=1e-3)
    near = camera_frames(
        drifting(3, framing=Framing((joint(radius_m=0.3),), size=SizeHold("zoom", 0.5, longest_mm=60))), AROUND, HD
    )
    assert (~near.size_reached).any()
    assert near.pose[:, 6].max() <= 60 + 1e-6


def test_the_free_zone_holds_only_what_leaves_it() -> None:
    plain = camera_frames(drifting(5), AROUND, HD)
    alone = seen(plain, place_of(joint(), AROUND))
    framing = Framing((joint(),), 0.5, 0.5, slack=((-0.15, -0.1), (0.15, -0.1), (0.15, 0.1), (-0.15, 0.1)))
    found = camera_frames(drifting(5, framing=framing), AROUND, HD)
    shown = seen(found, place_of(joint(), AROUND))
    low, high = np.array([960 - 288, 540 - 108]), np.array([960 + 288, 540 + 108])
    assert np.allclose(shown, np.clip(alone, low, high), atol=1e-3)
    inside = ((alone > low) & (alone < high)).all(axis=1)
    assert np.allclose(found.path.world_from_camera[inside], plain.path.world_from_camera[inside], atol=1e-9)


def test_the_size_that_is_held_is_the_one_it_has() -> None:
    camera, row = SCENE.camera(mill_race.ZOOM), 29
    frame = SCENE.frames.first + row
    head = Subject("joint", SCENE.characters[0].id, "head")
    for by, subject in (("zoom", head), ("dolly", Subject("body", SCENE.characters[0].id)), ("dolly", head)):
        framing = Framing((subject,), 0.4, 0.4, size=SizeHold(by))  # type: ignore[arg-type]
        plain = edits.FrameCamera(camera_id=camera.id, framing=replace(framing, size=None), frame=frame)
        unsized = plain.apply(SCENE, baker())
        kept = edits.FrameCamera(camera_id=camera.id, framing=framing, frame=frame, keep_size=True)
        sized = kept.apply(unsized, baker(unsized))
        before, after = (baker(s).camera(s.camera(camera.id)) for s in (unsized, sized))
        assert np.allclose(after.pose[row], before.pose[row], atol=1e-6), "the picture stays"
        share = sized.camera(camera.id).framing.size.share  # type: ignore[union-attr]
        assert 0.02 < share < (2.0 if subject.kind == "body" else 0.6)


def test_weight_and_half_life_let_the_frame_breathe() -> None:
    framing = Framing((joint(),), 0.5, 0.5)
    plain, whole = camera_frames(drifting(6), AROUND, HD), camera_frames(drifting(6, framing=framing), AROUND, HD)
    off = drifting(6, framing=framing)
    off = replace(off, channels=off.channels.having(framing_weight=Channel(0.0)))
    assert np.allclose(camera_frames(off, AROUND, HD).path.world_from_camera, plain.path.world_from_camera, atol=1e-9)
    late = camera_frames(drifting(6, framing=replace(framing, half_life_s=0.2)), AROUND, HD)
    assert np.allclose(late.pose[0], whole.pose[0]), "it starts at rest where it should be"
    assert np.allclose(late.pose[:, :3], plain.pose[:, :3], atol=1e-12), "the camera itself is where its keys put it"


def test_two_characters_stay_in_the_frame_as_they_part_and_meet() -> None:
    camera = SCENE.camera(mill_race.TWO)
    found = baker().camera(camera)
    for character in SCENE.characters:
        joints = baker().joint_positions(character)
        pixels = found.path.project(joints).pixels
        assert ((pixels > [0, 0]) & (pixels < [1920, 1080])).all(), character.name
    assert np.ptp(found.pose[:, 2]) > 0.5, "it moves in and out for that"


# --- letting go, and baking ---

TWO, FRAME = mill_race.TWO, 1040


def path_of(scene: object, camera_id: str = TWO) -> Floats:
    return baker(scene).camera_path(scene.camera(camera_id)).world_from_camera  # type: ignore[arg-type, attr-defined]


@pytest.mark.parametrize("keyed", [False, True])
def test_letting_go_keeps_the_picture_of_the_frame(keyed: bool) -> None:
    scene = SCENE
    if keyed:
        scene = edits.KeyCamera(camera_id=TWO, time=FrameTime(1010)).apply(scene, baker(scene))
    let_go = edits.FrameCamera(camera_id=TWO, framing=None, frame=FRAME).apply(scene, baker(scene))
    assert np.allclose(path_of(let_go)[FRAME - 1001], path_of(scene)[FRAME - 1001], atol=1e-9)
    assert bool(let_go.camera(TWO).unkeyed) == keyed
    crane = edits.AimCamera(camera_id=mill_race.CRANE, aim=None, frame=1080).apply(SCENE, baker())
    assert np.allclose(path_of(crane, mill_race.CRANE)[79], path_of(SCENE, mill_race.CRANE)[79], atol=1e-9)
    with pytest.raises(DomainError, match="nothing"):
        edits.FrameCamera(camera_id=TWO, framing=None, frame=FRAME).apply(let_go, baker(let_go))


@pytest.mark.parametrize("camera_id", [mill_race.TWO, mill_race.CRANE, mill_race.FACE, mill_race.BANK])
def test_baking_gives_the_same_picture(camera_id: str) -> None:
    scene = edits.LockCamera(camera_id=camera_id, locks=()).apply(SCENE)
    every = edits.BakeCamera(camera_id=camera_id, first=1001, last=1096).apply(scene, baker(scene))
    assert np.allclose(path_of(every, camera_id), path_of(SCENE, camera_id), atol=1e-7)
    few = edits.BakeCamera(camera_id=camera_id, first=1001, last=1096, error_px=0.5).apply(scene, baker(scene))
    baked = few.camera(camera_id)
    assert (baked.mount.kind, baked.aim, baked.framing) == ("free", None, None)
    most = 90 if camera_id == mill_race.FACE else 60  # a head seen from near by moves on every frame
    assert len(baked.channels["x"].keys) < most < len(every.camera(camera_id).channels["x"].keys) == 96
    for channel in baked.channels.values():
        for number in (n for k in channel.keys for h in (k.handle_in, k.handle_out) if h for n in (h.frames, h.value)):
            assert type(number) is float, "plain numbers, as the store takes them"
    # Every face and joint that is in the frame stays within half a pixel of where it was, on every frame.
    now, then = baker(scene).camera(scene.camera(camera_id)).path, baker(few).camera_path(baked)
    for character in SCENE.characters:
        face = face_of(baker(), character)
        middle = transforms.apply(
            transforms.orthonormal(baker().joint_frames(character.id, face.joint, "motion")), face.centre
        )
        points = np.concatenate([middle[:, None], baker().joint_positions(character)], axis=1)
        seen = now.project(points)
        moved = np.linalg.norm(then.project(points).pixels - seen.pixels, axis=-1)
        assert np.nanmax(np.where(inside_frame(seen, HD), moved, 0.0), initial=0.0) < 0.55, character.name
    # What nobody set does not count: another focus distance changes no key.
    far = scene.with_camera(replace(scene.camera(camera_id), focus=None))
    channels = far.camera(camera_id).channels.having(focus_m=Channel(300.0))
    far = far.with_camera(replace(far.camera(camera_id), channels=channels))
    if scene.camera(camera_id).focus is None:
        again = (
            edits.BakeCamera(camera_id=camera_id, first=1001, last=1096, error_px=0.5)
            .apply(far, baker(far))
            .camera(camera_id)
        )
        assert again.channels["x"] == baked.channels["x"]


def test_an_orbit_around_a_followed_pivot_and_an_aim_work_together() -> None:
    mount = Orbit(pivot=Subject("joint", mill_race.ODA, "hips"))
    scene = edits.MountCamera(camera_id=mill_race.CRANE, mount=mount, frame=1020).apply(SCENE, baker())
    camera = scene.camera(mill_race.CRANE)
    chest = baker(scene).joint_frames(mill_race.ODA, "chest", "motion")[:, :3, 3]
    assert np.allclose(baker(scene).camera_path(camera).project(chest).pixels, [960, 540], atol=1e-6)
