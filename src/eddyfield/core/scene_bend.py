"""Everything of a scene at the times that a bend of its time gives it."""

from __future__ import annotations

from .moving_time import MovingTime
from .performance.timing import Timing, bent
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

    def timing(self, timing: Timing) -> Timing:
        return bent(timing, self.bend)
