"""``tracks FILE``: where joints land in the picture, as CSV."""

from __future__ import annotations

import contextlib
import sys
from collections.abc import Iterator
from typing import TextIO

from eddyfield.core.optics.screen import track
from eddyfield.formats.csv_tables import TRACK_COLUMNS, track_rows
from eddyfield.formats.errors import FileError

from .arguments import OneLineParser, add_file_options
from .shot import Shot, open_shot

BLOCK_POINTS = 60_000


def parser() -> OneLineParser:
    out = OneLineParser(
        prog="eddyfield tracks", description="Where joints land in the picture, frame by frame, as CSV."
    )
    add_file_options(out)
    out.add_argument("--out", metavar="FILE.csv", help="write here (standard output)")
    return out


def run(words: list[str]) -> None:
    options = parser().parse(words)
    shot = open_shot(options)
    for note in shot.rig.notes:
        print(f"note: {note}", file=sys.stderr)
    with _opened(options.out) as out:
        out.write(TRACK_COLUMNS + "\n")
        for text in blocks(shot):
            out.write(text)


def blocks(shot: Shot) -> Iterator[str]:
    """The rows of the CSV, some frames at a time."""
    names = [shot.rig.names[int(j)] for j in shot.joints]
    frames = shot.frames.frames()
    block = max(1, BLOCK_POINTS // max(1, len(names)))
    for first in range(0, len(frames), block):
        some = frames[first : first + block]
        world = shot.rig.world_positions(shot.seconds(some), shot.joints)
        camera = shot.camera(some)
        yield track_rows(some, names, world, track(camera, world), camera.delivery)


@contextlib.contextmanager
def _opened(path: str | None) -> Iterator[TextIO]:
    if path is None:
        yield sys.stdout
        sys.stdout.flush()
        return
    try:
        with open(path, "w", encoding="utf-8", newline="") as out:
            yield out
    except OSError as error:
        raise FileError(f"“{path}” cannot be written: {error.strerror or error}.") from None
