"""What the demo's performances are posed with: turns, bumps over time, and slopes through keys."""

from __future__ import annotations

import numpy as np

from eddyfield.core.arrays import Floats
from eddyfield.core.rig import transforms

RATE = 24


def turn(axis: tuple[float, float, float], degrees: Floats) -> Floats:
    half = np.radians(degrees) / 2
    return np.concatenate(
        [np.multiply.outer(np.sin(half), np.array(axis, dtype=np.float64)), np.cos(half)[:, None]], axis=-1
    )


def rotation(pitch: Floats, yaw: Floats, roll: Floats) -> Floats:
    """World rotations, degrees: ``pitch`` leans forwards, ``yaw`` turns to her left, ``roll`` leans to her right."""
    turned = transforms.quaternion_product(turn((0, 1, 0), yaw), turn((1, 0, 0), pitch))
    return transforms.matrix_from_quaternion(transforms.quaternion_product(turned, turn((0, 0, 1), roll)))


def smooth(share: Floats) -> Floats:
    share = np.clip(share, 0, 1)
    return share**3 * (share * (6 * share - 15) + 10)


def bump(row: Floats, first: float, last: float, ease: float) -> Floats:
    """Rises from 0 to 1 after ``first`` and back before ``last``, within ``ease`` rows."""
    return np.asarray(smooth((row - first) / ease) * smooth((last - row) / ease))


def continuous(quaternions: Floats) -> Floats:
    """The same rotations (rows, joints, 4), neighbours on the same side, so that cubic interpolation takes the short way."""
    out = np.array(quaternions)
    flips = np.cumprod(np.where(np.einsum("fji,fji->fj", out[1:], out[:-1]) < 0, -1.0, 1.0), axis=0)
    out[1:] *= flips[..., None]
    return out


def tangents(rows: np.ndarray, values: Floats) -> Floats:
    """Slopes per second through neighbouring keys (Catmull-Rom for uneven times), level at neither end."""
    seconds = rows / RATE
    return np.asarray(np.gradient(values, seconds, axis=0))
