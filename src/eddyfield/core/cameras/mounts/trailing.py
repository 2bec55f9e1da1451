"""A camera that trails behind what carries it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ...arrays import Floats
from ...errors import DomainError
from ...rig import transforms
from ..lag import lagged, lagged_turns
from ..subjects import Surroundings, frame_of
from .base import Values
from .carried import Attachment

LONGEST_HALF_LIFE_S = 60.0


@dataclass(frozen=True)
class Trailing(Attachment):
    """Carried with lag: after ``half_life_s`` seconds half of the way is caught up. It starts at rest on the scene's first
    frame. Turns lag as rotations, place by itself."""

    half_life_s: float = 0.25
    kind: Literal["trailing"] = "trailing"

    def __post_init__(self) -> None:
        super().__post_init__()
        if not 0 <= self.half_life_s <= LONGEST_HALF_LIFE_S:
            raise DomainError(f"A half-life of {self.half_life_s:g} s is not usable.", "Give one from 0 to 60 s.")

    def world_from_mount(self, values: Values, surroundings: Surroundings) -> Floats:
        rigid = self.let_through(frame_of(self.subject, surroundings, self.follows))
        if self.half_life_s == 0:
            return rigid
        step = 1.0 / float(surroundings.rate)
        place = lagged(rigid[:, :3, 3], step, self.half_life_s)
        return transforms.rigid(lagged_turns(rigid[:, :3, :3], step, self.half_life_s), place)
