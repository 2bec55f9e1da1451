"""What can be told from the pixels of a picture."""

import numpy as np

from .conftest import Picture

SURROUND = np.array([0x7A, 0x7A, 0x7A])


def differs(a: Picture, b: Picture) -> float:
    """Share of pixels that are not the same."""
    return float((np.abs(a.astype(int) - b.astype(int)).max(axis=-1) > 8).mean())


def surround(picture: Picture) -> np.ndarray:
    """Which pixels (rows, columns) are the grey around the delivery frame."""
    return np.asarray(np.abs(picture.astype(int) - SURROUND).max(axis=-1) <= 2)
