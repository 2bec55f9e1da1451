"""Camera moves that look at a point near the origin: locked off, tracking, craning, hand-held, zooming."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from eddyfield.core.optics.camera_path import CameraPath
from eddyfield.core.optics.lens import DeliveryFrame, Lens
from eddyfield.core.rig import transforms

from .motions import RATE, Floats

Move = Callable[[np.random.Generator, Floats, Floats], CameraPath]
"""From a random generator, the times in frames of 24, and the places of a point."""


def _looking(eye: Floats, at: Floats, focal_mm: float | Floats = 35.0) -> CameraPath:
    rotation = np.stack([transforms.look_rotation(f, np.array([0.0, 1.0, 0.0])) for f in at - eye])
    lens = Lens(np.broadcast_to(np.asarray(focal_mm, dtype=np.float64), (len(eye),)).copy())
    return CameraPath(transforms.rigid(rotation, eye), lens, DeliveryFrame())


def _eye(rng: np.random.Generator, count: int) -> Floats:
    return np.tile([rng.uniform(-1, 1), rng.uniform(1.0, 1.8), rng.uniform(5.5, 7.5)], (count, 1))


def _middle(points: Floats) -> Floats:
    return np.tile(points.mean(axis=0), (len(points), 1))


def locked(rng: np.random.Generator, n: Floats, points: Floats) -> CameraPath:
    return _looking(_eye(rng, len(points)), _middle(points))


def tracking(rng: np.random.Generator, n: Floats, points: Floats) -> CameraPath:
    """Beside the point's smoothed travel."""
    t = n
    along = np.polynomial.Polynomial.fit(t, points[:, 0], 1)(t)
    eye = _eye(rng, len(points)) + np.stack([along, 0 * along, 0 * along], axis=-1)
    return _looking(eye, eye + [0.0, -0.2, -1.0])


def craning(rng: np.random.Generator, n: Floats, points: Floats) -> CameraPath:
    """Up and round while it looks at the middle, eased in and out."""
    u = np.linspace(0, 1, len(points))
    ease = u * u * (3 - 2 * u)
    round_by = np.radians(rng.uniform(-40, 40)) * ease
    away = rng.uniform(5.5, 7.0)
    eye = np.stack([away * np.sin(round_by), 1.0 + rng.uniform(1.0, 2.5) * ease, away * np.cos(round_by)], axis=-1)
    return _looking(eye + _middle(points) * [1, 0, 1], _middle(points))


def handheld(rng: np.random.Generator, n: Floats, points: Floats) -> CameraPath:
    """With the sway of a steady hand: waves of up to two a second."""
    t = n / RATE

    def sway(size: float) -> Floats:
        out = np.zeros(len(t))
        for hz in (0.4, 0.9, 1.7):
            out += rng.normal(0, size / (1 + hz)) * np.sin(2 * np.pi * hz * t + rng.uniform(0, 6))
        return out

    eye = _eye(rng, len(points)) + np.stack([sway(0.05), sway(0.04), sway(0.02)], axis=-1)
    return _looking(eye, _middle(points) + np.stack([sway(0.06), sway(0.05), 0 * t], axis=-1))


def zooming(rng: np.random.Generator, n: Floats, points: Floats) -> CameraPath:
    """Through the lens, eased in and out."""
    u = np.linspace(0, 1, len(points))
    return _looking(_eye(rng, len(points)), _middle(points), 32.0 * (rng.uniform(1.3, 2.0)) ** (u * u * (3 - 2 * u)))


MOVES: dict[str, Move] = {
    "locked": locked, "tracking": tracking, "craning": craning, "handheld": handheld, "zooming": zooming,
}  # fmt: skip
