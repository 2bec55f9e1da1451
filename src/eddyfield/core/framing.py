"""The framing lock: a subject held at a place in the frame, and at a size, whatever it and the mount do."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from . import transforms
from .aim import turn_towards
from .errors import DomainError
from .lag import lagged
from .lens import DeliveryFrame, Lens
from .subjects import Follows, Group, Subject, Surroundings, check_numbers, group_of, place_of
from .transforms import Floats

Bools = NDArray[np.bool_]
HALVINGS = 80


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


@dataclass(frozen=True)
class Framing:
    """Hold the weighted middle of ``subjects`` at (``x``, ``y``), shares of the frame from its top left corner.

    Within a free zone of ``zone_x`` by ``zone_y`` shares around that place it may drift; ``half_life_s`` lets the camera
    catch up late. How much it is held, is the channel ``framing_weight``.
    """

    subjects: tuple[Subject, ...]
    x: float = 0.5
    y: float = 0.5
    zone_x: float = 0.0
    zone_y: float = 0.0
    half_life_s: float = 0.0
    size: SizeHold | None = None
    follows: Follows = "motion"

    def __post_init__(self) -> None:
        if not self.subjects:
            raise DomainError("There is nothing to hold in the frame.", "Choose a joint, a point or a character.")
        check_numbers("place in the frame", (self.x, self.y))
        if not (-2 <= self.x <= 3 and -2 <= self.y <= 3):
            raise DomainError("That place is too far outside the frame.", "Keep it within two frames around.")
        if not (0 <= self.zone_x <= 1 and 0 <= self.zone_y <= 1):
            raise DomainError("The free zone has to fit into the frame.", "Give shares from 0 to 1.")
        if not 0 <= self.half_life_s <= 60:
            raise DomainError(f"A half-life of {self.half_life_s:g} s is not usable.", "Give one from 0 to 60 s.")

    @property
    def all_subjects(self) -> tuple[Subject, ...]:
        return self.subjects + (self.size.marks or () if self.size else ())


class Held(NamedTuple):
    """A camera under its lock: place (frames, 3), angles pan tilt roll (frames, 3) degrees, focal length (frames,) mm;
    whether the place in the frame and the size were reached; and the wanted place, px (frames, 2)."""

    place: Floats
    angles: Floats
    focal_mm: Floats
    place_reached: Bools
    size_reached: Bools
    wanted_px: Floats


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


def held(
    framing: Framing,
    weight: Floats,
    place: Floats,
    angles: Floats,
    lens: Lens,
    delivery: DeliveryFrame,
    around: Surroundings,
) -> Held:
    """Bring a camera under its framing lock.

    ``place`` (frames, 3), ``angles`` (frames, 3) pan tilt roll and the lens's ``focal_mm`` (frames,) are where mount and
    aim alone put it. Position and roll given, pan and tilt follow in closed form; a size moves the camera along the ray
    to the subject, or solves for the focal length.
    """
    focal = np.broadcast_to(np.asarray(lens.focal_mm, dtype=np.float64), len(place))
    group = group_of(framing.subjects, around, framing.follows)
    wanted = _wanted_px(framing, group, place, angles, lens, delivery)
    middle = np.array([delivery.width * (0.5 + lens.shift_x), delivery.height * (0.5 - lens.shift_y)])
    per_mm_x, per_mm_y = (float(u) for u in lens.with_focal(1.0).pixels_per_slope(delivery))
    sight = _Sight(wanted - middle, (per_mm_x, per_mm_y))
    toward = group.place - place
    distance = np.linalg.norm(toward, axis=-1)
    ray = transforms.normalized(toward, (0.0, 0.0, -1.0))
    size_reached = np.ones(len(place), dtype=bool)
    new_place, new_focal = np.array(place), np.array(focal)
    if framing.size and lens.orthographic_height_m is None:
        hold = framing.size
        size_px = hold.share * delivery.height
        measured = _size_measure(framing, group, ray, distance, angles, sight, delivery, around)
        if hold.by == "dolly":
            low, high = np.full(len(place), hold.nearest_m), np.full(len(place), hold.farthest_m)
            solved = _solve(lambda d: measured(d, focal), size_px, low, high, falling=True)
            size_reached = _is_size(measured(solved, focal), size_px)
            new_place = group.place - ray * solved[:, None]
        else:
            low, high = np.full(len(place), hold.shortest_mm), np.full(len(place), hold.longest_mm)
            new_focal = _solve(lambda f: measured(distance, f), size_px, low, high, falling=False)
            size_reached = _is_size(measured(distance, new_focal), size_px)
    turned = turn_towards(ray, sight.line(new_focal), angles[:, 2], angles[:, 0])
    pan, tilt = turned.pan, turned.tilt
    if framing.half_life_s:
        step = 1.0 / float(around.rate)
        late = lagged(np.column_stack([pan, tilt, new_place, np.log(new_focal)]), step, framing.half_life_s)
        pan, tilt, new_place, new_focal = late[:, 0], late[:, 1], late[:, 2:5], np.exp(late[:, 5])
    w = weight
    turn = pan - angles[:, 0]
    turn = turn - 360.0 * np.round(turn / 360.0) if (w < 1).any() else turn
    blended = np.stack([angles[:, 0] + w * turn, angles[:, 1] + w * (tilt - angles[:, 1]), angles[:, 2]], axis=-1)
    return Held(
        place + w[:, None] * (new_place - place),
        blended,
        focal * (new_focal / focal) ** w,
        turned.reached & (distance > 1e-9),
        size_reached,
        wanted,
    )


def _wanted_px(
    framing: Framing, group: Group, place: Floats, angles: Floats, lens: Lens, delivery: DeliveryFrame
) -> Floats:
    """The point of the free zone nearest to where the mount alone puts the anchor; without a zone, the place itself."""
    from .camera_path import CameraPath

    frame = np.array([delivery.width, delivery.height], dtype=np.float64)
    wanted = np.broadcast_to(np.array([framing.x, framing.y]) * frame, (len(place), 2))
    if not (framing.zone_x or framing.zone_y):
        return wanted
    world = transforms.rigid(transforms.rotation_from_angles(*angles.T), place)
    alone = CameraPath(world, lens, delivery).project(group.place).pixels
    half = np.array([framing.zone_x, framing.zone_y]) * frame / 2
    inside = np.clip(alone, wanted - half, wanted + half)
    return np.where(np.isnan(alone), wanted, inside)


def _size_measure(
    framing: Framing,
    group: Group,
    ray: Floats,
    distance: Floats,
    angles: Floats,
    sight: _Sight,
    delivery: DeliveryFrame,
    around: Surroundings,
) -> Callable[[Floats, Floats], Floats]:
    """The size in px on every frame as a function of the distance to the subject and the focal length, (frames,) each."""
    hold = framing.size
    per_mm_x, per_mm_y = sight.per_mm
    if hold is None or hold.marks is None:

        def of_group(at: Floats, focal: Floats) -> Floats:
            depth = -sight.line(focal)[:, 2] * at
            return 2 * group.radius_m * per_mm_y * focal / depth

        return of_group
    one, other = (place_of(mark, around, framing.follows) - group.place for mark in hold.marks)

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
