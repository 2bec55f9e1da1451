"""Contacts with the ground: when a foot is down, and how far it slides while it is."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .time import Rate
from .transforms import Floats

DOWN_CLEARANCE_M = 0.03
DOWN_SPEED_M_PER_S = 0.15
UP_SPEED_M_PER_S = 0.5


@dataclass(frozen=True)
class Contact:
    """Rows ``first`` to ``last`` (both included) on which point ``point`` is down."""

    point: int
    first: int
    last: int


def find_contacts(points: Floats, rate: Rate, ground_m: Floats | float = 0.0) -> tuple[Contact, ...]:
    """Contacts of points (frames, points, 3) of the unstepped performance, over ground of the given height.

    Clearance is the height above the ground less the least in the performance. A point is down from the frame at which
    its clearance is under 3 cm and its vertical speed (from the frame before) under 0.15 m/s, until its clearance is
    over 3 cm or its vertical speed over 0.5 m/s.
    """
    height = points[..., 1] - ground_m
    clearance = height - height.min(axis=0)
    rise = np.abs(np.diff(points[..., 1], axis=0)) * float(rate)
    speed = np.concatenate([rise[:1], rise]) if len(rise) else np.zeros_like(height)
    comes_down = (clearance < DOWN_CLEARANCE_M) & (speed < DOWN_SPEED_M_PER_S)
    goes_up = (clearance > DOWN_CLEARANCE_M) | (speed > UP_SPEED_M_PER_S)
    found = []
    for point in range(points.shape[1]):
        # Down keeps its state between the two rules: the last rule that spoke holds.
        events = np.where(comes_down[:, point], 1, np.where(goes_up[:, point], -1, 0))
        spoken = np.maximum.accumulate(np.where(events != 0, np.arange(len(events)), 0))
        down = np.concatenate([[False], events[spoken] == 1, [False]]).astype(np.int8)
        for first, end in zip(np.flatnonzero(np.diff(down) == 1), np.flatnonzero(np.diff(down) == -1), strict=True):
            found.append(Contact(point, int(first), int(end) - 1))
    return tuple(found)


def slide_m(contacts: tuple[Contact, ...], shown: Floats) -> float:
    """The greatest horizontal distance in metres from the place of touch-down, over all contacts; 0 without any.

    ``shown`` (frames, points, 3) are the points as they are shown.
    """
    return max((float(s.max()) for s in _slides(contacts, shown)), default=0.0)


def slide_per_row(contacts: tuple[Contact, ...], shown: Floats) -> Floats:
    """For each frame the greatest slide so far of a contact that is down, metres, shape (frames,); NaN if none is."""
    out = np.full(len(shown), np.nan)
    for contact, distance in zip(contacts, _slides(contacts, shown), strict=True):
        rows = slice(contact.first, contact.last + 1)
        out[rows] = np.fmax(out[rows], distance)
    return out


def _slides(contacts: tuple[Contact, ...], shown: Floats) -> list[Floats]:
    out = []
    for contact in contacts:
        path = shown[contact.first : contact.last + 1, contact.point][:, [0, 2]]
        out.append(np.hypot(*(path - path[0]).T))
    return out
