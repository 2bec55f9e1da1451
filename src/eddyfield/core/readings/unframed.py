"""Where a camera shakes so much that nothing can be told of an arc through it: the arc seen otherwise.

On stretches on which what could be told exceeds 1 % of the frame's height, two tracks are tried that leave the camera's way
out, each as seen by the camera of the middle of the stretch: relative to the parent joint, and in the world. Each tells what
the other cannot: relative to the parent a fault that the parent shares is gone, and in the world what is carried along on a
cart shakes with it. A fault that both tell is told once, in the track in which less can be told from.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from ..arrays import Bools, Floats
from ..optics.camera_path import CameraPath
from ..time.stretches import Spans, stretches
from .arcs import ArcFault, ArcJudgement, judge_arc
from .limits import USUAL
from .thresholds import GREATEST_LIMIT_SHARE
from .window import NINE, Window

Basis = Literal["its parent joint", "the world"]


SAME_FAULT_ROWS = 2
"""Faults of two tracks no further apart than this are the same one."""


@dataclass(frozen=True)
class UnframedFault:
    """A fault, with its row as in the arc, and relative to what it was told."""

    basis: Basis
    fault: ArcFault


@dataclass(frozen=True)
class Unframed:
    """Rows ``first`` to ``last`` (both included) on which nothing can be told through the camera, what could be told there
    at the median, px, relative to what most can be told instead, and the faults that are told without the camera."""

    first: int
    last: int
    least_px: float
    basis: Basis
    faults: tuple[UnframedFault, ...]


def undetectable(judgement: ArcJudgement, height_px: int) -> Bools:
    """Where nothing can be told, (frames,)."""
    with np.errstate(invalid="ignore"):
        return np.asarray(judgement.least > GREATEST_LIMIT_SHARE * height_px)


def seen_otherwise(
    judgement: ArcJudgement,
    path: CameraPath,
    points: Floats,
    parents: Floats | None,
    spans: Spans,
    least_permille: float = USUAL.arc_permille,
    window: Window = NINE,
) -> tuple[Unframed, ...]:
    """The stretches of an arc of ``points`` (frames, 3) on which nothing can be told, judged otherwise. ``parents`` (frames, 3)
    are the places of the parent joint, None where there is none."""
    delivery = path.delivery
    out = []
    for first, last in stretches(undetectable(judgement, delivery.height), spans):
        span_first, span_last = next(span for span in spans if span[0] <= first <= span[1])
        begin, end = max(span_first, first - window.half), min(span_last, last + window.half) + 1
        if window.within(end - begin) is None:
            continue
        middle = (first + last) // 2
        still = path.at_rows(np.full(end - begin, middle))
        tracks: dict[Basis, Floats] = {"the world": points[begin:end]}
        if parents is not None:
            tracks["its parent joint"] = points[begin:end] - parents[begin:end] + parents[middle]
        judged = {
            basis: judge_arc(still.project(places).pixels, delivery, (0,), least_permille, window)
            for basis, places in tracks.items()
        }
        by_basis = sorted(judged, key=lambda basis: _median_limit(judged[basis]))
        found: list[UnframedFault] = []
        for basis in by_basis:
            for fault in judged[basis].faults:
                row = fault.row + begin
                if first <= row <= last and all(abs(row - f.fault.row) > SAME_FAULT_ROWS for f in found):
                    found.append(UnframedFault(basis, replace(fault, row=row)))
        found.sort(key=lambda f: f.fault.row)
        least = float(np.nanmedian(judgement.least[first : last + 1]))
        out.append(Unframed(first, last, least, by_basis[0], tuple(found)))
    return tuple(out)


def _median_limit(judgement: ArcJudgement) -> float:
    known = judgement.least[np.isfinite(judgement.least)]
    return float(np.median(known)) if len(known) else np.inf
