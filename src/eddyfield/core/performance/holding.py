"""Props in hands: who holds one from which frame on, without a jump at any hand-over."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from ..arrays import Bools, Floats, Ints
from ..errors import DomainError
from ..rig import transforms
from ..time.frames import FrameRange

MOST_HOLDS = 200


@dataclass(frozen=True)
class Hold:
    """From frame ``first`` until the next hold: by a joint of a character, or (without one) put down where it is."""

    first: int
    character_id: str | None = None
    joint: str | None = None

    def __post_init__(self) -> None:
        if (self.character_id is None) != (self.joint is None):
            raise DomainError("A hold names a character and no joint, or a joint and nobody.", "Give both, or neither.")


def check_holds(holds: tuple[Hold, ...]) -> None:
    """Raise ``DomainError`` where holds are not one after the other."""
    if len(holds) > MOST_HOLDS:
        raise DomainError(f"{len(holds)} hand-overs are too many.", f"Keep it within {MOST_HOLDS}.")
    if any(later.first <= earlier.first for earlier, later in pairwise(holds)):
        raise DomainError(
            "Two hand-overs are on one frame, or out of order.", "Give each a frame of its own, in order."
        )


def held_rows(holds: tuple[Hold, ...], frames: FrameRange) -> list[slice]:
    """The rows that each hold rules; empty where it is outside the frames."""
    firsts = [hold.first - frames.first for hold in holds]
    ends = [*firsts[1:], frames.count][: len(firsts)]
    return [slice(max(0, a), max(0, min(b, frames.count))) for a, b in zip(firsts, ends, strict=True)]


@dataclass(frozen=True, eq=False)
class Hand:
    """What holds: its world matrices on ones (frames, 4, 4), and the rows of them that are shown on each frame (frames,)."""

    world: Floats
    shown_rows: Ints


def carried_by_hands(
    holds: tuple[Hold, ...], placed: Floats, hands: Sequence[Hand | None], frames: FrameRange
) -> Floats:
    """What carries a prop out of the axes of its file, on ones, (frames, 4, 4): as ``placed`` (frames, 4, 4) until the first
    hold, then rigidly by the hand of each (None: put down). What changes hands stays where it is seen on the hold's first frame,
    by the poses that are shown then. A hold that begins before the scene takes hold on the scene's first frame."""
    out = placed.copy()
    shown_rows = np.arange(frames.count)
    for rows, hand in zip(held_rows(holds, frames), hands, strict=True):
        if rows.stop <= rows.start:
            continue
        taken = out[shown_rows[rows.start]].copy()
        shown_rows = np.arange(frames.count) if hand is None else hand.shown_rows
        if hand is None:
            out[rows.start :] = taken
        else:
            rigid = transforms.orthonormal(hand.world)
            out[rows.start :] = rigid[rows.start :] @ (transforms.rigid_inverse(rigid[shown_rows[rows.start]]) @ taken)
    return out


def in_a_hand(holds: tuple[Hold, ...], frames: FrameRange) -> Bools:
    """Per frame whether anybody holds it."""
    out = np.zeros(frames.count, dtype=bool)
    for hold, rows in zip(holds, held_rows(holds, frames), strict=True):
        out[rows] = hold.character_id is not None
    return out
