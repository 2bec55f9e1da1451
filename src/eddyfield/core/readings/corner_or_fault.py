"""Corners told from faults: changes of velocity at a sample or between two.

Contacts, bounces, dead stops and linear keys are corners, honest ones. Where a corner explains as well what looks like a fault,
and leaves nothing of it beside itself, there is no fault.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from ..arrays import Floats
from .fault_shapes import FaultShape, Found, Terms, column, reaches
from .window import Window

FARTHEST, FINELY = 0.75, 64
"""Places of corners that are tried: so far from the fault, and this often in half a window."""
WELL_EXPLAINED = 1.15
"""Times what is usual to be left."""
STILL_THERE = 4.0
"""Standard errors: what is left of a fault where a corner is allowed beside it."""
KEPT = 64
"""Models: at 120 samples a second one takes five megabytes."""


class _Makers(NamedTuple):
    """Residual makers (n, samples, samples) of models, and the freedom that they leave."""

    makers: Floats
    freedom: int


class _Wide(NamedTuple):
    fault: _Makers
    corner: _Makers
    both: _Makers


def is_corner(
    samples: Floats, fault: Found, usual: float, around: float, known: Sequence[Found], window: Window
) -> bool:
    """Whether a corner explains a fault of samples (n, d) beside others that are ``known``: where a wider window is well
    explained by either, the one that explains it better; else the corner, if over the window itself it leaves no more than is
    ``usual``. It does not where, beside a corner, so much of the fault is still there that it is sure by what is left
    ``around``."""
    row, wide = fault.row, window.wide
    middle = min(max(row, wide), len(samples) - wide - 1)
    if middle < wide:
        return _explains(samples, fault, usual, known, window)
    terms = tuple(sorted((f.shape, f.row - middle) for f in known if abs(f.row - middle) < wide))
    models = _wide(window, (fault.shape, row - middle), terms)
    seen = samples[middle - wide : middle + wide + 1]
    with_fault, with_corner = _left(seen, models.fault), _left(seen, models.corner)
    well_explained = min(with_fault, with_corner) <= WELL_EXPLAINED * usual
    is_one = with_corner < with_fault if well_explained else _explains(samples, fault, usual, known, window)
    return is_one and _still_there(seen, models, around) < STILL_THERE


def _explains(samples: Floats, fault: Found, usual: float, known: Sequence[Found], window: Window) -> bool:
    row, half = fault.row, window.half
    terms = tuple(sorted((f.shape, f.row - row) for f in known if reaches(f.shape, f.row, row, window)))
    return _left(samples[row - half : row + half + 1], _corners(window, terms)) <= usual


def _still_there(seen: Floats, models: _Wide, around: float) -> float:
    """How many standard errors of a fault are there beside the corner that fits best."""
    corner, both = (_squares(seen, models.corner), _squares(seen, models.both))
    noise = max(around, float(np.sqrt(both / max(1, models.both.freedom * seen.shape[1]))))
    return float(np.sqrt(max(corner - both, 0.0))) / noise if np.isfinite(corner - both) else 0.0


@lru_cache(maxsize=KEPT)
def _corners(window: Window, known: Terms) -> _Makers:
    """Motion, known faults and a corner, over the window."""
    offsets = window.offsets
    rest = [window.motion, *(column(s, offsets - r)[:, None] for s, r in known)]
    return _residual_makers([[*rest, np.abs(offsets - place)[:, None]] for place in _places(window)])


@lru_cache(maxsize=KEPT)
def _wide(window: Window, fault: tuple[FaultShape, int], known: Terms) -> _Wide:
    """Over the wider window, a fault so many samples from its middle: motion and known faults with the fault; with a corner, at
    which the curvature may change as well; and with both."""
    t = np.arange(-window.wide, window.wide + 1.0)
    motion = np.polynomial.legendre.legvander(t / window.wide, window.degree)
    rest = [motion, *(column(s, t - r)[:, None] for s, r in known)]
    own = column(fault[0], t - fault[1])[:, None]
    beside = [t - fault[1] - place for place in _places(window)]
    corners: list[list[NDArray[Any]]] = [[*rest, np.abs(b)[:, None], (np.abs(b) * b)[:, None]] for b in beside]
    return _Wide(
        _residual_makers([[*rest, own]]),
        _residual_makers(corners),
        _residual_makers([[*corner, own] for corner in corners]),
    )


def _places(window: Window) -> Floats:
    return np.arange(-FARTHEST * window.half, FARTHEST * window.half + 1e-9, window.half / FINELY)


def _residual_makers(models: Sequence[Sequence[NDArray[Any]]]) -> _Makers:
    """Of those models whose terms can be told apart."""
    designs = [np.hstack(list(model)) for model in models]
    rows, columns = designs[0].shape
    apart = [d for d in designs if np.linalg.matrix_rank(d, tol=1e-6) == columns]
    makers = [np.eye(rows) - d @ np.linalg.pinv(d) for d in apart]
    return _Makers(np.stack(makers) if makers else np.zeros((0, rows, rows)), rows - columns)


def _left(seen: Floats, models: _Makers) -> float:
    """The least root mean square that any of the models leaves of a window (n, d)."""
    squares = _squares(seen, models)
    return float(np.sqrt(squares / (models.freedom * seen.shape[1]))) if models.freedom > 0 else np.inf


def _squares(seen: Floats, models: _Makers) -> float:
    if models.freedom < 1 or not len(models.makers):
        return np.inf
    return max(0.0, float(np.einsum("nd,pnm,md->p", seen, models.makers, seen, optimize=True).min()))
