"""The first-order follower, exact for an input that is linear between frames."""

from __future__ import annotations

import numpy as np

from .transforms import Floats


def lagged(values: Floats, step_s: float, half_life_s: float) -> Floats:
    """Follow ``values`` (frames, ...) with a half-life; at rest on the first frame.

    With ``tau = half_life / ln 2`` and ``v = (x_f - x_f-1) / dt``:
    ``y_f = x_f - v tau + (y_f-1 - x_f-1 + v tau) 2^(-dt / half_life)``. In terms of the lag ``y - x`` that is a filter
    with one pole, which SciPy runs over all frames.
    """
    if half_life_s <= 0 or len(values) < 2:
        return np.array(values, dtype=np.float64)
    from scipy.signal import lfilter  # takes long to load, and few scenes need it

    kept = 2.0 ** (-step_s / half_life_s)
    tau = half_life_s / np.log(2.0)
    push = np.zeros_like(values, dtype=np.float64)
    push[1:] = -np.diff(values, axis=0) / step_s * tau * (1.0 - kept)
    return np.asarray(values + lfilter([1.0], [1.0, -kept], push, axis=0))
