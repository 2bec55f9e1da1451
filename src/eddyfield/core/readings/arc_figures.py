"""The track of one joint on the screen, with its spacing and shares; and how it is judged."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..arrays import Bools, Floats
from ..optics import screen
from ..optics.camera_path import CameraPath
from .arcs import ArcJudgement, judge_arc, with_causes
from .unframed import Unframed, seen_otherwise
from .window import NINE, Window


@dataclass(frozen=True, eq=False)
class ArcTrack:
    """The track of one joint, per frame: pixels (frames, 2), spacing px, shares px (signed along the step)."""

    pixels: Floats
    in_front: Bools
    spacing_px: Floats
    subject_px: Floats
    camera_px: Floats


@dataclass(frozen=True, eq=False)
class JudgedArc:
    """How the track is judged; and where nothing can be told through the camera, what is told otherwise."""

    judgement: ArcJudgement
    unframed: tuple[Unframed, ...]


def arc_track(
    path: CameraPath, world: Floats, node: int, frozen_row: int | None, span_starts: Sequence[int]
) -> ArcTrack:
    """Of a node of the unstepped motion ``world`` (frames, nodes, 4, 4), through a camera, or frozen on one row of it.
    ``span_starts`` are the rows on which a span of the cut begins, the first included."""
    points = np.ascontiguousarray(world[:, node, :3, 3])
    through = _through(path, frozen_row)
    seen = screen.track(through, points)
    steps = screen.spacing(seen.pixels, through)
    moved = np.diff(seen.pixels, axis=0, prepend=np.nan)
    subject, carried = screen.shares(through, points)
    later_spans = [s for s in span_starts if s > 0]
    for figures in (steps, moved, subject, carried):
        figures[later_spans] = np.nan
    return ArcTrack(
        seen.pixels,
        seen.in_front,
        steps,
        screen.component_along(subject, moved, through),
        screen.component_along(carried, moved, through),
    )


def judged_arc(
    track: ArcTrack, path: CameraPath, world: Floats, node: int, parent: int, frozen_row: int | None,
    span_starts: Sequence[int], least_permille: float, window: Window = NINE,
) -> JudgedArc:  # fmt: skip
    """The judgement of a node's ``track``; the node hangs on ``parent`` (-1: on nothing)."""
    points = np.ascontiguousarray(world[:, node, :3, 3])
    judged = judge_arc(track.pixels, path.delivery, tuple(span_starts), least_permille, window)
    ends = [*span_starts[1:], len(points)]
    spans = [(start, end - 1) for start, end in zip(span_starts, ends, strict=True)]
    parents = None if parent < 0 else world[:, parent, :3, 3]
    return JudgedArc(
        judged if frozen_row is not None else with_causes(judged, path, points, least_permille),
        seen_otherwise(judged, _through(path, frozen_row), points, parents, spans, least_permille, window),
    )


def _through(path: CameraPath, frozen_row: int | None) -> CameraPath:
    return path if frozen_row is None else screen.frozen(path, frozen_row)
