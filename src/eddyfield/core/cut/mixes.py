"""The transitions of a cut as they are shown: on which frames, and how much of the later shot on each."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from ..arrays import Floats
from ..time.ease import eased
from ..time.frames import FrameRange
from .cut import Cut
from .transition import Transition


@dataclass(frozen=True)
class Mix:
    """Frames ``first`` to ``last``, both included, on which a shot (``entry`` of the cut) takes over from the one before; of
    each frame the share 0..1 that it has. Of a dip, the nearer to one half, the more of its colour."""

    entry: int
    first: int
    last: int
    transition: Transition
    shares: tuple[float, ...]


def mixes_of(cut: Cut, frames: FrameRange) -> tuple[Mix, ...]:
    """The transitions that take frames, in order. None reaches beyond the two shots that it joins, or into another."""
    if all(entry.transition.kind == "cut" for entry in cut.entries):
        return ()
    out: list[Mix] = []
    free = frames.first
    for before, span in pairwise(cut.spans(frames)):
        transition = cut.entries[span.entry].transition
        if transition.kind == "cut":
            continue
        wanted = span.first - transition.before
        first, last = max(wanted, before.first, free), min(wanted + transition.frames - 1, span.last)
        if last < first:
            continue
        out.append(
            Mix(span.entry, first, last, transition, tuple(_shares(first, last, span.first, transition).tolist()))
        )
        free = last + 1
    return tuple(out)


def _shares(first: int, last: int, cut: int, transition: Transition) -> Floats:
    """The frame before still shows the earlier shot alone, the one after the later alone. A dip is all colour on the frame of
    the cut, half-way."""
    frames = np.arange(first, last + 1)
    if transition.kind != "dip":
        return eased((frames - first + 1) / (last - first + 2), transition.ease)
    before = eased((frames - first + 1) / (cut - first + 1), transition.ease)
    after = eased((last + 1 - frames) / (last + 1 - min(cut, last)), transition.ease)
    return np.where(frames < cut, before / 2, 1 - after / 2)
