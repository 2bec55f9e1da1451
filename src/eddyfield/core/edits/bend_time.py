"""The edit that slows, speeds up, freezes or turns round the time of a performance over a stretch."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..errors import DomainError
from ..performance.timing import bent
from ..scene import Scene
from .edit import Edit

FASTEST = 100.0


@dataclass(frozen=True, kw_only=True)
class BendTime(Edit):
    """Let a thing's time run ``speed`` times as fast from one frame to another: slower, faster, frozen (0) or backwards; after
    that it goes on from where it is by then."""

    edit: Literal["bend time"] = "bend time"
    title: ClassVar[str] = "time of a performance"
    thing_id: str
    first: int
    last: int
    speed: float

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        if not abs(self.speed) <= FASTEST:
            raise DomainError(f"Time cannot run {self.speed:g} times as fast.", f"Give up to {FASTEST} times.")
        thing = scene.thing(self.thing_id)
        timing = bent(thing.performance.timing, self.first, self.last, self.speed)
        return scene.with_thing(replace(thing, performance=replace(thing.performance, timing=timing)))
