"""All file formats of rigs and motion, in one table that the interface, the command line and the docs read."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import PurePath

from eddyfield.core.rig.mannequin import with_body
from eddyfield.core.rig.rig import Rig
from eddyfield.core.scene import RigSource

from . import bvh, gltf
from .errors import FileError
from .gltf.container import Resolver


@dataclass(frozen=True)
class Format:
    """A format that rigs are read from."""

    name: str
    title: str
    suffixes: tuple[str, ...]
    default_scale: float
    read: Callable[[bytes, RigSource, Resolver | None, bool], Rig]


def _read_gltf(data: bytes, source: RigSource, resolve: Resolver | None, with_mesh: bool) -> Rig:
    return gltf.read(data, scale=source.scale, animation=source.animation, resolve=resolve, with_mesh=with_mesh)


def _read_bvh(data: bytes, source: RigSource, resolve: Resolver | None, with_mesh: bool) -> Rig:
    if source.animation is not None:
        raise FileError("A BVH holds one motion without a name.", "Leave the animation away.")
    return bvh.read(data, scale=source.scale, offsets=source.offsets)


FORMATS = (
    Format("gltf", "glTF 2.0", (".glb", ".gltf"), 1.0, _read_gltf),
    Format("bvh", "BVH motion", (".bvh",), 0.01, _read_bvh),
)


def format_of(file_name: str) -> Format:
    """The format of a file by the end of its name. Raises ``FileError`` where there is none."""
    suffix = PurePath(file_name).suffix.lower()
    for entry in FORMATS:
        if suffix in entry.suffixes:
            return entry
    known = ", ".join(s for f in FORMATS for s in f.suffixes)
    raise FileError(f"“{PurePath(file_name).name[:80]}” is of no kind that can be read.", f"Give one of {known}.")


def format_named(name: str) -> Format:
    return next(f for f in FORMATS if f.name == name)


def read_rig(data: bytes, source: RigSource, resolve: Resolver | None = None, with_mesh: bool = True) -> Rig:
    """Read the rig that a source describes from the bytes of its file; with a mesh, or a plain body in its place."""
    rig = format_named(source.format).read(data, source, resolve, with_mesh)
    return with_body(rig) if with_mesh else rig
