"""Slip and reversals: how far held poses move on the screen when they should stand still."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..arrays import Bools, Floats, Ints
from ..optics.camera_path import CameraPath


@dataclass(frozen=True)
class Stretch:
    """A run of exposures that slip or jump back, ``first`` to ``last`` (frames, both included): the slip's root mean square
    over its held frames and its greatest, px; and how many of its ``pose_changes`` jump back."""

    first: int
    last: int
    rms_px: float
    max_px: float
    reversals: int
    pose_changes: int


@dataclass(frozen=True, eq=False)
class Strobing:
    """What a stepped performance does on the screen, frame by frame.

    ``slip_px`` and ``slip_permille`` (frames,): 0 where a new pose is shown, NaN where no point could be seen.
    ``reversals`` are the frames on which a pose change jumps back against the drift of the hold before it. The figures
    are over held frames: 0 when nothing is held, NaN when nothing held could be seen.
    """

    held: NDArray[np.bool_]
    slip_px: Floats
    slip_permille: Floats
    rms_px: float
    max_px: float
    max_frame: int | None
    reversals: tuple[int, ...]
    over_threshold: int
    stretches: tuple[Stretch, ...]


def nothing_slips(count: int) -> Strobing:
    """Where every frame shows a pose of its own, whatever the camera does."""
    still = np.zeros(count)
    return Strobing(still > 0, still, still, 0.0, 0.0, None, (), 0, ())


def strobing(
    camera: CameraPath,
    shown_points: Floats,
    comparison: Ints,
    first: int,
    threshold_permille: float = 1.0,
    span_starts: Sequence[int] = (0,),
    bridged_frames: int = 12,
) -> Strobing:
    """Measure the shown points (frames, points, 3), in metres of the world, as shown on each frame.

    ``comparison`` (frames,) is r(f), the frame that each frame should look like; ``first`` is the frame of row 0.
    ``span_starts`` are the rows on which a span of the cut begins: nothing is compared across them. Stretches that lie no
    more than ``bridged_frames`` (half a second) apart are one.
    """
    rows = np.arange(camera.count)
    before = np.clip(comparison - first, 0, rows)
    pixels = camera.project(shown_points).pixels
    held = before != rows
    held_rows = np.flatnonzero(held)
    drift = camera.delivery.square(pixels[held_rows] - pixels[before[held_rows]])
    slip = np.zeros(len(rows))
    slip[held_rows] = _median(np.hypot(drift[..., 0], drift[..., 1]))
    permille = camera.delivery.permille_of_height(slip)
    seen = held & ~np.isnan(slip)
    rms = max_px = 0.0 if not held.any() else np.nan
    max_frame = None
    if seen.any():
        rms = float(np.sqrt(np.mean(slip[seen] ** 2)))
        max_px = float(slip[seen].max())
        max_frame = first + int(np.flatnonzero(seen & (slip == max_px))[0])
    with np.errstate(invalid="ignore"):
        slips = permille > threshold_permille
        over = int(np.count_nonzero(held & slips))
    reversals = _reversals(camera, pixels, drift, held, first, threshold_permille, span_starts)
    stretches = _stretches(held, slip, slips, reversals, first, span_starts, bridged_frames)
    return Strobing(held, slip, permille, rms, max_px, max_frame, reversals, over, stretches)


def _stretches(
    held: Bools,
    slip: Floats,
    over: Bools,
    reversals: tuple[int, ...],
    first: int,
    span_starts: Sequence[int],
    bridged: int,
) -> tuple[Stretch, ...]:
    starts = np.flatnonzero(~held)
    if len(starts) == len(held):
        return ()
    lasts = np.append(starts[1:], len(held)) - 1
    jumps = np.zeros(len(held) + 1, dtype=bool)
    jumps[np.array(reversals, dtype=np.int64) - first] = True
    bad = np.logical_or.reduceat(over & held, starts) | jumps[lasts + 1]
    span = np.searchsorted(np.asarray(span_starts), starts, side="right")
    changes = np.append(~held[1:] & held[:-1], False)  # by the row before the change
    found: list[tuple[int, int, int]] = []
    for index in np.flatnonzero(bad).tolist():
        a, b, of = int(starts[index]), int(lasts[index]), int(span[index])
        if found and found[-1][2] == of and a - found[-1][1] - 1 <= bridged:
            found[-1] = (found[-1][0], b, of)
        else:
            found.append((a, b, of))
    out = []
    for a, b, _ in found:
        seen = slip[a : b + 1][held[a : b + 1] & ~np.isnan(slip[a : b + 1])]
        rms, most = (float(np.sqrt(np.mean(seen**2))), float(seen.max())) if len(seen) else (0.0, 0.0)
        back = int(np.count_nonzero(jumps[a + 1 : b + 2]))
        out.append(Stretch(first + a, first + b, rms, most, back, int(np.count_nonzero(changes[a : b + 1]))))
    return tuple(out)


def _reversals(
    camera: CameraPath,
    pixels: Floats,
    drift: Floats,
    held: NDArray[np.bool_],
    first: int,
    threshold: float,
    span_starts: Sequence[int],
) -> tuple[int, ...]:
    ends_a_hold = np.append(False, ~held[1:] & held[:-1])
    ends_a_hold[list(span_starts)] = False
    rows = np.flatnonzero(ends_a_hold)
    if not len(rows):
        return ()
    held_before = np.cumsum(held)[rows - 1] - 1  # places among the held rows
    hold = _median_vector(drift[held_before])
    jump = _median_vector(camera.delivery.square(pixels[rows] - pixels[rows - 1]))
    least = threshold * camera.delivery.height / 1000.0
    with np.errstate(invalid="ignore"):
        back = np.einsum("ri,ri->r", hold, jump) < 0
        long = (np.hypot(*hold.T) > least) & (np.hypot(*jump.T) > least)
    return tuple(int(r) + first for r in rows[back & long])


def _median(distances: Floats) -> Floats:
    """Median over the points (last axis) that could be seen, (frames,); NaN where there is none."""
    if distances.shape[-1] == 0:
        return np.full(distances.shape[:-1], np.nan)
    ordered = np.sort(distances, axis=-1)  # what could not be seen (NaN) comes last
    if not np.isnan(ordered[..., -1]).any():
        last = ordered.shape[-1] - 1
        return np.asarray(0.5 * (ordered[..., last // 2] + ordered[..., (last + 1) // 2]))
    seen = np.count_nonzero(~np.isnan(distances), axis=-1)[..., None]
    low, high = (np.take_along_axis(ordered, np.maximum(m, 0), axis=-1) for m in ((seen - 1) // 2, seen // 2))
    return np.asarray(np.where(seen > 0, 0.5 * (low + np.where(seen % 2, low, high)), np.nan)[..., 0])


def _median_vector(vectors: Floats) -> Floats:
    """Component-wise median over points, (frames, 2)."""
    return _median(np.ascontiguousarray(vectors.swapaxes(-1, -2)))
