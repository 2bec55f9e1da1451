"""A free camera: nothing carries it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from ...arrays import Floats
from ..subjects import Surroundings
from .base import Mount, Values


@dataclass(frozen=True)
class Free(Mount):
    """Nothing carries the camera: place and angles are channels of the world."""

    kind: Literal["free"] = "free"

    def world_from_mount(self, values: Values, surroundings: Surroundings) -> Floats:
        return np.broadcast_to(np.eye(4), (surroundings.frames.count, 4, 4))
