"""Judging an arc: off the arc, off the spacing, hitches and pops, in pixels of the delivery frame."""

from __future__ import annotations

import itertools
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from ..arrays import Floats
from ..optics.camera_path import CameraPath
from ..optics.lens import DeliveryFrame
from .fault_shapes import FaultShape, Found
from .faults import FaultOf, find_faults, fit, travel_components
from .limits import USUAL
from .thresholds import SURE_ERRORS
from .window import NINE, Window

ArcFaultKind = Literal["off_arc", "off_spacing", "hitch", "pop"]
NOISE_FLOOR_PX_AT_1080 = 0.12


@dataclass(frozen=True)
class ArcFault:
    """One fault at ``row``: ``size_px`` (off the arc is positive to the right of the travel, off the spacing forwards; a
    hitch or pop by its whole length), with the least that could be told there, the shift (dx, dy) in px of the screen that
    would take it away, and whose fault it is."""

    row: int
    kind: ArcFaultKind
    size_px: float
    least_px: float
    mend_px: tuple[float, float]
    window: Window = NINE
    """In which it was told."""
    cause: FaultOf = "subject"


@dataclass(frozen=True, eq=False)
class ArcJudgement:
    """Per frame, px: ``off_arc`` and ``off_spacing`` of a displaced frame, and ``least`` that could be told; NaN near
    ends and cuts, where the frames beside are not there."""

    off_arc: Floats
    off_spacing: Floats
    least: Floats
    faults: tuple[ArcFault, ...]


def judge_arc(
    pixels: Floats,
    delivery: DeliveryFrame,
    span_starts: tuple[int, ...] = (0,),
    least_permille: float = USUAL.arc_permille,
    window: Window = NINE,
) -> ArcJudgement:
    """Judge a screen track (frames, 2). Nothing is fitted across the rows in ``span_starts`` or across unseen frames, and
    nothing told that is less than a share of the height."""
    least = least_permille * delivery.height / 1000
    noise = NOISE_FLOOR_PX_AT_1080 * delivery.height / 1080
    square = delivery.square(pixels)
    off_arc, off_spacing, limits = np.full((3, len(pixels)), np.nan)
    faults: list[ArcFault] = []
    for first, end in _pieces(square, span_starts):
        found, fits = find_faults(square[first:end], noise, least, window=window)
        fitting = window.within(end - first) or window
        displaced = fits["displaced"]
        parts = travel_components(displaced.size, displaced.slope)
        off_arc[first:end], off_spacing[first:end] = parts[:, 0], parts[:, 1]
        limits[first:end] = np.maximum(least, SURE_ERRORS * displaced.error)
        for fault in found:
            shape = fits[fault.shape]
            across, along = travel_components(shape.size[fault.row][None], shape.slope[fault.row][None])[0]
            error = shape.error[fault.row]
            named = _named(fault, first, across, along, max(least, SURE_ERRORS * error), delivery)
            faults.append(replace(named, window=fitting))
    return ArcJudgement(off_arc, off_spacing, limits, tuple(faults))


def _named(fault: Found, first: int, across: float, along: float, least: float, delivery: DeliveryFrame) -> ArcFault:
    kind: ArcFaultKind
    if np.isnan(across):  # so many neighbours that its own size can no longer be told apart: as first found
        across, along = 0.0, float(np.linalg.norm(fault.size))
    if fault.shape == "displaced":
        kind = "off_arc" if abs(across) >= abs(along) else "off_spacing"
        size = across if kind == "off_arc" else along
    else:
        # Backwards along the travel time was lost; any other step is a jump.
        kind = "hitch" if along < 0 and abs(along) >= abs(across) else "pop"
        size = float(np.hypot(across, along))
    size = float(np.copysign(max(abs(size), least), size))
    mend = (-fault.size[0] / delivery.pixel_aspect, -fault.size[1])
    return ArcFault(first + fault.row, kind, float(size), float(least), mend)


def with_causes(
    judgement: ArcJudgement, path: CameraPath, points: Floats, least_permille: float = USUAL.arc_permille
) -> ArcJudgement:
    """The judgement of a track of ``points`` (frames, 3) through a camera, each fault with whose it is.

    The same fit on the track frozen on the fault's own camera tells the subject's part, on a point that stands still under
    the moving camera the camera's. Whether a step is a hitch goes by the subject's own travel: a camera that goes along hides
    it.
    """
    return replace(judgement, faults=tuple(_looked_into(f, path, points, least_permille) for f in judgement.faults))


def _looked_into(fault: ArcFault, path: CameraPath, points: Floats, least_permille: float) -> ArcFault:
    window, half = fault.window, fault.window.half
    rows = np.arange(fault.row - half, fault.row + half + 1)
    still_camera = path.at_rows(np.full(window.count, fault.row))
    still_point = np.broadcast_to(points[fault.row], (window.count, 3))
    tracks = still_camera.project(points[rows]).pixels, path.at_rows(rows).project(still_point).pixels
    shape: FaultShape = "step" if fault.kind in ("hitch", "pop") else "displaced"
    noise = NOISE_FLOOR_PX_AT_1080 * path.delivery.height / 1080
    fits = [fit(path.delivery.square(track), shape, noise, window=window) for track in tracks]
    sizes = [float(np.linalg.norm(found.size[half])) for found in fits]
    threshold = least_permille * path.delivery.height / 1000
    subject, camera = (
        size > max(threshold, SURE_ERRORS * float(found.error[half])) for size, found in zip(sizes, fits, strict=True)
    )
    cause: FaultOf = "both"
    if subject != camera:
        cause = "subject" if subject else "camera"
    elif not subject:
        cause = "camera" if sizes[1] > sizes[0] else "subject"
    kind = fault.kind
    if shape == "step" and cause == "subject":
        across, along = travel_components(fits[0].size[half][None], fits[0].slope[half][None])[0]
        kind = "hitch" if along < 0 and abs(along) >= abs(across) else "pop"
    return replace(fault, cause=cause, kind=kind)


def _pieces(pixels: Floats, span_starts: tuple[int, ...]) -> list[tuple[int, int]]:
    """Half-open runs of rows that are seen and lie within one span."""
    seen = np.asarray(np.isfinite(pixels).all(axis=-1))
    breaks = np.zeros(len(pixels) + 1, dtype=bool)
    breaks[list(span_starts)] = True
    breaks[:-1] |= ~seen
    breaks[1:] |= ~seen
    breaks[[0, -1]] = True
    edges = np.flatnonzero(breaks)
    return [(int(a), int(b)) for a, b in itertools.pairwise(edges) if seen[a]]
