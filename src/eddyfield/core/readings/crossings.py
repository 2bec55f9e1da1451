"""Entrances and exits: a body that crosses the edge of the frame along its own travel."""

from __future__ import annotations

from typing import Literal, NamedTuple

import numpy as np

from ..arrays import Bools, Floats, Ints
from ..optics.camera_path import CameraPath
from ..time.stretches import Spans
from .thresholds import HARDLY_INSIDE, LEAST_TRAVEL, MOST_INSIDE

LONGEST_ROWS = 120


class Crossing(NamedTuple):
    """On the rows ``first`` to ``last`` (both included) parts of the body are on both sides of the edge."""

    way: Literal["entrance", "exit"]
    first: int
    last: int


def crossings(path: CameraPath, points: Floats, inside: Bools, spans: Spans, half_second: int) -> list[Crossing]:
    """Entrances and exits of a body of points (frames, points, 3); ``inside`` (frames, points) tells which are in the frame.

    Between a row on which half of the body is in the frame and one on which hardly any of it is, the edge is crossed; it is
    the body's doing where its own travel, seen by the camera of that row, goes the same way as its middle leaves or comes.
    """
    share = inside.mean(axis=1)
    state = np.where(share >= MOST_INSIDE, 1, np.where(share <= HARDLY_INSIDE, -1, 0))
    found: list[tuple[int, int, tuple[int, int]]] = []
    for first, last in spans:
        clear = first + np.flatnonzero(state[first : last + 1])
        changes = np.flatnonzero(np.diff(state[clear]))
        found += [(int(clear[c]), int(clear[c + 1]), (first, last)) for c in changes]
    if not found:
        return []
    exits = np.array([state[a] > 0 for a, _, _ in found])
    # Nearly all of it is outside there.
    rows = np.array([b if state[a] > 0 else a for a, b, _ in found])
    limits = np.array([span for _, _, span in found])
    own = _by_own_travel(path, points.mean(axis=1), rows, exits, half_second, limits)
    return [
        Crossing("exit" if leaves else "entrance", *_whole_crossing(share, a, b, span, bool(leaves)))
        for (a, b, span), leaves, by_itself in zip(found, exits, own, strict=True)
        if by_itself
    ]


def _whole_crossing(share: Floats, a: int, b: int, span: tuple[int, int], is_exit: bool) -> tuple[int, int]:
    """From the last row on which all that ever is in the frame still is, to the row on which nothing is (or the other way);
    within a few seconds of the rows ``a`` and ``b`` on which most and hardly any of it is."""
    first, last = max(span[0], a - LONGEST_ROWS), min(span[1], b + LONGEST_ROWS)
    before, after = share[first : a + 1], share[b : last + 1]
    most = share[first : last + 1].max()
    begun = np.flatnonzero(before >= most if is_exit else before == 0)
    done = np.flatnonzero(after == 0 if is_exit else after >= most)
    return first + int(begun[-1]) if len(begun) else a, b + int(done[0]) if len(done) else b


def _by_own_travel(path: CameraPath, middle: Floats, rows: Ints, exits: Bools, half_second: int, limits: Ints) -> Bools:
    """Whether the body's own travel around each of the rows, seen by the camera of that row, leads across the edge. One that
    walks past the camera itself does."""
    delivery = path.delivery
    before, after = np.maximum(limits[:, 0], rows - half_second), np.minimum(limits[:, 1], rows + half_second)
    seen = path.at_rows(rows).project(np.stack([middle[before], middle[rows], middle[after]], axis=1))
    travel = seen.pixels[:, 2] - seen.pixels[:, 0]
    away = seen.pixels[:, 1] / [delivery.width, delivery.height] - 0.5
    at, side = np.arange(len(rows)), np.nan_to_num(np.abs(away)).argmax(axis=1)
    outwards = travel[at, side] * np.sign(away[at, side]) * np.where(exits, 1, -1)
    least = LEAST_TRAVEL * delivery.width * (after - before) / (2 * half_second)
    with np.errstate(invalid="ignore"):
        return np.asarray((outwards > least) | ~seen.in_front.all(axis=1))
