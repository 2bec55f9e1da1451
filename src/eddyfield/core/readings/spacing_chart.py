"""The spacing between two poses as a chart: how far along its way a joint is on every frame, and how far it was meant to be."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np

from ..arrays import Floats
from ..bake import Baker
from ..cameras.camera import Camera
from ..errors import DomainError
from ..rig.mesh_points import followed_on
from ..scene import Thing

Intent = Literal["even", "slow out", "slow in", "slow out and in"]
"""Slow out of the first pose, slow into the last."""
INTENTS: tuple[Intent, ...] = get_args(Intent)
FEWEST, MOST = 3, 500
LEAST_PX = 1.0


@dataclass(frozen=True, eq=False)
class SpacingChart:
    """Of frames ``first`` to ``last`` (both included), (frames,) each: ``share`` of the way that is gone by then, along the arc
    on the screen; the share that is ``intended``; and ``error_px``, how far it is ahead of that. ``length_px`` is the whole way.
    ``fits_px`` says of every intent how far off it is, root mean square."""

    first: int
    last: int
    intent: Intent
    length_px: float
    share: Floats
    intended: Floats
    error_px: Floats
    fits_px: dict[Intent, float]


def intended_shares(intent: Intent, count: int) -> Floats:
    """How much of the way should be gone on each of so many frames, from 0 to 1.

    >>> intended_shares("slow in", 5)
    array([0.    , 0.4375, 0.75  , 0.9375, 1.    ])
    """
    u = np.linspace(0.0, 1.0, count)
    if intent == "slow out":
        return np.asarray(u**2)
    if intent == "slow in":
        return np.asarray(1 - (1 - u) ** 2)
    return np.asarray(u**2 * (3 - 2 * u)) if intent == "slow out and in" else u


def chart_of(places: Floats, first: int, intent: Intent | None) -> SpacingChart:
    """Of places on the screen (frames, 2) in square pixels; without an ``intent`` by the one that fits best. Raises
    ``DomainError`` for what has no way."""
    steps = np.linalg.norm(np.diff(places, axis=0), axis=1)
    gone = np.concatenate([[0.0], np.cumsum(steps)])
    length = float(gone[-1])
    if not np.isfinite(length):
        raise DomainError("The joint is not in sight on all of these frames.", "Choose another stretch.")
    if length < LEAST_PX:
        raise DomainError("The joint stands still over these frames.", "Choose another stretch, or another joint.")
    share = gone / length
    off = {one: (share - intended_shares(one, len(places))) * length for one in INTENTS}
    fits = {one: float(np.sqrt(np.mean(error**2))) for one, error in off.items()}
    chosen: Intent = intent if intent is not None else min(INTENTS, key=fits.__getitem__)
    intended = intended_shares(chosen, len(places))
    return SpacingChart(first, first + len(places) - 1, chosen, length, share, intended, off[chosen], fits)


def spacing_chart(
    baker: Baker, thing: Thing, joint: str, camera: Camera | None, first: int, last: int, intent: Intent | None
) -> SpacingChart:
    """Of a joint through a camera, or (None) through the cut, in which nothing is charted over a cut. Raises ``DomainError``."""
    frames = baker.frames
    if not (frames.first <= first and last <= frames.last and FEWEST <= last - first + 1 <= MOST):
        raise DomainError(
            f"{first} to {last} cannot be charted.",
            f"Choose from {FEWEST} to {MOST} frames of the scene, the first one first.",
        )
    if camera is None and any(first < frames.first + row <= last for row in baker.value(baker.span_starts_part)):
        raise DomainError("A cut lies between these frames.", "Choose frames of one shot, or look through one camera.")
    track = baker.arc(thing, followed_on(baker.rig(thing), joint), camera)
    places = baker.scene.delivery.square(track.pixels[first - frames.first : last - frames.first + 1])
    return chart_of(places, first, intent)
