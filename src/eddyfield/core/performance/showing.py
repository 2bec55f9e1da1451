"""When a thing of the scene is there, and for whom."""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from ..arrays import Bools, Ints
from ..errors import DomainError
from ..time.frames import FrameRange

MOST_SPANS = 200


@dataclass(frozen=True)
class Showing:
    """``hidden`` are spans of frames (first and last, both included, in order) on which it is not there. ``cameras`` are the
    only ones that see it, by their ids; None: all do. What is ``roam_only`` is an aid for working: no camera sees it."""

    hidden: tuple[tuple[int, int], ...] = ()
    cameras: tuple[str, ...] | None = None
    roam_only: bool = False

    def __post_init__(self) -> None:
        if len(self.hidden) > MOST_SPANS:
            raise DomainError(f"{len(self.hidden)} hidden spans are too many.", f"Keep it within {MOST_SPANS}.")
        if any(last < first for first, last in self.hidden):
            raise DomainError("A span ends before it begins.", "Give its first frame, then its last.")
        if any(later[0] <= earlier[1] for earlier, later in pairwise(self.hidden)):
            raise DomainError("Two hidden spans overlap.", "Give them in order, each after the one before.")

    def seen_by(self, camera_id: str) -> bool:
        return not self.roam_only and (self.cameras is None or camera_id in self.cameras)

    def without(self, camera_id: str) -> Showing:
        """Once a camera is gone; the very same where it did not matter. What only that one saw is seen by none."""
        if camera_id not in (self.cameras or ()):
            return self
        return replace(self, cameras=tuple(c for c in self.cameras or () if c != camera_id))

    def within(self, first: int, last: int) -> list[tuple[int, int]]:
        """The spans of these frames, first and last of each, on which it is there.

        >>> Showing(hidden=((2, 3),)).within(1, 9)
        [(1, 1), (4, 9)]
        """
        out, at = [], first
        for hides, ends in self.hidden:
            if ends < at or hides > last:
                continue
            if hides > at:
                out.append((at, hides - 1))
            at = ends + 1
        return [*out, (at, last)] if at <= last else out

    def there(self, frames: FrameRange) -> Bools:
        """Whether it is there, per frame.

        >>> Showing(hidden=((2, 3),)).there(FrameRange(1, 4))
        array([ True, False, False,  True])
        """
        return self.there_on(frames.frames())

    def there_on(self, at: Ints) -> Bools:
        """Whether it is there on frames (n,)."""
        out = np.ones(len(at), dtype=bool)
        for first, last in self.hidden:
            out &= (at < first) | (at > last)
        return out


ALWAYS = Showing()
