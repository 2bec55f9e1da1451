"""Images of looks as they are sent: no larger than a picture of the scene can show."""

from __future__ import annotations

import io
import sys

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from eddyfield.formats.errors import FileError
from eddyfield.formats.own_process import answer, arrays_from, bounded

LARGEST_SIDE = 2048
QUALITY = 90
SECONDS, MEMORY_BYTES = 20, 2 * 2**30


def reduced(data: bytes) -> NDArray[np.uint8]:
    """The bytes of an image file, as they are where no side is longer than ``LARGEST_SIDE``, else of a smaller one, made in a
    process of its own. What cannot be unpacked after all is a single grey pixel: the rest of a thing is shown all the same."""
    try:
        with Image.open(io.BytesIO(data)) as image:
            is_large = max(image.size) > LARGEST_SIDE
        if is_large:
            return arrays_from(__name__, data=data, seconds=SECONDS, what="an image that cannot be unpacked")["image"]
    except (FileError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        data = _written(Image.new("RGB", (1, 1), (128, 128, 128)))
    return np.frombuffer(data, dtype=np.uint8)


def main() -> int:
    """What runs in the process."""
    with Image.open(io.BytesIO(bounded(MEMORY_BYTES))) as image:
        image.draft("RGB", (LARGEST_SIDE, LARGEST_SIDE))  # a JPEG is not even unpacked at its full size
        image.thumbnail((LARGEST_SIDE, LARGEST_SIDE), reducing_gap=1.0)  # halved first: four times as quick
        answer(image=np.frombuffer(_written(image), dtype=np.uint8))
    return 0


def _written(image: Image.Image) -> bytes:
    out = io.BytesIO()
    if "A" in image.getbands() or "transparency" in image.info:
        image.convert("RGBA").save(out, "WEBP", quality=QUALITY, method=0)
    else:  # many times as quick
        image.convert("RGB").save(out, "JPEG", quality=QUALITY)
    return out.getvalue()


if __name__ == "__main__":
    sys.exit(main())
