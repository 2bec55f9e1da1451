"""The demo's cut: five shots, ids of its own, and the planted cut is what the readings find."""

from __future__ import annotations

import pytest

from eddyfield.core.cut.shots import shots_of
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.demo import crossing_cut
from tests.core.scenery import DIGESTS, SCENE, baker


def test_the_cut_of_the_crossing_has_five_shots_and_its_planted_one_is_found() -> None:
    scene = crossing_cut.scene(*DIGESTS)
    shots = shots_of(scene.cut, scene.frames)
    assert [(s.first, s.count) for s in shots] == [(1001, 29), (1030, 16), (1046, 7), (1053, 22), (1075, 22)]
    others = {c.id for c in (*SCENE.cameras, *SCENE.characters, *SCENE.pieces)} | {SCENE.id}
    assert not others & ({c.id for c in (*scene.cameras, *scene.characters, *scene.pieces)} | {scene.id})
    found = scene_readings(baker(scene), None, None, lambda what, error: pytest.fail(f"{what}: {error}"))
    assert [(r.kind, r.first) for r in found if r.kind in ("short_shot", "jump_cut", "line_crossed", "cut_jolts")] == [
        ("short_shot", 1046)
    ]
    assert not [r for r in found if r.kind == "strobes"], "she rides"
