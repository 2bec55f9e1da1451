"""Values over uneven times, evened out."""

from __future__ import annotations

import numpy as np

from ..arrays import Floats

LEAST_WEIGHT = 1e-12


def smoothed(times: Floats, values: Floats, frames: float) -> Floats:
    """The weighted mean of each value's neighbours, (n,), in order of time, by a bell curve of the standard deviation ``frames``.
    The first and the last value stay: what is smoothed is how the values differ from the straight line between these,
    mirrored through both ends.

    >>> smoothed(np.arange(5.0), np.array([0.0, 1.0, 2.0, 3.0, 4.0]), 3.0)
    array([0., 1., 2., 3., 4.])
    """
    share = (times - times[0]) / (times[-1] - times[0])
    line = values[0] + share * (values[-1] - values[0])
    off = values - line
    around = np.concatenate([2 * times[0] - times[:0:-1], times, 2 * times[-1] - times[-2::-1]])
    mirrored = np.concatenate([-off[:0:-1], off, -off[-2::-1]])
    # Uneven times count by the time that each stands for.
    lasts = np.gradient(around)
    weights = np.exp(-0.5 * ((times[:, None] - around) / frames) ** 2) * lasts
    out = (weights * mirrored).sum(axis=1) / np.maximum(weights.sum(axis=1), LEAST_WEIGHT)
    out[[0, -1]] = 0.0
    return np.asarray(line + out)
