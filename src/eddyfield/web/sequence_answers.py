"""What is answered about sequences."""

from __future__ import annotations

from .answer import Answer
from .cut_answers import TimecodeView
from .reading_answers import ReadingView


class SceneOfSequence(Answer):
    """A scene in its place. ``begins`` and ``lasts`` are in frames of the sequence, which may be no whole ones where the scene
    has another rate."""

    scene_id: str
    name: str
    revision: int
    has_picture: bool
    first: int
    last: int
    rate: str
    rate_float: float
    begins: float
    lasts: float
    seconds: float
    timecode: str
    """The running time code of its first frame."""
    other_rate: bool
    """It runs at another rate than the sequence counts at."""


class SequenceView(Answer):
    """Scenes one after the other; its rate is that of the first one, 0 where it has none."""

    id: str
    name: str
    revision: int
    undo: str | None
    redo: str | None
    rate_float: float
    timecode: TimecodeView
    frames: float
    seconds: float
    scenes: list[SceneOfSequence]


class SequenceReading(Answer):
    """A reading of one of its scenes; ``timecode`` is the running one of its first frame."""

    scene_id: str
    scene_name: str
    timecode: str
    reading: ReadingView


class SequenceReadings(Answer):
    """Of all scenes, what hurts most first; ``failed`` are the names of scenes that could not be judged."""

    readings: list[SequenceReading]
    failed: list[str]
