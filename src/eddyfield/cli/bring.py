"""``bring``: files into a scene of the running server, or the next versions of what is there."""

from __future__ import annotations

import argparse
import uuid
from collections import Counter
from pathlib import Path
from typing import Any

from eddyfield.core.errors import DomainError
from eddyfield.core.readings.reading import READING_TITLES

from .arguments import OneLineParser, UsageError
from .running import RunningServer

KINDS = {"character": "character", "prop": "prop", "set": "set piece"}
MOST_TOLD = 12
WORDS = {"new": "new", "worse": "worse", "better": "better", "gone": "gone"}


def run(words: list[str]) -> None:
    """Raises ``DomainError`` for what cannot be brought in; what came before it has come."""
    parser = OneLineParser(prog="eddyfield bring", description="Bring files into a scene of the running server.")
    parser.add_argument("files", metavar="FILE", nargs="+", type=Path)
    parser.add_argument("--scene", required=True, metavar="NAME", help="the scene, by its name or id")
    parser.add_argument("--as", dest="kind", choices=sorted(KINDS), help="what it is (else by what it looks like)")
    parser.add_argument("--name", help="what it is called; with --next, of what it is the next version")
    parser.add_argument(
        "--rig", metavar="NAME", help="one of the rigs of a file that holds several (else all together)"
    )
    parser.add_argument("--next", action="store_true", help="the next version of what is in the scene")
    options = parser.parse(words)
    if options.name and len(options.files) > 1:
        raise UsageError("--name is for one file.", "Bring in one at a time, or leave the name out.")
    server = RunningServer("bring")
    scene_id = server.scene_id(options.scene)
    for file in options.files:
        for line in brought(server, scene_id, file, options):
            print(line, flush=True)


def brought(server: RunningServer, scene_id: str, file: Path, options: argparse.Namespace) -> list[str]:
    """Bring one file in; what is said of it."""
    found = server.upload(file)
    scene = server.scene(scene_id)
    if options.next:
        return _next(server, scene_id, scene, found, file, options.name)
    kind = KINDS.get(options.kind or "", found["likely"])
    name = options.name or options.rig or file.stem
    held = next((rig for rig in found["rigs"] if rig["name"] == options.rig), found)
    source = {
        "digest": found["digest"], "format": found["format"], "scale": found["proposed_scale"], "rig": options.rig,
    }  # fmt: skip
    edit = {
        "edit": "bring in", "thing_id": str(uuid.uuid4()), "kind": kind, "name": name, "source": source,
        "start": scene["first"], "values": {},
    }  # fmt: skip
    server.edit(scene_id, edit, f"{name}, a {kind}")
    return [f"{name} is in “{scene['name']}”, a {kind}: {held['joints']} joints, {held['triangles']:,} triangles"]


def _next(
    server: RunningServer, scene_id: str, scene: dict[str, Any], found: dict[str, Any], file: Path, name: str | None
) -> list[str]:
    wanted, things = (name or file.stem).lower(), [*scene["characters"], *scene["pieces"]]
    thing = next((t for t in things if t["name"].lower() == wanted), None)
    if name and thing is None:
        there = ", ".join(t["name"] for t in things)
        raise DomainError(f"Nothing in “{scene['name']}” is called “{name}”.", f"There are {there or 'none'}.")
    told = server.next_version(scene_id, found, thing and thing["id"])
    if told["edit"] is None:
        raise DomainError(f"“{file.name}” is like nobody in “{scene['name']}”.", "Say whose it is with --name.")
    whose = next(t["name"] for t in things if t["id"] == told["thing_id"])
    counts = Counter(change["status"] for change in told["changes"])
    summary = (
        ", ".join(f"{counts[status]} {word}" for status, word in WORDS.items() if counts[status]) or "nothing changed"
    )
    server.edit(scene_id, told["edit"], f"{whose}: {summary}")
    lines = [f"{whose} is what {file.name} holds: {summary}"]
    lines += [f"  {_in_words(change)}" for change in told["changes"][:MOST_TOLD]]
    if len(told["changes"]) > MOST_TOLD:
        lines.append(f"  and {len(told['changes']) - MOST_TOLD} more")
    return lines


def _in_words(change: dict[str, Any]) -> str:
    reading, was = change["reading"], change["was"]
    size = f"{was['size']:.3g} -> " if was else ""
    frames = str(reading["first"]) if reading["first"] == reading["last"] else f"{reading['first']}-{reading['last']}"
    words = (WORDS[change["status"]], READING_TITLES[reading["kind"]], f"{reading['subject']} {frames}",
             f"{size}{reading['size']:.3g} {reading['unit']}")  # fmt: skip
    return "  ".join(words)
