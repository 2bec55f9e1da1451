"""What a file that is still being written lacks by what it says of itself, told without reading it."""

from __future__ import annotations

import io
import json
import re
import zipfile
from collections.abc import Callable

_MOTION = re.compile(rb"Frames\s*:\s*(\d{1,9})\s+Frame\s+Time\s*:[^\n]*\n", re.IGNORECASE)
GLB_HEAD, GLB_VERSIONS = 12, (1, 2)


def missing(data: bytes, suffix: str) -> str | None:
    """In words, of a file with a suffix such as ``.bvh``; None where all is there, or nothing says how much there should be.

    >>> missing(b"HIERARCHY ... MOTION\\nFrames: 3\\nFrame Time: 0.04\\n1 2\\n3 4\\n", ".bvh")
    'it has 2 of the 3 frames that it declares'
    """
    lacks = _LACKS.get(suffix.lower())
    return lacks(data) if lacks else None


def _of_bvh(data: bytes) -> str | None:
    head = _MOTION.search(data)
    if head is None:
        return "its motion is not there" if data[:64].lstrip().upper().startswith(b"HIERARCHY") else None
    declared, lines = int(head[1]), data[head.end() :].split(b"\n")
    rows = sum(1 for line in lines if line.strip())
    if rows < declared:
        return f"it has {rows} of the {declared} frames that it declares"
    # The last row counts once all of its numbers are there.
    first, last = (len(line.split()) for line in (lines[0], next(line for line in reversed(lines) if line.strip())))
    return "its last frame is not whole" if rows == declared and last < first else None


def _of_glb(data: bytes) -> str | None:
    if data[:4] != b"glTF" or len(data) < GLB_HEAD or int.from_bytes(data[4:8], "little") not in GLB_VERSIONS:
        return None
    declared = int.from_bytes(data[8:GLB_HEAD], "little")
    return f"it has {len(data):,} of {declared:,} bytes" if len(data) < declared else None


def _of_gltf(data: bytes) -> str | None:
    try:
        json.loads(data)
    except ValueError:
        return "it ends in the middle"
    return None


def _of_usdz(data: bytes) -> str | None:
    return None if zipfile.is_zipfile(io.BytesIO(data)) else "its list of contents is not there"


_LACKS: dict[str, Callable[[bytes], str | None]] = {
    ".bvh": _of_bvh,
    ".glb": _of_glb,
    ".gltf": _of_gltf,
    ".usdz": _of_usdz,
}
