"""Medians of repeated runs, taken in turn so that a drift of the machine touches both sides alike."""

from __future__ import annotations

from collections.abc import Callable
from statistics import median
from time import perf_counter


def medians(*works: Callable[[], object], rounds: int = 15) -> list[float]:
    """Median seconds of each work, after one round that is not counted."""
    times: list[list[float]] = [[] for _ in works]
    for count in range(rounds + 1):
        for work, own in zip(works, times, strict=True):
            began = perf_counter()
            work()
            if count:
                own.append(perf_counter() - began)
    return [median(own) for own in times]


def show(what: str, seconds: float, other: str = "", other_seconds: float | None = None) -> None:
    line = f"{what:<58}{1000 * seconds:>10.2f} ms"
    if other_seconds is not None:
        line += f"   {other}: {1000 * other_seconds:.2f} ms, ratio {seconds / other_seconds:.2f}"
    print(line)
