"""Eases: how a change that runs between two frames sets off and arrives."""

from __future__ import annotations

from typing import Literal

import numpy as np

from ..arrays import Floats
from ..errors import DomainError

Ease = Literal["even", "slow in", "slow out", "slow in and out"]
EASES: tuple[Ease, ...] = ("even", "slow in", "slow out", "slow in and out")


def check_ease(ease: str) -> None:
    """Raises ``DomainError`` where there is no such ease."""
    if ease not in EASES:
        raise DomainError(f"The ease “{ease}” is not known.", f"Choose one of {', '.join(EASES)}.")


def eased(share: Floats, ease: Ease) -> Floats:
    """How much of a change is done at a ``share`` 0..1 of its time. ``slow out`` leaves slowly, ``slow in`` arrives so.

    >>> eased(np.array([0.0, 0.5, 1.0]), "slow out").tolist()
    [0.0, 0.25, 1.0]
    """
    t = np.clip(share, 0.0, 1.0)
    if ease == "slow out":
        return t * t
    if ease == "slow in":
        return 1 - (1 - t) ** 2
    if ease == "slow in and out":
        return t * t * (3 - 2 * t)
    return t


def share_between(frames: Floats, first: float, last: float, ease: Ease) -> Floats:
    """The eased share at each frame of a change from ``first`` to ``last``; at once where they are the same."""
    if last <= first:
        return np.where(frames >= first, 1.0, 0.0)
    return eased((frames - first) / (last - first), ease)
