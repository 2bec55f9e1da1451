"""Two bones bent so that their end is where it should be: inverse kinematics in closed form."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Floats
from . import transforms

MOST_STRETCH = 1.05
"""Of the length of both bones: what is farther away is not reached."""


@dataclass(frozen=True, eq=False)
class Bent:
    """What carries the ``upper`` and the ``lower`` bone from where they were, (n, 4, 4) each, from world to world; where the end
    is then, (n, 3); and the share by which the bones are made longer, (n,)."""

    upper: Floats
    lower: Floats
    reached: Floats
    stretch: Floats


def bent_to(a: Floats, k: Floats, c: Floats, wanted: Floats, ahead: Floats) -> Bent:
    """Bend bones from ``a`` by ``k`` to ``c`` so that the end comes to ``wanted``; ``ahead`` is where a straight one bends to.
    All (n, 3). The law of cosines in the plane in which they are bent, turned along with them.

    >>> straight = np.array([[0.0, 2.0, 0.0]]), np.array([[0.0, 1.0, 0.0]]), np.array([[0.0, 0.0, 0.0]])
    >>> bent = bent_to(*straight, np.array([[0.0, 0.5, 0.5]]), np.array([[0.0, 0.0, 1.0]]))
    >>> bent.reached, bent.stretch
    (array([[0. , 0.5, 0.5]]), array([0.]))
    """
    upper, lower = (np.linalg.norm(bone, axis=-1) for bone in (k - a, c - k))
    away = np.linalg.norm(wanted - a, axis=-1)
    stretch = np.clip(away / (upper + lower), 1.0, MOST_STRETCH)
    upper_now, lower_now = upper * stretch, lower * stretch
    distance = np.clip(away, np.abs(upper_now - lower_now) + 1e-9, upper_now + lower_now)
    before, after = (transforms.normalized(end - a, (0.0, -1.0, 0.0)) for end in (c, wanted))
    reached = a + after * distance[:, None]
    bend = _across(k - a, before)
    straight = np.linalg.norm(bend, axis=-1) < 1e-4 * upper
    bend = transforms.normalized(np.where(straight[:, None], _across(ahead, before), bend), (0.0, 0.0, 1.0))
    swung = transforms.normalized(_across(_turned(before, after, bend), after), (0.0, 0.0, 1.0))
    cosine = np.clip((upper_now**2 + distance**2 - lower_now**2) / (2 * upper_now * distance), -1.0, 1.0)
    knee = a + upper_now[:, None] * (cosine[:, None] * after + np.sqrt(1 - cosine**2)[:, None] * swung)
    hinge, hinge_now = np.cross(before, bend), np.cross(after, swung)
    upper_turned = _about(a, a, _frame(knee - a, hinge_now) @ np.swapaxes(_frame(k - a, hinge), -1, -2))
    lower_turned = _about(k, knee, _frame(reached - knee, hinge_now) @ np.swapaxes(_frame(c - k, hinge), -1, -2))
    return Bent(upper_turned, lower_turned, reached, stretch - 1.0)


def _across(vectors: Floats, unit: Floats) -> Floats:
    """What of vectors lies across unit ones."""
    out: Floats = vectors - np.einsum("fi,fi->f", vectors, unit)[:, None] * unit
    return out


def _turned(from_: Floats, to: Floats, vectors: Floats) -> Floats:
    """Vectors turned as ``from_`` turns to ``to`` the shortest way (Rodrigues; unit vectors that are not opposite)."""
    axis, cosine = np.cross(from_, to), np.einsum("fi,fi->f", from_, to)
    along = np.einsum("fi,fi->f", axis, vectors) / np.maximum(1 + cosine, 1e-9)
    return np.asarray(cosine[:, None] * vectors + np.cross(axis, vectors) + along[:, None] * axis)


def _frame(bone: Floats, hinge: Floats) -> Floats:
    """Axes of a bone that turns about a hinge, (n, 3, 3) in columns."""
    along = transforms.normalized(bone, (0.0, -1.0, 0.0))
    about = transforms.normalized(_across(hinge, along), (1.0, 0.0, 0.0))
    return np.stack([along, about, np.cross(along, about)], axis=-1)


def _about(from_: Floats, to: Floats, turn: Floats) -> Floats:
    """x -> R (x - from) + to, (n, 4, 4)."""
    return transforms.rigid(turn, to - np.einsum("fij,fj->fi", turn, from_))
