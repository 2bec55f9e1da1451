"""How a shown pose is carried: as a whole, and parts of it otherwise."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Floats, Ints
from ..rig import transforms


@dataclass(frozen=True, eq=False)
class Carried:
    """A pose is carried by ``whole`` (frames, 4, 4), from world to world; but what hangs on a node of a group by that group's
    ``own`` (frames, groups, 4, 4). ``group_of`` (nodes,) is -1 where a node goes with the whole. What the ground asked of each
    planted leg: ``stretch`` (frames, legs) of its length, and ``missed_m`` (frames, legs), how far the foot is from where it
    stands all the same; both 0 where nothing is planted."""

    whole: Floats
    group_of: Ints
    own: Floats
    stretch: Floats
    missed_m: Floats

    @property
    def is_whole(self) -> bool:
        """No part goes otherwise."""
        return bool(self.own.shape[1] == 0)

    @property
    def plants(self) -> bool:
        """Some leg is planted, or could be."""
        return bool(self.stretch.shape[1])

    def of_nodes(self, nodes: Ints, rows: slice = slice(None)) -> Floats:
        """What carries each of the nodes on some rows, (frames, nodes, 4, 4)."""
        if self.is_whole:
            return np.broadcast_to(self.whole[rows, None], (len(self.whole[rows]), len(nodes), 4, 4))
        out = np.repeat(self.whole[rows, None], len(nodes), axis=1)
        group = self.group_of[nodes]
        out[:, group >= 0] = self.own[rows, group[group >= 0]]
        return out

    def shown(self, points: Floats, rows: Ints, nodes: Ints | None = None) -> Floats:
        """Points of the unstepped motion (frames, points, 3) as they are shown: those of ``rows`` (frames,), carried. Points
        that hang on no node that could be planted need not say on which ``nodes`` (points,) they do."""
        out = transforms.apply(self.whole[:, None], points[rows])
        if nodes is None or self.is_whole:
            return out
        group = self.group_of[nodes]
        for column in np.flatnonzero(group >= 0).tolist():
            out[:, column] = transforms.apply(self.own[:, group[column]], points[rows, column])
        return out


def carried_whole(whole: Floats) -> Carried:
    """All of it alike."""
    none = np.zeros((len(whole), 0))
    return Carried(whole, np.zeros(0, dtype=np.int64), np.zeros((len(whole), 0, 4, 4)), none, none)
