"""Sound files: WAV, Ogg, FLAC and MP3 in, unpacked in a process of its own; FLAC out."""

from __future__ import annotations

import io
import sys
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from eddyfield.core.arrays import Floats
from eddyfield.core.cut.sound import LONGEST_SOUND_S

from .errors import FileError
from .own_process import answer, arrays_from, bounded

MEDIA_TYPES = {"WAV": "audio/wav", "WAVEX": "audio/wav", "OGG": "audio/ogg", "FLAC": "audio/flac", "MP3": "audio/mpeg"}
"""Kinds of files that are read, by the library's names."""
SUFFIXES = (".wav", ".ogg", ".flac", ".mp3")
MOST_SAMPLES = 100_000_000
"""Of one channel: 35 minutes at 48,000 a second. A small file may claim more than there is room for."""
MOST_CHANNELS = 16
_BLOCK = 2**16
SECONDS, MEMORY_BYTES = 60, 2 * 2**30


@dataclass(frozen=True, eq=False)
class Waveform:
    """All channels of a sound as one: ``samples`` (n,) of -1 to 1."""

    samples: Floats
    samples_per_second: int
    media_type: str

    @property
    def seconds(self) -> float:
        return len(self.samples) / self.samples_per_second


def read(data: bytes) -> Waveform:
    """Raises ``FileError`` for what is no sound, or too long."""
    arrays = arrays_from(__name__, data=data, seconds=SECONDS, what="a sound that cannot be unpacked")
    if "refused" in arrays:
        raise FileError(*map(str, arrays["refused"]))
    return Waveform(arrays["samples"].astype(np.float64), int(arrays["rate"]), str(arrays["media"]))


def _unpacked(data: bytes) -> tuple[NDArray[np.float32], int, str]:
    """Samples, how many a second, and the media type."""
    import soundfile  # takes longer to load than what needs no sound may wait

    try:
        with soundfile.SoundFile(io.BytesIO(data)) as file:
            media = MEDIA_TYPES.get(file.format)
            if media is None:
                raise FileError(
                    f"Sounds of the kind {file.format} are not read.", "Make a WAV, Ogg, FLAC or MP3 of it."
                )
            count = file.frames
            if count / file.samplerate > LONGEST_SOUND_S or count > MOST_SAMPLES or file.channels > MOST_CHANNELS:
                raise FileError("The sound is too long.", f"Bring in at most {MOST_SAMPLES / 48_000 / 60:.0f} minutes.")
            samples, at = np.zeros(count, dtype=np.float32), 0
            for block in file.blocks(_BLOCK, dtype="float32", always_2d=True):
                samples[at : at + len(block)] = block.mean(axis=1)
                at += len(block)
            samples = samples[:at]
            rate = int(file.samplerate)
    except soundfile.LibsndfileError as error:
        raise FileError("The file is no sound that can be read.", "Make a WAV, Ogg, FLAC or MP3 of it.") from error
    if not len(samples) or not np.isfinite(samples).all():
        raise FileError("The sound holds nothing that can be heard.", "Choose another file.")
    return samples, rate, media


def main() -> int:
    """What runs in the process."""
    try:
        samples, rate, media = _unpacked(bounded(MEMORY_BYTES))
    except FileError as error:
        answer(refused=np.array([error.message, error.remedy]))
        return 0
    answer(samples=samples, rate=np.array(rate), media=np.array(media))
    return 0


def write(samples: Floats, samples_per_second: int) -> bytes:
    """Mono samples (n,) of -1 to 1 as FLAC, 16 bits."""
    import soundfile

    out = io.BytesIO()
    soundfile.write(out, samples, samples_per_second, format="FLAC", subtype="PCM_16")
    return out.getvalue()


if __name__ == "__main__":
    sys.exit(main())
