"""The first-order follower, exact for an input that is linear between frames."""

from __future__ import annotations

import numpy as np
from scipy.linalg import solve_banded

from ..arrays import Floats
from ..rig import transforms

SETTLING_HALVINGS = float(np.log2(20))
"""Half-lives after which a twentieth is left to make up: then it counts as settled."""


def lagged(values: Floats, step_s: float, half_life_s: float) -> Floats:
    """Follow ``values`` (frames, ...) with a half-life; at rest on the first frame.

    With ``tau = half_life / ln 2`` and ``v = (x_f - x_f-1) / dt``:
    ``y_f = x_f - v tau + (y_f-1 - x_f-1 + v tau) 2^(-dt / half_life)``. In terms of the lag ``y - x`` each is what came in
    and a share of the one before: two diagonals of equations, solved for all frames at once.
    """
    if half_life_s <= 0 or len(values) < 2:
        return np.array(values, dtype=np.float64)
    kept = 2.0 ** (-step_s / half_life_s)
    tau = half_life_s / np.log(2.0)
    push = np.zeros_like(values, dtype=np.float64)
    push[1:] = -np.diff(values, axis=0) / step_s * tau * (1.0 - kept)
    diagonals = np.stack([np.ones(len(push)), np.full(len(push), -kept)])
    lag = solve_banded((1, 0), diagonals, push.reshape(len(push), -1))
    return np.asarray(values + lag.reshape(push.shape))


def lagged_turns(rotations: Floats, step_s: float, half_life_s: float) -> Floats:
    """Follow rotations (frames, 3, 3) with a half-life: the same follower on the rotation vector from the follower to what
    it follows, in world axes, the steps from frame to frame being taken the shortest way and added up."""
    if half_life_s <= 0 or len(rotations) < 2:
        return np.array(rotations, dtype=np.float64)
    steps = transforms.rotation_vector_from_matrix(rotations[1:] @ np.swapaxes(rotations[:-1], -1, -2))
    way = np.concatenate([np.zeros((1, 3)), np.cumsum(steps, axis=0)])
    behind = way - lagged(way, step_s, half_life_s)
    return np.asarray(transforms.matrix_from_rotation_vector(-behind) @ rotations)
