"""What would be best: each way is measured as the scene with it would be, and the best come first."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from eddyfield.core.edits.cameras import LockCamera
from eddyfield.core.edits.performances import StepAndRide
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.ride import Ride
from eddyfield.core.readings.candidates import LOST_POSE_PX, candidates
from eddyfield.demo import mill_race

from .scenery import SCENE, baker

ODA = SCENE.characters[0]


def test_each_way_leaves_what_it_says() -> None:
    work = baker()
    tried = candidates(work, ODA)
    assert [c.kind for c in tried.candidates].count("as it is") == 1
    for candidate in tried.candidates:
        if candidate.edit is None:
            continue
        after = work.of(candidate.edit.apply(SCENE, work))
        oda = after.scene.character(ODA.id)
        found, price = after.strobing(oda), after.contact_price(oda)
        assert candidate.reversals == len(found.reversals)
        assert candidate.slip_max_px == pytest.approx(found.max_px, abs=1e-9)
        assert price is not None
        assert candidate.feet_slide_m == pytest.approx(price.after_m)
    costs = [c.cost_px for c in tried.candidates]
    assert costs == sorted(costs)


def test_riding_with_planted_feet_is_best_for_the_bank() -> None:
    tried = candidates(baker(), ODA)
    best, now = tried.candidates[0], next(c for c in tried.candidates if c.edit is None)
    assert (best.kind, best.title, best.reversals) == ("together", "Ride, all key poses", 0)
    assert now.slip_px == pytest.approx(baker().strobing(ODA).rms_px)
    ride = next(c for c in tried.candidates if c.kind == "ride whole")
    over_all = np.sqrt(np.mean(baker().strobing(ODA).slip_px ** 2))
    assert now.cost_px - ride.cost_px == pytest.approx(over_all, abs=0.01), "nothing else becomes worse"
    assert ride.lost == now.lost
    assert ride.cost_px == pytest.approx(LOST_POSE_PX * len(ride.lost), abs=0.01)
    assert best.lost == ()
    assert best.cost_px < 0.03 * ride.cost_px, "riding and every key pose shown make up for each other"
    assert tried.first <= now_worst() <= tried.last


def test_where_the_camera_comes_to_rest_it_is_tried_to_ride_where_it_strobes() -> None:
    assert "ride eased" not in {c.kind for c in candidates(baker(), ODA).candidates}, "it strobes throughout"
    bank = SCENE.camera(mill_race.BANK)
    rests = {n: replace(c, keys=tuple(k for k in c.keys if k.time <= 1048)) for n, c in bank.channels.items() if c.keys}
    scene = SCENE.with_camera(replace(bank, channels=bank.channels.having(**rests)))
    tried = candidates(baker(scene), ODA).candidates
    eased, now = (next(c for c in tried if c.kind == kind) for kind in ("ride eased", "as it is"))
    assert eased.slip_px < 0.1 * now.slip_px


def now_worst() -> int:
    frame = baker().strobing(ODA).max_frame
    assert frame is not None
    return frame


def test_what_cannot_be_tried_says_why_and_can_be_once_it_is_free() -> None:
    told = candidates(baker(), ODA).refused
    assert len(told) == 2
    assert all("locked" in why for why in told)
    scene = LockCamera(camera_id=mill_race.BANK, locks=()).apply(SCENE)
    tried = candidates(baker(scene), ODA)
    assert tried.refused == ()
    slower = next(c for c in tried.candidates if c.kind == "slower camera")
    now = next(c for c in tried.candidates if c.edit is None)
    assert slower.slip_px < now.slip_px


def test_on_threes_shorter_holds_and_a_shifted_grid_are_tried() -> None:
    threes = SCENE.with_character(replace(ODA, stepping=Stepping(3), ride=Ride("rigid")))
    kinds = [c.kind for c in candidates(baker(threes), threes.character(ODA.id)).candidates]
    assert kinds.count("offset") == 2
    assert {"shorter holds", "feet planted", "no ride", "key poses"} <= {*kinds}


def test_on_ones_there_is_little_to_try() -> None:
    ones = SCENE.with_character(replace(ODA, stepping=Stepping(1)))
    tried = candidates(baker(ones), ones.character(ODA.id))
    now = next(c for c in tried.candidates if c.edit is None)
    assert tried.candidates[0].cost_px == pytest.approx(now.cost_px)
    assert now.slip_px == 0


@pytest.mark.parametrize("stepping", [Stepping(2), Stepping(2, 1), Stepping(3), Stepping(3, 2), Stepping(4)])
def test_the_best_is_no_worse_than_any_ride_with_any_key_poses_and_says_why_others_lose(stepping: Stepping) -> None:
    oda = replace(ODA, stepping=stepping)
    work = baker(SCENE.with_character(oda))
    tried = candidates(work, oda).candidates
    best, *others = tried
    kept = StepAndRide(character_id=ODA.id, stepping=replace(stepping, keep_key_poses=True), ride=oda.offered_ride)
    after = work.of(kept.apply(work.scene, work))
    over_all = np.sqrt(np.mean(np.nan_to_num(after.strobing(after.scene.character(ODA.id)).slip_px) ** 2))
    found = next(c for c in tried if c.edit == kept)
    assert dict(found.terms_px)["slip"] == pytest.approx(over_all)
    assert best.cost_px <= found.cost_px
    assert best.loses_by is None
    for other in others:
        assert other.cost_px == pytest.approx(sum(px for _, px in other.terms_px))
        if other.cost_px > best.cost_px + 1e-9:
            assert dict(other.terms_px)[other.loses_by] > dict(best.terms_px).get(other.loses_by, 0.0)
