"""Rigs for measuring: keyed on shared times, as an animator's are."""

from __future__ import annotations

import numpy as np

from eddyfield.core.rig import transforms
from eddyfield.core.rig.motion import Curve, Motion
from eddyfield.core.rig.rig import Rig


def keyed_rig(joints: int = 60, keys: int = 61, seconds: float = 10.0, seed: int = 0) -> Rig:
    """A character of so many joints, rotations keyed on shared times, the root also moving."""
    rng = np.random.default_rng(seed)
    parents = np.array([-1] + [max(0, i - int(rng.integers(1, 4))) for i in range(1, joints)])
    times = np.linspace(0, seconds, keys)
    turns = transforms.quaternion_normalized(rng.normal(size=(joints, keys, 4)) * 0.2 + [0, 0, 0, 1])
    curves = [Curve(i, "rotation", "linear", times, turns[i]) for i in range(joints)]
    curves.append(Curve(0, "translation", "linear", times, rng.normal(size=(keys, 3)) * 0.1))
    place = rng.uniform(-0.2, 0.2, (joints, 3))
    still, ones = np.tile([0.0, 0.0, 0.0, 1.0], (joints, 1)), np.ones((joints, 3))
    names = tuple(f"joint_{i}" for i in range(joints))
    matrices = transforms.compose(place, still, ones)
    return Rig(names, parents, place, still, ones, matrices, np.arange(joints), Motion(tuple(curves), seconds))
