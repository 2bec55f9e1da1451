"""Judging an arc: off the arc, off the spacing, hitches and pops, in pixels of the delivery frame."""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from typing import Literal

import numpy as np

from .faults import SURE, Found, find_faults, travel_components
from .lens import DeliveryFrame
from .transforms import Floats

ArcFaultKind = Literal["off the arc", "off the spacing", "hitch", "pop"]
THRESHOLD_PERMILLE = 1.5
NOISE_FLOOR_PX_AT_1080 = 0.12


@dataclass(frozen=True)
class ArcFault:
    """One fault at ``row``: signed ``size_px`` (off the arc is positive to the right of the travel, along it forwards),
    with the least that could be told there, and the shift (dx, dy) in px of the screen that would take it away."""

    row: int
    kind: ArcFaultKind
    size_px: float
    least_px: float
    mend_px: tuple[float, float]


@dataclass(frozen=True, eq=False)
class ArcJudgement:
    """Per frame, px: ``off_arc`` and ``off_spacing`` of a displaced frame, and ``least`` that could be told; NaN near
    ends and cuts, where the nine frames are not there."""

    off_arc: Floats
    off_spacing: Floats
    least: Floats
    faults: tuple[ArcFault, ...]


def judge_arc(pixels: Floats, delivery: DeliveryFrame, span_starts: tuple[int, ...] = (0,)) -> ArcJudgement:
    """Judge a screen track (frames, 2). Nothing is fitted across the rows in ``span_starts`` or across unseen frames."""
    least = THRESHOLD_PERMILLE * delivery.height / 1000
    noise = NOISE_FLOOR_PX_AT_1080 * delivery.height / 1080
    square = delivery.square(pixels)
    off_arc, off_spacing, told = np.full((3, len(pixels)), np.nan)
    faults: list[ArcFault] = []
    for first, end in _pieces(square, span_starts):
        found, fits = find_faults(square[first:end], noise, least)
        displaced = fits["displaced"]
        parts = travel_components(displaced.size, displaced.slope)
        off_arc[first:end], off_spacing[first:end] = parts[:, 0], parts[:, 1]
        told[first:end] = np.maximum(least, SURE * displaced.error)
        for fault in found:
            shape = fits[fault.shape]
            across, along = travel_components(shape.size[fault.row][None], shape.slope[fault.row][None])[0]
            error = shape.error[fault.row]
            faults.append(_named(fault, first, across, along, max(least, SURE * error), delivery))
    return ArcJudgement(off_arc, off_spacing, told, tuple(faults))


def _named(fault: Found, first: int, across: float, along: float, least: float, delivery: DeliveryFrame) -> ArcFault:
    kind: ArcFaultKind
    if np.isnan(across):  # so many neighbours that its own size can no longer be told apart: as first found
        across, along = 0.0, float(np.linalg.norm(fault.size))
    if fault.shape == "displaced":
        kind = "off the arc" if abs(across) >= abs(along) else "off the spacing"
        size = across if kind == "off the arc" else along
    else:
        kind, size = ("hitch", along) if along < 0 else ("pop", along)
    mend = (-fault.size[0] / delivery.pixel_aspect, -fault.size[1])
    return ArcFault(first + fault.row, kind, float(size), float(least), mend)


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
