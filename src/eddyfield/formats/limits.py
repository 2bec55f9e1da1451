"""What one file may come to, bounded before anything of it is made: a small file can name the same data many times."""

from __future__ import annotations

from .errors import FileError

DEEPEST_JOINTS = 512
"""Levels of joints. The longest chains of real rigs, ropes and tails, have about a hundred."""
DEEPEST_NODES = 20_000
MOST_NODES = 50_000
MOST_CURVE_NUMBERS = 32_000_000
"""Half an hour of sixty joints that are turned, moved and scaled on every frame comes to 26 million."""
MOST_VERTICES = 3_000_000
MOST_INDICES = 24_000_000
MOST_UNPACKED = 512 * 2**20
MOST_SHAPES = 1000
MOST_SHAPE_NUMBERS = 60_000_000
LARGEST_IMAGE_SIDE = 16_384
MOST_IMAGES = 64
MOST_PIXELS = 400_000_000
"""Of all images together: about twenty of 4,096 a side."""


class Total:
    """Adds up what reading a file would make. Raises ``FileError`` as soon as that is more than ``most``."""

    def __init__(self, of_what: str, most: int, remedy: str) -> None:
        self._of_what, self._most, self._remedy = of_what, most, remedy
        self._sum = 0

    def add(self, count: int) -> None:
        self._sum += count
        if self._sum > self._most:
            raise FileError(f"The file would make more than {self._most:,} {self._of_what}.", self._remedy)


def check_depth(depth: int, deepest: int) -> None:
    """Raise ``FileError`` where a hierarchy is nested deeper than anything that moves."""
    if depth > deepest:
        raise FileError(f"The hierarchy is nested more than {deepest:,} levels deep.", "Flatten it and export again.")
