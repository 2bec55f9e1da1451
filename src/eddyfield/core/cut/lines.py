"""Lines found in a sound: where somebody begins to speak after silence, and where it ends."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Floats, Ints
from ..errors import DomainError
from ..time.frames import Rate
from .sound import Mark, Sound

HOPS_PER_SECOND = 100
SILENCE_DB = -120.0
SHORTEST_LINE_S = 0.08


@dataclass(frozen=True)
class Line:
    """Where it begins and ends in its file, seconds."""

    first_s: float
    last_s: float


def hop_edges(count: int, samples_per_second: int) -> Ints:
    """The sample on which each hundredth of a second begins, of so many."""
    hops = int(np.ceil(count * HOPS_PER_SECOND / samples_per_second))
    return np.unique(np.arange(hops) * samples_per_second // HOPS_PER_SECOND)


def loudness_db(samples: Floats, samples_per_second: int) -> Floats:
    """Root mean square of every hundredth of a second of mono samples (n,) of -1 to 1, in dB below full scale."""
    edges = hop_edges(len(samples), samples_per_second)
    if not len(edges):
        return np.zeros(0)
    counts = np.diff(np.append(edges, len(samples)))
    power = np.add.reduceat(np.square(samples, dtype=np.float64), edges) / counts
    return np.asarray(10 * np.log10(np.maximum(power, 10 ** (SILENCE_DB / 10))))


def lines_in(loudness: Floats, threshold_db: float, least_silence_s: float) -> list[Line]:
    """Stretches louder than a threshold; gaps shorter than ``least_silence_s`` belong to a line, clicks are none."""
    if not -100 <= threshold_db <= 0:
        raise DomainError(f"{threshold_db:g} dB is no threshold.", "Give from -100 to 0 dB.")
    if not 0 <= least_silence_s <= 60:
        raise DomainError(f"{least_silence_s:g} s is no silence to look for.", "Give from 0 to 60 s.")
    loud = np.flatnonzero(loudness > threshold_db)
    if not len(loud):
        return []
    breaks = np.flatnonzero(np.diff(loud) - 1 >= max(1.0, least_silence_s * HOPS_PER_SECOND))
    firsts = loud[np.concatenate([[0], breaks + 1])]
    lasts = loud[np.concatenate([breaks, [len(loud) - 1]])] + 1
    lines = [Line(first / HOPS_PER_SECOND, last / HOPS_PER_SECOND) for first, last in zip(firsts, lasts, strict=True)]
    return [line for line in lines if line.last_s - line.first_s >= SHORTEST_LINE_S]


def marks_of(lines: list[Line], sound: Sound, rate: Rate) -> tuple[Mark, ...]:
    """Where lines begin and end in the scene, as far as they are heard: on the frame during which that is."""
    out: list[Mark] = []
    end = np.inf if sound.last_s is None else sound.last_s
    for line in lines:
        first, last = max(line.first_s, sound.first_s), min(line.last_s, end)
        if last > first:
            frames = [sound.start + int(np.floor((s - sound.first_s) * float(rate) + 1e-6)) for s in (first, last)]
            out += [Mark(frames[0], "line begins", sound.name), Mark(frames[1], "line ends", sound.name)]
    return tuple(sorted(out))
