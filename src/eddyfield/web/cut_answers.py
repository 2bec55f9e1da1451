"""What is answered about sounds and about the cut as a list."""

from __future__ import annotations

from eddyfield.core.cut.cut import ShotState
from eddyfield.core.cut.sound import Mark, Sound
from eddyfield.core.cut.transition import TransitionKind

from .answer import Answer


class SoundView(Answer):
    """A sound of the scene, how long its file is, and the name of the part with its waveform."""

    sound: Sound
    seconds: float
    waveform: str


class SoundFound(Answer):
    """A sound file that has been sent."""

    digest: str
    file_name: str
    seconds: float


class LinesFound(Answer):
    """Marks where lines begin and end, in order."""

    marks: list[Mark]


class ListedShot(Answer):
    """A shot of the cut, in words; ``first`` and ``last`` are both in it."""

    name: str
    camera: str
    first: int
    last: int
    frames: int
    seconds: float
    transition: TransitionKind
    transition_frames: int
    state: ShotState
    note: str


class CutList(Answer):
    shots: list[ListedShot]
