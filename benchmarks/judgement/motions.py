"""Made motion by class: points that swing, walk, bounce, stop dead. Nothing here knows how it is judged.

Each maker gives places (samples, 3) in metres, +Y up, of a point near the origin, from a random generator and the times of the
samples, in frames of 24 a second from 0 on: the same motion at whatever rate it is sampled.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Maker = Callable[[np.random.Generator, Floats], Floats]
RATE = 24.0


def _place(x: Floats, y: Floats, z: Floats | float = 0.0) -> Floats:
    return np.stack([x, y, np.broadcast_to(z, x.shape)], axis=-1)


def _frames(n: Floats) -> int:
    return int(np.ceil(n[-1])) + 1


def swing(rng: np.random.Generator, n: Floats) -> Floats:
    """A pendulum."""
    t = n / RATE
    angle = rng.uniform(0.2, 0.9) * np.sin(2 * np.pi * t / rng.uniform(0.9, 2.5) + rng.uniform(0, 6))
    length = rng.uniform(0.4, 1.2)
    return _place(length * np.sin(angle), 1.6 - length * np.cos(angle), 0.1 * np.sin(t))


def walk(rng: np.random.Generator, n: Floats) -> Floats:
    """Hips of somebody who walks: two rises a stride."""
    t = n / RATE
    stride = rng.uniform(0.9, 1.3)
    phase = 2 * np.pi * t / stride + rng.uniform(0, 6)
    return _place(rng.uniform(0.8, 1.4) * t - 2, 0.95 + 0.03 * np.cos(2 * phase), 0.03 * np.sin(phase))


def run(rng: np.random.Generator, n: Floats) -> Floats:
    """Hips of somebody who runs."""
    t = n / RATE
    stride = rng.uniform(0.6, 0.75)
    phase = 2 * np.pi * t / stride + rng.uniform(0, 6)
    return _place(rng.uniform(2.5, 4.0) * (t - t.mean()), 0.95 + 0.06 * np.cos(2 * phase), 0.02 * np.sin(phase))


def soft_contact(rng: np.random.Generator, n: Floats) -> Floats:
    """A foot that is set down and lifted with easing, stride after stride."""
    stride, share = int(rng.integers(22, 30)), rng.uniform(0.5, 0.6)
    at = n + rng.integers(0, stride)
    k, u = at // stride, (at % stride) / stride
    swing_share = np.clip((u - share) / (1 - share), 0, 1)
    ease = swing_share**3 * (10 - 15 * swing_share + 6 * swing_share**2)
    lift = np.sin(np.pi * swing_share) ** 3
    return _place((k + ease) * 1.2 - 2, 0.08 + 0.16 * lift)


def hard_contact(rng: np.random.Generator, n: Floats) -> Floats:
    """A foot that lands while it is still coming down, and pushes off at speed."""
    stride, share = int(rng.integers(20, 28)), rng.uniform(0.45, 0.6)
    at = n + rng.integers(0, stride)
    k, u = at // stride, (at % stride) / stride
    s = np.clip((u - share) / (1 - share), 0, 1)
    return _place((k + s) * 1.2 - 2, 0.08 + 0.7 * s * (1 - s))


def _bounces(period: int) -> Maker:
    def made(rng: np.random.Generator, n: Floats) -> Floats:
        own = period + int(rng.integers(0, 3))
        u = ((n + rng.uniform(0, own)) % own) / own
        t = n / RATE
        return _place(rng.uniform(0.5, 1.0) * t - 1.5, 0.1 + 0.5 * (own / RATE) ** 2 * 9.81 * u * (1 - u))

    return made


def settling(rng: np.random.Generator, n: Floats) -> Floats:
    """A ball that is let fall, and bounces lower and lower until it lies still."""
    height, keeps, falls = rng.uniform(0.3, 1.2), rng.uniform(0.5, 0.85), rng.uniform(4, 16)
    lasts = RATE * float(np.sqrt(2 * height / 9.81))
    up = np.where(n < falls, height, np.maximum(0.0, height - 9.81 / 2 * ((n - falls) / RATE) ** 2))
    begins, period = falls + lasts, 2 * lasts * keeps
    while period > 0.1:
        u = np.clip((n - begins) / period, 0, 1)
        up += 0.5 * (period / RATE) ** 2 * 9.81 * u * (1 - u)
        begins, period = begins + period, period * keeps
    return _place(rng.uniform(0, 0.8) * n / RATE - 1, 0.1 + up)


def dead_stop(rng: np.random.Generator, n: Floats) -> Floats:
    """A move that ends at once, waits, and goes on at once."""
    times, places, speeds = [0.0], [0.0], []
    while times[-1] < n[-1]:
        way, lasts, waits = rng.uniform(-1.2, 1.2), int(rng.integers(10, 20)), int(rng.integers(10, 24))
        speeds += [rng.random() < 0.5, False]
        times += [times[-1] + lasts, times[-1] + lasts + waits]
        places += [places[-1] + way] * 2
    part = np.clip(np.searchsorted(times, n, side="right") - 1, 0, len(speeds) - 1)
    begins, ends = np.array(times)[part], np.array(times)[part + 1]
    u = (n - begins) / (ends - begins)
    gone = np.where(np.array(speeds)[part], u**2, u)
    at = np.array(places)[part] + gone * (np.array(places)[part + 1] - np.array(places)[part])
    return _place(at, 1.2 + 0.3 * at)


def whip(rng: np.random.Generator, n: Floats) -> Floats:
    """A hand that whips from one side to the other within a few frames, eased at both ends."""
    out = np.zeros(len(n))
    for centre in range(int(rng.integers(12, 20)), _frames(n), int(rng.integers(24, 34))):
        wide = rng.uniform(1.6, 2.6)
        out += rng.uniform(0.6, 1.3) * np.tanh((n - centre + rng.uniform(0, 1)) / wide) * (-1) ** centre
    return _place(out, 1.3 + 0.25 * np.cos(2 * out))


def anticipation(rng: np.random.Generator, n: Floats) -> Floats:
    """Back a little, then forwards past the end, and settled: smooth keys as an animator sets them."""
    from scipy.interpolate import CubicHermiteSpline

    times, values, at, side = [0.0], [0.0], 0.0, 1.0
    while times[-1] < n[-1] + 20:
        reach = rng.uniform(0.6, 1.2)
        for wait, value in (
            (8, at - 0.2 * side),
            (9, at + side * reach * 1.12),
            (8, at + side * reach),
            (16, at + side * reach),
        ):
            times.append(times[-1] + wait + rng.integers(0, 4))
            values.append(value)
        at, side = at + side * reach, -side
    path = CubicHermiteSpline(times, values, np.zeros(len(times)))(n)
    return _place(path, 1.2 + 0.2 * np.cos(path))


def busy_splines(rng: np.random.Generator, n: Floats) -> Floats:
    """Smooth keys on every fourth to eighth frame, each axis its own."""
    from scipy.interpolate import CubicSpline

    def axis(size: float) -> Floats:
        times = np.cumsum(rng.integers(4, 9, size=_frames(n)))
        times = np.concatenate([[0], times[times < n[-1] + 16]])
        values = np.cumsum(rng.normal(0, size, len(times)))
        values -= np.linspace(0, values[-1], len(values))
        return np.asarray(CubicSpline(times, values)(n))

    return _place(axis(0.12), 1.2 + axis(0.08), axis(0.05))


def linear_keys(rng: np.random.Generator, n: Floats) -> Floats:
    """Straight from key to key."""

    def axis(size: float, times: NDArray[np.int64]) -> Floats:
        return np.interp(n, times, np.cumsum(rng.normal(0, size, len(times))) % 1.5)

    times = np.concatenate([[0], np.cumsum(rng.integers(12, 22, size=_frames(n)))])
    return _place(axis(0.3, times) - 0.7, 0.6 + axis(0.2, times))


def recorded(rng: np.random.Generator, n: Floats) -> Floats:
    """What a body does by itself: many slow waves, some quicker ones."""
    t = n / RATE

    def axis() -> Floats:
        out = np.zeros(len(n))
        for hz in (0.3, 0.7, 1.3, 2.1, 3.0):
            out += rng.normal(0, 0.22 / (1 + hz**2)) * np.sin(
                2 * np.pi * hz * rng.uniform(0.8, 1.2) * t + rng.uniform(0, 6)
            )
        return out

    return _place(axis(), 1.2 + axis(), axis())


MOTIONS: dict[str, Maker] = {
    "swings": swing,
    "walks": walk,
    "runs": run,
    "soft contacts": soft_contact,
    "hard contacts": hard_contact,
    "bounces, 20 frames": _bounces(20),
    "bounces, 14 frames": _bounces(14),
    "bounces, 10 frames": _bounces(10),
    "a ball that settles": settling,
    "dead stops": dead_stop,
    "whips": whip,
    "anticipations": anticipation,
    "busy splines": busy_splines,
    "linear keys": linear_keys,
    "recorded": recorded,
}
