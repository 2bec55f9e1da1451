"""``framing FILE``: what leaves the frame, is cut, crowded or hidden, and what a held framing cannot reach."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path

from eddyfield.core.bake import Baker
from eddyfield.core.cameras.room import Room
from eddyfield.core.readings.framing_readings import framing_readings
from eddyfield.core.readings.lens_readings import plane_readings
from eddyfield.core.readings.reading import READING_TITLES, Reading
from eddyfield.core.readings.rigging_readings import lock_readings, wrong_joint_readings
from eddyfield.core.rig.rig import Rig
from eddyfield.core.rig.source import RigSource
from eddyfield.formats.table import format_of, read_rig

from .arguments import OneLineParser, UsageError, add_file_options, checked, finite, names, pair
from .rigged import rigged_scene
from .shot import Shot, bytes_of, open_shot


def parser() -> OneLineParser:
    out = OneLineParser(prog="eddyfield framing", description="Framing readings of a performance through one camera.")
    add_file_options(out)
    wanted = out.add_argument_group("what is wanted and what is around")
    wanted.add_argument("--headroom", metavar="LEAST,MOST", type=checked(pair), help="shares of the height (0.02,0.34)")
    wanted.add_argument("--lead", metavar="LEAST", type=checked(finite), help="lead room, share of the width (0.3)")
    wanted.add_argument("--feet", metavar="JOINTS", type=checked(names), default=(), help="joints that are feet")
    wanted.add_argument("--front", metavar="DEG", type=checked(finite), help="the front, round from +Z (measured)")
    wanted.add_argument("--set", metavar="FILE", help="a .glb or .gltf that may stand in the way")
    out.add_argument("--json", action="store_true", help="print JSON instead of a table")
    return out


def run(words: list[str]) -> None:
    options = parser().parse(words)
    options.room = _room(options)
    shot = open_shot(options, with_mesh=True)
    for note in shot.rig.notes:
        print(f"note: {note}", file=sys.stderr)
    found = measure(shot, options)
    if options.json:
        print(json.dumps([_as_object(r) for r in found], allow_nan=False))
    else:
        print(as_table(found))


def measure(shot: Shot, options: argparse.Namespace) -> list[Reading]:
    """The readings of the whole range, in the order of their frames."""
    around = _set(options.set) if options.set is not None else None
    baker = rigged_scene(shot.rig, shot.frames, shot.unrigged_camera(shot.frames.frames()), options, around)
    return sorted(_readings(baker), key=lambda r: (r.first, r.kind))


def _readings(baker: Baker) -> list[Reading]:
    (camera,), (character,) = baker.scene.cameras, baker.scene.characters
    return [
        *framing_readings(baker, camera, character),
        *plane_readings(baker, camera, character),
        *lock_readings(baker, camera),
        *wrong_joint_readings(baker, camera),
    ]


def _room(options: argparse.Namespace) -> Room:
    plain = Room()
    least, most = options.headroom or (plain.headroom_least, plain.headroom_most)
    return Room(least, most, plain.lead_least if options.lead is None else options.lead)


def _set(file: str) -> Rig:
    path = Path(file)
    kind = format_of(path.name)
    if not kind.has_surfaces:
        raise UsageError(f"The set “{file}” has no surfaces.", "Give a .glb or .gltf.")
    return read_rig(bytes_of(path), RigSource("set", kind.name))


def _as_object(reading: Reading) -> dict[str, object]:
    return {
        "kind": reading.kind, "title": READING_TITLES[reading.kind], "subject": reading.subject,
        "first": reading.first, "last": reading.last,
        "size": reading.size, "unit": reading.unit, "threshold": reading.threshold, "joint_to_use": reading.better_joint,
        "remark": reading.remark, "note": reading.note,
    }  # fmt: skip


def as_table(found: list[Reading]) -> str:
    """The readings for people: a row each."""
    if not found:
        return "nothing is out of bounds"
    lines = ["   frames       amount   reading"]
    for r in found:
        frames = f"{r.first}-{r.last}" if r.last > r.first else str(r.first)
        amount = f"{100 * r.size:.1f} %" if r.unit == "share" else f"{r.size:.1f} {r.unit}"
        use = f"; use {r.better_joint}" if r.better_joint else ""
        lines.append(f"{frames:>11}   {amount:>10}   {READING_TITLES[r.kind]}: {r.subject}{use}")
    return "\n".join(lines)
