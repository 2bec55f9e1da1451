"""Probes of what may go wrong: kills, nonsense, bombs, dawdlers, races, streams and leaks. The tests run short forms of the same.

What they cannot reach is said with their figures: a machine that loses its power while a disk still holds writes back, and a
disk that is full or lies.
"""

from __future__ import annotations

from . import bombs, dawdlers, fuzz, kills, leaks, races, streams


def run() -> None:
    """The long form."""
    kills.first_starts(60).show()
    kills.databases(90).show()
    kills.servers(50).show()
    fuzz.requests(20_000).show()
    bombs.files().show()
    dawdlers.half_sent(64).show()
    dawdlers.many_uploads(60, 5_000_000).show()
    races.over_scenes(14).show()
    streams.opened_and_left(80, 300).show()
    leaks.outside_files().show()
    leaks.token_to_strangers().show()
    print("Not reached: power cuts below the operating system, disks that are full or lie, two machines.")
