"""A rail: a spline through points, along which an even position channel is an even speed."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import ClassVar, Literal

import numpy as np
from scipy.spatial import cKDTree

from ...arrays import Floats
from ...errors import DomainError
from ...rig import transforms
from ...time.channel_tables import ChannelKind
from ..subjects import Subject, Surroundings, Vector, check_numbers
from .base import Mount, Values

MOST_POINTS = 500
NEW_LENGTH_M = 4.0
SHORTEST_BUMP_M = 0.001
STEPS_A_SEGMENT = 256
UPRIGHT = 0.25
"""Level share of a track's direction under which it stands upright and has no heading of its own: about 15 degrees,
as a spline through points that stand upright swings a little past them."""


@dataclass(frozen=True)
class Bump:
    """A rise of the track: ``height_m`` at ``at`` (0..1 of the rail), over ``length_m`` of track."""

    at: float
    height_m: float = 0.03
    length_m: float = 0.4

    def __post_init__(self) -> None:
        check_numbers("bump", (self.at, self.height_m, self.length_m))
        if not self.length_m >= SHORTEST_BUMP_M:
            raise DomainError("A bump needs a length.", f"Give it {SHORTEST_BUMP_M:g} m or more.")


@dataclass(frozen=True)
class Rail(Mount):
    """A centripetal Catmull-Rom spline through ``points`` (metres), re-parametrised by arc length.

    Channel ``rail``: position from 0 to 1; on a closed rail it goes on round. ``height_m`` lifts the head off the track.
    Facing ``own``: the camera's angles are the world's; ``along``: they count from the heading of the track.
    """

    kind: Literal["rail"] = "rail"
    points: tuple[Vector, ...] = ((0.0, 0.0, 0.0), (1.0, 0.0, 0.0))
    closed: bool = False
    height_m: float = 0.0
    facing: Literal["own", "along"] = "own"
    bumps: tuple[Bump, ...] = ()
    channels: ClassVar = (ChannelKind("rail", "position on the rail", "share", 0.0, "place"),)

    def __post_init__(self) -> None:
        least = 3 if self.closed else 2
        if not least <= len(self.points) <= MOST_POINTS:
            raise DomainError(
                f"A {'closed ' if self.closed else ''}rail of {len(self.points)} points is not usable.",
                f"Give it {least} to {MOST_POINTS}.",
            )
        check_numbers("rail", [n for p in self.points for n in p] + [self.height_m])
        if len(self.bumps) > MOST_POINTS:
            raise DomainError("The rail has too many bumps.", f"Keep them within {MOST_POINTS}.")
        if (np.linalg.norm(np.diff(self._knots, axis=0), axis=-1) < 1e-6).any():
            raise DomainError("Two neighbouring points of the rail are in the same place.", "Move one or delete it.")

    @classmethod
    def begun(cls, world_from_camera: Floats, subject: Subject | None) -> Rail:
        """Straight and level through where the camera stands, across its sight."""
        eye = world_from_camera[:3, 3]
        across = transforms.normalized(world_from_camera[:3, 0] * [1.0, 0.0, 1.0], (1.0, 0.0, 0.0)) * NEW_LENGTH_M / 2
        points = [(float(x), float(y), float(z)) for x, y, z in (eye - across, eye, eye + across)]
        return cls(points=tuple(points))

    @property
    def _knots(self) -> Floats:
        points = np.array(self.points)
        return np.vstack([points, points[:1]]) if self.closed else points

    @cached_property
    def _track(self) -> tuple[Floats, Floats, Floats]:
        """Fine samples: arc length from the start (samples,), places (samples, 3), directions (samples, 3)."""
        places, slopes = _catmull_rom(self._knots, self.closed)
        lengths = np.linalg.norm(np.diff(places, axis=0), axis=-1)
        along = np.concatenate([[0.0], np.cumsum(lengths)])
        return along, places, transforms.normalized(slopes, (0.0, 0.0, -1.0))

    @property
    def length_m(self) -> float:
        return float(self._track[0][-1])

    def at(self, positions: Floats) -> tuple[Floats, Floats]:
        """Places (n, 3) and unit directions (n, 3) of the track at positions 0..1; bumps and height left out."""
        share = positions - np.floor(positions) if self.closed else np.clip(positions, 0.0, 1.0)
        along, places, directions = self._track
        wanted = share * along[-1]
        index = np.clip(np.searchsorted(along, wanted, side="right") - 1, 0, len(along) - 2)
        gap = along[index + 1] - along[index]
        t = ((wanted - along[index]) / gap)[:, None]
        # A cubic on the fine samples (their directions are slopes by arc length), so that speed is even as well.
        start, end, out, into = places[index], places[index + 1], directions[index], directions[index + 1]
        gap = gap[:, None]
        place = (
            (1 + 2 * t) * (1 - t) ** 2 * start
            + t * (1 - t) ** 2 * gap * out
            + t**2 * (3 - 2 * t) * end
            - t**2 * (1 - t) * gap * into
        )
        return place, transforms.normalized(out + (into - out) * t, (0.0, 0.0, -1.0))

    def speed(self, positions: Floats, rate: float) -> Floats:
        """How fast a camera runs that stands at these ``positions`` (frames,), metres a second of the track, (frames,)."""
        if len(positions) < 2:
            return np.zeros(len(positions))
        return np.asarray(np.abs(np.gradient(positions)) * self.length_m * rate)

    def _lift_m(self, positions: Floats) -> Floats:
        lift = np.full(positions.shape, self.height_m)
        for bump in self.bumps:
            away = positions - bump.at
            if self.closed:
                away = away - np.round(away)
            near = np.clip(np.abs(away) * self.length_m / (bump.length_m / 2), 0.0, 1.0)
            lift = lift + bump.height_m * (0.5 + 0.5 * np.cos(np.pi * near))
        return lift

    def world_from_mount(self, values: Values, surroundings: Surroundings) -> Floats:
        place, direction = self.at(values["rail"])
        place = place + self._lift_m(values["rail"])[:, None] * np.array([0.0, 1.0, 0.0])
        if self.facing == "own":
            return transforms.rigid(np.eye(3), place)
        pan = np.unwrap(self._headings(values["rail"], direction), period=360.0)
        return transforms.rigid(transforms.rotation_from_angles(pan, 0.0, 0.0), place)

    def _headings(self, positions: Floats, directions: Floats) -> Floats:
        """Pan in degrees (n,) along the track; where it stands upright, that of the last place before which has one."""
        pan = np.degrees(np.arctan2(directions[:, 0], -directions[:, 2]))
        upright = np.hypot(directions[:, 0], directions[:, 2]) < UPRIGHT
        if not upright.any():
            return pan
        along, _, track = self._track
        level = np.flatnonzero(np.hypot(track[:, 0], track[:, 2]) >= UPRIGHT)
        if not len(level):
            return np.zeros(len(pan))  # upright all the way: it faces ahead of the world
        share = positions - np.floor(positions) if self.closed else np.clip(positions, 0.0, 1.0)
        before = np.searchsorted(along[level], share * along[-1], side="right") - 1
        known = track[level[np.maximum(before, 0)]]
        return np.where(upright, np.degrees(np.arctan2(known[:, 0], -known[:, 2])), pan)

    @cached_property
    def _tree(self) -> cKDTree:
        return cKDTree(self._track[1])

    def nearest(self, places: Floats) -> Floats:
        """The positions whose places on the track are nearest to points (..., 3), (...)."""
        along, track, _ = self._track
        index = self._tree.query(places)[1]
        found = []
        for start in (np.maximum(index - 1, 0), np.minimum(index, len(along) - 2)):
            side = track[start + 1] - track[start]
            size = np.maximum((side * side).sum(axis=-1), 1e-30)
            t = np.clip(((places - track[start]) * side).sum(axis=-1) / size, 0.0, 1.0)
            off = np.linalg.norm(track[start] + t[..., None] * side - places, axis=-1)
            found.append((along[start] + t * (along[start + 1] - along[start]), off))
        (before, before_off), (after, after_off) = found
        return np.asarray(np.where(before_off <= after_off, before, after) / along[-1])

    def reaching(self, place: Floats, row: int, values: Values, surroundings: Surroundings) -> dict[str, float]:
        position = float(self.nearest(place - np.array([0.0, self.height_m, 0.0])))
        before = float(values["rail"][row])
        return {"rail": position + round(before - position) if self.closed else position}


def _catmull_rom(knots: Floats, closed: bool) -> tuple[Floats, Floats]:
    """Fine samples of a centripetal Catmull-Rom spline and its slopes, each (samples, 3).

    Knot intervals are the square roots of the chords. At an open end the neighbour is mirrored.
    """
    if closed:
        padded = np.vstack([knots[-2], knots, knots[1]])
    else:
        padded = np.vstack([2 * knots[0] - knots[1], knots, 2 * knots[-1] - knots[-2]])
    p0, p1, p2, p3 = (padded[i : len(padded) - 3 + i] for i in range(4))
    t01, t12, t23 = (np.sqrt(np.linalg.norm(b - a, axis=-1))[:, None] for a, b in ((p0, p1), (p1, p2), (p2, p3)))
    # Slopes at p1 and p2 for a parameter that runs 0..1 over the middle interval (Barry and Goldman's form).
    out = t12 * ((p1 - p0) / t01 - (p2 - p0) / (t01 + t12) + (p2 - p1) / t12)
    into = t12 * ((p2 - p1) / t12 - (p3 - p1) / (t12 + t23) + (p3 - p2) / t23)
    u = np.linspace(0, 1, STEPS_A_SEGMENT, endpoint=False)[:, None, None]
    h = (1 + 2 * u) * (1 - u) ** 2, u * (1 - u) ** 2, u**2 * (3 - 2 * u), -(u**2) * (1 - u)
    places = h[0] * p1 + h[1] * out + h[2] * p2 + h[3] * into
    d = 6 * u**2 - 6 * u, 3 * u**2 - 4 * u + 1, 6 * u - 6 * u**2, 3 * u**2 - 2 * u
    slopes = d[0] * p1 + d[1] * out + d[2] * p2 + d[3] * into
    order = (1, 0, 2)
    places, slopes = places.transpose(order).reshape(-1, 3), slopes.transpose(order).reshape(-1, 3)
    return np.vstack([places, knots[-1]]), np.vstack([slopes, into[-1]])
