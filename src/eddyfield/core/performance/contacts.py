"""Contacts with the ground: when a foot is down, and how far it slides while it is."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Floats, Ints
from ..optics.camera_path import CameraPath
from ..optics.lens import inside_frame
from ..time.frames import Rate

DOWN_CLEARANCE_M = 0.03
DOWN_SPEED_M_PER_S = 0.15
UP_SPEED_M_PER_S = 0.5
REST_SPEED_M_PER_S = 0.25


@dataclass(frozen=True)
class Contact:
    """Rows ``first`` to ``last`` (both included) on which point ``point`` is down. From ``rests`` to ``leaves`` it should
    stand still: before, it is still arriving, afterwards already leaving. One that never comes to rest skates, and should
    have stood still all of the time."""

    point: int
    first: int
    last: int
    rests: int
    leaves: int


def find_contacts(points: Floats, rate: Rate, ground_m: Floats | float = 0.0, size: float = 1.0) -> tuple[Contact, ...]:
    """Contacts of points (frames, points, 3) of the unstepped performance, over ground of the given height.

    Clearance is the height above the ground less the least in the performance. A point is down from the frame at which
    its clearance is under 3 cm and its vertical speed (from the frame before) under 0.15 m/s, until its clearance is
    over 3 cm or its vertical speed over 0.5 m/s. It rests from the first frame of that on which its horizontal speed is
    under 0.25 m/s, to the last such frame. For a body of another ``size`` than 1.7 m (1) lengths go in proportion to it, and
    speeds by its square root.
    """
    down_m, quicker = DOWN_CLEARANCE_M * size, float(np.sqrt(size))
    height = points[..., 1] - ground_m
    clearance = height - height.min(axis=0)
    rise = np.abs(np.diff(points[..., 1], axis=0)) * float(rate)
    speed = np.concatenate([rise[:1], rise]) if len(rise) else np.zeros_like(height)
    comes_down = (clearance < down_m) & (speed < DOWN_SPEED_M_PER_S * quicker)
    goes_up = (clearance > down_m) | (speed > UP_SPEED_M_PER_S * quicker)
    way = np.hypot(*np.moveaxis(np.diff(points[..., [0, 2]], axis=0), -1, 0)) * float(rate)
    slow = np.concatenate([way[:1], way]) < REST_SPEED_M_PER_S * quicker if len(way) else np.ones_like(comes_down)
    found = []
    for point in range(points.shape[1]):
        # Down keeps its state between the two rules: the last rule that spoke holds.
        events = np.where(comes_down[:, point], 1, np.where(goes_up[:, point], -1, 0))
        spoken = np.maximum.accumulate(np.where(events != 0, np.arange(len(events)), 0))
        down = np.concatenate([[False], events[spoken] == 1, [False]]).astype(np.int8)
        for first, end in zip(np.flatnonzero(np.diff(down) == 1), np.flatnonzero(np.diff(down) == -1), strict=True):
            resting = first + np.flatnonzero(slow[first:end, point])
            rests, leaves = (resting[0], resting[-1]) if len(resting) else (first, end - 1)
            found.append(Contact(point, int(first), int(end) - 1, int(rests), int(leaves)))
    return tuple(found)


def slide_m(contacts: tuple[Contact, ...], shown: Floats, poses: Ints) -> float:
    """The greatest horizontal distance in metres from where a contact came to rest, over all contacts; 0 without any.

    ``shown`` (frames, points, 3) are the points as they are shown, ``poses`` (frames,) the rows whose pose each frame
    shows: only those count whose own pose lies where the contact rests.
    """
    return max((float(s.max()) for _, s in slides(contacts, shown, poses) if len(s)), default=0.0)


def slide_per_row(contacts: tuple[Contact, ...], shown: Floats, poses: Ints) -> Floats:
    """For each frame the slide of a contact that rests there, metres, shape (frames,); NaN if none does."""
    out = np.full(len(shown), np.nan)
    for rows, distance in slides(contacts, shown, poses):
        out[rows] = np.fmax(out[rows], distance)
    return out


def slide_px(contacts: tuple[Contact, ...], shown: Floats, poses: Ints, camera: CameraPath) -> float:
    """The same in pixels of the picture: how far a contact is seen from where it came to rest on the ground, at its own
    height, on the frames on which it can be seen; 0 without any."""
    most = 0.0
    for contact, (rows, _) in zip(contacts, slides(contacts, shown, poses), strict=True):
        if not len(rows):
            continue
        now = shown[rows, contact.point]
        rested = now.copy()
        rested[:, [0, 2]] = now[0, [0, 2]]
        path = camera.at_rows(rows)
        seen, ground = path.project(now), path.project(rested)
        step = camera.delivery.square(seen.pixels - ground.pixels)
        inside = inside_frame(seen, camera.delivery) & ground.in_front
        most = max(most, float(np.where(inside, np.hypot(step[..., 0], step[..., 1]), 0.0).max()))
    return most


def slides(contacts: tuple[Contact, ...], shown: Floats, poses: Ints) -> list[tuple[Ints, Floats]]:
    """Of each contact the rows that count, and how far it is on them from where it came to rest, metres."""
    out = []
    for contact in contacts:
        rows = np.arange(contact.rests, contact.leaves + 1)
        rows = rows[poses[rows] >= contact.rests]
        path = shown[rows, contact.point][:, [0, 2]]
        out.append((rows, np.hypot(*(path - path[:1]).T)))
    return out
