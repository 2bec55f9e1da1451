"""What an edit has changed beyond what it says that it reaches."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import fields, replace
from typing import Any

import numpy as np

from eddyfield.core.arrays import Floats
from eddyfield.core.bake import Baker
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.edits.keyed_stretches import values_on
from eddyfield.core.edits.reach import EXPOSURES, POSES, Reach, Stretch
from eddyfield.core.performance.character import Character
from eddyfield.core.scene import Scene

SAME = 1e-9
OWNERS = ("cameras", "characters", "pieces", "sounds", "blocks")
QUARTERS = 4
"""Of a frame: how finely the time between keys is looked at."""


def beyond(reach: Reach, before: Baker, after: Baker) -> list[str]:
    """What differs between two scenes outside of a reach, in words; empty where nothing does."""
    out, one, other = [], before.scene, after.scene
    for field in fields(Scene):
        if field.name in OWNERS:
            was, is_now = ({_id(owner): owner for owner in getattr(scene, field.name)} for scene in (one, other))
            both = [id_ for id_ in was if id_ in is_now]
            if both != [id_ for id_ in is_now if id_ in was] and field.name not in reach.of_scene:
                out.append(f"the order of {field.name}")
            for id_ in {**was, **is_now}:
                if was.get(id_) == is_now.get(id_) or reach.all_owners or (reach.makes and id_ not in was):
                    continue
                if _owned_by(scene_owner := is_now.get(id_) or was[id_]) not in reach.owners:
                    out.append(f"{field.name}: {scene_owner.name}")
                elif reach.stretch is not None:
                    out += _outside(reach.stretch, was[id_], is_now[id_], before, after)
        elif getattr(one, field.name) != getattr(other, field.name) and field.name not in reach.of_scene:
            out.append(field.name)
    return out


def _id(owner: Any) -> str:
    return str(owner.id)


def _owned_by(owner: Any) -> str:
    """What comes with a scene inside is that one's."""
    nested = getattr(owner, "nested", None)
    return str(nested.block_id if nested else owner.id)


def _outside(stretch: Stretch, was: Any, is_now: Any, before: Baker, after: Baker) -> Iterator[str]:
    frames = before.scene.frames
    times = np.arange((frames.first - 50) * QUARTERS, (frames.last + 51) * QUARTERS) / QUARTERS
    if isinstance(was, Camera):
        if replace(was, channels=is_now.channels, unkeyed=is_now.unkeyed, left=is_now.left) != is_now:
            yield f"{was.name}: what is not keyed"
        for name in was.channels:
            at = times[~_within(stretch, times)] if name in stretch.channels else times
            # Where something was moved without a key, that is forgotten, or stays.
            if name in stretch.channels and name in dict(was.unkeyed):
                continue
            yield from _off(f"{was.name} {name}", values_on(was, name, at), values_on(is_now, name, at), at)
        return
    shown = np.arange(frames.first, frames.last + 1)
    left = ~_within(stretch, shown)
    if isinstance(was, Character) and EXPOSURES in stretch.channels:
        if replace(was, stepping=is_now.stepping) != is_now:
            yield f"{was.name}: more than exposures"
        starts, then = before.exposure_starts(was), after.exposure_starts(is_now)
        # A pose that is held where the stretch ends, before or after, is held on.
        left &= ~_within(stretch, starts) & ~_within(stretch, then)
        yield from _off(f"{was.name} exposures", starts[left], then[left], shown[left])
    else:
        assert stretch.channels == {POSES}
        if replace(was, performance=is_now.performance) != is_now:
            yield f"{was.name}: more than poses"
        poses, then = before.world(was), after.world(is_now)
        yield from _off(f"{was.name} poses", poses[left], then[left], shown[left])


def _within(stretch: Stretch, times: Floats) -> Any:
    first = -np.inf if stretch.first is None else float(stretch.first)
    last = np.inf if stretch.last is None else float(stretch.last)
    # Just outside, what comes to another value changes within a thousandth of a frame.
    return (times >= first) & (times <= last)


def _off(what: str, was: Floats, is_now: Floats, times: Floats) -> Iterator[str]:
    if not len(times):
        return
    off = np.abs(was - is_now).reshape(len(times), -1).max(axis=1)
    size = np.abs(was).max(initial=1.0)
    if (off > SAME * size).any():
        at = int(off.argmax())
        yield f"{what}: by {off[at]:.3g} at {float(times[at]):g}"
