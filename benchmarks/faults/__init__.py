"""Probes of what may go wrong: kills, nonsense, bombs and dawdlers. The tests run short forms of the same.

What they cannot reach is said with their figures: a machine that loses its power while a disk still holds writes back, and a
disk that is full or lies.
"""

from __future__ import annotations

from . import bombs, dawdlers, fuzz, kills


def run() -> None:
    """The long form."""
    kills.first_starts(60).show()
    kills.databases(90).show()
    kills.servers(50).show()
    fuzz.requests(20_000).show()
    bombs.files().show()
    dawdlers.half_sent(64).show()
    dawdlers.many_uploads(60, 5_000_000).show()
    print("Not reached: power cuts below the operating system, disks that are full or lie, two machines.")
