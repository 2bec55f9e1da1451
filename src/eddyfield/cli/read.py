"""``read FILE``: everything that can be told of a performance through one camera."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Iterator
from math import ceil

from eddyfield.core.cameras.placement import feet_of
from eddyfield.core.performance.ride import Ride
from eddyfield.core.readings.every_reading import every_reading
from eddyfield.core.readings.joined import joined
from eddyfield.core.readings.reading import Reading
from eddyfield.core.time.frames import FrameRange

from .arguments import OneLineParser, add_file_options, add_stepping_options, checked, finite, stepping_of
from .reading_objects import amount_of, as_object
from .rigged import CAMERA, CHARACTER, camera_name, character_name, rigged_scene
from .shot import Shot, open_shot

BLOCK_FRAMES = 4000
BESIDE_S, LEAST_BESIDE = 4, 32
"""What a judgement looks at beside a frame: so many seconds, in which a file on fours has 24 samples, and frames."""


def parser() -> OneLineParser:
    out = OneLineParser(prog="eddyfield read", description="All readings of a performance through one camera.")
    add_file_options(out)
    add_stepping_options(out, always_stepped=False)
    out.add_argument("--front", metavar="DEG", type=checked(finite), help="the front, round from +Z (measured)")
    out.add_argument("--json", action="store_true", help="print JSON instead of a table")
    return out


def run(words: list[str]) -> None:
    options = parser().parse(words)
    options.stepping = stepping_of(options)
    options.riding = Ride(options.ride, 1.0, options.anchor, options.plant)
    options.feet = options.contacts or ()
    shot = open_shot(options, with_mesh=True)
    for note in shot.rig.notes:
        print(f"note: {note}", file=sys.stderr)
    found = measure(shot, options)
    if options.json:
        print(json.dumps(found, allow_nan=False))
    else:
        print(as_table(found))


def measure(shot: Shot, options: argparse.Namespace) -> list[dict[str, object]]:
    """The readings of the range as objects, in the order of their frames. Raises ``DomainError``."""
    rig = shot.rig
    if options.anchor is not None:
        rig.find(options.anchor)
    options.feet = options.contacts or feet_of(rig)
    names = {CHARACTER: character_name(options), CAMERA: camera_name(options)}
    found = joined((own, _block(shot, own, options)) for own in _blocks(shot.frames, options.stepping.step))
    found.sort(key=lambda r: (r.first, r.kind, r.joint or ""))
    return [as_object(reading, names[CHARACTER if reading.character_id else CAMERA]) for reading in found]


def _blocks(frames: FrameRange, step: int) -> Iterator[FrameRange]:
    """The range in blocks that begin on the grid of exposures: so much fits into memory at once."""
    length = max(step, BLOCK_FRAMES - BLOCK_FRAMES % step)
    for first in range(frames.first, frames.last + 1, length):
        yield FrameRange(first, min(first + length - 1, frames.last))


def _block(shot: Shot, own: FrameRange, options: argparse.Namespace) -> list[Reading]:
    """All that is told of a block, and of some frames beside it."""
    looked_at = max(LEAST_BESIDE, ceil(BESIDE_S * float(options.fps)))
    beside = -(-looked_at // options.stepping.step) * options.stepping.step
    frames = FrameRange(max(shot.frames.first, own.first - beside), min(shot.frames.last, own.last + beside))
    baker = rigged_scene(shot.rig, frames, shot.unrigged_camera(frames.frames()), options)
    (camera,), (character,) = baker.scene.cameras, baker.scene.characters
    joints = [(character, shot.rig.names[int(joint)]) for joint in shot.joints]
    return every_reading(baker, camera, joints, _told)


def _told(subject: str, error: Exception) -> None:
    print(f"note: {subject} could not be judged: {error}", file=sys.stderr)


def as_table(found: list[dict[str, object]]) -> str:
    """The readings for people: a row each."""
    if not found:
        return "nothing is out of bounds"
    lines = ["   frames    worst       amount   reading"]
    for r in found:
        frames = f"{r['first']}-{r['last']}" if r["last"] != r["first"] else str(r["first"])
        of = " ".join(str(part) for part in (r["owner"], r["joint"]) if part)
        by = f" (the {r['cause']}'s)" if r["cause"] in ("camera", "subject") else ""
        remark = " · a remark" if r["remark"] else ""
        lines.append(f"{frames:>9}   {r['frame']:>6}   {amount_of(r):>10}   {r['title']}: {of}{by}{remark}")
    return "\n".join(lines)
