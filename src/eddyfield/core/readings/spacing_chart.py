"""The spacing between two poses as a chart: how far along its way a joint is on every frame, and how far it was meant to be."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np

from ..arrays import Floats
from ..bake import Baker
from ..cameras.camera import Camera
from ..errors import DomainError
from ..rig.mesh_points import followed_on
from ..scene import Thing

Known = Literal["even", "slow out", "slow in", "slow out and in"]
"""Slow out of the first pose, slow into the last."""
INTENTS: tuple[Known, ...] = get_args(Known)
Intent = Known | Literal["own"]
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
    fits_px: dict[Known, float]


def intended_shares(intent: Known, count: int) -> Floats:
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


def gone_px(places: Floats) -> Floats:
    """How far places (frames, 2), in square pixels, have gone on each frame along their way over the screen, (frames,)."""
    return np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(places, axis=0), axis=1))])


def chart_of(places: Floats, first: int, intent: Intent | None, own: Sequence[float] = ()) -> SpacingChart:
    """Of places on the screen (frames, 2) in square pixels; without an ``intent`` by the one that fits best, by ``own`` shares
    where these are meant. Raises ``DomainError`` for what has no way."""
    gone = gone_px(places)
    length = float(gone[-1])
    if not np.isfinite(length):
        raise DomainError("The joint is not in sight on all of these frames.", "Choose another stretch.")
    if length < LEAST_PX:
        raise DomainError("The joint stands still over these frames.", "Choose another stretch, or another joint.")
    share = gone / length
    off = {one: (share - intended_shares(one, len(places))) * length for one in INTENTS}
    fits = {one: float(np.sqrt(np.mean(error**2))) for one, error in off.items()}
    best: Known = min(INTENTS, key=fits.__getitem__)
    chosen: Intent = intent if intent is not None else best
    if chosen == "own":
        if len(own) != len(places):
            raise DomainError(f"{len(own)} shares do not space {len(places)} frames.", "Give one for each frame.")
        intended = np.array(own, dtype=np.float64)
    else:
        intended = intended_shares(chosen, len(places))
    error_px = (share - intended) * length
    return SpacingChart(first, first + len(places) - 1, chosen, length, share, intended, error_px, fits)


def spacing_chart(
    baker: Baker, thing: Thing, joint: str, camera: Camera | None, first: int, last: int, intent: Intent | None,
    own: Sequence[float] = (),
) -> SpacingChart:  # fmt: skip
    """Of a joint through a camera, or (None) through the cut, in which nothing is charted over a cut. Raises ``DomainError``."""
    return chart_of(charted_places(baker, thing, joint, camera, first, last), first, intent, own)


def charted_places(baker: Baker, thing: Thing, joint: str, camera: Camera | None, first: int, last: int) -> Floats:
    """Places of a joint on the screen (frames, 2) in square pixels. Raises ``DomainError`` for what cannot be charted."""
    frames = baker.frames
    if not (frames.first <= first and last <= frames.last and FEWEST <= last - first + 1 <= MOST):
        raise DomainError(
            f"{first} to {last} cannot be charted.",
            f"Choose from {FEWEST} to {MOST} frames of the scene, the first one first.",
        )
    if camera is None and any(first < frames.first + row <= last for row in baker.value(baker.span_starts_part)):
        raise DomainError("A cut lies between these frames.", "Choose frames of one shot, or look through one camera.")
    track = baker.arc(thing, followed_on(baker.rig(thing), joint), camera)
    places: Floats = baker.scene.delivery.square(track.pixels[first - frames.first : last - frames.first + 1])
    return places
