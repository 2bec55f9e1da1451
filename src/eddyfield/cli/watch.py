"""``watch``: whenever an exporter has finished writing a file of a folder, the next version of what it holds."""

from __future__ import annotations

import argparse
import stat
import time
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from pathlib import Path

from watchfiles import Change, watch

from eddyfield.core.errors import DomainError
from eddyfield.formats.missing import missing
from eddyfield.formats.table import FORMATS

from .arguments import OneLineParser, UsageError
from .bring import brought
from .running import RunningServer

SETTLES_MS, STEP_MS, LOOKS_MS = 250, 50, 1000
STILL_S, MOST_WAITS = 0.15, 200
"""A file is finished when it stays as large and as old for so long; an exporter may write for half a minute."""
SUFFIXES = frozenset(suffix for kind in FORMATS for suffix in kind.suffixes)

Mark = tuple[int, int]
"""Size and age of a file."""


def run(words: list[str]) -> None:
    """Goes on until it is ended; what cannot be brought in is told, and ends nothing."""
    parser = OneLineParser(
        prog="eddyfield watch", description="Bring in the next version of whatever is written into a folder."
    )
    parser.add_argument("folder", metavar="FOLDER", type=Path)
    parser.add_argument("--scene", required=True, metavar="NAME", help="the scene, by its name or id")
    parser.add_argument(
        "--name", help="of what all of it is the next version (else by the file's name, or by its joints)"
    )
    options = parser.parse(words)
    if not options.folder.is_dir():
        raise UsageError(f"“{options.folder}” is no folder.", "Give the folder that the exporter writes into.")
    server = RunningServer("watch")
    scene_id = server.scene_id(options.scene)
    print(f"eddyfield watch: waiting for {', '.join(sorted(SUFFIXES))} in {options.folder}", flush=True)
    wanted = argparse.Namespace(next=True, name=options.name, kind=None)

    def bring(file: Path) -> list[str]:
        nonlocal server
        try:
            return brought(server, scene_id, file, wanted)
        except UsageError:  # it may have been started anew, at another address
            server = RunningServer("watch")
            return brought(server, scene_id, file, wanted)

    watched = Watched(options.folder, bring, lambda line: print(line, flush=True))
    for changes in watch(
        options.folder, debounce=SETTLES_MS, step=STEP_MS, recursive=False, rust_timeout=LOOKS_MS, yield_on_timeout=True
    ):
        watched.look(Path(path) for change, path in changes if change != Change.deleted)


@dataclass
class Watched:
    """A folder, what brings a file of it in (raises ``UsageError`` while no server answers), and what says a line."""

    folder: Path
    bring: Callable[[Path], list[str]]
    say: Callable[[str], None]
    waiting: set[Path] = field(default_factory=set)
    """Files that have changed, and are not brought in yet."""
    seen: dict[Path, Mark] = field(default_factory=dict)
    lacking: dict[Path, Mark] = field(default_factory=dict)
    """Of those that wait, as they were when something of them was not there."""
    told: dict[Path, str] = field(default_factory=dict)
    """Why each of those that wait does, once said."""

    def look(self, changed: Iterable[Path]) -> None:
        """Bring in what has changed, or waited, and is whole by now."""
        self.waiting |= {file for file in changed if file.suffix.lower() in SUFFIXES and is_own(file, self.folder)}
        for file in sorted(self.waiting):
            mark = finished(file)
            if mark is None or self.seen.get(file) == mark:
                self.waiting.discard(file)
                continue
            if self.lacking.get(file) == mark:
                continue
            why = self._brought(file, mark)
            if why is None:
                self.seen[file] = mark
                self.waiting.discard(file)
                self.told.pop(file, None)
                self.lacking.pop(file, None)
            elif self.told.get(file) != why:
                self.told[file] = why
                self.say(f"{file.name} waits: {why}")

    def _brought(self, file: Path, mark: Mark) -> str | None:
        """Why it has to wait; None where it is brought in, or refused once and for all."""
        try:
            lacks = missing(file.read_bytes(), file.suffix)
            if lacks:
                self.lacking[file] = mark
                return lacks
            lines = self.bring(file)
        except OSError as error:
            lines = [f"{file.name}: it cannot be read ({error.strerror})."]
        except UsageError:
            return "Eddyfield does not answer; it is brought in once it does"
        except DomainError as error:
            lines = [f"{file.name}: {' '.join(str(error).split())}"]
        self.say("\n".join(lines))
        return None


def is_own(file: Path, folder: Path) -> bool:
    """Whether it is a file that lies in the folder: no pipe, and no link to elsewhere."""
    try:
        return stat.S_ISREG(file.stat().st_mode) and file.resolve().parent == folder.resolve()
    except OSError:
        return False


def finished(file: Path) -> Mark | None:
    """Size and age of a file once nobody writes to it any more; None for one that is gone, or never comes to rest."""
    last = None
    for _ in range(MOST_WAITS):
        try:
            now = file.stat().st_size, file.stat().st_mtime_ns
        except OSError:
            return None
        if now == last and now[0]:
            return now
        last = now
        time.sleep(STILL_S)
    return None
