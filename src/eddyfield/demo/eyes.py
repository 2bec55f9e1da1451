"""Eyes of the demo's characters: a ball with a pupil, an iris and its rim, and what shines in it."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

import numpy as np

from eddyfield.core.arrays import Floats

from .modelling import Model, Weights, linear_color

SPARK = "#ffffff"


def dome(
    m: Model,
    center: Floats,
    radius: float,
    rings: Sequence[tuple[float, str]],
    weights: Weights,
    forward: Sequence[float] | Floats = (0.0, 0.0, 1.0),
    sides: int = 18,
) -> None:
    """Part of a ball about its ``forward`` pole, ring by ring: degrees from the pole, and the colour up to there."""
    m.new_part()
    ahead = np.array(forward) / np.linalg.norm(forward)
    aside = np.cross([0.0, 1.0, 0.0], ahead)
    aside /= np.linalg.norm(aside)
    up = np.cross(ahead, aside)
    around = 2 * np.pi * np.arange(sides) / sides
    circle = np.multiply.outer(np.cos(around), aside) + np.multiply.outer(np.sin(around), up)
    for (near, _), (far, color) in pairwise(rings):
        tint = linear_color(color)
        inner, outer = (
            [m.vertex(center + radius * (np.sin(polar) * c + np.cos(polar) * ahead), tint, weights) for c in circle]
            for polar in np.radians([near, far])
        )
        for n in range(sides):
            after = (n + 1) % sides
            m.face(inner[n], outer[n], outer[after], inner[after])


def sparkle(m: Model, center: Floats, radius: float, light: Floats, size_m: float, weights: Weights) -> None:
    """A small bright disc on the ball where it meets the ``light``; carried by the head, it stays there however the eye turns."""
    m.new_part()
    toward = light / np.linalg.norm(light)
    aside = np.cross([0.0, 1.0, 0.0], toward)
    aside /= np.linalg.norm(aside)
    up = np.cross(toward, aside)
    around = 2 * np.pi * np.arange(8) / 8
    m.face(
        *(
            m.vertex(
                center + radius * toward + size_m * (np.cos(a) * aside + np.sin(a) * up), linear_color(SPARK), weights
            )
            for a in around
        )
    )
