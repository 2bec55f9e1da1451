"""The working order: what comes next for a scene, in one line."""

from __future__ import annotations


def next_step(cameras: int, is_changed: bool) -> str:
    """For a scene with so many cameras; ``is_changed`` says whether anything was done in it since it was brought in."""
    if not is_changed:
        return "frame its shot camera, key it and lock it"
    if cameras == 1:
        return "add a face camera and a review set"
    return "play it through the cut, judge arcs and framing, then step the poses"
