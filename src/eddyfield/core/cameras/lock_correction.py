"""The correction of a framing lock: what it turns, slides, moves and zooms, measured from the camera as mount and aim put
it. A soft lock lets the correction lag and a weight takes a share of it; the camera's own moves stay untouched.

Corrections are (frames, 6): a turn in pan and tilt (degrees, unwrapped over the frames), a slide to the right and up
(metres), the logarithm of the ratio of distances to the subject, and that of the ratio of focal lengths, or of heights of
a parallel view. The turn is told by pan and tilt, not by a rotation vector: that would spin the camera where a subject has
gone all around it, and lean it on the way.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Floats
from .lag import lagged
from .subjects import check_numbers

PAN, TURN, SLIDE, DISTANCE, ZOOM, NUMBERS = 0, slice(0, 2), slice(2, 4), 4, 5, 6
FULL_TURN_DEG = 360.0


@dataclass(frozen=True)
class CarriedOver:
    """What a soft lock had still to make up on ``frame`` when its mount was changed there: it fades by the half-life away
    from that frame, both ways, so that the picture of the frame stays. ``correction`` has the six numbers of one."""

    frame: int
    correction: tuple[float, float, float, float, float, float]

    def __post_init__(self) -> None:
        check_numbers("state of the lock", (self.frame, *self.correction))


def from_the_nearest_side(turns: Floats, weight: Floats) -> Floats:
    """Turns in pan (frames,), in degrees, each run of frames on which the lock has any ``weight`` beginning within half a
    turn: where nothing of it is seen, whole turns that went before do not count."""
    starts = np.flatnonzero((weight > 0) & np.append(True, weight[:-1] <= 0))
    if not len(starts):
        return turns
    run = np.maximum(np.searchsorted(starts, np.arange(len(turns)), side="right") - 1, 0)
    return np.asarray(turns - FULL_TURN_DEG * np.round(turns[starts] / FULL_TURN_DEG)[run])


def softened(full: Floats, frames: Floats, step_s: float, half_life_s: float, over: CarriedOver | None) -> Floats:
    """The correction as a soft lock has it: it follows the full one, from its full value on the first frame.

    ``frames`` (frames,) are their numbers; without a half-life nothing lags.
    """
    if half_life_s <= 0:
        return full
    out = lagged(full, step_s, half_life_s)
    if over is not None:
        fading = 2.0 ** (-np.abs(frames - over.frame) * step_s / half_life_s)
        out = out + fading[:, None] * np.array(over.correction)
    return out


def carried_over(before: Floats, after: Floats, frame: int, is_whole: bool) -> CarriedOver:
    """What has to be carried over on a frame so that a lock which corrects by ``after`` (6,) there goes on with ``before``
    (6,). Where the correction ``is_whole``, whole turns make no difference."""
    missing = before - after
    if is_whole:
        missing[PAN] -= FULL_TURN_DEG * np.round(missing[PAN] / FULL_TURN_DEG)
    pan, tilt, right, up, distance, zoom = (float(v) for v in missing)
    return CarriedOver(frame, (pan, tilt, right, up, distance, zoom))
