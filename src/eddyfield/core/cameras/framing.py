"""The framing lock: a subject held at a place in the frame, and at a size, whatever it and the mount do."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal, NamedTuple

import numpy as np

from ..arrays import Bools, Floats
from ..errors import DomainError
from ..optics.camera_path import CameraPath
from ..optics.lens import DeliveryFrame, Lens, rows_of
from ..rig import transforms
from ..time.channel_tables import ChannelKind
from .aim import turn_towards
from .dolly_zoom import apparent_sizes_px
from .free_zone import place_in_zone
from .lock_correction import DISTANCE, NUMBERS, PAN, SLIDE, TURN, ZOOM, CarriedOver, from_the_nearest_side, softened
from .subjects import Follows, Group, Subject, Surroundings, check_numbers, group_of, place_of

HALVINGS = 80
MOST_CORNERS = 64
NO_DISTANCE_M = 1e-9
LOWEST_VIEW_M, HIGHEST_VIEW_M = 1e-4, 1e6


@dataclass(frozen=True)
class SizeHold:
    """The size that is kept, as a share of the frame's height, by moving in and out (``dolly``) or by the focal length
    (``zoom``). The size is the distance on the screen between two ``marks``; without marks it is the height that the
    held group takes, 2 r f / (h Z). The limits are metres from the camera to the subject and mm of focal length."""

    by: Literal["dolly", "zoom"] = "dolly"
    share: float = 0.5
    marks: tuple[Subject, Subject] | None = None
    nearest_m: float = 0.1
    farthest_m: float = 1000.0
    shortest_mm: float = 4.0
    longest_mm: float = 1000.0

    def __post_init__(self) -> None:
        if not 1e-4 <= self.share <= 100:
            raise DomainError(f"A size of {self.share:g} frame heights is not usable.", "Give one above 0.")
        if not 0 < self.nearest_m <= self.farthest_m:
            raise DomainError("The limits of the distance are not in order.", "Give the nearer one first, above 0 m.")
        if not 1 <= self.shortest_mm <= self.longest_mm <= 5000:
            raise DomainError("The limits of the focal length are not in order.", "Keep them within 1 to 5000 mm.")


USUAL_LIMITS = {"nearest_m": 0.5, "farthest_m": 60.0, "shortest_mm": 14.0, "longest_mm": 300.0}
"""Of a size that somebody begins to hold."""
FIRST_ROOM = tuple((0.125 * math.cos(t), 0.125 * math.sin(t)) for t in (math.pi * (i + 0.5) / 4 for i in range(8)))
"""The corners of a room to begin with: as wide and high as a quarter of the frame."""
FRAMING_WEIGHT = ChannelKind("framing_weight", "weight of the framing lock", "share", 1.0, "angles", 0.0, 1.0)


@dataclass(frozen=True)
class Framing:
    """Hold the weighted middle of ``subjects`` at (``x``, ``y``), shares of the frame from its top left corner.

    Within a free zone it may drift: ``slack`` are its corners, shares of the frame from that place; the hull of place and
    corners counts. ``half_life_s`` lets the correction catch up late. How much it is held, is the channel
    ``framing_weight``. On a parallel camera both ways of holding the size go by the height of its view.
    """

    subjects: tuple[Subject, ...]
    x: float = 0.5
    y: float = 0.5
    slack: tuple[tuple[float, float], ...] = ()
    half_life_s: float = 0.0
    size: SizeHold | None = None
    follows: Follows = "motion"
    carried_over: CarriedOver | None = None

    def __post_init__(self) -> None:
        if not self.subjects:
            raise DomainError("There is nothing to hold in the frame.", "Choose a joint, a point or a character.")
        check_numbers("place in the frame", (self.x, self.y))
        if not (-2 <= self.x <= 3 and -2 <= self.y <= 3):
            raise DomainError("That place is too far outside the frame.", "Keep it within two frames around.")
        if len(self.slack) > MOST_CORNERS:
            raise DomainError(f"A free zone of {len(self.slack)} corners is not usable.", f"Give up to {MOST_CORNERS}.")
        if not all(abs(n) <= 1 for corner in self.slack for n in corner):
            raise DomainError("The free zone is too large.", "Keep its corners within one frame from its place.")
        if not 0 <= self.half_life_s <= 60:
            raise DomainError(f"A half-life of {self.half_life_s:g} s is not usable.", "Give one from 0 to 60 s.")

    @property
    def all_subjects(self) -> tuple[Subject, ...]:
        return self.subjects + (self.size.marks or () if self.size else ())


class Held(NamedTuple):
    """A camera under its lock: place (frames, 3), angles pan tilt roll (frames, 3) degrees, focal length (frames,) mm, height
    of a parallel view (frames,) metres or None; whether the place in the frame and the size were reached; the wanted place,
    px (frames, 2); and the correction, (frames, 6) as in ``lock_correction``, before its weight."""

    place: Floats
    angles: Floats
    focal_mm: Floats
    view_height_m: Floats | None
    place_reached: Bools
    size_reached: Bools
    wanted_px: Floats
    correction: Floats


@dataclass(frozen=True, eq=False)
class _Sight:
    """Lines of sight through the wanted place, for any focal length: at 1 mm a slope is ``per_mm`` px over the focal."""

    offset: Floats
    per_mm: tuple[float, float]

    def line(self, focal_mm: Floats) -> Floats:
        """Unit vectors in camera axes, (frames, 3)."""
        x = self.offset[:, 0] / (self.per_mm[0] * focal_mm)
        y = -self.offset[:, 1] / (self.per_mm[1] * focal_mm)
        return transforms.normalized(np.stack([x, y, -np.ones_like(x)], axis=-1), (0.0, 0.0, -1.0))


def lock_framing(
    framing: Framing,
    weight: Floats,
    place: Floats,
    angles: Floats,
    lens: Lens,
    delivery: DeliveryFrame,
    surroundings: Surroundings,
) -> Held:
    """Bring a camera under its framing lock.

    ``place`` (frames, 3), ``angles`` (frames, 3) pan tilt roll and the lens's ``focal_mm`` (frames,) are where mount and
    aim alone put it. Position and roll given, pan and tilt follow in closed form; a size moves the camera along the ray
    to the subject, or solves for the focal length. A parallel camera slides in its own plane, and a size is held by the
    height of its view. The correction from where the camera was lags by the half-life, and the weight takes a share of it.
    """
    group = group_of(framing.subjects, surroundings, framing.follows)
    own = transforms.rotation_from_angles(*angles.T)
    focal = np.broadcast_to(np.asarray(lens.focal_mm, dtype=np.float64), len(place))
    frame = np.array([delivery.width, delivery.height], dtype=np.float64)
    alone = CameraPath(transforms.rigid(own, place), lens, delivery)
    corners = np.array([(0.0, 0.0), *framing.slack]) + [framing.x, framing.y]
    wanted = place_in_zone(alone, group.place, corners * frame)
    if lens.orthographic_height_m is not None:
        full = _parallel(framing, group, alone, wanted, surroundings)
    else:
        full = _through_a_lens(framing, group, alone, angles, wanted, surroundings)
    step, frames = 1.0 / float(surroundings.rate), surroundings.frames.frames().astype(np.float64)
    correction = np.zeros((len(place), NUMBERS))
    if full.angles is not None:
        correction[:, TURN] = (full.angles - angles)[:, :2]
    correction[:, SLIDE], correction[:, DISTANCE], correction[:, ZOOM] = full.slide, full.distance, full.zoom
    if framing.half_life_s == 0:
        correction[:, PAN] = from_the_nearest_side(correction[:, PAN], weight)
    correction = softened(correction, frames, step, framing.half_life_s, framing.carried_over)
    if full.angles is not None and framing.half_life_s == 0 and (weight == 1).all():
        # Exactly, without the way through logarithms.
        return Held(
            full.place, full.angles, full.focal_mm, None, full.place_reached, full.size_reached, wanted, correction
        )
    taken = weight[:, None] * correction
    turned = np.column_stack([angles[:, :2] + taken[:, TURN], angles[:, 2]])
    moved = group.place + (place - group.place) * np.exp(taken[:, DISTANCE])[:, None]
    moved = moved + np.einsum("fij,fj->fi", own[:, :, :2], taken[:, SLIDE])
    ratio = np.exp(taken[:, ZOOM])
    parallel = lens.orthographic_height_m is not None
    height = rows_of(lens.orthographic_height_m or 0.0, 1) * ratio if parallel else None
    focal = focal if parallel else focal * ratio
    return Held(moved, turned, focal, height, full.place_reached, full.size_reached, wanted, correction)


class _Full(NamedTuple):
    """What a lock does at full weight and without lag: place, angles (None: as they were) and focal length of the camera;
    and as a correction: slide (frames, 2), logarithms of the ratios of distance and zoom (frames,)."""

    place: Floats
    angles: Floats | None
    focal_mm: Floats
    slide: Floats
    distance: Floats
    zoom: Floats
    place_reached: Bools
    size_reached: Bools


def _through_a_lens(
    framing: Framing, group: Group, alone: CameraPath, angles: Floats, wanted: Floats, surroundings: Surroundings
) -> _Full:
    lens, delivery, place = alone.lens, alone.delivery, alone.world_from_camera[:, :3, 3]
    count = len(place)
    focal = np.broadcast_to(np.asarray(lens.focal_mm, dtype=np.float64), count)
    axis = np.array([delivery.width * (0.5 + lens.shift_x), delivery.height * (0.5 - lens.shift_y)])
    per_mm_x, per_mm_y = (float(u) for u in lens.with_focal(1.0).pixels_per_slope(delivery))
    sight = _Sight(wanted - axis, (per_mm_x, per_mm_y))
    toward = group.place - place
    distance = np.linalg.norm(toward, axis=-1)
    ray = transforms.normalized(toward, (0.0, 0.0, -1.0))
    size_reached = np.ones(count, dtype=bool)
    new_place, new_focal, new_distance = np.array(place), np.array(focal), distance
    if framing.size:
        hold = framing.size
        size_px = hold.share * delivery.height
        measured = _size_measure(framing, group, ray, distance, angles, sight, delivery, surroundings)
        if hold.by == "dolly":
            low, high = np.full(count, hold.nearest_m), np.full(count, hold.farthest_m)
            new_distance = _solve(lambda d: measured(d, focal), size_px, low, high, falling=True)
            size_reached = _is_size(measured(new_distance, focal), size_px)
            new_place = group.place - ray * new_distance[:, None]
        else:
            low, high = np.full(count, hold.shortest_mm), np.full(count, hold.longest_mm)
            new_focal = _solve(lambda f: measured(distance, f), size_px, low, high, falling=False)
            size_reached = _is_size(measured(distance, new_focal), size_px)
    turned = turn_towards(ray, sight.line(new_focal), angles[:, 2], angles[:, 0])
    apart = distance > NO_DISTANCE_M
    return _Full(
        new_place,
        np.stack([turned.pan, turned.tilt, angles[:, 2]], axis=-1),
        new_focal,
        np.zeros((count, 2)),
        np.where(apart, np.log(np.where(apart, new_distance, 1.0) / np.where(apart, distance, 1.0)), 0.0),
        np.log(new_focal / focal),
        turned.reached & apart,
        size_reached,
    )


def _parallel(framing: Framing, group: Group, alone: CameraPath, wanted: Floats, surroundings: Surroundings) -> _Full:
    """A parallel camera is turned by nothing: it slides until the anchor lands where it is wanted."""
    lens, delivery, world = alone.lens, alone.delivery, alone.world_from_camera
    count = alone.count
    height = np.broadcast_to(rows_of(lens.orthographic_height_m or 1.0, 1), count)
    new_height, size_reached = height, np.ones(count, dtype=bool)
    if framing.size:
        reach_m = 2 * group.radius_m
        if framing.size.marks:
            one, other = (place_of(mark, surroundings, framing.follows) for mark in framing.size.marks)
            across = np.einsum("fji,fj->fi", world[:, :3, :2], one - other)
            reach_m = np.hypot(across[:, 0], across[:, 1])
        new_height = np.clip(reach_m / framing.size.share, LOWEST_VIEW_M, HIGHEST_VIEW_M)
        size_reached = _is_size(reach_m / new_height, framing.size.share)
    at = replace(lens, orthographic_height_m=new_height)
    seen = CameraPath(world, at, delivery)
    local = transforms.apply(transforms.rigid_inverse(world), group.place)
    per_x, per_y = at.pixels_per_metre(np.ones(count), delivery)
    axis = np.array([delivery.width * (0.5 + lens.shift_x), delivery.height * (0.5 - lens.shift_y)])
    slide = local[:, :2] - np.stack([(wanted - axis)[:, 0] / per_x, -(wanted - axis)[:, 1] / per_y], axis=-1)
    return _Full(
        world[:, :3, 3],
        None,
        np.broadcast_to(np.asarray(lens.focal_mm, dtype=np.float64), count),
        slide,
        np.zeros(count),
        np.log(new_height / height),
        seen.project(group.place).in_front,
        size_reached,
    )


def _size_measure(
    framing: Framing,
    group: Group,
    ray: Floats,
    distance: Floats,
    angles: Floats,
    sight: _Sight,
    delivery: DeliveryFrame,
    surroundings: Surroundings,
) -> Callable[[Floats, Floats], Floats]:
    """The size in px on every frame as a function of the distance to the subject and the focal length, (frames,) each."""
    hold = framing.size
    per_mm_x, per_mm_y = sight.per_mm
    if hold is None or hold.marks is None:

        def of_group(at: Floats, focal: Floats) -> Floats:
            depth = -sight.line(focal)[:, 2] * at
            return 2 * group.radius_m * per_mm_y * focal / depth

        return of_group
    one, other = (place_of(mark, surroundings, framing.follows) - group.place for mark in hold.marks)

    def of_marks(at: Floats, focal: Floats) -> Floats:
        line = sight.line(focal)
        turned = turn_towards(ray, line, angles[:, 2], angles[:, 0])
        rotation = transforms.rotation_from_angles(turned.pan, turned.tilt, angles[:, 2])
        # Camera axes: the subject lies along its line of sight, the marks beside it.
        ends = [
            np.einsum("fji,fj->fi", rotation, mark) + np.einsum("fji,fj->fi", rotation, ray) * at[:, None]
            for mark in (one, other)
        ]
        scale = np.stack([per_mm_x * focal, per_mm_y * focal], axis=-1)
        with np.errstate(divide="ignore", invalid="ignore"):
            on_screen = [np.where(e[:, 2:] < -1e-6, e[:, :2] / -e[:, 2:], np.nan) * scale for e in ends]
        step = delivery.square(on_screen[0] - on_screen[1])
        return np.nan_to_num(np.hypot(step[:, 0], step[:, 1]), nan=np.inf)

    return of_marks


def seen_size_px(framing: Framing, path: CameraPath, surroundings: Surroundings) -> Floats:
    """How large on the screen of ``path`` is what a framing measures sizes on, px (frames,): the distance between its marks,
    else the height that its group takes; NaN where it is not in front."""
    if framing.size and framing.size.marks:
        one, other = (path.project(place_of(mark, surroundings, framing.follows)).pixels for mark in framing.size.marks)
        step = path.delivery.square(one - other)
        return np.asarray(np.hypot(step[:, 0], step[:, 1]))
    return apparent_sizes_px(path, group_of(framing.subjects, surroundings, framing.follows))


def _is_size(measured: Floats, wanted: float) -> Bools:
    return np.abs(measured - wanted) <= 1e-3 * wanted


def _solve(measure: Callable[[Floats], Floats], wanted: float, low: Floats, high: Floats, falling: bool) -> Floats:
    """Where a monotone measure has the wanted value on each frame, within limits, by halving in the logarithm."""
    low, high = np.log(low), np.log(high)
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        too_large = measure(np.exp(middle)) > wanted
        up = too_large if falling else ~too_large
        low, high = np.where(up, middle, low), np.where(up, high, middle)
        if np.max(high - low, initial=0.0) < 1e-13:
            break
    return np.exp((low + high) / 2)
