"""Arcs are judged over the samples of their source: where these lie farther apart than the frames, a fault that somebody made
is one of them, and straight lines from one to the next are nobody's."""

from __future__ import annotations

from dataclasses import dataclass, replace
from fractions import Fraction
from math import ceil, floor
from typing import TYPE_CHECKING

import numpy as np

from ..arrays import Floats, Ints
from ..cameras.camera import Camera
from ..performance.character import Character
from ..rate_change import OnFirstFrames
from ..scene import Thing
from ..time.frames import MOST_DENOMINATOR, FrameRange, FrameTime, Rate
from ..time.retiming import Retiming
from .arc_figures import JudgedArc
from .arcs import ArcJudgement
from .unframed import Unframed

if TYPE_CHECKING:
    from ..bake import Baker

FARTHER = 1.001
"""Frames: no closer than this are samples that lie farther apart than frames do."""
LEAST_ROWS = 5


@dataclass(frozen=True, eq=False)
class SourceSamples:
    """A scene with a frame for each sample of one thing's source, what bakes it, and the rows of both."""

    baker: Baker
    thing: Thing
    way: OnFirstFrames
    row_of_sample: Ints
    """Of each of its rows the nearest row of the scene itself, (samples,)."""
    sample_of_row: Ints
    """Of each row of the scene itself the nearest of these, (frames,)."""

    def camera(self, camera: Camera | None) -> Camera | None:
        """A camera as it is there."""
        return camera and self.way.camera(camera)

    def judgement(self, judged: ArcJudgement) -> ArcJudgement:
        """On the rows of the scene itself."""
        faults = tuple(replace(fault, row=self._row(fault.row)) for fault in judged.faults)
        off_arc, off_spacing, least = (
            values[self.sample_of_row] for values in (judged.off_arc, judged.off_spacing, judged.least)
        )
        return ArcJudgement(off_arc, off_spacing, least, faults)

    def judged(self, arc: JudgedArc) -> JudgedArc:
        return JudgedArc(self.judgement(arc.judgement), tuple(map(self._unframed, arc.unframed)))

    def _unframed(self, found: Unframed) -> Unframed:
        faults = tuple(replace(f, fault=replace(f.fault, row=self._row(f.fault.row))) for f in found.faults)
        return replace(found, first=self._row(found.first), last=self._row(found.last), faults=faults)

    def _row(self, sample: int) -> int:
        return int(self.row_of_sample[sample])


def source_samples(baker: Baker, thing: Thing) -> SourceSamples | None:
    """Of a thing whose source has its samples farther apart than the frames; None where it has not, was keyed instead, or runs
    unevenly, and of a scene in which others play, where frames are what is judged."""
    made: dict[Thing, SourceSamples | None] = vars(baker).setdefault("_source_samples", {})
    if thing not in made:
        made[thing] = _found(baker, thing)
    return made[thing]


def _found(baker: Baker, thing: Thing) -> SourceSamples | None:
    scene, timing = baker.scene, thing.performance.timing
    interval_s = baker.rig(thing).motion.sample_interval_s
    if interval_s is None or timing.curve is not None or timing.repeats != "once" or scene.blocks or thing.nested:
        return None
    apart = Fraction(interval_s * float(scene.rate)).limit_denominator(MOST_DENOMINATOR) * timing.stretch
    if apart <= FARTHER:
        return None
    begins = timing.start - timing.first * timing.stretch
    way = OnFirstFrames(retiming=Retiming(1 / apart, begins, floor(begins) - begins))
    first, last = ceil(way.of(FrameTime(scene.frames.first))), floor(way.of(FrameTime(scene.frames.last)))
    if last - first + 1 < LEAST_ROWS:
        return None
    frames = FrameRange(first, last)
    moved = replace(way.scene(scene), frames=frames, rate=Rate(scene.rate.frames_per_second / apart))
    at: Floats = way.moments(frames.frames().astype(np.float64)) - scene.frames.first
    row_of_sample = np.clip(np.rint(at), 0, scene.frames.count - 1).astype(np.int64)
    rows = np.arange(scene.frames.count)
    sample_of_row = np.clip(np.rint(np.interp(rows, at, np.arange(len(at)))), 0, len(at) - 1).astype(np.int64)
    return SourceSamples(baker.of(moved), _same(moved.things, thing), way, row_of_sample, sample_of_row)


def _same(things: tuple[Thing, ...], thing: Thing) -> Thing:
    return next(t for t in things if t.id == thing.id and isinstance(t, Character) == isinstance(thing, Character))
