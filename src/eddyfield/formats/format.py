"""What is known of a file format."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from eddyfield.core.rig.rig import Rig
from eddyfield.core.rig.source import RigSource

Resolver = Callable[[str], bytes]
"""Gives the bytes of a file that lies beside or below another one, by its relative path."""


@dataclass(frozen=True)
class Format:
    """A format that rigs are read from. ``read`` takes the bytes, how they are to be read, what reads files beside it (None:
    nothing does), and whether the mesh is wanted."""

    name: str
    title: str
    suffixes: tuple[str, ...]
    default_scale: float
    read: Callable[[bytes, RigSource, Resolver | None, bool], Rig]
    has_surfaces: bool = True
    """Whether its files hold more than motion."""
