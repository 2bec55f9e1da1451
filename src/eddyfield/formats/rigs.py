"""One of several rigs of a file, by its name."""

from collections.abc import Mapping
from typing import TypeVar

from .errors import FileError

Found = TypeVar("Found")


def chosen_rig(rigs: Mapping[str, Found], name: str) -> Found:
    """Raises ``FileError`` where there is none of this name."""
    if name not in rigs:
        there = ", ".join(f"“{n[:60]}”" for n in list(rigs)[:8])
        remedy = f"It holds {there}." if there else "It holds one alone: leave the name out."
        raise FileError(f"The file has no rig “{name[:60]}”.", remedy)
    return rigs[name]
