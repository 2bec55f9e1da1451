"""What is heard at the mill race: water, the wheel, steps, Oda's murmur and Quill's call, all made here."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from eddyfield.core.arrays import Floats
from eddyfield.formats import sound

Complexes = NDArray[np.complex128]

SAMPLES_PER_SECOND = 24_000
SECONDS = 4.0
FRAMES_PER_SECOND = 24
STEPS_S = tuple(16 * step / FRAMES_PER_SECOND + 0.28 for step in range(6))
CALL_S = (1.32, 0.22)
"""Quill: when, and how long."""
LINE_S = ((2.10, 0.24), (2.42, 0.36), (2.86, 0.30))
"""Oda's syllables after she has seen the heron: when, and how long."""
_VOWELS = ((420.0, 1000.0, 2400.0), (620.0, 1250.0, 2500.0), (350.0, 800.0, 2300.0))
_COUNT = int(SECONDS * SAMPLES_PER_SECOND)
_TIME = np.arange(_COUNT) / SAMPLES_PER_SECOND


def race() -> bytes:
    """Water and the wheel."""
    random = np.random.default_rng(7)
    water = _band(random.standard_normal(_COUNT), 250.0, 2200.0) * (1 + 0.25 * np.sin(2 * np.pi * 0.7 * _TIME))
    creak = np.zeros(_COUNT)
    for begins in np.arange(0.2, SECONDS, 0.8):
        hum = np.sign(np.sin(2 * np.pi * 88 * (_TIME - begins) * (1 + 0.05 * (_TIME - begins))))
        creak += hum * _swell(begins, 0.3)
    return sound.write(_levelled(water / 14 + _band(creak, 200.0, 1400.0) / 40, 0.12), SAMPLES_PER_SECOND)


def voices() -> bytes:
    """Oda's line as a murmur of formants, and Quill's call; silence between."""
    out = np.zeros(_COUNT)
    for (begins, lasts), vowel in zip(LINE_S, _VOWELS, strict=True):
        pitch = 190 - 22 * np.clip((_TIME - begins) / lasts, 0, 1)
        buzz = np.sin(np.cumsum(2 * np.pi * pitch / SAMPLES_PER_SECOND))
        pulses = np.maximum(buzz, 0.0) ** 6
        out += sum(_formant(pulses, formant) for formant in vowel) * _swell(begins, lasts)
    begins, lasts = CALL_S
    rasp = np.random.default_rng(3).standard_normal(_COUNT) * (0.6 + 0.4 * np.sign(np.sin(2 * np.pi * 62 * _TIME)))
    out += 0.5 * _band(rasp, 500.0, 1800.0) * _swell(begins, lasts)
    return sound.write(_levelled(out, 0.5), SAMPLES_PER_SECOND)


def steps() -> bytes:
    """A boot on stone, every sixteen frames."""
    random = np.random.default_rng(11)
    out = np.zeros(_COUNT)
    for begins in STEPS_S:
        since = _TIME - begins
        out += np.where(since >= 0, np.exp(-np.maximum(since, 0) * 55), 0.0) * random.standard_normal(_COUNT)
    return sound.write(_levelled(_band(out, 90.0, 900.0), 0.4), SAMPLES_PER_SECOND)


def _band(samples: Floats, low_hz: float, high_hz: float) -> Floats:
    """What lies between two pitches, with the slopes of a Butterworth filter of the second order and no delay."""

    def response(hz: Floats) -> Floats:
        off = (hz**2 - low_hz * high_hz) / (np.maximum(hz, 1e-3) * (high_hz - low_hz))
        return np.asarray(1.0 / np.sqrt(1.0 + off**4))

    return _through(samples, response)


def _formant(samples: Floats, hz: float) -> Floats:
    """A resonance 90 Hz wide."""
    radius, turn = np.exp(-np.pi * 90 / SAMPLES_PER_SECOND), 2 * np.pi * hz / SAMPLES_PER_SECOND

    def response(hz: Floats) -> Complexes:
        back = np.exp(-2j * np.pi * hz / SAMPLES_PER_SECOND)
        return np.asarray((1 - radius) / (1 - 2 * radius * np.cos(turn) * back + (radius * back) ** 2))

    return _through(samples, response)


def _through(samples: Floats, response: Callable[[Floats], Floats | Complexes]) -> Floats:
    """Through a filter by its response to each pitch."""
    pitches_hz: Floats = np.fft.rfftfreq(len(samples), 1 / SAMPLES_PER_SECOND).astype(np.float64)
    return np.asarray(np.fft.irfft(np.fft.rfft(samples) * response(pitches_hz), len(samples)))


def _swell(begins: float, lasts: float) -> Floats:
    """Up and down again, 0 elsewhere."""
    share = np.clip((_TIME - begins) / lasts, 0.0, 1.0)
    return np.asarray(np.sin(np.pi * share) ** 0.6)


def _levelled(samples: Floats, peak: float) -> Floats:
    return np.asarray(samples * (peak / np.abs(samples).max()))
