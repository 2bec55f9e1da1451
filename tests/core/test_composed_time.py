"""Bends, rates and nesting composed at random, against plain fractions: everything shows the moment it should."""

from __future__ import annotations

import uuid
from dataclasses import dataclass, replace
from fractions import Fraction
from math import floor

import numpy as np
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from eddyfield.core.cut.cut import Cut
from eddyfield.core.edits.bend_time import BendSceneTime, BendTime
from eddyfield.core.edits.scene_time import SetRate
from eddyfield.core.errors import DomainError
from eddyfield.core.nesting import nested_id, whole, with_surroundings
from eddyfield.core.performance.timing import Timing
from eddyfield.core.scene import Block, Scene
from eddyfield.core.time.frames import FrameRange, Rate
from eddyfield.demo.mill_race import ODA, QUILL

from .scenery import SCENE

CAMERA = replace(SCENE.cameras[0], locks=(), mount=SCENE.cameras[0].mount)
SPEEDS = [Fraction(1, 2), Fraction(1, 3), Fraction(2), Fraction(3), Fraction(0), Fraction(-1), Fraction(-1, 2)]
RATES = ["12", "24", "25", "30", "48", "60", "24000/1001"]


@dataclass(frozen=True)
class PlainBend:
    first: Fraction
    last: Fraction
    speed: Fraction

    def before(self, frame: Fraction) -> Fraction:
        if frame <= self.first:
            return frame
        if frame <= self.last:
            return self.first + self.speed * (frame - self.first)
        return frame - (self.last - self.first) * (1 - self.speed)


@dataclass(frozen=True)
class PlainRate:
    ratio: Fraction
    first: Fraction

    def before(self, frame: Fraction) -> Fraction:
        return self.first + (frame - self.first) / self.ratio


def plain_scene(start: Fraction, stretch: Fraction) -> Scene:
    """Two performances, and no camera whose moves could refuse to be bent."""
    characters = tuple(
        replace(c, performance=replace(c.performance, timing=Timing(start + n * Fraction(7, 3), stretch)))
        for n, c in enumerate(SCENE.characters)
    )
    cameras = (replace(CAMERA, channels=CAMERA.channels.table.plain, aim=None, focus=None, framing=None),)
    return replace(
        SCENE, characters=characters, cameras=cameras, pieces=(), marks=(), cut=Cut.of((1001, CAMERA.id)),
        frames=FrameRange(1001, 1096),
    )  # fmt: skip


def file_s(scene: Scene, thing_id: str, frames: np.ndarray) -> np.ndarray:
    """Seconds in the file, unclamped."""
    timing = scene.thing(thing_id).performance.timing
    return (float(timing.first) + timing.passed(frames)) / float(scene.rate)


bends = st.tuples(st.integers(0, 70), st.integers(1, 20), st.sampled_from(SPEEDS))
starts = st.fractions(995, 1010, max_denominator=4)
stretches = st.sampled_from([Fraction(1), Fraction(20, 7), Fraction(2, 3)])


@given(starts, stretches, st.none() | bends, st.lists(bends | st.sampled_from(RATES), min_size=1, max_size=4))
@settings(max_examples=150)
def test_bends_and_rates_of_a_scene_compose_with_what_performances_have(
    start: Fraction, stretch: Fraction, own: tuple[int, int, Fraction] | None, steps: list[object]
) -> None:
    scene = plain_scene(start, stretch)
    if own:
        first, length, speed = own
        bend = BendTime(thing_id=ODA, first=1001 + first, last=1001 + first + length, speed=float(speed))
        scene = bend.apply(scene)
    before, ways = scene, []
    for step in steps:
        if isinstance(step, str):
            rate = Rate.parse(step)
            ways.append(PlainRate(rate.frames_per_second / scene.rate.frames_per_second, Fraction(scene.frames.first)))
            scene = SetRate(rate=step).apply(scene)
            continue
        first, length, speed = step
        speed = Fraction(round(speed * 1000), 1000)
        first += scene.frames.first
        assume(first + length <= scene.frames.last)
        assume(first + speed * length >= scene.frames.first)
        ways.append(PlainBend(Fraction(first), Fraction(first + length), speed))
        scene = BendSceneTime(first=first, last=first + length, speed=float(speed)).apply(scene)
    frames = [Fraction(n, 3) for n in range(scene.frames.first * 3, scene.frames.last * 3 + 1)]
    moments = frames
    for way in reversed(ways):
        moments = [way.before(moment) for moment in moments]
    now, then = (np.array([float(f) for f in some]) for some in (frames, moments))
    for thing_id in (ODA, QUILL):
        expected = file_s(before, thing_id, then)
        np.testing.assert_allclose(file_s(scene, thing_id, now), expected, rtol=0, atol=1e-6)


