"""What the lens does: film back, gate, field of view, and the projection onto the delivery frame.

Screen coordinates are continuous pixels of the delivery frame, (0, 0) at its top left corner, y downwards.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any, Literal, NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ..arrays import Floats
from ..errors import DomainError

Gate = Literal["crop", "reach", "width", "height"]
GATES: tuple[Gate, ...] = ("crop", "reach", "width", "height")
NEAR_M = 0.01
LEAST_OF_A_LENS, MOST_OF_A_LENS = 1e-6, 1e6
"""Of its lengths in mm and m."""
PER_FRAME = ("focal_mm", "shift_x", "shift_y", "near_m", "orthographic_height_m")
"""What of a lens may differ from frame to frame."""


@dataclass(frozen=True)
class DeliveryFrame:
    """The frame that is handed over: ``width`` x ``height`` pixels, each ``pixel_aspect`` as wide as high."""

    width: int = 1920
    height: int = 1080
    pixel_aspect: float = 1.0

    def __post_init__(self) -> None:
        if not (1 <= self.width <= 65536 and 1 <= self.height <= 65536):
            raise DomainError(
                f"A frame of {self.width} x {self.height} pixels is not usable.", "Give sides from 1 to 65536."
            )
        if not 0.1 <= self.pixel_aspect <= 10:
            raise DomainError(f"A pixel aspect of {self.pixel_aspect} is not usable.", "Give one from 0.1 to 10.")

    @property
    def aspect(self) -> float:
        return self.width * self.pixel_aspect / self.height

    def permille_of_height(self, pixels: ArrayLike) -> Floats:
        return np.asarray(pixels, dtype=np.float64) * (1000.0 / self.height)

    def square(self, pixels: Floats) -> Floats:
        """Screen vectors, shape (..., 2), with x in units of a pixel's height, so that lengths are ``hypot(p dx, dy)``."""
        return np.asarray(pixels * np.array([self.pixel_aspect, 1.0]))


