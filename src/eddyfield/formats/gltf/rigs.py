"""Which rigs a glTF holds: skins that share joints, or whose joints hang below each other, are one; any can come in alone."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components

from ..names import unique_names
from .document import Document


@dataclass(frozen=True)
class RigNodes:
    """The nodes of one rig of a file: its joints, all that is drawn with them, and those above, which carry it."""

    joints: frozenset[int]
    nodes: frozenset[int]
    above: frozenset[int]


def rigs_of(document: Document, parents: NDArray[np.int64]) -> dict[str, RigNodes]:
    """The rigs of a file by name, in file order, whichever scene they are in; none where there are not at least two."""
    bearers: dict[int, list[int]] = {}
    for index, node in enumerate(document.nodes):
        if node.mesh is not None and node.skin is not None and node.skin < len(document.skins):
            bearers.setdefault(node.skin, []).append(index)
    skins = sorted(bearers)
    count = len(document.nodes)
    joints = {skin: [j for j in document.skins[skin].joints if j < count] for skin in skins}
    skins = [skin for skin in skins if joints[skin]]
    if len(skins) < 2:
        return {}
    above = {joint: _line(joint, parents) for skin in skins for joint in joints[skin]}
    of_joint = {joint: row for row, skin in enumerate(skins) for joint in joints[skin]}
    touching = [
        (row, of_joint[other])
        for row, skin in enumerate(skins)
        for joint in joints[skin]
        for other in above[joint]
        if other in of_joint
    ]
    rows, columns = np.array(touching).T
    links = coo_array((np.ones(len(rows)), (rows, columns)), shape=(len(skins), len(skins)))
    found, label = connected_components(links, directed=False)
    if found < 2:
        return {}
    groups = [[skin for row, skin in enumerate(skins) if label[row] == group] for group in range(found)]
    own = [frozenset(joint for skin in group for joint in joints[skin]) for group in groups]
    passed = [frozenset(node for joint in group for node in above[joint]) for group in own]
    names, out = [], []
    for index, (group, of_group) in enumerate(zip(groups, own, strict=True)):
        others = frozenset[int]().union(*(p for i, p in enumerate(passed) if i != index))
        tops = {next(n for n in reversed(above[joint]) if n not in others) for joint in of_group}
        names.append(document.nodes[min(tops)].name or f"rig {index + 1}")
        nodes = _below(document, tops) | {bearer for skin in group for bearer in bearers[skin]}
        out.append(RigNodes(of_group, frozenset(nodes), passed[index]))
    return dict(zip(unique_names(names), out, strict=True))


def _line(node: int, parents: NDArray[np.int64]) -> list[int]:
    """A node and those above it, up to its root; a node that is its own ancestor is refused where depths are checked."""
    out: list[int] = []
    while node >= 0 and len(out) <= len(parents):
        out.append(node)
        node = int(parents[node])
    return out


def _below(document: Document, tops: set[int]) -> set[int]:
    waiting, seen = list(tops), set[int]()
    while waiting:
        node = waiting.pop()
        if node not in seen and node < len(document.nodes):
            seen.add(node)
            waiting.extend(document.nodes[node].children)
    return seen
