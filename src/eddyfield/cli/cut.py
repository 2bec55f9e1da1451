"""``eddyfield cut``: the shots of a scene of the running server."""

from __future__ import annotations

import json

from .arguments import OneLineParser
from .running import RunningServer

HEADS = ("name", "camera", "first", "last", "frames", "seconds", "transition", "state")
NUMBERS = ("first", "last", "frames", "seconds")


def run(words: list[str]) -> None:
    """Raises ``DomainError`` for a scene that is not there."""
    parser = OneLineParser(prog="eddyfield cut", description="List the shots of a scene.")
    parser.add_argument("scene", metavar="SCENE", help="the scene, by its name or id")
    parser.add_argument("--json", action="store_true", help="as a list of objects")
    options = parser.parse(words)
    server = RunningServer("cut")
    shots = server.shots(server.scene_id(options.scene))
    if options.json:
        print(json.dumps(shots, ensure_ascii=False, indent=2))
        return
    rows = [
        HEADS,
        *(tuple(f"{shot[head]:.2f}" if head == "seconds" else str(shot[head]) for head in HEADS) for shot in shots),
    ]
    widths = [max(map(len, column)) for column in zip(*rows, strict=True)]
    for row in rows:
        cells = (
            text.rjust(w) if head in NUMBERS else text.ljust(w)
            for text, w, head in zip(row, widths, HEADS, strict=True)
        )
        print("  ".join(cells).rstrip())
