"""Planted feet: they stand still in the world while the body rides, on legs of the length that they have."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import minimize
from scipy.spatial.transform import Rotation

from eddyfield.core.arrays import Floats
from eddyfield.core.cut.cut import Cut
from eddyfield.core.edits.performances import RideCharacter
from eddyfield.core.optics.lens import Lens
from eddyfield.core.performance.exposure import Stepping, exposure_starts
from eddyfield.core.performance.gripping import grips
from eddyfield.core.performance.planting import legs_of, planted
from eddyfield.core.performance.ride import Ride, RideWay, ride_transforms
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.core.readings.strobing import strobing
from eddyfield.core.rig import transforms
from eddyfield.core.rig.joint_change import bending, changed
from eddyfield.core.rig.two_bone import MOST_STRETCH
from eddyfield.core.time.frames import FrameRange
from eddyfield.demo import mill_race

from .scenery import SCENE, baker, fail, moving_points, wandering_camera

ODA = SCENE.characters[0]
WORK = baker()
RIG = WORK.rig(ODA)
WORLD = WORK.world(ODA)
LEGS = legs_of(RIG, ODA.feet)
LEG_PARTS = ("thigh", "shin", "foot")
SHIFT = st.lists(st.floats(-0.06, 0.06), min_size=3, max_size=3)
TURN = st.lists(st.floats(-0.1, 0.1), min_size=3, max_size=3)


def test_the_legs_of_a_rig_are_found_by_their_feet() -> None:
    names = [[RIG.names[n] for n in (leg.hip, leg.knee, leg.ankle)] for leg in LEGS]
    assert names == [[f"{part}_{side}" for part in LEG_PARTS] for side in ("l", "r")]
    assert legs_of(RIG, ()) == ()
    assert legs_of(RIG, ("hips", "nothing")) == (), "nothing above it that could bend"
    with_toes = legs_of(RIG, (*ODA.feet, "toe_l", "toe_r"))
    assert with_toes == LEGS, "a toe goes with its foot"


@given(SHIFT, TURN, st.integers(0, len(WORLD) - 1))
def test_the_bones_keep_their_length_and_the_foot_its_place(shift: list[float], turn: list[float], row: int) -> None:
    turned = Rotation.from_rotvec(turn).as_matrix()
    about = WORLD[row, 0, :3, 3]
    whole = transforms.rigid(turned, about - turned @ about + np.array(shift))[None]
    rows = np.array([row])
    carried = planted(RIG, ODA.feet, WORLD, rows, np.repeat(whole, len(WORLD), axis=0)[:1], SCENE.rate)
    shown = carried.of_nodes(np.arange(len(RIG.names))) @ WORLD[rows]
    for number, leg in enumerate(LEGS):
        joints = [leg.hip, leg.knee, leg.ankle]
        was, now = WORLD[row][joints][:, :3, 3], shown[0][joints][:, :3, 3]
        bones = [np.linalg.norm(np.diff(places, axis=0), axis=1) for places in (was, now)]
        assert np.allclose(bones[1], bones[0] * (1 + carried.stretch[0, number]), atol=1e-9)
        assert np.allclose(now[0], transforms.apply(whole[0], was[0])), "the hip goes with the body"
        stands = np.allclose(now[2], was[2], atol=1e-9)
        rides = np.allclose(now[2], transforms.apply(whole[0], was[2]), atol=1e-9)
        assert stands or rides or carried.missed_m[0, number] > 0
        if stands and not rides:
            assert np.allclose(shown[0, leg.ankle], WORLD[row, leg.ankle]), "it stays as flat on the ground as it was"


def test_the_knee_is_where_a_search_would_put_it() -> None:
    """Of all places at the right distances from hip and ankle the one nearest to the plane in which the leg is bent."""
    row = next(r for r in range(20, 96) if planted_knee(r, 0.03) is not None)
    hip, knee, ankle, ridden_knee = planted_knee(row, 0.03) or ()
    leg = LEGS[0]
    upper, lower = (
        np.linalg.norm(WORLD[row, b, :3, 3] - WORLD[row, a, :3, 3])
        for a, b in ((leg.hip, leg.knee), (leg.knee, leg.ankle))
    )

    def off(place: np.ndarray) -> float:
        lengths = (np.linalg.norm(place - hip) - upper) ** 2 + (np.linalg.norm(place - ankle) - lower) ** 2
        return float(1e6 * lengths + ((place - ridden_knee) ** 2).sum())

    found = minimize(off, ridden_knee, method="Nelder-Mead", options={"xatol": 1e-8, "fatol": 1e-12, "maxiter": 9000})
    assert np.linalg.norm(found.x - knee) < 0.004


def planted_knee(row: int, forward: float) -> tuple[np.ndarray, ...] | None:
    """Hip, knee and ankle of the left leg on a row where the body rides a little along; None where the foot is in the air."""
    whole = transforms.rigid(np.eye(3), np.array([0.0, 0.0, -forward]))[None]
    rows, leg = np.array([row]), LEGS[0]
    carried = planted(RIG, ODA.feet, WORLD, rows, whole, SCENE.rate)
    shown = (carried.of_nodes(np.arange(len(RIG.names))) @ WORLD[rows])[0]
    if not np.allclose(shown[leg.ankle], WORLD[row, leg.ankle]) or carried.stretch[0, 0] > 0:
        return None
    ridden = transforms.apply(whole[0], WORLD[row, leg.knee, :3, 3])
    return shown[leg.hip, :3, 3], shown[leg.knee, :3, 3], shown[leg.ankle, :3, 3], ridden


def test_what_is_too_far_away_is_told() -> None:
    rows = np.arange(len(WORLD))
    whole = np.repeat(transforms.rigid(np.eye(3), np.array([0.0, 0.5, 0.0]))[None], len(rows), axis=0)
    carried = planted(RIG, ODA.feet, WORLD, rows, whole, SCENE.rate)
    assert carried.stretch.max() == pytest.approx(MOST_STRETCH - 1)
    assert 0.3 < carried.missed_m.max() < 0.5


@pytest.mark.parametrize("way", ["rigid", "position", "picture"])
def test_riding_with_planted_feet_neither_slips_nor_slides(way: RideWay) -> None:
    still, ridden, held = Ride(), Ride(way), Ride(way, plants=True)
    price = WORK.contact_price(ODA, ridden)
    assert price is not None
    assert price.after_m > 0.03, "without planting, feet slide along"
    kept = WORK.contact_price(ODA, held)
    assert kept is not None
    assert kept.after_m < 1e-6
    assert WORK.strobing(ODA, held).rms_px < 0.05 * WORK.strobing(ODA, still).rms_px
    assert WORK.carried(ODA, held).stretch.max() < 0.01


def test_the_offered_ride_clears_what_strobes_and_raises_nothing() -> None:
    before = scene_readings(WORK, None, None, fail)
    strobes = next(r for r in before if r.kind == "strobes")
    (fix,) = strobes.fixes
    assert isinstance(fix.edit, RideCharacter)
    assert fix.edit.ride.plants
    after = scene_readings(WORK.of(fix.edit.apply(SCENE, WORK)), None, None, fail)
    kinds = [sorted(r.kind for r in found if not r.remark) for found in (before, after)]
    assert set(kinds[1]) <= set(kinds[0]) - {"strobes"}


@given(st.integers(0, 500), st.floats(20, 40), st.floats(41, 90), st.integers(2, 5))
def test_what_rides_scaled_stands_still_through_a_zoom(seed: int, short: float, long: float, step: int) -> None:
    camera, points = wandering_camera(24, seed, focal=np.linspace(short, long, 24)), moving_points(24, 6, seed)
    rows = exposure_starts(Stepping(step), FrameRange(0, 23))
    carried = ride_transforms(Ride("scaled"), camera, points[rows, 0], rows)
    assert strobing(camera, transforms.apply(carried[:, None], points[rows]), rows, 0).max_px < 1e-6
    still = replace(camera, lens=Lens(short))
    whole = ride_transforms(Ride("rigid"), still, points[rows, 0], rows)
    assert np.allclose(ride_transforms(Ride("scaled"), still, points[rows, 0], rows), whole), "where nothing is zoomed"


def test_through_a_zoom_the_scaled_ride_is_what_is_offered() -> None:
    scene = replace(SCENE, cut=Cut.of((1001, mill_race.ZOOM)))
    work = baker(scene)
    found = [r for r in scene_readings(work, None, None, fail) if r.kind in ("strobes", "lens_moves_in_holds")]
    fixes = {fix.title: fix.edit for r in found for fix in r.fixes}
    after = work.of(fixes["Ride, scaled"].apply(scene, work))
    left = [r for r in scene_readings(after, None, None, fail) if r.kind in ("strobes", "lens_moves_in_holds")]
    assert left == []


HAND, ANCHOR = RIG.index_of["hand_l"], RIG.index_of["hips"]
GRIPS_FROM, GRIPS_TO = 33, 38


def _gripping() -> Floats:
    """Her motion with the left hand on one place of the world for some frames while she goes on."""
    world = WORLD.copy()
    place = WORLD[GRIPS_TO - 1, HAND, :3, 3]  # which she reaches from all of them
    for row in range(GRIPS_FROM, GRIPS_TO + 1):
        changes = bending(RIG, world[row], "hand_l", "upper_arm_l", place)
        world[row] = changed(RIG, world[row][None], changes, np.ones(1))[0]
    return world


def test_a_hand_that_stands_in_the_world_while_the_body_goes_on_holds_on() -> None:
    found = grips(RIG, _gripping(), ANCHOR, SCENE.rate)
    assert [(g.node, g.first, g.last) for g in found] == [(HAND, GRIPS_FROM, GRIPS_TO)]
    assert grips(RIG, WORLD, ANCHOR, SCENE.rate) == (), "hers go along with her"
    still = np.repeat(WORLD[:1], 60, axis=0)
    assert grips(RIG, still, ANCHOR, SCENE.rate) == (), "who stands still holds on to nothing"
    assert grips(RIG, WORLD[:1], ANCHOR, SCENE.rate) == ()


def test_what_holds_on_stays_in_the_world_while_the_body_rides() -> None:
    world, rows = _gripping(), 2 * (np.arange(len(WORLD)) // 2)
    whole = transforms.rigid(
        np.broadcast_to(np.eye(3), (len(WORLD), 3, 3)), np.tile([0.02, 0.0, 0.01], (len(WORLD), 1))
    )
    hands = grips(RIG, world, ANCHOR, SCENE.rate)
    carried = planted(RIG, ODA.feet, world, rows, whole, SCENE.rate, hands)
    shown = carried.of_nodes(np.arange(len(RIG.names))) @ world[rows]
    at = np.arange(GRIPS_FROM + 1, GRIPS_TO - 1)
    assert np.allclose(shown[at, HAND], world[rows[at], HAND], atol=1e-6)
    head = RIG.index_of["head"]
    assert np.allclose(shown[:, head, :3, 3], world[rows, head, :3, 3] + [0.02, 0.0, 0.01])
    before = np.arange(GRIPS_FROM - 2)
    assert np.allclose(shown[before, HAND, :3, 3], world[rows[before], HAND, :3, 3] + [0.02, 0.0, 0.01])
