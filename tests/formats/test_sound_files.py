"""Sound files, as a library writes them."""

from __future__ import annotations

import io

import numpy as np
import pytest
import soundfile

from eddyfield.demo import mill_sounds
from eddyfield.formats import sound
from eddyfield.formats.errors import FileError

TIME = np.arange(24_000) / 24_000
TONE = 0.5 * np.sin(2 * np.pi * 440 * TIME)


@pytest.mark.parametrize(
    ("kind", "subtype", "media", "close"),
    [
        ("WAV", "PCM_16", "audio/wav", 1e-4),
        ("WAV", "FLOAT", "audio/wav", 1e-6),
        ("FLAC", "PCM_24", "audio/flac", 1e-6),
        ("OGG", "VORBIS", "audio/ogg", 0.05),
        ("MP3", "MPEG_LAYER_III", "audio/mpeg", 0.05),
    ],
)
def test_both_channels_come_as_one(kind: str, subtype: str, media: str, close: float) -> None:
    out = io.BytesIO()
    soundfile.write(out, np.stack([TONE, TONE / 2], axis=1), 24_000, format=kind, subtype=subtype)
    read = sound.read(out.getvalue())
    assert (read.media_type, read.samples_per_second) == (media, 24_000)
    assert abs(read.seconds - 1.0) < 0.1
    middle = slice(4_000, 20_000)
    spectrum = np.abs(np.fft.rfft(read.samples[middle] * np.hanning(16_000)))
    assert abs(np.argmax(spectrum) * 1.5 - 440) < 2
    if kind in ("WAV", "FLAC"):
        assert np.abs(read.samples - 0.75 * TONE).max() < close


def test_what_is_written_is_read_again() -> None:
    assert np.abs(sound.read(sound.write(TONE, 24_000)).samples - TONE).max() < 1e-4
    for make in (mill_sounds.race, mill_sounds.voices, mill_sounds.steps):
        assert abs(sound.read(make()).seconds - mill_sounds.SECONDS) < 1e-9


@pytest.mark.parametrize("data", [b"", b"RIFF", b"no sound" * 100, sound.write(TONE, 24_000)[:60]])
def test_what_is_no_sound_is_refused(data: bytes) -> None:
    with pytest.raises(FileError):
        sound.read(data)


def test_an_empty_or_unbounded_sound_is_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    out = io.BytesIO()
    soundfile.write(out, np.zeros(0), 24_000, format="WAV")
    with pytest.raises(FileError, match="nothing that can be heard"):
        sound.read(out.getvalue())
    monkeypatch.setattr(sound, "LONGEST_SOUND_S", 0.5)
    with pytest.raises(FileError, match="too long"):
        sound._unpacked(sound.write(TONE, 24_000))
    aiff = io.BytesIO()
    soundfile.write(aiff, TONE, 24_000, format="AIFF")
    with pytest.raises(FileError, match="kind AIFF"):
        sound.read(aiff.getvalue())


def test_a_small_file_that_claims_hours_of_sound_is_refused_before_it_is_unpacked(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    silence = io.BytesIO()
    soundfile.write(silence, np.zeros(2_000_000), 24_000, format="FLAC")
    assert len(silence.getvalue()) < 60_000
    monkeypatch.setattr(sound, "MOST_SAMPLES", 1_000_000)
    with pytest.raises(FileError, match="too long"):
        sound._unpacked(silence.getvalue())


def test_a_sound_is_unpacked_in_a_process_that_is_bounded(monkeypatch: pytest.MonkeyPatch) -> None:
    whole = sound.write(TONE, 24_000)
    monkeypatch.setattr(sound, "SECONDS", 0.001)
    with pytest.raises(FileError, match="takes too long"):
        sound.read(whole)
    monkeypatch.undo()
    assert sound.read(whole).seconds == pytest.approx(len(TONE) / 24_000)
