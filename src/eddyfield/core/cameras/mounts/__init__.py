"""How a camera is carried. Each mount says, from channels and subjects, where its head is: ``world_from_mount`` for every
frame. The camera's own place and angles are measured from that head.

A file that is put into this folder is found by itself, with its channels.
"""

from collections.abc import Iterator
from functools import reduce
from importlib import import_module
from operator import or_
from pkgutil import iter_modules
from typing import TYPE_CHECKING, Any

from . import base
from .base import Values
from .carried import Carried, attached
from .crane import Crane
from .free import Free
from .orbit import Orbit
from .rail import Bump, Rail
from .trailing import Trailing


def _of(mount: Any) -> Iterator[type[base.Mount]]:
    """A class of mounts that is a kind of its own, and those below it."""
    if "kind" in getattr(mount, "__dataclass_fields__", ()):
        yield mount
    for kind in mount.__subclasses__():
        yield from _of(kind)


def _kinds() -> dict[str, type[base.Mount]]:
    for module in iter_modules(__path__):
        import_module(f"{__name__}.{module.name}")
    return dict(sorted((str(vars(kind)["kind"]), kind) for kind in _of(base.Mount)))


MOUNTS = _kinds()
"""Every kind of mount, by its name."""

if TYPE_CHECKING:
    Mount = base.Mount
else:
    Mount = reduce(or_, MOUNTS.values())  # for what reads and writes them as data

__all__ = ["MOUNTS", "Bump", "Carried", "Crane", "Free", "Mount", "Orbit", "Rail", "Trailing", "Values", "attached"]
