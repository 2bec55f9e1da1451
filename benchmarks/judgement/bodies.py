"""Whole bodies whose performance has one fault: a joint turned or moved on one frame, a limb that jumps, time that was lost."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import cache

import numpy as np

from eddyfield.core.arrays import Floats
from eddyfield.core.bake import Baker
from eddyfield.core.rig import transforms
from eddyfield.core.rig.motion import Curve, Motion
from eddyfield.core.rig.rig import Rig
from eddyfield.demo import mill_race
from eddyfield.formats import gltf

KINDS = ("turned joint", "moved body", "limb jumps", "time lost")
JOINTS = ("hand_r", "forearm_r", "upper_arm_l", "forearm_l", "head", "chest", "thigh_l", "shin_r")
LIMBS = ("upper_arm_r", "upper_arm_l", "forearm_r", "head")
MARGIN = 12
"""Frames at both ends without a fault, and around the kink that the demo's first version has."""
FRAMES = 96


@cache
def _mended() -> Rig:
    """Her second version: without the kink of her right hand."""
    return gltf.read(mill_race.oda_glb(second=True), with_mesh=False)


def spoilt(rng: np.random.Generator, kind: str) -> Baker:
    """The demo's crossing, her kink mended, with one fault of a kind in what she does."""
    row = int(rng.integers(MARGIN, FRAMES - MARGIN))
    return _crossing(_with_fault(mill_race.demo_rig("oda"), rng, kind, row))


def unspoilt() -> Baker:
    """The same without a fault."""
    times = np.arange(FRAMES) / 24.0
    return _crossing(_sampled(mill_race.demo_rig("oda"), times, times))


def _crossing(oda_moves: Rig) -> Baker:
    digests = {letter * 64: name for letter, name in zip("abcd", mill_race.OF_CROSSING, strict=True)}
    rigs = {digest: mill_race.demo_rig(name) for digest, name in digests.items()}
    oda = next(digest for digest, name in digests.items() if name == "oda")
    rigs[oda] = oda_moves
    return Baker(mill_race.scene(*digests), lambda source: rigs[source.digest], {})


def _with_fault(rig: Rig, rng: np.random.Generator, kind: str, row: int) -> Rig:
    times = np.arange(FRAMES) / 24.0
    if kind == "time lost":
        lost = rng.uniform(0.4, 1.0)
        return _sampled(rig, times, np.where(np.arange(FRAMES) >= row, times - lost / 24, times))
    if kind == "moved body":
        shift = rng.normal(size=3)
        return _sampled(rig, times, times, moved={"hips": (slice(row, row + 1), 0.02 * shift / np.linalg.norm(shift))})
    axis = rng.normal(size=3)
    turn = np.radians(rng.uniform(2.0, 6.0)) * axis / np.linalg.norm(axis)
    rows = slice(row, row + 1) if kind == "turned joint" else slice(row, FRAMES)
    names: Sequence[str] = JOINTS if kind == "turned joint" else LIMBS
    return _sampled(rig, times, times, turned={str(rng.choice(names)): (rows, turn)})


def _sampled(
    rig: Rig,
    times: Floats,
    of: Floats,
    turned: dict[str, tuple[slice, Floats]] | None = None,
    moved: dict[str, tuple[slice, Floats]] | None = None,
) -> Rig:
    """The motion sampled on every frame, as it is at the times ``of``, without the kink, and with some of it spoilt."""
    nodes = rig.motion.nodes
    values = rig.motion.sample(of, nodes, rig.rest)
    mended = _mended().motion.sample(of, nodes, rig.rest)
    arms = [column for column, node in enumerate(nodes.tolist()) if rig.names[node].endswith("_r")]
    for path in values:
        values[path] = values[path].copy()
        values[path][:, arms] = mended[path][:, arms]
    curves = []
    for column, node in enumerate(nodes.tolist()):
        name = rig.names[node]
        rotations, places = values["rotation"][:, column].T.copy(), values["translation"][:, column].T.copy()
        if turned and name in turned:
            rows, vector = turned[name]
            turn = transforms.quaternion_from_matrix(transforms.matrix_from_rotation_vector(vector[None]))
            rotations[rows] = transforms.quaternion_product(rotations[rows], turn)
        if moved and name in moved:
            rows, shift = moved[name]
            places[rows] += shift
        curves += [
            Curve(node, "rotation", "linear", times, rotations),
            Curve(node, "translation", "linear", times, places),
        ]
    motion = Motion(tuple(curves), float(times[-1]), rig.motion.name, rig.motion.shape_curves, rig.motion.rest_weights)
    return replace(rig, motion=motion)
