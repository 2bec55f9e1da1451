"""Faults told from honest quick motion, by comparing two local models over a window of samples (``window.py``).

One model is a quintic in time; the other is the same quintic plus one fault: a *displaced* sample (1 at the centre, 0
elsewhere) or a *step* (from -1/2 to +1/2, between the centre and the sample before it). Least squares gives the fault's
size and its standard error. The residual behind that is pooled over the dimensions, with a floor under it, and never less
than is usual in the windows around: few samples make a small one by chance. What is found enters the fit as a further term
and the range is searched again, so that neighbours do not hide each other.

A third shape competes: the *corner*, a change of velocity (``corner_or_fault.py``).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal, NamedTuple

import numpy as np

from ..arrays import Bools, Floats
from .corner_or_fault import is_corner
from .fault_shapes import SHAPES, FaultShape, Found, Terms, column, reaches
from .thresholds import SURE_ERRORS
from .window import NINE, Window

FaultOf = Literal["subject", "camera", "both"]
"""What makes a fault in the picture."""
MOST_FAULTS_PER_SAMPLE = 0.2


@dataclass(frozen=True, eq=False)
class Fit:
    """Per sample, for one shape of fault: ``size`` (n, d), ``error`` (n,) its standard error, ``residual`` (n,) the root
    mean square that is left, ``slope`` (n, d) the fitted motion per sample at the centre. NaN where nothing can be told."""

    size: Floats
    error: Floats
    residual: Floats
    slope: Floats


class _Solver(NamedTuple):
    """Of a window with known faults and one in the middle: the rows that solve for its size and for the motion per sample there,
    the norm of the fault beside the rest, what makes the residual, and the freedom that is left."""

    size: Floats
    slope: Floats
    norm: float
    residual_maker: Floats
    freedom: int


@lru_cache(maxsize=4096)
def _solver(window: Window, shape: FaultShape, known: Terms) -> _Solver | None:
    offsets, motion = window.offsets, window.motion
    columns = [motion, *(column(s, offsets - r)[:, None] for s, r in known), column(shape, offsets)[:, None]]
    design = np.hstack(columns)
    freedom = window.count - design.shape[1]
    if freedom < 1 or np.linalg.matrix_rank(design, tol=1e-6) < design.shape[1]:
        return None
    solve = np.linalg.pinv(design)
    terms = np.eye(window.degree + 1)
    slopes = np.array([np.polynomial.legendre.legval(0.0, np.polynomial.legendre.legder(term)) for term in terms])
    slope = slopes / window.half @ solve[: window.degree + 1]
    return _Solver(
        solve[-1], slope, float(1.0 / np.linalg.norm(solve[-1])), np.eye(window.count) - design @ solve, freedom
    )


def fit(
    samples: Floats, shape: FaultShape, noise_floor: float, known: Sequence[Found] = (), window: Window = NINE
) -> Fit:
    """Fit one shape of fault at every sample of (n, d), with the faults already ``known`` as further terms.

    A known fault of the same shape at the very sample stands aside there, so that its own figure is still told. Of fewer
    samples than there are in the ``window`` a shorter one is taken, and under five nothing is told.
    """
    count, dimensions = samples.shape
    size, slope = np.full((2, count, dimensions), np.nan)
    error, residual = np.full((2, count), np.nan)
    fitting = window.within(count)
    if fitting is None:
        return Fit(size, error, residual, slope)
    half = fitting.half
    touched: dict[int, list[tuple[FaultShape, int]]] = {}
    for fault in known:
        for centre in range(max(half, fault.row - half), min(count - half, fault.row + half + 1)):
            if reaches(fault.shape, fault.row, centre, fitting) and not (fault.row == centre and fault.shape == shape):
                touched.setdefault(centre, []).append((fault.shape, fault.row - centre))
    plain = np.ones(count, dtype=bool)
    plain[list(touched)] = False
    by_terms: dict[Terms, list[int]] = {(): (half + np.flatnonzero(plain[half : count - half])).tolist()}
    for centre, terms in touched.items():
        by_terms.setdefault(tuple(sorted(terms)), []).append(centre)
    offsets = np.arange(-half, half + 1)
    for known_terms, members in by_terms.items():
        solver = _solver(fitting, shape, known_terms)
        if solver is None:
            continue
        at = np.array(members, dtype=np.int64)  # there may be none
        # One product of matrices for all dimensions and windows, in this order.
        values = samples.T[:, at[:, None] + offsets].reshape(-1, fitting.count)
        left = ((values @ solver.residual_maker) * values).sum(axis=1).reshape(dimensions, -1).sum(axis=0)
        pooled = np.sqrt(np.maximum(left, 0.0) / (solver.freedom * dimensions))
        size[at] = (values @ solver.size).reshape(dimensions, -1).T
        slope[at] = (values @ solver.slope).reshape(dimensions, -1).T
        residual[at] = pooled
        error[at] = 1.0 / solver.norm
    noise = np.fmax(np.fmax(residual, usual_residual(residual, fitting)), noise_floor)
    return Fit(size, error * noise, residual, slope)


class AtCentre(NamedTuple):
    """Of windows of many tracks: the ``size`` of a fault at the centre (tracks, d), its standard ``error`` (tracks,), and the
    motion per sample there, ``slope`` (tracks, d)."""

    size: Floats
    error: Floats
    slope: Floats


def at_centre(windows: Floats, shape: FaultShape, noise_floor: float) -> AtCentre:
    """Fit one shape of fault in the middle of windows (samples of one, tracks, d), each for itself."""
    solver = _solver(Window(len(windows) // 2), shape, ())
    assert solver is not None
    left = np.einsum("rtd,rs,std->t", windows, solver.residual_maker, windows, optimize=True)
    residual = np.sqrt(np.maximum(left, 0.0) / (solver.freedom * windows.shape[2]))
    return AtCentre(
        np.tensordot(solver.size, windows, axes=1),
        np.fmax(residual, noise_floor) / solver.norm,
        np.tensordot(solver.slope, windows, axes=1),
    )


def could_hold_faults(tracks: Floats, noise_floor: float, least: float, window: Window = NINE) -> Bools:
    """Whether any fault of tracks (n, tracks, d) could be flagged, (tracks,): what ``find_faults`` asks first, corners aside, of
    all tracks in one product of matrices."""
    out = np.zeros(tracks.shape[1], dtype=bool)
    fitting = window.within(len(tracks))
    if fitting is None:
        return out
    windows = np.lib.stride_tricks.sliding_window_view(tracks, fitting.count, axis=0)  # (windows, tracks, d, samples)
    values, shape_of = windows.reshape(-1, fitting.count), windows.shape[:3]
    for shape in SHAPES:
        solver = _solver(fitting, shape, ())
        assert solver is not None
        left = ((values @ solver.residual_maker) * values).sum(axis=1).reshape(shape_of).sum(axis=2)
        residual = np.sqrt(np.maximum(left, 0.0) / (solver.freedom * tracks.shape[2]))
        size = np.linalg.norm((values @ solver.size).reshape(shape_of), axis=2)
        sure = size * solver.norm / SURE_ERRORS
        flagged = (size > least) & (sure > np.maximum(residual, noise_floor))
        # What is usual around is only looked for where it still matters.
        for track in np.flatnonzero(flagged.any(axis=0) & ~out).tolist():
            usual = usual_residual(residual[:, track], fitting)
            out[track] = bool((flagged[:, track] & (sure[:, track] > usual)).any())
    return out


def usual_residual(residual: Floats, window: Window = NINE) -> Floats:
    """The median residual of the windows within a second, (n,); NaN where there is none."""
    out = np.full(len(residual), np.nan)
    known = np.flatnonzero(~np.isnan(residual))
    if not len(known):
        return out
    # A fault at the centre shows in the windows next to it.
    beside = np.abs(np.arange(-window.around, window.around + 1)) > window.half
    # Mirrored at the ends, a fault would be beside itself: there are just fewer windows.
    padded = np.pad(residual[known], window.around, constant_values=np.nan)
    around = np.sort(np.lib.stride_tricks.sliding_window_view(padded, len(beside))[:, beside], axis=1)
    count = np.isfinite(around).sum(axis=1)  # what is none is sorted to the end
    rows = np.arange(len(known))
    middle = (around[rows, np.maximum(count - 1, 0) // 2] + around[rows, count // 2]) / 2
    out[known] = np.where(count > 0, middle, residual[known])
    return out


def find_faults(
    samples: Floats, noise_floor: float, least: float, step_share: float = 0.3, window: Window = NINE
) -> tuple[tuple[Found, ...], dict[FaultShape, Fit]]:
    """All faults of samples (n, d), n in equal steps of time, and the last fit of each shape. As ``fit`` of few samples.

    Flagged where a component of the size, along or across the travel, exceeds ``least`` (steps also ``step_share`` of
    the median spacing of the window) and seven standard errors, at the greatest sureness within half a window; of two
    shapes the one that leaves less residual.
    """
    spacing = np.linalg.norm(np.diff(samples, axis=0), axis=-1)
    typical = np.full(len(samples), np.nan)
    fitting = window.within(len(samples))
    if fitting is not None:
        windows = np.lib.stride_tricks.sliding_window_view(spacing, fitting.count - 1)
        middle = np.sort(windows, axis=-1)[:, fitting.half - 1 : fitting.half + 1]
        typical[fitting.half : len(samples) - fitting.half] = middle.mean(axis=-1)
    known: list[Found] = []
    fits: dict[FaultShape, Fit] = {}
    while True:
        fits = {shape: fit(samples, shape, noise_floor, known, window) for shape in SHAPES}
        new = fitting and _surest(
            samples, fits, known, least, np.fmax(least, step_share * typical), fitting, noise_floor
        )
        if not new or len(known) > MOST_FAULTS_PER_SAMPLE * len(samples):
            return tuple(sorted(known, key=lambda f: f.row)), fits
        known += new


def _surest(
    samples: Floats, fits: dict[FaultShape, Fit], known: list[Found], least: float, least_step: Floats, window: Window,
    noise_floor: float,
) -> list[Found]:  # fmt: skip
    candidates: list[Found] = []
    taken = {(f.shape, f.row) for f in known}
    for shape in SHAPES:
        here, other = fits[shape], fits["step" if shape == "displaced" else "displaced"]
        size = np.abs(travel_components(here.size, here.slope)).max(axis=-1)
        sureness = size / here.error
        with np.errstate(invalid="ignore"):
            better = ~(other.residual < here.residual)
            flagged = (size > (least if shape == "displaced" else least_step)) & (sureness > SURE_ERRORS) & better
        for row in np.flatnonzero(flagged).tolist():
            if (shape, row) not in taken:
                candidates.append(Found(row, shape, tuple(here.size[row].tolist()), float(sureness[row])))
    candidates.sort(key=lambda f: -f.sureness)
    usual_of = {shape: usual_residual(fits[shape].residual, window) for shape in {c.shape for c in candidates}}
    chosen: list[Found] = []
    for candidate in candidates:
        here, near = fits[candidate.shape], [f for f in known if f.row != candidate.row]
        around = max(noise_floor, float(usual_of[candidate.shape][candidate.row]))
        # A fault that fits by chance to nothing is no reason against a corner.
        usual = max(float(here.residual[candidate.row]), float(usual_of[candidate.shape][candidate.row]))
        if all(abs(candidate.row - c.row) > window.half for c in chosen) and not is_corner(
            samples, candidate, usual, around, near, window
        ):
            chosen.append(candidate)
    return chosen


def travel_components(size: Floats, slope: Floats) -> Floats:
    """Sizes (n, 2) turned into (across, along) the travel: across is positive to the right of it, y being down.

    In one dimension the size is its own component. Without travel, the picture's x counts as along.
    """
    if size.shape[-1] != 2:
        return size
    size_x, size_y, x, y = size[..., 0], size[..., 1], slope[..., 0], slope[..., 1]
    length = np.hypot(x, y)
    moves = length > 1e-12
    per_length = 1.0 / np.where(moves, length, 1.0)
    x, y = np.where(moves, x * per_length, 1.0), np.where(moves, y * per_length, 0.0)
    return np.stack([size_y * x - size_x * y, size_x * x + size_y * y], axis=-1)
