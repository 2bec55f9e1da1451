"""Why a reading is told: the curve that is drawn is the one that the other frames ask for, the series what was measured."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core.errors import DomainError
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.ride import Ride
from eddyfield.core.readings.reading import Reading
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.core.readings.why import Told, WhyArc, WhySeries, fitted, why

from .scenery import SCENE, baker, fail

ODA = SCENE.characters[0]


def told(reading: Reading, through: str | None = None) -> Told:
    return Told(
        reading.kind, reading.first, reading.last, reading.first if reading.frame is None else reading.frame,
        reading.character_id, reading.camera_id, reading.joint, through, reading.as_seen,
    )  # fmt: skip


def found(kind: str, scene: object = SCENE) -> tuple[Reading, object]:
    work = baker(scene)  # type: ignore[arg-type]
    reading = next(r for r in scene_readings(work, None, None, fail) if r.kind == kind)
    return reading, why(work, told(reading))


@given(st.integers(0, 10_000), st.floats(-30, 30))
def test_a_displaced_frame_is_drawn_beside_where_the_other_eight_ask_for_it(seed: int, off: float) -> None:
    rng = np.random.default_rng(seed)
    t = np.arange(15.0)
    places = np.stack([np.polyval(rng.normal(0, 0.02, 4), t - 7) * 10 for _ in range(2)], axis=-1)
    places += rng.normal(0, 0.2, places.shape)
    places[7] += [off, -off]
    shown = fitted(places, 7, "displaced", 100)
    others = np.delete(np.arange(3, 12), 4)
    asked = [np.polyval(np.polyfit(others - 7.0, places[others, axis], 5), 0.0) for axis in (0, 1)]
    assert np.allclose(shown.wanted, asked, atol=1e-6)
    assert np.allclose(shown.before[-1], shown.wanted)
    assert np.allclose(shown.after[0], shown.wanted)
    assert shown.left_px[4] == pytest.approx(0, abs=1e-9), "the fault takes all that is left of its own frame"


def test_a_step_is_drawn_on_both_sides_of_it() -> None:
    t = np.arange(15.0)
    places = np.stack([3 * t, 0.2 * t**2], axis=-1)
    places[7:] -= [4.0, 0.0]
    shown = fitted(places, 7, "step", 1)
    assert np.allclose(shown.left_px, 0, atol=1e-9)
    assert np.allclose(shown.after[0] - shown.before[-1], [-4, 0])
    assert np.allclose(shown.before[::8][:4], places[3:7])
    assert np.allclose(shown.after[::8], places[7:12])


def test_the_demos_kinked_hand_is_drawn_with_its_arc() -> None:
    reading, shown = found("off_arc")
    assert isinstance(shown, WhyArc)
    row = told(reading).frame - shown.first
    assert np.linalg.norm(shown.places[row] - shown.wanted) == pytest.approx(abs(reading.size), rel=0.15)
    assert shown.left_px.max() < 0.3


def test_what_strobes_is_drawn_as_it_slips() -> None:
    reading, shown = found("strobes")
    assert isinstance(shown, WhySeries)
    inside = shown.values[reading.first - shown.first : reading.last + 1 - shown.first]
    assert np.sqrt(np.mean(inside[inside > 0] ** 2)) == pytest.approx(reading.size, rel=1e-6)
    assert shown.limit == pytest.approx(reading.threshold)


def test_a_foot_that_slides_is_drawn_as_far_as_it_does() -> None:
    riding = SCENE.with_character(replace(ODA, stepping=Stepping(3), ride=Ride("rigid")))
    reading, shown = found("feet_slide", riding)
    assert isinstance(shown, WhySeries)
    assert np.nanmax(shown.values) >= reading.size - 1e-9
    assert shown.values[told(reading).frame - shown.first] == pytest.approx(reading.size)


def test_what_the_frame_itself_shows_needs_no_curve_and_what_is_gone_is_refused() -> None:
    work = baker()
    assert why(work, Told("head_out_of_frame", 1001, 1010, 1005, ODA.id)) is None
    assert why(work, Told("off_arc", 1002, 1002, 1002, ODA.id, None, "hand_r")) is None, (
        "too near to the end to be fitted"
    )
    jolt = why(work, Told("camera_jolts", 1040, 1040, 1040, None, SCENE.cameras[0].id, as_seen="hitch"))
    assert isinstance(jolt, WhyArc)
    for gone in (Told("off_arc", 1040, 1040, 1040, "nobody", None, "hand_r"), Told("strobes", 1001, 1010, 1001)):
        with pytest.raises(DomainError):
            why(work, gone)
