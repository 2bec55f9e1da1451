"""Materials, textures and images of a glTF file. Images stay as they are written; what they come to is bounded by their heads."""

from __future__ import annotations

import io
import warnings

import numpy as np
from PIL import Image, UnidentifiedImageError

from eddyfield.core.arrays import Floats
from eddyfield.core.rig.look import AlphaMode, Look, Wrap

from ..errors import DamagedFile, FileError
from ..format import Resolver
from ..limits import LARGEST_IMAGE_SIDE, MOST_IMAGES, MOST_PIXELS, Total
from .accessors import Accessors
from .container import fetch
from .document import Document, Material, TextureInfo

WRAPS: dict[int, Wrap] = {33071: "clamp", 33648: "mirror", 10497: "repeat"}
ALPHA: dict[str, AlphaMode] = {"OPAQUE": "opaque", "MASK": "mask", "BLEND": "blend"}
IMAGE_FORMATS = ("PNG", "JPEG", "WEBP")


class Looks:
    """Collects the looks that the parts of a mesh use, each once, and their images."""

    def __init__(self, document: Document, accessors: Accessors, resolve: Resolver | None) -> None:
        self._document, self._accessors, self._resolve = document, accessors, resolve
        self._looks: dict[int, int] = {}
        self._images: dict[int, int] = {}
        self._pixels = Total("pixels of images", MOST_PIXELS, "Bring it in with smaller images.")
        self.looks: list[Look] = []
        self.images: list[bytes] = []

    def material(self, index: int) -> Material:
        if index >= len(self._document.materials):
            raise DamagedFile(f"A mesh uses material {index}, which does not exist.")
        return self._document.materials[index]

    def look(self, index: int, has_uvs: bool) -> int:
        """The index of a material's look."""
        if index not in self._looks:
            self._looks[index] = len(self.looks)
            self.looks.append(self._read(index, self.material(index), has_uvs))
        return self._looks[index]

    def _read(self, index: int, material: Material, has_uvs: bool) -> Look:
        texture = material.base.texture if has_uvs else None
        image, wrap = self._texture(texture) if texture else (None, Look.wrap)
        lit = material.extensions.unlit is None
        glow = material.emissive
        strength = material.extensions.emissive_strength
        return Look(
            material.name or f"material_{index}", image, wrap, float(np.clip(material.base.factor[3], 0, 1)),
            ALPHA.get(material.alpha_mode, "opaque"), material.alpha_cutoff, material.double_sided,
            tuple(float(np.clip(g * (strength.strength if strength else 1.0), 0, 1)) for g in glow),  # type: ignore[arg-type]
            lit,
        )  # fmt: skip

    def _texture(self, info: TextureInfo) -> tuple[int | None, tuple[Wrap, Wrap]]:
        if info.index >= len(self._document.textures):
            raise DamagedFile(f"A material uses texture {info.index}, which does not exist.")
        texture = self._document.textures[info.index]
        source = texture.extensions.webp.source if texture.extensions.webp else texture.source
        wrap: tuple[Wrap, Wrap] = ("repeat", "repeat")
        if texture.sampler is not None:
            if texture.sampler >= len(self._document.samplers):
                raise DamagedFile(f"Texture {info.index} uses sampler {texture.sampler}, which does not exist.")
            sampler = self._document.samplers[texture.sampler]
            wrap = WRAPS.get(sampler.wrap_s, "repeat"), WRAPS.get(sampler.wrap_t, "repeat")
        return (None if source is None else self._image(source)), wrap

    def _image(self, index: int) -> int:
        if index not in self._images:
            if len(self.images) >= MOST_IMAGES:
                raise FileError(f"The file uses more than {MOST_IMAGES} images.", "Bring it in with fewer.")
            data = self._bytes(index)
            self._pixels.add(_checked_pixels(index, data))
            self._images[index] = len(self.images)
            self.images.append(data)
        return self._images[index]

    def _bytes(self, index: int) -> bytes:
        if index >= len(self._document.images):
            raise DamagedFile(f"A texture shows image {index}, which does not exist.")
        image = self._document.images[index]
        if image.uri is not None:
            return fetch(image.uri, self._resolve)
        view = image.buffer_view
        if view is None:
            raise DamagedFile(f"Image {index} has no data.")
        return bytes(self._accessors.view(view))


def _checked_pixels(index: int, data: bytes) -> int:
    """How many pixels an image has, by its head: nothing is unpacked. Raises ``FileError`` for what is none, or too large."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(data), formats=IMAGE_FORMATS) as image:
                width, height = image.size
    except Image.DecompressionBombError:
        raise FileError(f"Image {index} unpacks to more pixels than any texture.", "Bring it in smaller.") from None
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        raise DamagedFile(f"image {index} is no PNG, JPEG or WebP: {str(error)[:80]}") from error
    if max(width, height) > LARGEST_IMAGE_SIDE:
        raise FileError(
            f"An image has {width:,} x {height:,} pixels.", f"Bring it in with at most {LARGEST_IMAGE_SIDE:,} a side."
        )
    return int(width * height)


def transformed(uvs: Floats, info: TextureInfo) -> Floats:
    """Coordinates (V, 2) as KHR_texture_transform has them: scaled, turned (seen with v downwards, counter-clockwise), moved.

    >>> from .document import TextureInfo
    >>> quarter = {"index": 0, "extensions": {"KHR_texture_transform": {"rotation": 1.5707963267948966, "offset": [0.5, 0]}}}
    >>> transformed(np.array([[1.0, 0.0]]), TextureInfo.model_validate(quarter)).round(6) + 0.0
    array([[ 0.5, -1. ]])
    """
    transform = info.extensions.transform
    if transform is None:
        return uvs
    u, v = (uvs * transform.scale).T
    c, s = np.cos(transform.rotation), np.sin(transform.rotation)
    return np.stack([c * u + s * v, -s * u + c * v], axis=-1) + transform.offset
