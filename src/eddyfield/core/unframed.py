"""Where a camera shakes so much that nothing can be told of an arc through it: the arc seen otherwise.

On stretches on which what could be told exceeds 1 % of the frame's height, two tracks are tried that leave the camera's way
out, each as seen by the camera of the middle of the stretch: relative to the parent joint, and in the world. The one in which
less can be told from is taken.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from .arcs import ArcFault, ArcJudgement, judge_arc
from .camera_path import CameraPath
from .faults import HALF, WINDOW
from .stretches import Bools, Spans, stretches
from .transforms import Floats

Basis = Literal["its parent joint", "the world"]
MOST_TOLD_SHARE = 0.01
"""Of the frame's height: where only more than that could be told, nothing can be."""


@dataclass(frozen=True)
class Unframed:
    """Rows ``first`` to ``last`` (both included) on which nothing can be told through the camera, what could be told there
    at the median, px, and the faults that are told relative to ``basis``, with rows as in the arc."""

    first: int
    last: int
    least_px: float
    basis: Basis
    faults: tuple[ArcFault, ...]


def untold(judgement: ArcJudgement, height_px: int) -> Bools:
    """Where nothing can be told, (frames,)."""
    with np.errstate(invalid="ignore"):
        return np.asarray(judgement.least > MOST_TOLD_SHARE * height_px)


def seen_otherwise(
    judgement: ArcJudgement, path: CameraPath, points: Floats, parents: Floats | None, spans: Spans
) -> tuple[Unframed, ...]:
    """The stretches of an arc of ``points`` (frames, 3) on which nothing can be told, judged otherwise. ``parents`` (frames, 3)
    are the places of the parent joint, None where there is none."""
    delivery = path.delivery
    out = []
    for first, last in stretches(untold(judgement, delivery.height), spans):
        span_first, span_last = next(span for span in spans if span[0] <= first <= span[1])
        begin, end = max(span_first, first - HALF), min(span_last, last + HALF) + 1
        if end - begin < WINDOW:
            continue
        middle = (first + last) // 2
        still = path.at_rows(np.full(end - begin, middle))
        tracks: dict[Basis, Floats] = {"the world": points[begin:end]}
        if parents is not None:
            tracks["its parent joint"] = points[begin:end] - parents[begin:end] + parents[middle]
        judged = {basis: judge_arc(still.project(places).pixels, delivery) for basis, places in tracks.items()}
        best = min(judged, key=lambda basis: _told(judged[basis]))
        found = tuple(replace(f, row=f.row + begin) for f in judged[best].faults if first <= f.row + begin <= last)
        out.append(Unframed(first, last, float(np.nanmedian(judgement.least[first : last + 1])), best, found))
    return tuple(out)


def _told(judgement: ArcJudgement) -> float:
    known = judgement.least[np.isfinite(judgement.least)]
    return float(np.median(known)) if len(known) else np.inf
