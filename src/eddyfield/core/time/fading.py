"""What is done on one frame, blended over those beside it."""

from __future__ import annotations

import numpy as np

from ..arrays import Floats, Ints

LONGEST_FADE = 48


def fading(fades: int, step: bool) -> Floats:
    """Shares of a shift on frames from ``fades`` + 1 before it to as many after it: slow out and slow in; of a step from nothing
    to the opposite half, and from the half on to nothing.

    >>> fading(0, False)
    array([0., 1., 0.])
    >>> fading(1, True)
    array([-0. , -0.5,  0.5,  0. ,  0. ])
    """
    from_frame: Ints = np.arange(-fades - 1, fades + 2)
    if not step:
        return np.asarray(0.5 + 0.5 * np.cos(np.pi * from_frame / (fades + 1)))
    before = from_frame < 0
    away, over = np.where(before, -1 - from_frame, from_frame), max(1, fades)
    left = np.where(away < over, 0.5 + 0.5 * np.cos(np.pi * away / over), 0.0)
    return np.where(before, -0.5, 0.5) * left


def fading_frames(on_frame: int, fades: int, step: bool) -> tuple[Floats, Floats]:
    """The frames on which something that is done on one of them shows, with one more on both sides on which it does not, and its
    share on each, (n,).

    >>> fading_frames(10, 0, True)
    (array([ 8.,  9., 10., 11., 12.]), array([ 0. , -0.5,  0.5,  0. ,  0. ]))
    """
    shares = np.concatenate([[0.0], fading(fades, step), [0.0]])
    return on_frame + np.arange(-fades - 2.0, fades + 3.0), shares