@dataclass(frozen=True)
class Lens:
    """A lens and its film back; ``focal_mm``, shifts, near plane and parallel height may be arrays of shape (frames,).

    ``back_width_mm`` and ``back_height_mm`` are of the back itself; ``squeeze`` 1 is spherical; shifts are fractions of
    the frame, positive moves the picture right and up. ``orthographic_height_m`` makes a parallel projection that shows
    that many metres from top to bottom, on frames where it is not NaN. ``vertical_fov_deg`` stands in for focal length
    and back where a file gives it.
    """

    focal_mm: float | Floats = 35.0
    back_width_mm: float = 36.0
    back_height_mm: float = 24.0
    gate: Gate = "crop"
    squeeze: float = 1.0
    shift_x: float | Floats = 0.0
    shift_y: float | Floats = 0.0
    near_m: float | Floats = NEAR_M
    orthographic_height_m: float | Floats | None = None
    vertical_fov_deg: float | None = None

    def __post_init__(self) -> None:
        if self.gate not in GATES:
            raise DomainError(f"The gate “{self.gate}” is not known.", f"Choose one of {', '.join(GATES)}.")
        positive: dict[str, ArrayLike] = {
            "focal length": self.focal_mm,
            "film back's width": self.back_width_mm,
            "film back's height": self.back_height_mm,
            "squeeze": self.squeeze,
            "near plane": self.near_m,
        }
        for name, value in positive.items():
            numbers = np.asarray(value, dtype=np.float64)
            if not (np.isfinite(numbers) & (numbers > 0)).all():
                raise DomainError(f"The {name} has to be above 0.", "Give a positive number.")
            if (numbers < LEAST_OF_A_LENS).any() or (numbers > MOST_OF_A_LENS).any():
                raise DomainError(
                    f"A {name} of {numbers.flat[0]:.3g} is none of a lens.",
                    f"Give from {LEAST_OF_A_LENS:g} to {MOST_OF_A_LENS:,.0f}.",
                )

    def with_focal(self, focal_mm: float | Floats) -> Lens:
        return replace(self, focal_mm=focal_mm)

    def used_back_mm(self, frame: DeliveryFrame) -> tuple[float, float]:
        """Width and height in mm of the part of the back that the delivery frame uses."""
        aspect = frame.aspect
        width, height = self.back_width_mm * self.squeeze, self.back_height_mm
        from_width = width, width / aspect
        from_height = height * aspect, height
        if self.gate == "width":
            return from_width
        if self.gate == "height":
            return from_height
        wider = width / height > aspect  # the back is wider than the frame
        if self.gate == "crop":
            return from_height if wider else from_width
        return from_width if wider else from_height

    def pixels_per_slope(self, frame: DeliveryFrame) -> tuple[Floats, Floats]:
        """Pixels on screen per unit of X / -Z and of Y / -Z, each of the shape of ``focal_mm``."""
        if self.vertical_fov_deg is not None:
            vertical = np.asarray(frame.height / (2 * np.tan(np.radians(self.vertical_fov_deg) / 2)))
            return vertical / frame.pixel_aspect, vertical
        width, height = self.used_back_mm(frame)
        focal = np.asarray(self.focal_mm, dtype=np.float64)
        return focal / width * frame.width, focal / height * frame.height

    def pixels_per_metre(self, depth: Floats, frame: DeliveryFrame) -> tuple[Floats, Floats]:
        """Pixels on screen per metre across and up, at axial depths in metres of shape (frames, ...)."""
        slopes = (rows_of(a, depth.ndim) for a in self.pixels_per_slope(frame))
        along_x, along_y = (a / depth for a in slopes)
        if self.orthographic_height_m is None:
            return along_x, along_y
        height = rows_of(self.orthographic_height_m, depth.ndim)
        parallel, per_metre = ~np.isnan(height), frame.height / height
        return np.where(parallel, per_metre / frame.pixel_aspect, along_x), np.where(parallel, per_metre, along_y)

    def at_rows(self, rows: NDArray[np.int64]) -> Lens:
        """The same lens with row i standing for the old row ``rows[i]``."""
        per_frame: dict[str, Any] = {
            n: v[rows] for n in PER_FRAME if isinstance(v := getattr(self, n), np.ndarray) and v.ndim
        }
        return replace(self, **per_frame) if per_frame else self

    def field_of_view_deg(self, frame: DeliveryFrame) -> tuple[Floats, Floats]:
        """Horizontal and vertical field of view in degrees."""
        along_x, along_y = self.pixels_per_slope(frame)
        return (
            np.degrees(2 * np.arctan(frame.width / (2 * along_x))),
            np.degrees(2 * np.arctan(frame.height / (2 * along_y))),
        )


class Projected(NamedTuple):
    """Points on the screen: ``pixels`` (..., 2), NaN where not ``in_front``; ``depth`` along the axis in metres."""

    pixels: Floats
    depth: Floats
    in_front: NDArray[np.bool_]


def project(camera_points: Floats, lens: Lens, frame: DeliveryFrame) -> Projected:
    """Project camera-space points of shape (frames, ..., 3) by the lens of each frame.

    Points not beyond the near plane are marked and come out NaN.
    """
    depth = -camera_points[..., 2]
    in_front = depth > rows_of(lens.near_m, depth.ndim)
    along_x, along_y = lens.pixels_per_metre(np.where(in_front, depth, np.nan), frame)
    pixels = np.empty((*depth.shape, 2))
    pixels[..., 0] = frame.width * (0.5 + rows_of(lens.shift_x, depth.ndim)) + camera_points[..., 0] * along_x
    pixels[..., 1] = frame.height * (0.5 - rows_of(lens.shift_y, depth.ndim)) - camera_points[..., 1] * along_y
    pixels[~in_front] = np.nan
    return Projected(pixels, depth, in_front)


def rows_of(values: float | Floats, dimensions: int) -> Floats:
    """A number, or one a frame, shaped to go with arrays of so many dimensions whose first is the frame."""
    array = np.asarray(values, dtype=np.float64)
    return array.reshape(-1, *(1,) * (dimensions - 1)) if array.ndim else array


def inside_frame(projected: Projected, frame: DeliveryFrame) -> NDArray[np.bool_]:
    """Whether each point lands in the delivery frame: 0 <= x < W and 0 <= y < H."""
    x, y = projected.pixels[..., 0], projected.pixels[..., 1]
    with np.errstate(invalid="ignore"):
        inside = (x >= 0) & (x < frame.width) & (y >= 0) & (y < frame.height)
    return inside & projected.in_front