@given(
    st.lists(st.tuples(st.sampled_from(RATES), st.integers(0, 40)), min_size=1, max_size=3),
    st.lists(bends, max_size=2),
    starts,
)
@settings(max_examples=150)
def test_what_comes_with_nested_scenes_is_exact_at_every_depth(
    levels: list[tuple[str, int]], outer_bends: list[tuple[int, int, Fraction]], start: Fraction
) -> None:
    inner = plain_scene(start, Fraction(1))
    scene, ways, ids = inner, [], [ODA, QUILL]
    for rate, at in levels:
        block_id = str(uuid.uuid4())
        outer = replace(
            plain_scene(Fraction(1), Fraction(1)), id=str(uuid.uuid4()), rate=Rate.parse(rate), characters=(),
            frames=FrameRange(1, 400), cut=Cut.of((1, CAMERA.id)), blocks=(Block(block_id, "in", scene.id, Fraction(1 + at)),),
        )  # fmt: skip
        ratio = outer.rate.frames_per_second / scene.rate.frames_per_second
        ways.append((Fraction(scene.frames.first), Fraction(1 + at), ratio))
        outer = replace(outer, blocks=(replace(outer.blocks[0], inner=scene),))
        ids = [nested_id(block_id, thing_id) for thing_id in ids]
        scene = whole(outer)
    plain_bends = []
    for first, length, speed in outer_bends:
        speed = Fraction(round(speed * 1000), 1000)
        assume(1 + first + speed * length >= 1)
        try:
            scene = whole(BendSceneTime(first=1 + first, last=1 + first + length, speed=float(speed)).apply(scene))
        except DomainError:
            assume(False)
        plain_bends.append(PlainBend(Fraction(1 + first), Fraction(1 + first + length), speed))
    shown = FrameRange(1, min(400, scene.frames.last))
    frames = [Fraction(n) for n in range(1, shown.last + 1)]
    moments = frames
    for bend in reversed(plain_bends):
        moments = [bend.before(moment) for moment in moments]
    # What plays inside has to be there in each; inside one it is there or not by whole frames of that one.
    there, on = [True] * len(frames), moments
    for depth in range(len(ways) - 1, -1, -1):
        first, at, ratio = ways[depth]
        moments = [first + (moment - at) / ratio for moment in moments]
        on = [first + (moment - at) / ratio for moment in on]
        last = inner.frames.last if depth == 0 else 400
        there = [t and first <= m < last + 1 for t, m in zip(there, on, strict=True)]
        on = [Fraction(floor(m)) for m in on]
    now, then = (np.array([float(f) for f in some]) for some in (frames, moments))
    rows = np.array(there)
    for was, thing_id in zip((ODA, QUILL), ids, strict=True):
        thing = scene.thing(thing_id)
        np.testing.assert_array_equal(thing.showing.there(shown), rows)
        off = file_s(scene, thing_id, now) - file_s(inner, was, then)
        assert np.abs(off[rows]).max(initial=0.0) < 1e-6


def test_a_scene_opened_in_place_is_surrounded_at_exact_times() -> None:
    """At 30 in a scene of 24 a block that begins on a frame begins between frames of the other."""
    inner = replace(plain_scene(Fraction(1001), Fraction(1)), rate=Rate.parse("30"))
    block = Block(str(uuid.uuid4()), "in", inner.id, Fraction(1004), inner=inner)
    outer = whole(replace(plain_scene(Fraction(1001), Fraction(1)), id=str(uuid.uuid4()), blocks=(block,)))
    around = with_surroundings(inner, outer, block.id)
    assert around.blocks[0].start == Fraction(1001) - Fraction(3) * Fraction(30, 24)
