"""Stretches: runs of frames on which something is so, short gaps bridged, within spans."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ..arrays import Bools

Spans = Sequence[tuple[int, int]]
"""First and last row of each, both included."""
BRIDGED, LEAST_FRAMES = 3, 6
WITHIN, OF_THEM = 12, 8


def runs(mask: Bools) -> list[tuple[int, int]]:
    """First and last row of every run of true rows.

    >>> runs(np.array([True, True, False, True]))
    [(0, 1), (3, 3)]
    """
    edges = np.flatnonzero(np.diff(np.concatenate([[False], mask, [False]]).astype(np.int8)))
    return [(int(a), int(b) - 1) for a, b in zip(edges[::2], edges[1::2], strict=True)]


def stretches(mask: Bools, spans: Spans) -> list[tuple[int, int]]:
    """Runs within each span, gaps of up to 3 rows bridged, that are at least 6 rows long or reach to the span's end.

    >>> stretches(np.array([0, 1, 1, 0, 0, 1, 1, 0, 0, 0, 0, 0, 1], dtype=bool), [(0, 12)])
    [(1, 6), (12, 12)]
    """
    out: list[tuple[int, int]] = []
    for first, last in spans:
        joined: list[tuple[int, int]] = []
        for a, b in runs(mask[first : last + 1]):
            if joined and a - joined[-1][1] - 1 <= BRIDGED:
                joined[-1] = (joined[-1][0], b)
            else:
                joined.append((a, b))
        out += [(first + a, first + b) for a, b in joined if b - a + 1 >= LEAST_FRAMES or first + b == last]
    return out


def mostly(mask: Bools, spans: Spans) -> list[tuple[int, int]]:
    """Stretches whose rows lie in windows of 12 rows with at least 8 true ones, from the first true one to the last."""
    out: list[tuple[int, int]] = []
    for first, last in spans:
        own = mask[first : last + 1]
        if len(own) < WITHIN:
            continue
        enough = np.lib.stride_tricks.sliding_window_view(own, WITHIN).sum(axis=-1) >= OF_THEM
        covered = np.zeros(len(own), dtype=bool)
        for a, b in runs(enough):
            covered[a : b + WITHIN] = True
        for a, b in runs(covered):
            true = np.flatnonzero(own[a : b + 1])
            out.append((first + a + int(true[0]), first + a + int(true[-1])))
    return out


def was_before(inside: Bools, first: int, span_first: int) -> bool:
    """Whether something was so for 6 rows on end, or on the first row, of a span before row ``first``."""
    before = inside[span_first:first]
    return bool(len(before)) and (bool(before[0]) or any(b - a + 1 >= LEAST_FRAMES for a, b in runs(before)))
