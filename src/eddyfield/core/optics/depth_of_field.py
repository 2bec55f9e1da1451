"""Depth of field: near and far limits, hyperfocal distance and the blur disc, by the thin lens. Distances along the axis."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from ..arrays import Floats
from .lens import DeliveryFrame, Lens

CIRCLES_A_DIAGONAL = 1500


class SharpRange(NamedTuple):
    """Metres: what lies from ``near`` to ``far`` is sharp; ``far`` is infinite from the ``hyperfocal`` distance on."""

    near: Floats
    far: Floats
    hyperfocal: Floats


def circle_of_confusion_mm(lens: Lens, delivery: DeliveryFrame, own_mm: float | None = None) -> float:
    """The greatest disc that counts as a point: its own, else a 1500th of the used back's diagonal."""
    width, height = lens.used_back_mm(delivery)
    return own_mm if own_mm is not None else float(np.hypot(width, height)) / CIRCLES_A_DIAGONAL


def sharp_range(focal_mm: Floats, aperture: Floats, focus_m: Floats, circle_mm: float | Floats) -> SharpRange:
    """Limits for focal lengths, f-numbers and focus distances of one shape.

    ``Hf = f^2 / (N c) + f``, ``near = s (Hf - f) / (Hf + s - 2 f)``, ``far = s (Hf - f) / (Hf - s)``.
    """
    f, s = np.asarray(focal_mm, dtype=np.float64), np.asarray(focus_m) * 1000.0
    hyperfocal = f * f / (np.asarray(aperture) * circle_mm) + f
    near = s * (hyperfocal - f) / (hyperfocal + s - 2 * f)
    beyond = s >= hyperfocal
    far = np.where(beyond, np.inf, s * (hyperfocal - f) / np.where(beyond, 1.0, hyperfocal - s))
    return SharpRange(np.minimum(near, s) / 1000, far / 1000, hyperfocal / 1000)


def blur_disc_mm(depth_m: Floats, focal_mm: Floats, aperture: Floats, focus_m: Floats) -> Floats:
    """Diameter on the back of the disc that a point at ``depth_m`` makes: ``|d - s| / d f^2 / (N (s - f))``.

    NaN where the point is not in front, or the focus lies within the focal length.
    """
    f, s, d = np.asarray(focal_mm, dtype=np.float64), np.asarray(focus_m) * 1000.0, np.asarray(depth_m) * 1000.0
    usable = (d > 0) & (s > f)
    d, gap = np.where(usable, d, 1.0), np.where(usable, s - f, 1.0)
    return np.where(usable, np.abs(d - s) / d * f * f / (np.asarray(aperture) * gap), np.nan)


def blur_disc_px(blur_mm: Floats, lens: Lens, delivery: DeliveryFrame) -> Floats:
    """The disc in pixels of the delivery frame, measured along its width."""
    return np.asarray(blur_mm / lens.used_back_mm(delivery)[0] * delivery.width)
