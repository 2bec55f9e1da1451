"""``read FILE``: everything that can be told of a performance through one camera."""

from __future__ import annotations

import argparse
import json
import sys

from eddyfield.core.cameras.placement import feet_of
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.ride import Ride
from eddyfield.core.readings.every_reading import every_reading

from .arguments import OneLineParser, add_file_options, add_stepping_options, checked, finite
from .reading_objects import amount_of, as_object
from .rigged import rigged_scene
from .shot import Shot, open_shot


def parser() -> OneLineParser:
    out = OneLineParser(prog="eddyfield read", description="All readings of a performance through one camera.")
    add_file_options(out)
    add_stepping_options(out, always_stepped=False)
    out.add_argument("--front", metavar="DEG", type=checked(finite), help="the front, round from +Z (measured)")
    out.add_argument("--json", action="store_true", help="print JSON instead of a table")
    return out


def run(words: list[str]) -> None:
    options = parser().parse(words)
    options.stepping = Stepping(options.step, options.offset)
    options.riding = Ride(options.ride, 1.0, options.anchor)
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
    baker = rigged_scene(rig, shot.frames, shot.unrigged_camera(shot.frames.frames()), options)
    (camera,), (character,) = baker.scene.cameras, baker.scene.characters
    joints = [(character, rig.names[int(joint)]) for joint in shot.joints]
    return [
        as_object(reading, character.name if reading.character_id else camera.name)
        for reading in every_reading(baker, camera, joints, _told)
    ]


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
