"""Everything of a scene at the times that a bend of its time gives it."""

from __future__ import annotations

from dataclasses import replace

from .moving_time import MovingTime
from .performance.timing import Timing, bent
from .scene import Block
from .time.bending import Bend
from .time.channels import Channel
from .time.frames import FrameTime


class BendingTime(MovingTime):
    """What comes after the stretch comes as much later as it lasts longer."""

    def __init__(self, bend: Bend) -> None:
        super().__init__()
        self.bend = bend

    def of(self, time: FrameTime) -> FrameTime:
        return self.bend.of(time)

    def channel(self, channel: Channel) -> Channel:
        return self.bend.channel(channel)

    def block(self, block: Block) -> Block:
        """What lies in the stretch runs otherwise inside a block as well."""
        begins, first = super().block(block), self.bend.first - block.start
        within = replace(self.bend, first=first, last=first + self.bend.last - self.bend.first)
        return replace(begins, bends=(*block.bends, within)) if within.last > 0 else begins

    def timing(self, timing: Timing) -> Timing:
        return bent(timing, self.bend)
