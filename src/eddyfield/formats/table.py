"""All file formats of rigs and motion, in one table that the interface, the command line and the docs read."""

from __future__ import annotations

from importlib import import_module
from pathlib import PurePath
from pkgutil import iter_modules

from eddyfield import formats
from eddyfield.core.rig.mannequin import with_body
from eddyfield.core.rig.rig import Rig
from eddyfield.core.rig.source import RigSource

from .errors import FileError
from .format import Format, Resolver


def _found() -> tuple[Format, ...]:
    """Those of all files of this folder that have a ``FORMAT``."""
    modules = (
        import_module(f"{formats.__name__}.{m.name}") for m in iter_modules(formats.__path__) if m.name != "table"
    )
    return tuple(vars(module)["FORMAT"] for module in modules if "FORMAT" in vars(module))


FORMATS = _found()


def format_of(file_name: str) -> Format:
    """The format of a file by the end of its name. Raises ``FileError`` where there is none."""
    suffix = PurePath(file_name).suffix.lower()
    for entry in FORMATS:
        if suffix in entry.suffixes:
            return entry
    known = ", ".join(s for f in FORMATS for s in f.suffixes)
    raise FileError(f"“{PurePath(file_name).name[:80]}” is of no kind that can be read.", f"Give one of {known}.")


def format_named(name: str) -> Format:
    """Raises ``FileError`` where there is none of this name."""
    found = next((f for f in FORMATS if f.name == name), None)
    if found is None:
        raise FileError(f"There is no format “{name[:40]}”.", f"Choose one of {', '.join(f.name for f in FORMATS)}.")
    return found


def read_rig(data: bytes, source: RigSource, resolve: Resolver | None = None, with_mesh: bool = True) -> Rig:
    """Read the rig that a source describes from the bytes of its file; with a mesh, or a plain body in its place."""
    rig = format_named(source.format).read(data, source, resolve, with_mesh)
    return with_body(rig) if with_mesh else rig
