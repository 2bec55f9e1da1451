"""A sequence: scenes one after the other, each through its own cut, under one running time code."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from fractions import Fraction

from ..errors import DomainError
from ..time.frames import FrameRange, FrameTime, Rate
from ..time.timecode import Timecode, dropped_a_minute

MOST_SCENES = 500


@dataclass(frozen=True)
class Sequence:
    """``scene_ids`` in the order in which they are played, each once; ``timecode`` is that of the first frame."""

    id: str
    name: str
    scene_ids: tuple[str, ...] = ()
    timecode: Timecode = Timecode()

    def __post_init__(self) -> None:
        if len(self.scene_ids) > MOST_SCENES:
            raise DomainError(f"{len(self.scene_ids)} scenes are too many.", f"Keep a sequence within {MOST_SCENES}.")
        if len(set(self.scene_ids)) < len(self.scene_ids):
            raise DomainError("A scene stands in the sequence twice.", "Let it stand there once.")


@dataclass(frozen=True)
class SceneLength:
    """What a sequence goes by of a scene."""

    scene_id: str
    frames: FrameRange
    rate: Rate

    @property
    def seconds(self) -> Fraction:
        return self.frames.count / self.rate.frames_per_second


@dataclass(frozen=True)
class Placed:
    """A scene in its place: it begins ``begins`` frames of the sequence after the sequence does, and lasts ``lasts`` of them.
    Both are exact; where a scene has another rate they may lie between frames."""

    scene: SceneLength
    begins: FrameTime
    lasts: FrameTime

    def running(self, frame: int) -> FrameTime:
        """How many frames of the sequence come before a frame of the scene."""
        return self.begins + (frame - self.scene.frames.first) * self.lasts / self.scene.frames.count


def rate_of(scenes: Iterable[SceneLength]) -> Rate | None:
    """The rate of a sequence is that of its first scene; None where it has none."""
    return next((scene.rate for scene in scenes), None)


def laid_end_to_end(scenes: Iterable[SceneLength]) -> tuple[Placed, ...]:
    """Every scene in its place, without a gap.

    >>> day = Rate.parse("24")
    >>> one, two = SceneLength("one", FrameRange(1001, 1096), day), SceneLength("two", FrameRange(1, 48), day)
    >>> [str(placed.begins) for placed in laid_end_to_end([one, two])]
    ['0', '96']
    """
    scenes, out, begins = tuple(scenes), [], FrameTime(0)
    rate = rate_of(scenes)
    for scene in scenes:
        assert rate is not None
        lasts = scene.seconds * rate.frames_per_second
        out.append(Placed(scene, begins, lasts))
        begins += lasts
    return tuple(out)


def usable_timecode(timecode: Timecode, rate: Rate | None) -> Timecode:
    """The time code at the rate that the sequence has now: it leaves numbers out only where that is defined."""
    try:
        if timecode.drops and rate is not None:
            dropped_a_minute(rate)
    except DomainError:
        return replace(timecode, drops=False)
    return timecode if rate is not None else replace(timecode, drops=False)
