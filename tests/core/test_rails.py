"""Rails laid in one action, run evenly, and exchanged for an orbit."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from scipy.spatial.transform import Rotation

from eddyfield.core import edits
from eddyfield.core.arrays import Floats
from eddyfield.core.cameras.camera import CameraPose
from eddyfield.core.cameras.mounts import Rail
from eddyfield.core.cameras.subjects import Subject
from eddyfield.core.errors import DomainError
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.keys import Key
from eddyfield.demo import mill_race

from .scenery import SCENE, baker

CAMERA = mill_race.ZOOM


HEAD, HIPS = Subject("joint", mill_race.ODA, "head"), Subject("joint", mill_race.ODA, "hips")


def world_at(scene: object, frame: int) -> Floats:
    path = baker(scene).camera_path(scene.camera(CAMERA))  # type: ignore[arg-type, attr-defined]
    return np.asarray(path.world_from_camera[frame - 1001])


FREE = edits.AimCamera(camera_id=CAMERA, aim=None, frame=1001).apply(SCENE, baker())


@pytest.mark.parametrize("shape", ["straight", "ring", "square", "beside the path"])
def test_rails_laid_in_one_action(shape: edits.RailShape) -> None:
    before = world_at(FREE, 1050)
    scene = edits.LayRail(camera_id=CAMERA, shape=shape, frame=1050, character_id=mill_race.ODA).apply(
        FREE, baker(FREE)
    )
    rail = scene.camera(CAMERA).mount
    assert isinstance(rail, Rail)
    assert np.allclose(world_at(scene, 1050), before, atol=1e-9), "the picture is kept"
    assert rail.closed == (shape in ("ring", "square"))
    nearest = rail.at(np.array([rail.nearest(before[:3, 3])]))[0][0]
    beside = shape == "beside the path"
    assert np.linalg.norm(nearest - before[:3, 3]) < (0.15 if beside else 1e-3), "it runs through the camera"
    way = rail.at(np.linspace(0, 1, 400))[0]
    low, high = baker().body_bounds(mill_race.ODA, "motion")
    middle = (low + high) / 2
    if shape == "ring":
        radius = np.hypot(*(way - middle[49])[:, [0, 2]].T)
        assert np.ptp(radius) < 0.03 * radius.mean()
    if shape == "square":
        out = (before[:3, 3] - middle[49]) * [1, 0, 1]
        turned = Rotation.from_euler("y", -np.degrees(np.arctan2(out[0], out[2])), degrees=True)
        square = turned.apply((way - middle[49]) * [1, 0, 1])[:, [0, 2]] / np.hypot(out[0], out[2])
        side = np.abs(square).max(axis=-1)
        assert side.min() > 0.9, "near the square all along its rounded corners"
        assert side.max() < 1.02
        sides = np.abs(square).min(axis=-1) < 0.5
        assert np.allclose(side[sides], 1, atol=0.015), "straight sides"
        assert 1.2 < np.hypot(*square.T).max() < 1.38, "rounded corners"
        assert 0 <= scene.camera(CAMERA).channels["rail"].default < 1


@pytest.mark.parametrize("side_m", [2.5, -4.0])
def test_a_rail_is_laid_beside_the_path_and_the_camera_put_on_it(side_m: float) -> None:
    scene = edits.LayRail(
        camera_id=CAMERA, shape="beside the path", frame=1050, character_id=mill_race.ODA, side_m=side_m
    ).apply(FREE, baker(FREE))
    rail = scene.camera(CAMERA).mount
    assert isinstance(rail, Rail)
    low, high = baker().body_bounds(mill_race.ODA, "motion")
    middle, way = (low + high) / 2, rail.at(np.linspace(0, 1, 400))[0]
    away = np.array([np.hypot(*(middle - p)[:, [0, 2]].T).min() for p in way])
    assert np.allclose(away, abs(side_m), atol=0.12)
    assert (np.sign(way[:, 0]) == np.sign(side_m)).all(), "her left is +X"
    steps = np.diff(way[:, [0, 2]], axis=0)
    assert np.ptp(np.degrees(np.arctan2(*steps.T))) < 5, "straight on, without her sway"
    world = world_at(scene, 1050)
    assert np.abs(way - world[:3, 3]).sum(axis=-1).min() < 0.02, "it stands on the rail"
    hips = baker().joint_frames(mill_race.ODA, "hips", "motion")[49, :3, 3]
    assert np.hypot(*(world[:3, 3] - hips)[[0, 2]]) == pytest.approx(abs(side_m), abs=0.05), "beside her"
    to_her = middle[49] - world[:3, 3]
    assert np.allclose(-world[:3, 2], to_her / np.linalg.norm(to_her), atol=1e-9), "and looks at her"
    locked = edits.LockCamera(camera_id=CAMERA, locks=("angles",)).apply(FREE)
    with pytest.raises(DomainError, match="locked"):
        edits.LayRail(
            camera_id=CAMERA, shape="beside the path", frame=1050, character_id=mill_race.ODA, side_m=side_m
        ).apply(locked, baker(locked))


def test_a_rail_beside_the_path_needs_a_side() -> None:
    low, high = baker().body_bounds(mill_race.ODA, "motion")
    ahead = (low + high)[49] / 2 + [0.1, 0, 1.0]
    pose = CameraPose(*ahead, 0.0, 0.0, 0.0, 35.0)
    scene = edits.PlaceCamera(camera_id=CAMERA, pose=pose, frame=1050).apply(FREE, baker(FREE))
    with pytest.raises(DomainError, match="own way"):
        edits.LayRail(camera_id=CAMERA, shape="beside the path", frame=1050, character_id=mill_race.ODA).apply(
            scene, baker(scene)
        )


def drawn(stroke: Floats) -> tuple[Rail, Floats]:
    """The rail along a stroke, and where its camera stands and how it is turned."""
    edit = edits.LayRail(
        camera_id=CAMERA, shape="drawn", frame=1050, stroke=tuple((float(x), float(z)) for x, z in stroke)
    )
    scene = edit.apply(FREE, baker(FREE))
    rail = scene.camera(CAMERA).mount
    assert isinstance(rail, Rail)
    return rail, world_at(scene, 1050)


def test_a_drawn_rail_follows_the_stroke_without_its_tremble() -> None:
    t = np.linspace(0, 1, 80)
    meant = np.stack([4 * t - 2, 5 + np.sin(3 * t)], axis=-1)
    stroke = meant + np.random.default_rng(2).normal(0, 0.02, meant.shape)
    rail, world = drawn(stroke)
    track = rail.at(np.linspace(0, 1, 400))[0]
    off = np.linalg.norm(track[:, None, [0, 2]] - meant[None], axis=-1).min(axis=1)
    assert off.max() < 0.08
    assert len(rail.points) <= 8
    assert not rail.closed
    before = world_at(FREE, 1050)
    assert np.allclose(track[:, 1], before[1, 3], atol=1e-6), "at the camera's height"
    assert np.linalg.norm(track - world[:3, 3], axis=1).min() < 0.02, "the camera stands on it"
    assert np.allclose(world[:3, :3], before[:3, :3]), "turned as it was"


def test_a_stroke_that_ends_where_it_began_is_a_ring() -> None:
    turn = np.linspace(0, 2 * np.pi * 0.99, 60)
    rail, _ = drawn(np.stack([3 * np.cos(turn), 2 + 3 * np.sin(turn)], axis=-1))
    assert rail.closed
    assert np.allclose(np.hypot(*(rail.at(np.linspace(0, 1, 100))[0][:, [0, 2]] - [0, 2]).T), 3, atol=0.12)


@pytest.mark.parametrize("stroke", [[], [(1.0, 1.0)], [(1.0, 1.0), (1.0, 1.1)], [(1.0, 1.0)] * 40])
def test_a_stroke_without_a_length_is_refused(stroke: list[tuple[float, float]]) -> None:
    with pytest.raises(DomainError, match="no length"):
        drawn(np.array(stroke).reshape(-1, 2))


def test_running_a_rail_evenly() -> None:
    scene = edits.LayRail(camera_id=CAMERA, shape="straight", frame=1050).apply(FREE, baker(FREE))
    scene = edits.RunRail(camera_id=CAMERA, first=1001, last=1096).apply(scene, baker(scene))
    place = baker(scene).camera_path(scene.camera(CAMERA)).world_from_camera[:, :3, 3]
    steps = np.linalg.norm(np.diff(place, axis=0), axis=1)
    assert np.allclose(steps, steps.mean(), rtol=1e-4)
    with pytest.raises(DomainError, match="no rail"):
        edits.RunRail(camera_id=CAMERA, first=1001, last=1096).apply(FREE, baker(FREE))


def run(pace: str) -> Floats:
    scene = edits.LayRail(
        camera_id=CAMERA, shape="beside the path", frame=1050, character_id=mill_race.ODA, side_m=3.0
    ).apply(FREE, baker(FREE))
    edit = edits.RunRail(camera_id=CAMERA, first=1001, last=1096, pace=pace, character_id=mill_race.ODA)  # type: ignore[arg-type]
    scene = edit.apply(scene, baker(scene))
    return np.asarray(baker(scene).camera_path(scene.camera(CAMERA)).world_from_camera[:, :3, 3])


def test_a_run_that_eases_sets_off_and_arrives_slowly() -> None:
    steps = np.linalg.norm(np.diff(run("ease"), axis=0), axis=1)
    assert max(steps[0], steps[-1]) < 0.1 * steps.max()
    assert steps.argmax() == pytest.approx(47, abs=3)
    assert steps.sum() == pytest.approx(np.linalg.norm(np.diff(run("even"), axis=0), axis=1).sum(), rel=1e-3)


def test_a_run_abreast_of_a_character_stays_beside_it() -> None:
    place = run("abreast")
    hips = baker().joint_frames(mill_race.ODA, "hips", "motion")[:, :3, 3]
    # Three metres to her left all the way, as far as she does not sway; and neither ahead of her nor behind.
    assert np.abs(np.linalg.norm((place - hips)[:, [0, 2]], axis=1) - 3.0).max() < 0.15
    travel = (hips[-1] - hips[0]) * [1.0, 0.0, 1.0]
    ahead = (place - hips) @ (travel / np.linalg.norm(travel))
    assert np.abs(ahead - ahead.mean())[10:-10].max() < 0.15
    steps = np.linalg.norm(np.diff(place, axis=0), axis=1)
    assert steps.max() < 1.3 * steps.mean(), "as even as she goes, not as her steps"


def test_what_cannot_be_run_is_refused() -> None:
    scene = edits.LayRail(camera_id=CAMERA, shape="straight", frame=1050).apply(FREE, baker(FREE))
    with pytest.raises(DomainError, match="outside the scene"):
        edits.RunRail(camera_id=CAMERA, first=1, last=90, pace="abreast").apply(scene, baker(scene))
    with pytest.raises(DomainError, match="ends before"):
        edits.RunRail(camera_id=CAMERA, first=90, last=1).apply(scene, baker(scene))


def test_the_nearest_place_of_a_rail_is_found_for_many_at_once() -> None:
    rail = Rail(points=((0.0, 0.0, 0.0), (2.0, 0.5, 1.0), (3.0, 0.0, -1.0)))
    wanted = np.random.default_rng(4).uniform(-4, 4, (50, 3))
    fine = rail.at(np.linspace(0, 1, 5001))[0]
    found = rail.at(rail.nearest(wanted))[0]
    least = np.linalg.norm(fine[None] - wanted[:, None], axis=-1).min(axis=1)
    assert np.allclose(np.linalg.norm(found - wanted, axis=1), least, atol=1e-4)


# --- from a chord to an orbit ---


def test_an_orbit_instead_of_a_chord_has_the_same_end_pictures() -> None:
    keys = lambda a, b: Channel(a, (Key(Fraction(1010), a, "ease"), Key(Fraction(1060), b, "ease")))  # noqa: E731
    scene = FREE.with_camera(
        replace(
            FREE.camera(CAMERA),
            channels=FREE.camera(CAMERA).channels.having(x=keys(4.0, -3.5), z=keys(2.0, 5.0), pan=keys(-90, 60)),
            unkeyed=(),
        )
    )
    ends = [world_at(scene, f) for f in (1010, 1060)]
    after = edits.OrbitInstead(camera_id=CAMERA, first=1010, last=1060, subject=HIPS).apply(scene, baker(scene))
    for frame, end in zip((1010, 1060), ends, strict=True):
        assert np.allclose(world_at(after, frame), end, atol=1e-9)
    place = baker(after).camera_path(after.camera(CAMERA)).world_from_camera[9:60, :3, 3]
    hips = baker().joint_frames(mill_race.ODA, "hips", "motion")[9:60, :3, 3]
    away = np.linalg.norm(place - hips, axis=1)
    assert away.min() > 0.999 * min(away[0], away[-1]), "it no longer cuts through the circle"
