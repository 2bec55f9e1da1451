"""The demo's cut: five shots, ids of its own, and the planted cut is what the readings find."""

from __future__ import annotations

import pytest

from eddyfield.core.cut.shots import shots_of
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.demo import crossing_cut
from tests.core.scenery import DIGESTS, SCENE, baker


def test_the_cut_of_the_crossing_has_five_shots_and_its_planted_one_is_found() -> None:
    spoken = crossing_cut.SOUNDS[crossing_cut.SPEAKS]()
    scene = crossing_cut.scene(tuple(DIGESTS), {"Voices": "0" * 64}, crossing_cut.lines(spoken))
    assert [(m.frame, m.kind) for m in scene.marks] == [
        (1032, "line begins"), (1037, "line ends"), (1051, "line begins"), (1076, "line ends"),
    ], "Quill calls, and Oda murmurs three syllables"  # fmt: skip
    shots = shots_of(scene.cut, scene.frames)
    assert [(s.first, s.count) for s in shots] == [(1001, 29), (1030, 16), (1046, 7), (1053, 22), (1075, 22)]
    others = {c.id for c in (*SCENE.cameras, *SCENE.characters, *SCENE.pieces)} | {SCENE.id}
    assert not others & ({c.id for c in (*scene.cameras, *scene.characters, *scene.pieces)} | {scene.id})
    found = scene_readings(baker(scene), None, None, lambda what, error: pytest.fail(f"{what}: {error}"))
    assert [
        (r.kind, r.first)
        for r in found
        if r.kind in ("short_shot", "jump_cut", "line_crossed", "cut_jolts", "cut_after_mark")
    ] == [
        ("short_shot", 1046),
        ("cut_after_mark", 1051),
    ]
    assert not [r for r in found if r.kind == "strobes"], "she rides"
