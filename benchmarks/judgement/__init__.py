"""How far the judgements can be trusted: made motion and camera moves, clean and with planted faults, scored class by class."""

from __future__ import annotations

from . import arcs, fixes, framing

SEEDS, SHOTS = 10, 100


def run() -> None:
    """The figures of README.md: about ten minutes."""
    arcs.table(SEEDS)
    arcs.rates(2)
    arcs.short_shots(4)
    arcs.sizes_against_recall(3)
    framing.table(SHOTS)
    fixes.table(SHOTS // 5)
