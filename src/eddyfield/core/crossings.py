"""Entrances and exits: a body that crosses the edge of the frame along its own travel."""

from __future__ import annotations

import itertools
from typing import Literal, NamedTuple

import numpy as np

from .camera_path import CameraPath
from .stretches import Bools, Spans
from .transforms import Floats

MOST_INSIDE, HARDLY_INSIDE = 0.5, 0.1
LEAST_TRAVEL = 0.02
"""Of the frame's width in half a second: less is no travel across an edge."""


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
    middle = points.mean(axis=1)
    out: list[Crossing] = []
    for first, last in spans:
        state = np.where(
            share[first : last + 1] >= MOST_INSIDE, 1, np.where(share[first : last + 1] <= HARDLY_INSIDE, -1, 0)
        )
        told = np.flatnonzero(state)
        for a, b in itertools.pairwise(told):
            if state[a] == state[b]:
                continue
            is_exit = bool(state[a] > 0)
            row = first + int(b if is_exit else a)  # nearly all of it is outside there
            if _by_own_travel(path, middle, row, is_exit, half_second, (first, last)):
                start, end = _whole_crossing(share, first + int(a), first + int(b), (first, last), is_exit)
                out.append(Crossing("exit" if is_exit else "entrance", start, end))
    return out


def _whole_crossing(share: Floats, a: int, b: int, span: tuple[int, int], is_exit: bool) -> tuple[int, int]:
    """From the last row on which all that was in the frame still is, to the row on which nothing is (or the other way)."""
    most = share[span[0] : span[1] + 1].max()
    if is_exit:
        whole = np.flatnonzero(share[span[0] : a + 1] >= most)
        none = np.flatnonzero(share[b : span[1] + 1] == 0)
        return span[0] + int(whole[-1]) if len(whole) else a, b + int(none[0]) if len(none) else b
    none = np.flatnonzero(share[span[0] : a + 1] == 0)
    whole = np.flatnonzero(share[b : span[1] + 1] >= most)
    return span[0] + int(none[-1]) if len(none) else a, b + int(whole[0]) if len(whole) else b


def _by_own_travel(
    path: CameraPath, middle: Floats, row: int, is_exit: bool, half_second: int, span: tuple[int, int]
) -> bool:
    delivery = path.delivery
    before, after = max(span[0], row - half_second), min(span[1], row + half_second)
    here = path.at_rows(np.array([row, row, row]))
    seen = here.project(np.stack([middle[before], middle[row], middle[after]]))
    if not seen.in_front.all():
        return True  # it walks past the camera itself
    travel = seen.pixels[2] - seen.pixels[0]
    away = seen.pixels[1] / [delivery.width, delivery.height] - 0.5
    side = int(np.argmax(np.abs(away)))
    outwards = travel[side] * np.sign(away[side]) * (1 if is_exit else -1)
    return bool(outwards > LEAST_TRAVEL * delivery.width * (after - before) / (2 * half_second))
