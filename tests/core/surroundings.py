"""Surroundings made of formulas: characters that are one moving joint or two."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from fractions import Fraction

import numpy as np

from eddyfield.core.arrays import Floats
from eddyfield.core.cameras.subjects import Follows, Subject
from eddyfield.core.rig import transforms
from eddyfield.core.time.frames import FrameRange, Rate

WHO = "who"


def wandering(seed: int) -> Callable[[Floats], Floats]:
    """A joint that moves and turns smoothly over time in seconds: (frames, 4, 4)."""
    rng = np.random.default_rng(seed)
    size, speed, phase = rng.uniform(0.2, 1.2, 6), rng.uniform(0.4, 2.2, 6), rng.uniform(0, 6, 6)

    def at(seconds: Floats) -> Floats:
        wave = [a * np.sin(s * seconds + p) for a, s, p in zip(size, speed, phase, strict=True)]
        turn = transforms.rotation_from_angles(50 * wave[0], 25 * wave[1], 25 * wave[2])
        return transforms.rigid(turn, np.stack([wave[3], 1 + 0.3 * wave[4], wave[5]], axis=-1))

    return at


@dataclass
class Stage:
    """One character whose joints are given by functions of seconds since frame ``first``."""

    joints: dict[str, Callable[[Floats], Floats]]
    frames: FrameRange = FrameRange(1001, 1072)
    rate: Rate = field(default_factory=lambda: Rate(Fraction(24)))
    front: tuple[float, float, float] = (0.0, 0.0, 1.0)

    @property
    def seconds(self) -> Floats:
        return np.arange(self.frames.count) / float(self.rate)

    def joint_frames(self, character_id: str, joint: str, follows: Follows) -> Floats:
        return self.joints[joint](self.seconds)

    def body_bounds(self, character_id: str, follows: Follows) -> tuple[Floats, Floats]:
        places = np.stack([at(self.seconds)[:, :3, 3] for at in self.joints.values()])
        return places.min(axis=0), places.max(axis=0)

    def body_sphere(self, character_id: str, follows: Follows) -> tuple[Floats, float]:
        low, high = self.body_bounds(character_id, follows)
        return (low + high) / 2, float(np.linalg.norm(high - low, axis=-1).max() / 2)

    def object_frames(self, piece_id: str) -> tuple[Floats, float]:
        out = np.tile(np.eye(4), (self.frames.count, 1, 1))
        out[:, 1, 3] = 1.0
        return out, float(np.sqrt(3))

    def front_of_character(self, owner_id: str) -> Floats:
        return np.array(self.front)


def joint(name: str = "head", **settings: object) -> Subject:
    return Subject("joint", WHO, name, **settings)  # type: ignore[arg-type]
