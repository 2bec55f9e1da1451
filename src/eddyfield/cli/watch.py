"""``watch``: whenever an exporter has finished writing a file of a folder, the next version of what it holds."""

from __future__ import annotations

import argparse
import time
from pathlib import Path

from watchfiles import Change, watch

from eddyfield.core.errors import DomainError
from eddyfield.formats.table import FORMATS

from .arguments import OneLineParser, UsageError
from .bring import brought
from .running import RunningServer

SETTLES_MS, STEP_MS = 250, 50
STILL_S, MOST_WAITS = 0.15, 200
"""A file is finished when it stays as large and as old for so long; an exporter may write for half a minute."""


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
    suffixes = {suffix for kind in FORMATS for suffix in kind.suffixes}
    print(f"eddyfield watch: waiting for {', '.join(sorted(suffixes))} in {options.folder}", flush=True)
    wanted = argparse.Namespace(next=True, name=options.name, kind=None)
    seen: dict[Path, tuple[int, int]] = {}
    for changes in watch(options.folder, debounce=SETTLES_MS, step=STEP_MS, recursive=False):
        for file in sorted({Path(path) for change, path in changes if change != Change.deleted}):
            mark = finished(file) if file.suffix.lower() in suffixes else None
            if mark is None or seen.get(file) == mark:
                continue
            seen[file] = mark
            try:
                lines = brought(server, scene_id, file, wanted)
            except DomainError as error:
                lines = [f"{file.name}: {' '.join(str(error).split())}"]
            print("\n".join(lines), flush=True)


def finished(file: Path) -> tuple[int, int] | None:
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
