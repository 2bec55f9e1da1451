"""Which judgements of cameras there are. A function in this folder that is marked as one is found by itself."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from importlib import import_module
from pkgutil import iter_modules
from typing import NamedTuple

from ..bake import Baker
from ..cameras.camera import Camera
from ..performance.character import Character
from .reading import Reading

OfCamera = Callable[[Baker, Camera], list[Reading]]
OfCharacter = Callable[[Baker, Camera, Character], list[Reading]]
_of_camera: dict[str, tuple[OfCamera, bool]] = {}
_of_character: dict[str, OfCharacter] = {}


class Judges(NamedTuple):
    """Functions that judge a camera, or a character in a camera, each in the order of their names; ``of_parallel`` are those
    that a parallel view is asked for as well."""

    of_camera: tuple[OfCamera, ...]
    of_parallel: tuple[OfCamera, ...]
    of_character: tuple[OfCharacter, ...]


def judges_cameras(judge: OfCamera) -> OfCamera:
    """Marks a judgement of a camera that sees in perspective."""
    _of_camera[f"{judge.__module__}.{judge.__name__}"] = judge, False
    return judge


def judges_every_camera(judge: OfCamera) -> OfCamera:
    """Marks a judgement of a camera, be it a parallel view or not."""
    _of_camera[f"{judge.__module__}.{judge.__name__}"] = judge, True
    return judge


def judges_characters(judge: OfCharacter) -> OfCharacter:
    """Marks a judgement of a character in a camera that sees in perspective."""
    _of_character[f"{judge.__module__}.{judge.__name__}"] = judge
    return judge


@cache
def all_judges() -> Judges:
    package = __name__.rpartition(".")[0]
    for module in iter_modules(import_module(package).__path__):
        import_module(f"{package}.{module.name}")
    of_camera = [_of_camera[name] for name in sorted(_of_camera)]
    return Judges(
        tuple(judge for judge, _ in of_camera),
        tuple(judge for judge, every in of_camera if every),
        tuple(_of_character[name] for name in sorted(_of_character)),
    )
