"""Faults told from honest quick motion, by comparing two local models over nine samples.

One model is a quintic in time; the other is the same quintic plus one fault: a *displaced* sample (1 at the centre, 0
elsewhere) or a *step* (from -1/2 to +1/2, between the centre and the sample before it). Least squares gives the fault's
size and its standard error. The residual behind that is pooled over the dimensions, with a floor under it, and never less
than is usual in the windows around: few samples make a small one by chance. What is found enters the fit as a further term
and the range is searched again, so that neighbours do not hide each other.

A third shape competes: the *corner*, a change of velocity at a sample or between two. Contacts, bounces, dead stops
and linear keys are corners, honest ones; where a corner leaves as little as the fault does, there is no fault.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal, NamedTuple

import numpy as np

from ..arrays import Bools, Floats
from .thresholds import SURE_ERRORS

FaultShape = Literal["displaced", "step"]
FaultOf = Literal["subject", "camera", "both"]
"""What makes a fault in the picture."""
SHAPES: tuple[FaultShape, ...] = ("displaced", "step")
WINDOW, HALF, DEGREE = 9, 4, 5
_OFFSETS = np.arange(-HALF, HALF + 1)
APART = 4  # of faults within four samples only the surest is flagged at a time
MOST_FAULTS_PER_SAMPLE = 0.2
AROUND = 24
"""Windows to each side whose residuals say what is usual."""
_BESIDE = np.abs(np.arange(-AROUND, AROUND + 1)) > HALF
"""Of the windows around those in which a fault at the centre does not show."""
CORNERS = tuple(float(p) for p in np.arange(-3, 3.001, 1 / 16))
"""Places of corners that are tried, samples from the fault."""
WIDE = 6
"""Samples to each side by which a fault and a corner are told apart, where they are well explained by either."""
WELL_EXPLAINED = 1.15
"""Times what is usual to be left."""


@dataclass(frozen=True, eq=False)
class Fit:
    """Per sample, for one shape of fault: ``size`` (n, d), ``error`` (n,) its standard error, ``residual`` (n,) the root
    mean square that is left, ``slope`` (n, d) the fitted motion per sample at the centre. NaN where nothing can be told."""

    size: Floats
    error: Floats
    residual: Floats
    slope: Floats


@dataclass(frozen=True)
class Found:
    """A fault at sample ``row``, of the size told along each dimension, ``sureness`` standard errors strong."""

    row: int
    shape: FaultShape
    size: tuple[float, ...]
    sureness: float


@lru_cache(maxsize=1)
def _motion_columns() -> Floats:
    t = _OFFSETS / HALF
    return np.asarray(np.polynomial.legendre.legvander(t, DEGREE))


@lru_cache(maxsize=1)
def _slope_row() -> Floats:
    """Derivative per sample of each motion column at the centre."""
    basis = np.eye(DEGREE + 1)
    return np.array([np.polynomial.legendre.legval(0.0, np.polynomial.legendre.legder(b)) for b in basis]) / HALF


def _column(shape: FaultShape, row: int, centre: int) -> Floats:
    """The column of a fault at ``row`` in the window around ``centre``."""
    samples = np.arange(centre - HALF, centre + HALF + 1)
    if shape == "displaced":
        return np.asarray(samples == row, dtype=np.float64)
    return np.where(samples < row, -0.5, 0.5)


def _reaches(shape: FaultShape, row: int, centre: int) -> bool:
    """Whether a fault shows in the window: a step at its very edge is no step."""
    low = centre - HALF + (1 if shape == "step" else 0)
    return low <= row <= centre + HALF


@lru_cache(maxsize=4096)
def _solver(shape: FaultShape, known: tuple[tuple[FaultShape, int], ...]) -> tuple[Floats, float, Floats, int] | None:
    """(rows that solve motion, known faults and the fault), norm of the fault beside the rest, residual maker, freedom."""
    columns = [_motion_columns(), *(_column(s, r, 0)[:, None] for s, r in known), _column(shape, 0, 0)[:, None]]
    design = np.hstack(columns)
    freedom = WINDOW - design.shape[1]
    if freedom < 1 or np.linalg.matrix_rank(design, tol=1e-6) < design.shape[1]:
        return None
    solve = np.linalg.pinv(design)
    return solve, float(1.0 / np.linalg.norm(solve[-1])), np.eye(WINDOW) - design @ solve, freedom


def fit(samples: Floats, shape: FaultShape, noise_floor: float, known: Sequence[Found] = ()) -> Fit:
    """Fit one shape of fault at every sample of (n, d), with the faults already ``known`` as further terms.

    A known fault of the same shape at the very sample stands aside there, so that its own figure is still told.
    """
    count, dimensions = samples.shape
    size, slope = np.full((2, count, dimensions), np.nan)
    error, residual = np.full((2, count), np.nan)
    if count < WINDOW:
        return Fit(size, error, residual, slope)
    touched: dict[int, list[tuple[FaultShape, int]]] = {}
    for fault in known:
        for centre in range(max(HALF, fault.row - HALF), min(count - HALF, fault.row + HALF + 1)):
            if _reaches(fault.shape, fault.row, centre) and not (fault.row == centre and fault.shape == shape):
                touched.setdefault(centre, []).append((fault.shape, fault.row - centre))
    plain = np.ones(count, dtype=bool)
    plain[list(touched)] = False
    by_terms: dict[tuple[tuple[FaultShape, int], ...], list[int]] = {
        (): (HALF + np.flatnonzero(plain[HALF : count - HALF])).tolist()
    }
    for centre, terms in touched.items():
        by_terms.setdefault(tuple(sorted(terms)), []).append(centre)
    for known_terms, members in by_terms.items():
        solver = _solver(shape, known_terms)
        if solver is None:
            continue
        solve, norm, residual_maker, freedom = solver
        at = np.array(members, dtype=np.int64)  # there may be none
        # One product of matrices for all dimensions and windows, in this order.
        values = samples.T[:, at[:, None] + _OFFSETS].reshape(-1, WINDOW)
        left = ((values @ residual_maker) * values).sum(axis=1).reshape(dimensions, -1).sum(axis=0)
        pooled = np.sqrt(np.maximum(left, 0.0) / (freedom * dimensions))
        size[at] = (values @ solve[-1]).reshape(dimensions, -1).T
        slope[at] = (values @ (_slope_row() @ solve[: DEGREE + 1])).reshape(dimensions, -1).T
        residual[at] = pooled
        error[at] = 1.0 / norm
    noise = np.fmax(np.fmax(residual, usual_residual(residual)), noise_floor)
    return Fit(size, error * noise, residual, slope)


class AtCentre(NamedTuple):
    """Of windows of many tracks: the ``size`` of a fault at the centre (tracks, d), its standard ``error`` (tracks,), and the
    motion per sample there, ``slope`` (tracks, d)."""

    size: Floats
    error: Floats
    slope: Floats


def at_centre(windows: Floats, shape: FaultShape, noise_floor: float) -> AtCentre:
    """Fit one shape of fault in the middle of windows (9, tracks, d), each for itself."""
    solver = _solver(shape, ())
    assert solver is not None
    solve, norm, residual_maker, freedom = solver
    left = np.einsum("rtd,rs,std->t", windows, residual_maker, windows, optimize=True)
    residual = np.sqrt(np.maximum(left, 0.0) / (freedom * windows.shape[2]))
    return AtCentre(
        np.tensordot(solve[-1], windows, axes=1),
        np.fmax(residual, noise_floor) / norm,
        np.tensordot(_slope_row() @ solve[: DEGREE + 1], windows, axes=1),
    )


def could_hold_faults(tracks: Floats, noise_floor: float, least: float) -> Bools:
    """Whether any fault of tracks (n, tracks, d) could be flagged, (tracks,): what ``find_faults`` asks first, corners aside, of
    all tracks in one product of matrices."""
    windows = np.lib.stride_tricks.sliding_window_view(tracks, WINDOW, axis=0)  # (windows, tracks, d, 9)
    values, shape_of = windows.reshape(-1, WINDOW), windows.shape[:3]
    out = np.zeros(tracks.shape[1], dtype=bool)
    for shape in SHAPES:
        solver = _solver(shape, ())
        assert solver is not None
        solve, norm, residual_maker, freedom = solver
        left = ((values @ residual_maker) * values).sum(axis=1).reshape(shape_of).sum(axis=2)
        residual = np.sqrt(np.maximum(left, 0.0) / (freedom * tracks.shape[2]))
        size = np.linalg.norm((values @ solve[-1]).reshape(shape_of), axis=2)
        flagged = (size > least) & (size * norm > SURE_ERRORS * np.maximum(residual, noise_floor))
        # What is usual around is only looked for where it still matters.
        for track in np.flatnonzero(flagged.any(axis=0) & ~out).tolist():
            usual = usual_residual(residual[:, track])
            out[track] = bool((flagged[:, track] & (size[:, track] * norm > SURE_ERRORS * usual)).any())
    return out


def usual_residual(residual: Floats) -> Floats:
    """The median residual of the windows within 24 samples, (n,); NaN where there is none."""
    out = np.full(len(residual), np.nan)
    known = np.flatnonzero(~np.isnan(residual))
    if not len(known):
        return out
    # Mirrored at the ends, a fault would be beside itself: there are just fewer windows.
    padded = np.pad(residual[known], AROUND, constant_values=np.nan)
    around = np.sort(np.lib.stride_tricks.sliding_window_view(padded, 2 * AROUND + 1)[:, _BESIDE], axis=1)
    count = np.isfinite(around).sum(axis=1)  # what is none is sorted to the end
    rows = np.arange(len(known))
    middle = (around[rows, np.maximum(count - 1, 0) // 2] + around[rows, count // 2]) / 2
    out[known] = np.where(count > 0, middle, residual[known])
    return out


@lru_cache(maxsize=512)
def _corner_makers(known: tuple[tuple[FaultShape, int], ...]) -> tuple[Floats, int]:
    """Residual makers of motion, known faults and a corner, (places, 9, 9), and what freedom is left (0: nothing can be told)."""
    rest = [_motion_columns(), *(_column(s, r, 0)[:, None] for s, r in known)]
    designs = [np.hstack([*rest, np.abs(_OFFSETS - place)[:, None]]) for place in CORNERS]
    return _residual_makers(designs)


@lru_cache(maxsize=512)
def _wide_makers(
    fault: tuple[FaultShape, int], known: tuple[tuple[FaultShape, int], ...], shift: int
) -> tuple[Floats, int, Floats, int]:
    """Over thirteen samples, the middle one ``shift`` beside the fault: the residual maker with the fault (1, 13, 13) and its
    freedom; those with a corner, at which the curvature may change as well, (places, 13, 13), and their freedom."""
    t = np.arange(-WIDE, WIDE + 1)

    def column(shape: FaultShape, row: int) -> Floats:
        at = t + shift
        return np.asarray(at == row, dtype=np.float64) if shape == "displaced" else np.where(at < row, -0.5, 0.5)

    motion = np.polynomial.legendre.legvander(t / WIDE, DEGREE)
    rest = [motion, *(column(*k)[:, None] for k in known)]
    beside = [t + shift - place for place in CORNERS]
    corners = [np.hstack([*rest, np.abs(b)[:, None], (np.abs(b) * b)[:, None]]) for b in beside]
    return *_residual_makers([np.hstack([*rest, column(*fault)[:, None]])]), *_residual_makers(corners)


def _residual_makers(designs: list[Floats]) -> tuple[Floats, int]:
    rows, columns = designs[0].shape
    if min(np.linalg.matrix_rank(design, tol=1e-6) for design in designs) < columns:
        return np.zeros((len(designs), rows, rows)), 0
    return np.stack([np.eye(rows) - design @ np.linalg.pinv(design) for design in designs]), rows - columns


def _left(window: Floats, makers: Floats, freedom: int) -> float:
    """The least root mean square that is left of a window (n, d) by any of the makers."""
    if freedom < 1:
        return np.inf
    left = float(np.einsum("nd,pnm,md->p", window, makers, window).min())
    return float(np.sqrt(max(left, 0.0) / (freedom * window.shape[1])))


def is_corner(samples: Floats, fault: Found, usual: float, known: Sequence[Found] = ()) -> bool:
    """Whether a corner explains a fault: where a window of thirteen samples is well explained by either, the one that explains
    it better; else the corner, if over nine it leaves no more than is ``usual``."""
    row, near = fault.row, [f for f in known if f.row != fault.row]
    middle = min(max(row, WIDE), len(samples) - WIDE - 1)
    if middle >= WIDE:
        terms = tuple(sorted((f.shape, f.row - row) for f in near if abs(f.row - middle) < WIDE))
        of_fault, free, of_corner, freedom = _wide_makers((fault.shape, 0), terms, middle - row)
        window = samples[middle - WIDE : middle + WIDE + 1]
        with_fault, with_corner = _left(window, of_fault, free), _left(window, of_corner, freedom)
        if min(with_fault, with_corner) <= WELL_EXPLAINED * usual:
            return with_corner < with_fault
    terms = tuple(sorted((f.shape, f.row - row) for f in near if _reaches(f.shape, f.row, row)))
    return _left(samples[row - HALF : row + HALF + 1], *_corner_makers(terms)) <= usual


def find_faults(
    samples: Floats, noise_floor: float, least: float, step_share: float = 0.3
) -> tuple[tuple[Found, ...], dict[FaultShape, Fit]]:
    """All faults of samples (n, d), n in equal steps of time, and the last fit of each shape.

    Flagged where a component of the size, along or across the travel, exceeds ``least`` (steps also ``step_share`` of
    the median spacing of the window) and seven standard errors, at the greatest sureness within four samples; of two
    shapes the one that leaves less residual.
    """
    spacing = np.linalg.norm(np.diff(samples, axis=0), axis=-1)
    typical = np.full(len(samples), np.nan)
    if len(samples) >= WINDOW:
        windows = np.lib.stride_tricks.sliding_window_view(spacing, WINDOW - 1)
        middle = np.sort(windows, axis=-1)[:, (WINDOW - 2) // 2 : WINDOW // 2 + 1]
        typical[HALF : len(samples) - HALF] = middle.mean(axis=-1)
    known: list[Found] = []
    fits: dict[FaultShape, Fit] = {}
    while True:
        fits = {shape: fit(samples, shape, noise_floor, known) for shape in SHAPES}
        new = _surest(samples, fits, known, least, np.fmax(least, step_share * typical))
        if not new or len(known) > MOST_FAULTS_PER_SAMPLE * len(samples):
            return tuple(sorted(known, key=lambda f: f.row)), fits
        known += new


def _surest(
    samples: Floats, fits: dict[FaultShape, Fit], known: list[Found], least: float, least_step: Floats
) -> list[Found]:
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
    usual_of = {shape: usual_residual(fits[shape].residual) for shape in {c.shape for c in candidates}}
    chosen: list[Found] = []
    for candidate in candidates:
        here = fits[candidate.shape]
        # What is usual around: a fault that fits by chance to nothing is no reason against a corner.
        usual = float(np.fmax(here.residual[candidate.row], usual_of[candidate.shape][candidate.row]))
        if all(abs(candidate.row - c.row) > APART for c in chosen) and not is_corner(samples, candidate, usual, known):
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
