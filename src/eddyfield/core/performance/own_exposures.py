"""Parts of a character that show new poses on frames of their own: a scarf on ones while the body is on twos."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..arrays import Floats, Ints
from ..errors import DomainError
from ..rig.hanging import all_hanging_on
from ..rig.rig import Rig
from .carried import Carried
from .exposure import Stepping

MOST_PARTS = 20


@dataclass(frozen=True)
class OwnExposures:
    """All that hangs on ``joint`` is stepped by itself, below what it hangs on as that is shown."""

    joint: str
    stepping: Stepping


def check_parts(parts: tuple[OwnExposures, ...]) -> None:
    """Raise ``DomainError`` for too many, or two of one joint."""
    if len(parts) > MOST_PARTS:
        raise DomainError(
            f"{len(parts)} parts with exposures of their own are too many.", f"Keep it within {MOST_PARTS}."
        )
    if len({part.joint for part in parts}) < len(parts):
        raise DomainError("A joint has exposures of its own twice.", "Give them once.")


def apart(
    rig: Rig, world: Floats, rows: Ints, carried: Carried, parts: tuple[str, ...], part_rows: tuple[Ints, ...]
) -> Carried:
    """The pose ``world`` (frames, nodes, 4, 4) of ``rows`` (frames,) as it is ``carried``, but below the joints of ``parts`` that
    of each part's own rows, within what they hang on. Joints that the rig does not have are passed over."""
    group_of = carried.group_of.copy() if len(carried.group_of) else np.full(len(rig.names), -1, dtype=np.int64)
    own = [carried.own]
    row_of: dict[int, Ints] = {}
    known = [(rig.index_of[j], r) for j, r in zip(parts, part_rows, strict=True) if j in rig.index_of]
    for joint, shown in sorted(known, key=lambda part: -len(all_hanging_on(rig, part[0]))):
        row_of |= dict.fromkeys(all_hanging_on(rig, joint).tolist(), shown)  # a smaller part of a part keeps its own
    shown_world: dict[int, Floats] = {}
    begins = carried.own.shape[1]
    for node in (int(n) for level in rig.levels for n in level if int(n) in row_of):
        parent, at = int(rig.parents[node]), row_of[node]
        if parent < 0:
            local, above = world[at, node], carried.whole
        else:
            local = np.linalg.inv(world[at, parent]) @ world[at, node]
            above = carried.of_nodes(np.array([parent]))[:, 0] @ world[rows, parent]
            above = shown_world.get(parent, above)
        shown_world[node] = above @ local
        own.append((shown_world[node] @ np.linalg.inv(world[rows, node]))[:, None])
        group_of[node] = begins
        begins += 1
    if len(own) == 1:
        return carried
    return replace(carried, group_of=group_of, own=np.concatenate(own, axis=1))
