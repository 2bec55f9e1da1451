"""Which joint of one rig is which of another: by name, and where names changed by the shape of the hierarchy."""

from __future__ import annotations

from functools import cached_property

import numpy as np
from scipy.optimize import linear_sum_assignment

from ..arrays import Floats
from .rig import Rig

FARTHEST = 0.35
"""How far a joint may be from where its namesake stood, as a share of the longer of the two bones, to be taken for it."""


def renamed_joints(before: Rig, after: Rig) -> tuple[tuple[str, str], ...]:
    """Joints that the one rig has and the other has not by name, each with the joint that took its place there: below the same
    joint, with as many joints below it in the same branching, and about where it stood. Of several the nearest."""
    branchings: dict[tuple[int, ...], int] = {}
    then, now = _Hierarchy(before, branchings), _Hierarchy(after, branchings)
    same = {name: name for name in before.joint_names if name in now.parent}
    taken = set(same)
    found: dict[str, str] = {}
    for name in _parents_first(then):
        if name in same:
            continue
        above = then.parent[name]
        if above is not None and above not in same and above not in found:
            continue
        siblings = [n for n, parent in then.parent.items() if parent == above and n not in same and n not in found]
        beside = None if above is None else found.get(above, above)
        free = [n for n, parent in now.parent.items() if parent == beside and n not in taken]
        for own, other in _paired(then, now, siblings, free):
            found[own] = other
            taken.add(other)
    return tuple((name, found[name]) for name in before.joint_names if name in found)


class _Hierarchy:
    """Of a rig's joints by their names: the joint above (None: none), and where they stand from it at rest, metres."""

    def __init__(self, rig: Rig, branchings: dict[tuple[int, ...], int]) -> None:
        nodes = {int(node) for node in rig.joints}
        self.parent: dict[str, str | None] = {}
        self.offset: dict[str, Floats] = {}
        places = rig.rest_world[:, :3, 3]
        for node in map(int, rig.joints):
            above = int(rig.parents[node])
            while above >= 0 and above not in nodes:
                above = int(rig.parents[above])
            self.parent[rig.names[node]] = rig.names[above] if above >= 0 else None
            self.offset[rig.names[node]] = places[node] - (places[above] if above >= 0 else 0)
        self.shape: dict[str, int] = {}
        """How what hangs below each branches, whatever it is called: the same number for the same branching."""
        for name in reversed(_parents_first(self)):
            below = tuple(sorted(self.shape[n] for n in self.children.get(name, ())))
            self.shape[name] = branchings.setdefault(below, len(branchings))

    @cached_property
    def children(self) -> dict[str | None, list[str]]:
        """By the joint above, None for the roots."""
        out: dict[str | None, list[str]] = {}
        for name, above in self.parent.items():
            out.setdefault(above, []).append(name)
        return out


def _parents_first(hierarchy: _Hierarchy) -> list[str]:
    out = list(hierarchy.children.get(None, ()))
    for name in out:
        out += hierarchy.children.get(name, ())
    return out


def _paired(then: _Hierarchy, now: _Hierarchy, own: list[str], other: list[str]) -> list[tuple[str, str]]:
    """Those of ``own`` that one of ``other`` is, so that all together are as near as can be."""
    if not own or not other:
        return []
    away = np.full((len(own), len(other)), 1e3)
    for row, a in enumerate(own):
        for column, b in enumerate(other):
            if then.shape[a] == now.shape[b]:
                bone = max(float(np.linalg.norm(h.offset[n])) for h, n in ((then, a), (now, b)))
                away[row, column] = float(np.linalg.norm(then.offset[a] - now.offset[b])) / max(bone, 1e-6)
    rows, columns = linear_sum_assignment(away)
    return [(own[r], other[c]) for r, c in zip(rows, columns, strict=True) if away[r, c] <= FARTHEST]
