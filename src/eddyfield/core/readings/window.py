"""The window of samples in which a fault is told from honest motion."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil
from typing import Self

import numpy as np

from ..arrays import Floats
from ..time.frames import Rate

LEAST_S = 0.3
"""How long a window lasts at least: in less, what is smooth at one rate would be a jerk at another."""
LEAST_HALF, USUAL_HALF = 2, 4
DEGREE = 5


@dataclass(frozen=True)
class Window:
    """As many samples as ``half`` on both sides of the one that is looked at, and that one."""

    half: int = USUAL_HALF

    @classmethod
    def at(cls, rate: Rate) -> Self:
        """Nine samples, and 0.3 s at least, of so many a second.

        >>> from fractions import Fraction
        >>> [Window.at(Rate(Fraction(rate))).count for rate in (12, 24, 30, 60, 120)]
        [9, 9, 11, 19, 37]
        """
        return cls(max(USUAL_HALF, ceil(round(float(rate) * LEAST_S / 2, 6))))

    @property
    def count(self) -> int:
        return 2 * self.half + 1

    @property
    def degree(self) -> int:
        """Of the motion: with fewer than nine samples it comes down with them, two degrees of freedom are left beside a fault."""
        return min(DEGREE, self.count - 4)

    @property
    def offsets(self) -> Floats:
        """Of its samples from the middle, (count,)."""
        return np.arange(-self.half, self.half + 1.0)

    @property
    def wide(self) -> int:
        """Half of the wider window by which a fault and a corner are told apart."""
        return self.half * 3 // 2

    @property
    def around(self) -> int:
        """Windows to each side whose residuals say what is usual."""
        return 6 * self.half

    @property
    def motion(self) -> Floats:
        """The columns of a motion without a fault, (count, degree + 1)."""
        return np.asarray(np.polynomial.legendre.legvander(self.offsets / self.half, self.degree))

    def within(self, samples: int) -> Window | None:
        """The window that so few samples leave; None where nothing can be told of them."""
        half = min(self.half, (samples - 1) // 2)
        return None if half < LEAST_HALF else self if half == self.half else Window(half)


NINE = Window()
