"""From when on something is told: the production's limits, and how strictly a scene takes them."""

from __future__ import annotations

from dataclasses import asdict, replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core.bake import Baker
from eddyfield.core.edits.strictness import JudgeScene
from eddyfield.core.errors import DomainError
from eddyfield.core.readings.limits import LIMITS, NAMES, STRICTNESSES, USUAL, LimitKind, Limits
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.core.scene import Scene

from .scenery import SCENE, baker, fail


def _told(limits: Limits = USUAL, scene: Scene = SCENE, memory: dict[str, object] | None = None) -> dict[str, float]:
    work = Baker(scene, baker().rig_of, {} if memory is None else memory, limits=limits)
    return {r.kind: r.threshold for r in scene_readings(work, None, None, fail) if not r.remark}


def test_every_limit_has_its_range_and_what_is_usual_lies_in_it() -> None:
    assert {kind.name for kind in LIMITS} == set(asdict(USUAL)) == NAMES
    for kind in LIMITS:
        assert kind.least < getattr(USUAL, kind.name) < kind.most, kind.name
        with pytest.raises(DomainError, match="cannot be"):
            replace(USUAL, **{kind.name: kind.most * 1.01})
    with pytest.raises(DomainError, match="no limit “beauty”"):
        USUAL.having({"beauty": 1.0})
    assert USUAL.having({"slide_m": 0.05}).changed() == {"slide_m": 0.05}
    assert USUAL.having({"slide_m": 0.03}).changed() == {}


@given(st.sampled_from(LIMITS), st.floats(0.0, 1.0))
def test_stricter_tells_more_whichever_way_a_limit_goes(kind: LimitKind, share: float) -> None:
    value = kind.least + share * (kind.most - kind.least)
    rough, usual, final = (getattr(replace(USUAL, **{kind.name: value}).at(how), kind.name) for how in STRICTNESSES)
    assert usual == value
    assert (rough >= usual >= final) if kind.told_above else (rough <= usual <= final)
    assert kind.least <= min(rough, final) <= max(rough, final) <= kind.most


def test_readings_go_by_the_limits_that_are_set() -> None:
    usual = _told()
    assert {"strobes", "off_arc"} <= usual.keys()
    assert usual["strobes"] == pytest.approx(1.08)
    assert "strobes" not in _told(replace(USUAL, slip_permille=20.0))
    assert "off_arc" not in _told(replace(USUAL, arc_permille=15.0))
    assert _told(replace(USUAL, arc_permille=1.0))["off_arc"] < usual["off_arc"] == pytest.approx(1.62)


def test_what_is_kept_is_kept_for_its_limits() -> None:
    memory: dict[str, object] = {}
    assert "off_arc" in _told(memory=memory)
    assert "off_arc" not in _told(replace(USUAL, arc_permille=15.0), memory=memory)
    final = JudgeScene(strictness="final").apply(SCENE)
    assert _told(scene=final, memory=memory)["strobes"] == pytest.approx(0.7 * 1.08)
    assert _told(memory=memory)["strobes"] == pytest.approx(1.08)


def test_a_scene_is_judged_as_rough_work_or_as_final() -> None:
    assert JudgeScene(strictness="usual").apply(SCENE) is SCENE
    rough, final = (JudgeScene(strictness=how).apply(SCENE) for how in ("rough", "final"))
    assert _told(scene=rough)["strobes"] == pytest.approx(2 * 1.08)
    assert set(_told(scene=rough)) <= set(_told()) <= set(_told(scene=final))
