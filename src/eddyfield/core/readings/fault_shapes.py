"""The shapes of faults: what one adds to a motion, sample by sample."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..arrays import Floats
from .window import Window

FaultShape = Literal["displaced", "step"]
"""One sample elsewhere; or all from one on elsewhere than those before it."""
SHAPES: tuple[FaultShape, ...] = ("displaced", "step")


@dataclass(frozen=True)
class Found:
    """A fault at sample ``row``, of the size told along each dimension, ``sureness`` standard errors strong."""

    row: int
    shape: FaultShape
    size: tuple[float, ...]
    sureness: float


def column(shape: FaultShape, at: Floats) -> Floats:
    """The column of a fault, by how many samples from it each one is, (n,)."""
    return (at == 0).astype(np.float64) if shape == "displaced" else np.where(at < 0, -0.5, 0.5)


def reaches(shape: FaultShape, row: int, centre: int, window: Window) -> bool:
    """Whether a fault shows in the window around a sample: a step at its very edge is no step."""
    low = centre - window.half + (1 if shape == "step" else 0)
    return low <= row <= centre + window.half


Terms = tuple[tuple[FaultShape, int], ...]
"""Known faults, each with how many samples it lies from the middle of a window."""
