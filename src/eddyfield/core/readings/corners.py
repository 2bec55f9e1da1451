"""Corners: changes of velocity at a frame or half-way between two, honest where a foot lands or a pose is struck.

The same local model as for faults, a quintic over a window of samples, beside the same with a corner (|t|) in it.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ..arrays import Floats
from .faults import usual_residual
from .thresholds import SURE_ERRORS
from .window import NINE, Window

PLACES = (0.0, 0.5)
"""Of the corner beside the centre of the window, in samples."""
LESS_BY = 0.5
"""Times the residual without it: a corner leaves no more."""


@dataclass(frozen=True)
class Corner:
    """At sample ``at`` (half-way between two: with a half) the velocity changes by ``size`` a sample, and could have been told
    from ``least`` on."""

    at: float
    size: float
    least: float


@lru_cache(maxsize=64)
def _solver(window: Window, place: float) -> tuple[Floats, float, Floats]:
    """(the row that solves the corner, the corner's norm beside the motion, what makes the residual)."""
    design = np.column_stack([window.motion, np.abs(window.offsets - place)])
    solve = np.linalg.pinv(design)
    return solve[-1], float(1.0 / np.linalg.norm(solve[-1])), np.eye(window.count) - design @ solve


def find_corners(samples: Floats, noise_floor: float, least: float, window: Window = NINE) -> list[Corner]:
    """The corners of samples (n, d): where one changes the velocity by more than ``least`` a sample and by seven standard errors,
    and explains most of what a smooth motion leaves; of several within half a window the surest."""
    count, motion = window.count, window.motion
    if len(samples) < count:
        return []
    windows = np.lib.stride_tricks.sliding_window_view(samples, count, axis=0)
    without = _residual(windows, np.eye(count) - motion @ np.linalg.pinv(motion), count - motion.shape[1])
    candidates: list[tuple[float, Corner]] = []
    for place in PLACES:
        row, norm, maker = _solver(window, place)
        left = _residual(windows, maker, count - motion.shape[1] - 1)
        size = 2 * np.linalg.norm(windows @ row, axis=-1)
        error = 2 * np.fmax(np.fmax(left, usual_residual(left, window)), noise_floor) / norm
        told = (size > least) & (size > SURE_ERRORS * error) & (left < LESS_BY * without)
        candidates += [
            (
                float(size[at] / error[at]),
                Corner(at + window.half + place, float(size[at]), float(SURE_ERRORS * error[at])),
            )
            for at in np.flatnonzero(told).tolist()
        ]
    chosen: list[Corner] = []
    for _, corner in sorted(candidates, key=lambda c: -c[0]):
        if all(abs(corner.at - other.at) > window.half for other in chosen):
            chosen.append(corner)
    return sorted(chosen, key=lambda corner: corner.at)


def _residual(windows: Floats, maker: Floats, freedom: int) -> Floats:
    """Root mean square over the dimensions of what is left of windows (n, d, 9), (n,)."""
    left = np.einsum("ndw,wv,ndv->n", windows, maker, windows)
    return np.asarray(np.sqrt(np.maximum(left, 0.0) / (freedom * windows.shape[1])))
