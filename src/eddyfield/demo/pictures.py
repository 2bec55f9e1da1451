"""The textures of the demo, painted here, and the looks that have them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from io import BytesIO

import numpy as np
from PIL import Image, ImageDraw, ImageFilter

from eddyfield.core.arrays import Floats
from eddyfield.formats.gltf import GltfWriter

SIDE_PX = 128


@dataclass(frozen=True)
class _Picture:
    paint: Callable[[], Image.Image]
    glow: float = 0.0
    """How much of white it gives off by itself."""


def add_look(writer: GltfWriter, name: str) -> int:
    """The look of this name in the file, once."""
    known = [material["name"] for material in writer.root.get("materials", [])]
    if name in known:
        return known.index(name)
    picture = _PICTURES[name]
    data = BytesIO()
    picture.paint().save(data, "PNG", optimize=True)
    source = writer.add("images", {"bufferView": writer.view(data.getvalue()), "mimeType": "image/png"})
    sampler = writer.add("samplers", {"wrapS": 10497, "wrapT": 10497})
    texture = writer.add("textures", {"source": source, "sampler": sampler})
    material = {
        "name": name,
        "pbrMetallicRoughness": {"baseColorTexture": {"index": texture}, "metallicFactor": 0.0},
        "emissiveFactor": [picture.glow, picture.glow * 0.7, picture.glow * 0.3],
    }
    return writer.add("materials", material)


def _mixed(low: str, high: str, share: Floats) -> Image.Image:
    """From the one colour to the other by a share (rows, columns)."""
    ends = [np.array([int(c[i : i + 2], 16) for i in (1, 3, 5)], dtype=np.float64) for c in (low, high)]
    mixed = ends[0] + (ends[1] - ends[0]) * np.clip(share, 0, 1)[..., None]
    return Image.fromarray(np.round(mixed).astype(np.uint8))


def _grid() -> tuple[Floats, Floats]:
    """Across and down, 0..1, of the middles of the pixels."""
    line = (np.arange(SIDE_PX) + 0.5) / SIDE_PX
    across, down = np.meshgrid(line, line)
    return across, down


def _window() -> Image.Image:
    """Panes with a lamp low behind them, and their bars."""
    across, down = _grid()
    lamp = np.exp(-(((across - 0.62) / 0.36) ** 2) - ((down - 0.66) / 0.40) ** 2)
    image = _mixed("#b98d4a", "#ffe7a8", lamp)
    draw = ImageDraw.Draw(image)
    bar = SIDE_PX // 21
    for at in (0.0, 0.5, 1.0):
        middle = round(at * (SIDE_PX - 1))
        draw.rectangle((middle - bar, 0, middle + bar, SIDE_PX), fill="#5b4036")
    for at in (0.0, 1 / 3, 2 / 3, 1.0):
        middle = round(at * (SIDE_PX - 1))
        draw.rectangle((0, middle - bar, SIDE_PX, middle + bar), fill="#5b4036")
    return image.filter(ImageFilter.GaussianBlur(0.6))


def _glass() -> Image.Image:
    """One pane of the lantern: the flame behind it, iron at its edges."""
    across, down = _grid()
    flame = np.exp(-(((across - 0.5) / 0.26) ** 2) - ((down - 0.58) / 0.34) ** 2)
    image = _mixed("#c98a35", "#fff2bf", flame)
    draw = ImageDraw.Draw(image)
    rim = SIDE_PX // 14
    draw.rectangle((0, 0, rim, SIDE_PX), fill="#3c3a3d")
    draw.rectangle((SIDE_PX - rim, 0, SIDE_PX, SIDE_PX), fill="#3c3a3d")
    return image


def _weave() -> Image.Image:
    """Coarse cloth with a stripe."""
    across, down = _grid()
    threads = 16
    over = (np.floor(across * threads) + np.floor(down * threads)) % 2
    along = np.where(over > 0, across, down) * threads
    thread = 0.5 + 0.5 * np.sin(np.pi * (along % 1.0))
    image = _mixed("#95692a", "#cf9f4c", thread)
    stripe = (down > 0.70) & (down < 0.86)
    dark = _mixed("#6b3a20", "#96582f", thread)
    return Image.composite(dark, image, Image.fromarray((stripe * 255).astype(np.uint8)))


_PICTURES = {
    "window": _Picture(_window, 0.16),
    "lantern glass": _Picture(_glass, 0.30),
    "woven cloth": _Picture(_weave),
}
