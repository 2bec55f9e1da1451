"""The cut of a scene: from which frame on which camera is shown."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from functools import cached_property
from itertools import pairwise
from typing import Literal, get_args

import numpy as np

from ..arrays import Ints
from ..content import content_key
from ..errors import DomainError
from ..time.frames import FrameRange
from .transition import CUT, Transition

ShotState = Literal["open", "in work", "done"]
SHOT_STATES: tuple[ShotState, ...] = get_args(ShotState)
LONGEST_HANDLE = 1000


@dataclass(frozen=True)
class Handles:
    """Frames beyond a shot's own ends that are made as well, so that its cuts can still be moved after it is handed over."""

    before: int = 0
    after: int = 0

    def __post_init__(self) -> None:
        if not (0 <= self.before <= LONGEST_HANDLE and 0 <= self.after <= LONGEST_HANDLE):
            raise DomainError("A handle of that length is not usable.", f"Give it from 0 to {LONGEST_HANDLE} frames.")


NO_HANDLES = Handles()


@dataclass(frozen=True)
class CutEntry:
    """From ``first`` on, the picture is this camera's, until the next entry: a shot. Without a ``name`` it has the one that its
    number gives it. ``locked``, neither its frames nor its camera are changed. ``transition`` is how it begins."""

    first: int
    camera_id: str
    name: str = ""
    note: str = ""
    state: ShotState = "open"
    locked: bool = False
    transition: Transition = CUT
    handles: Handles = NO_HANDLES


@dataclass(frozen=True)
class Span:
    """Frames ``first`` to ``last`` (both included) that one camera shows; ``entry`` is the index of what says so."""

    first: int
    last: int
    camera_id: str
    entry: int = field(default=0, compare=False)

    @property
    def count(self) -> int:
        return self.last - self.first + 1


@dataclass(frozen=True)
class Cut:
    """Never empty, in order of time, one entry a frame at most. It covers every frame: the first entry rules what lies before
    it as well."""

    entries: tuple[CutEntry, ...]

    def __post_init__(self) -> None:
        if not self.entries:
            raise DomainError("The cut shows no camera.", "Give it one from the first frame on.")
        if any(later.first <= earlier.first for earlier, later in pairwise(self.entries)):
            raise DomainError(
                "Two entries of the cut are on one frame, or out of order.", "Give each a frame of its own."
            )

    @classmethod
    def of(cls, *entries: tuple[int, str]) -> Cut:
        """From pairs of a first frame and a camera's id."""
        return cls(tuple(CutEntry(first, camera_id) for first, camera_id in entries))

    @cached_property
    def content(self) -> str:
        """A name of what is shown, whatever is said of it; made once."""
        shown = [
            (e.first, e.camera_id) if e.transition == CUT else (e.first, e.camera_id, e.transition)
            for e in self.entries
        ]
        return content_key("cut", shown)

    @cached_property
    def told_by(self) -> str:
        """A name of what is shown and of all that is said of it."""
        return content_key(
            "shots", self.content, [(e.name, e.note, e.state, e.locked, e.handles) for e in self.entries]
        )

    @cached_property
    def camera_ids(self) -> tuple[str, ...]:
        """Of each camera that is used, once, in the order in which they come."""
        return tuple(dict.fromkeys(entry.camera_id for entry in self.entries))

    def camera_id_at(self, frame: int) -> str:
        return next((e.camera_id for e in reversed(self.entries) if e.first <= frame), self.entries[0].camera_id)

    def spans(self, frames: FrameRange) -> tuple[Span, ...]:
        """What is shown within a range of frames; entries that lie outside it show nothing there."""
        found = self._spans.get(frames)
        if found is None:
            found = self._spans[frames] = self._spans_in(frames)
        return found

    @cached_property
    def _spans(self) -> dict[FrameRange, tuple[Span, ...]]:
        return {}

    def _spans_in(self, frames: FrameRange) -> tuple[Span, ...]:
        ends = [entry.first - 1 for entry in self.entries[1:]] + [frames.last]
        starts = [frames.first] + [entry.first for entry in self.entries[1:]]
        spans = (
            Span(max(start, frames.first), min(end, frames.last), entry.camera_id, index)
            for index, (entry, start, end) in enumerate(zip(self.entries, starts, ends, strict=True))
        )
        return tuple(span for span in spans if span.first <= span.last)

    def entry_rows(self, frames: FrameRange) -> tuple[Ints, Ints]:
        """Per frame: the index of the entry that rules it, and the frame on which what can be compared with it begins in this
        range: its span, or the first of those that blended moves make one picture of. (frames,) each."""
        every, firsts = frames.frames(), np.array([e.first for e in self.entries], dtype=np.int64)
        entry = np.maximum(np.searchsorted(firsts, every, side="right") - 1, 0)
        begins = np.array([e.transition.kind != "blend" for e in self.entries])
        begins[0] = True
        run = np.maximum.accumulate(np.where(begins, np.arange(len(firsts)), 0))[entry]
        starts = np.where(run == 0, frames.first, firsts[run])
        return entry, np.maximum(starts, frames.first)

    def run_firsts(self, frames: FrameRange) -> tuple[int, ...]:
        """First frames of what can be compared within itself: spans that blended moves join are one."""
        firsts = [s.first for s in self.spans(frames) if self.entries[s.entry].transition.kind != "blend"]
        return tuple(firsts) if firsts and firsts[0] == frames.first else (frames.first, *firsts)

    def with_camera_replaced(self, camera_id: str, by: str) -> Cut:
        """The cut with another camera wherever one was."""
        return Cut(tuple(replace(e, camera_id=by) if e.camera_id == camera_id else e for e in self.entries))
