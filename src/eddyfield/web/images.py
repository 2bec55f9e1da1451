"""Images of looks as they are sent: no larger than a picture of the scene can show."""

from __future__ import annotations

import io

import numpy as np
from numpy.typing import NDArray
from PIL import Image

LARGEST_SIDE = 2048
QUALITY = 90


def reduced(data: bytes) -> NDArray[np.uint8]:
    """The bytes of an image file, as they are where no side is longer than ``LARGEST_SIDE``, else of a smaller one. What cannot
    be unpacked after all is a single grey pixel: the rest of a thing is shown all the same."""
    try:
        with Image.open(io.BytesIO(data)) as image:
            if max(image.size) > LARGEST_SIDE:
                image.draft("RGB", (LARGEST_SIDE, LARGEST_SIDE))  # a JPEG is not even unpacked at its full size
                image.thumbnail((LARGEST_SIDE, LARGEST_SIDE), reducing_gap=1.0)  # halved first: four times as quick
                data = _written(image)
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        data = _written(Image.new("RGB", (1, 1), (128, 128, 128)))
    return np.frombuffer(data, dtype=np.uint8)


def _written(image: Image.Image) -> bytes:
    out = io.BytesIO()
    if "A" in image.getbands() or "transparency" in image.info:
        image.convert("RGBA").save(out, "WEBP", quality=QUALITY, method=0)
    else:  # many times as quick
        image.convert("RGB").save(out, "JPEG", quality=QUALITY)
    return out.getvalue()
