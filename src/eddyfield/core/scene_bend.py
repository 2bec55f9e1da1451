"""Everything of a scene at the times that a bend of its time gives it."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from itertools import pairwise
from math import ceil, floor
from typing import TypeVar

import numpy as np

from .arrays import Floats
from .cameras.camera import Camera
from .cut.cut import Cut, CutEntry
from .cut.sound import Mark
from .errors import DomainError
from .moving_time import MovingTime
from .performance.exposure import Stepping
from .performance.holding import Hold
from .performance.piece import Piece
from .performance.showing import Showing
from .performance.timing import Timing, in_bent_time
from .scene import Block
from .time.bending import Bend
from .time.channels import Channel
from .time.frames import FrameTime

_State = TypeVar("_State")
SAME_MOMENT = 1e-9


class BendingTime(MovingTime):
    """What comes after the stretch comes as much later as it lasts longer. Where time runs backwards, what has been comes again,
    first the other way round, then once more; marks and sound do so only forwards."""

    def __init__(self, bend: Bend) -> None:
        super().__init__()
        self.bend = bend

    def of(self, time: FrameTime) -> FrameTime:
        return self.bend.of(time)

    def moments(self, frames: Floats) -> Floats:
        return self.bend.moments(frames)

    def rules_from(self, frame: int, kind: str) -> int:
        """The first on which its moment has come: no earlier than the poses that it comes with."""
        return ceil(self.of(FrameTime(frame)))

    def channel(self, channel: Channel) -> Channel:
        return self.bend.channel(channel)

    def block(self, block: Block) -> Block:
        """What lies in the stretch runs otherwise inside a block as well."""
        begins, first = super().block(block), self.bend.first - block.start
        within = replace(self.bend, first=first, last=first + self.bend.last - self.bend.first)
        return replace(begins, bends=(*block.bends, within)) if max(within.last, within.reached) > 0 else begins

    def timing(self, timing: Timing) -> Timing:
        return in_bent_time(timing, self.bend)

    def camera(self, camera: Camera) -> Camera:
        for what, part in (("aim", camera.aim), ("focus", camera.focus)):
            for target in part.targets if part and self._comes_again else ():
                for frame in (target.first, target.last):
                    if frame is not None and self.bend.reached < frame <= self.bend.first:
                        raise DomainError(
                            f"“{camera.name}” hands its {what} over on {frame}, which would come again.",
                            "Choose a stretch that runs back less far, or take that hand-over away first.",
                        )
        return super().camera(camera)

    def cut(self, cut: Cut) -> Cut:
        if not self._comes_again:
            return super().cut(cut)
        again = self._again([(entry.first, entry) for entry in cut.entries], cut.entries[0])
        first, *rest = again or [(cut.entries[0].first, cut.entries[0], True)]
        own = [(min(first[0], cut.entries[0].first), *first[1:]), *rest]
        return Cut(
            tuple(
                replace(entry, first=frame) if is_new else CutEntry(frame, entry.camera_id, handles=entry.handles)
                for frame, entry, is_new in own
            )
        )

    def piece(self, piece: Piece) -> Piece:
        if not self._comes_again:
            return super().piece(piece)
        again = self._again([(hold.first, hold) for hold in piece.holds], Hold(0))
        holds = tuple(replace(hold, first=frame) for frame, hold, _ in again)
        return replace(super().piece(replace(piece, holds=())), holds=holds)

    def exposed(self, stepping: Stepping) -> Stepping:
        if stepping.starts is None or not self._comes_again:
            return super().exposed(stepping)
        again = self._again([(start, start) for start in stepping.starts], None)
        return replace(stepping, starts=tuple(frame for frame, _, _ in again))

    def showing(self, showing: Showing) -> Showing:
        if not self._comes_again:
            return super().showing(showing)
        changes = [(at, there) for first, last in showing.hidden for at, there in ((first, False), (last + 1, True))]
        edges = self._again(changes, True)
        hidden = [(at, after - 1) for (at, there, _), (after, _, _) in pairwise(edges) if not there]
        return replace(showing, hidden=tuple(hidden))

    def marks(self, marks: Iterable[Mark]) -> list[Mark]:
        moved = super().marks(marks)
        if self._comes_again:
            again = (mark for mark in marks if self.bend.reached <= mark.frame <= self.bend.first)
            moved += [replace(mark, frame=int(mark.frame + self.bend.later)) for mark in again]
        return moved

    @property
    def _comes_again(self) -> bool:
        return self.bend.speed < 0

    def _again(self, changes: Sequence[tuple[int, _State]], before: _State) -> list[tuple[int, _State, bool]]:
        """Of what rules from frames on, each until the next, and ``before`` the first of them: the frames from which it rules
        then, and whether it comes there as it came before."""

        def ruling(moment: float) -> _State:
            return next((state for first, state in reversed(changes) if first <= floor(moment + SAME_MOMENT)), before)

        bend = self.bend
        kept = [(first, state, True) for first, state in changes if first <= bend.first]
        within = np.arange(floor(bend.first) + 1, floor(bend.last) + 2, dtype=np.float64)
        again = [(int(f), ruling(float(m)), False) for f, m in zip(within, bend.moments(within), strict=True)]
        later = [
            (ceil(first + bend.later), state, first > bend.first)
            for first, state in changes
            if first > bend.reached + 1
        ]
        out: list[tuple[int, _State, bool]] = []
        now = before if not changes or (kept and kept[0][1] != before) else None
        for frame, state, is_new in (*kept, *again, *later):
            if state != now:
                out.append((frame, state, is_new))
            now = state
        return out
