"""The spacing chart: ticks where a joint is along its way, against what was meant."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core.cut.cut import Cut
from eddyfield.core.edits.spacing import SpaceStretch
from eddyfield.core.errors import DomainError
from eddyfield.core.readings.spacing_chart import INTENTS, Known, chart_of, intended_shares, spacing_chart
from eddyfield.core.time.channels import Channel
from eddyfield.demo import mill_race

from .scenery import SCENE, baker

ODA = SCENE.characters[0]


def along_an_arc(shares: np.ndarray, radius: float = 80.0) -> np.ndarray:
    """Places on a quarter of a circle after shares of its length."""
    angle = shares * np.pi / 2
    return np.stack([radius * np.cos(angle), radius * np.sin(angle)], axis=-1)


@pytest.mark.parametrize("intent", INTENTS)
@given(st.integers(9, 60))
def test_what_was_animated_so_is_told_so(intent: Known, count: int) -> None:
    chart = chart_of(along_an_arc(intended_shares(intent, count)), 1001, None)
    assert chart.intent == intent
    assert chart.length_px == pytest.approx(80 * np.pi / 2, rel=0.02), "along the chords"
    assert chart.fits_px[intent] < 0.8
    assert np.abs(chart.error_px).max() < 1.6


@given(st.integers(5, 40), st.floats(-20, 20), st.data())
def test_a_tick_that_is_beside_its_place_is_off_by_so_much(count: int, off: float, data: st.DataObject) -> None:
    at = data.draw(st.integers(1, count - 2))
    x = np.linspace(0, 100.0 * count, count)
    x[at] += off
    chart = chart_of(np.stack([x, 0 * x], axis=-1), 1, "even")
    assert chart.error_px[at] == pytest.approx(off, abs=1e-6)
    assert np.allclose(np.delete(chart.error_px, at), 0, atol=1e-6)
    assert chart.fits_px["even"] == pytest.approx(abs(off) / np.sqrt(count), abs=1e-6)


def test_slow_out_and_slow_in_mirror_each_other() -> None:
    assert np.allclose(intended_shares("slow out", 9), 1 - intended_shares("slow in", 9)[::-1])
    both = intended_shares("slow out and in", 9)
    assert np.allclose(both, 1 - both[::-1])
    for intent in INTENTS:
        shares = intended_shares(intent, 12)
        assert (shares[0], shares[-1]) == (0, 1)
        assert (np.diff(shares) > 0).all()


def test_the_demos_hand_is_charted_as_it_is_seen() -> None:
    work = baker()
    chart = spacing_chart(work, ODA, "hand_r", None, 1013, 1025, None)
    track = work.arc(ODA, work.rig(ODA).find("hand_r"), None)
    spacing = track.spacing_px[13:25]
    assert chart.length_px == pytest.approx(spacing.sum())
    assert np.allclose(np.diff(chart.share) * chart.length_px, spacing)
    assert chart.fits_px[chart.intent] == min(chart.fits_px.values())


def test_what_cannot_be_charted_is_refused() -> None:
    work = baker()
    for first, last in ((1010, 1011), (1020, 1010), (990, 1010), (1090, 1200)):
        with pytest.raises(DomainError, match="cannot be charted"):
            spacing_chart(work, ODA, "hand_r", None, first, last, None)
    with pytest.raises(DomainError, match="stands still"):
        chart_of(np.zeros((5, 2)), 1, None)
    with pytest.raises(DomainError, match="not in sight"):
        chart_of(np.full((5, 2), np.nan), 1, None)
    cut = work.of(replace(SCENE, cut=Cut.of((1001, mill_race.BANK), (1020, mill_race.TWO))))
    with pytest.raises(DomainError, match="cut lies between"):
        spacing_chart(cut, cut.scene.characters[0], "hand_r", None, 1013, 1025, None)
    spacing_chart(cut, cut.scene.characters[0], "hand_r", cut.scene.camera(mill_race.BANK), 1013, 1025, "even")
    spacing_chart(cut, cut.scene.characters[0], "hand_r", None, 1020, 1030, "even")


@pytest.mark.parametrize("shares", [np.linspace(0, 1, 13), np.linspace(0, 1, 13) ** 2, np.sqrt(np.linspace(0, 1, 13))])
@pytest.mark.parametrize("stands", [False, True])
def test_a_stretch_is_spaced_as_it_was_meant(shares: np.ndarray, stands: bool) -> None:
    """Through a moving camera and one that stands: measured on the motion as it runs then."""
    bank = SCENE.camera(mill_race.BANK)
    still = {name: Channel(float(c.at(1056.0))) for name, c in bank.channels.items() if c.keys}
    scene = SCENE.with_camera(replace(bank, channels=bank.channels.having(**still))) if stands else SCENE
    edit = SpaceStretch(character_id=ODA.id, joint="hand_l", first=1050, last=1062, shares=tuple(shares.tolist()))
    work = baker(scene)
    after = edit.apply(scene, work)
    before, now = (
        spacing_chart(baker(s), s.character(ODA.id), "hand_l", None, 1050, 1062, "own", shares.tolist())
        for s in (scene, after)
    )
    assert np.abs(now.error_px).max() < 0.35 < np.abs(before.error_px).max()
    moved = baker(after).world(after.character(ODA.id)) - work.world(ODA)
    changed = np.flatnonzero(np.abs(moved).max(axis=(1, 2, 3)) > 1e-9) + 1001
    assert changed.min() > 1050, "the poses at both ends stay"
    assert changed.max() < 1062


def test_what_is_no_spacing_is_refused() -> None:
    whole = SpaceStretch(character_id=ODA.id, joint="hand_l", first=1050, last=1053, shares=(0.0, 0.3, 0.6, 1.0))
    for wrong, said in (
        ({"shares": (0.0, 1.0)}, "do not space 4 frames"),
        ({"shares": (0.0, 0.6, 0.3, 1.0)}, "never back"),
        ({"shares": (0.1, 0.3, 0.6, 1.0)}, "from 0 to 1"),
        ({"first": 900}, "cannot be charted"),
        ({"joint": "tail"}, "no joint"),
    ):
        with pytest.raises(DomainError, match=said):
            replace(whole, **wrong).apply(SCENE, baker())  # type: ignore[arg-type]
    with pytest.raises(DomainError, match="The camera follows Oda"):
        replace(whole, camera_id=mill_race.TWO).apply(SCENE, baker())
    with pytest.raises(DomainError, match="do not space"):
        spacing_chart(baker(), ODA, "hand_l", None, 1050, 1053, "own", [0.0, 1.0])
