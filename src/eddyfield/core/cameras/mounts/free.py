"""A free camera: nothing carries it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Literal

import numpy as np

from ...arrays import Floats
from ..subjects import Subject, Surroundings
from .base import Values


@dataclass(frozen=True)
class Free:
    """Nothing carries the camera: place and angles are channels of the world."""

    kind: Literal["free"] = "free"
    channels: ClassVar[tuple[str, ...]] = ()
    subjects: ClassVar[tuple[Subject, ...]] = ()

    def world_from_mount(self, values: Values, around: Surroundings) -> Floats:
        return np.broadcast_to(np.eye(4), (around.frames.count, 4, 4))

    def reaching(self, place: Floats, row: int, values: Values, around: Surroundings) -> dict[str, float]:
        return {}
