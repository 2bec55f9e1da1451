"""Sounds as they are shown and heard: read from the store when they are first asked for."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from eddyfield.core.arrays import Floats
from eddyfield.core.cut.lines import hop_edges, lines_in, loudness_db, marks_of
from eddyfield.core.cut.sound import Sound
from eddyfield.core.errors import DomainError
from eddyfield.core.scene import Scene
from eddyfield.formats import sound as format_sound
from eddyfield.store.blobs import Blobs

from .cut_answers import LinesFound, SoundFound, SoundView
from .parts import WaveformPart
from .rigs import PartMemory
from .thing_views import Offer


@dataclass(frozen=True, eq=False)
class Heard:
    """Of a sound file: its length, how loud it is and how far it swings (0 to 255) in every hundredth of a second."""

    seconds: float
    media_type: str
    loudness_db: Floats
    peaks: NDArray[np.uint8]


class Sounds:
    def __init__(self, blobs: Blobs, memory: PartMemory) -> None:
        self._blobs = blobs
        self._memory = memory

    def data(self, digest: str) -> bytes:
        """Raises ``DomainError`` where there is none."""
        try:
            return self._blobs.get(digest)
        except KeyError:
            raise DomainError("The sound is not there any more.", "Bring it in again.") from None

    def heard(self, digest: str) -> Heard:
        name = f"sound {digest}"
        found = self._memory.get(name)
        if found is None:
            found = self._memory[name] = heard(self.data(digest))
        assert isinstance(found, Heard)
        return found

    def view(self, sound: Sound, offer: Offer) -> SoundView:
        own = self.heard(sound.digest)
        part = offer(f"waveform {sound.digest[:40]}", lambda: WaveformPart(peaks=own.peaks))
        return SoundView(sound=sound, seconds=own.seconds, waveform=part)

    def lines(self, scene: Scene, sound_id: str, threshold_db: float, least_silence_s: float) -> LinesFound:
        """Marks where lines begin and end in one of a scene's sounds."""
        sound = scene.sound(sound_id)
        found = lines_in(self.heard(sound.digest).loudness_db, threshold_db, least_silence_s)
        marks = marks_of(found, sound, scene.rate)
        return LinesFound(marks=[mark for mark in marks if scene.frames.first <= mark.frame <= scene.frames.last])


def inspect(name: str, data: bytes, digest: str) -> SoundFound:
    """Raises ``FileError`` for what is no sound."""
    waveform = format_sound.read(data)
    return SoundFound(digest=digest, file_name=name, seconds=waveform.seconds)


def heard(data: bytes) -> Heard:
    waveform = format_sound.read(data)
    samples, rate = waveform.samples, waveform.samples_per_second
    highest = np.maximum.reduceat(np.abs(samples), hop_edges(len(samples), rate))
    peaks = np.minimum(highest * 255, 255).astype(np.uint8)
    return Heard(waveform.seconds, waveform.media_type, loudness_db(samples, rate), peaks)
