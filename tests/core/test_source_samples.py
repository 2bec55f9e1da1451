"""The same file is judged alike at every rate: over its own samples where these lie farther apart than the frames."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from functools import cache

import numpy as np
import pytest

from eddyfield.core.bake import Baker
from eddyfield.core.edits.scene_time import SetRate
from eddyfield.core.readings.all_arcs import body_arc_readings
from eddyfield.core.readings.reading import Reading
from eddyfield.core.readings.source_samples import source_samples
from eddyfield.core.rig.motion import Curve
from eddyfield.core.rig.rig import Rig
from eddyfield.core.scene import Scene
from eddyfield.demo import mill_race
from eddyfield.demo.mill_race import ODA

from .scenery import DIGESTS, SCENE

RATES = ["25", "30", "48", "50", "60", "120", "24000/1001"]


def at(rate: str) -> Scene:
    return SCENE if rate == "24" else SetRate(rate=rate).apply(SCENE)


def baked(scene: Scene, oda: Rig | None = None) -> Baker:
    rigs = {digest: mill_race.demo_rig(name) for digest, name in DIGESTS.items()}
    return Baker(scene, lambda source: oda if oda and DIGESTS[source.digest] == "oda" else rigs[source.digest], {})


@cache
def told(rate: str, sampled: bool) -> tuple[Reading, ...]:
    oda = mill_race.demo_rig("oda")
    work = baked(at(rate), held_on(oda, 1) if sampled else oda)
    return tuple(r for r in body_arc_readings(work, work.scene.character(ODA), None) if r.kind != "camera_jolts")


def held_on(rig: Rig, frames: int) -> Rig:
    """A rig whose file was baked at 24 a second, on ones, twos, threes ...: each pose again until the next new one."""
    seconds = np.arange(96) / 24
    shown = np.arange(96) // frames * frames / 24

    moved = rig.motion.sample(shown, np.arange(len(rig.names)), rig.rest)

    def held(curve: Curve) -> Curve:
        return Curve(curve.node, curve.path, "linear", seconds, moved[curve.path][:, curve.node].T.copy())

    curves = tuple(held(curve) for curve in rig.motion.curves)
    return replace(rig, motion=replace(rig.motion, curves=curves))


@pytest.mark.parametrize("sampled", [False, True], ids=["keyed", "sampled"])
@pytest.mark.parametrize("rate", RATES)
def test_what_is_told_at_the_rate_of_the_file_is_told_at_every_other(rate: str, sampled: bool) -> None:
    ratio = Fraction(rate) / 24
    expected = {(r.kind, round(1001 + (r.frame - 1001) * ratio)): abs(r.size) for r in told("24", sampled)}
    found = {(r.kind, r.frame): abs(r.size) for r in told(rate, sampled)}
    assert expected
    for (kind, frame), size in expected.items():
        near = [s for (k, f), s in found.items() if k == kind and abs(f - frame) <= 1]
        assert near, (kind, frame, found)
        assert min(abs(s - size) for s in near) <= 0.1 * size, (kind, frame, near, size)


def test_no_more_is_told_where_there_are_more_frames() -> None:
    for rate in ("48", "60", "120"):
        assert len(told(rate, True)) <= len(told("24", True)) + 1


@pytest.mark.parametrize("held", [2, 3, 4])
def test_a_file_that_was_baked_on_twos_to_fours_is_judged_by_its_new_poses(held: int) -> None:
    oda = mill_race.demo_rig("oda")
    work = baked(SCENE, held_on(oda, held))
    samples = source_samples(work, SCENE.character(ODA))
    assert samples is not None
    assert float(samples.baker.rate) == pytest.approx(24 / held)
    by_poses = samples.baker.world(samples.thing)[:, 0]
    own = work.world(SCENE.character(ODA))[samples.row_of_sample][:, 0]
    np.testing.assert_allclose(by_poses, own, atol=1e-6)


def test_samples_that_lie_as_close_as_frames_are_frames() -> None:
    work = baked(SCENE)
    assert source_samples(work, SCENE.character(ODA)) is None
