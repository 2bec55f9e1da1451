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


class TimecodeView(Answer):
    """The time code of the scene's first frame, as a text and as a count; ``numbers`` a second, of which the first ``dropped``
    of each minute but every tenth are left out."""

    text: str
    starts_at: int
    numbers: int
    dropped: int


class OtherCutView(Answer):
    """A cut that is kept beside the one that is shown; ``shots`` names the part with its shots."""

    id: str
    name: str
    shots: str
    shot_count: int


class RateChangeView(Answer):
    """What a change of rate would come to: the scene's ends then, and what is lost or moved, a sentence each."""

    first: int
    last: int
    costs: list[str]


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
    handle_before: int
    handle_after: int
    state: ShotState
    note: str


class CutList(Answer):
    shots: list[ListedShot]
