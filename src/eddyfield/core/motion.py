"""Motion: sampled or keyed curves that move the nodes of a rig, as motion files carry them.

Curves that share their key times and their way of interpolating are evaluated together, as one set of array operations.
"""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from . import transforms
from .transforms import Floats

Ints = NDArray[np.int64]
Path = Literal["translation", "rotation", "scale"]
Interpolation = Literal["step", "linear", "cubic"]


@dataclass(frozen=True, eq=False)
class Curve:
    """One property of one node over time.

    ``seconds`` (K,) increase. ``values`` (K, 3) or (K, 4); for ``cubic`` (Hermite) ``tangents_in`` and ``tangents_out``
    have the same shape, in units per second. Rotations are quaternions (x, y, z, w).
    """

    node: int
    path: Path
    interpolation: Interpolation
    seconds: Floats
    values: Floats
    tangents_in: Floats | None = None
    tangents_out: Floats | None = None


@dataclass(frozen=True, eq=False)
class _Group:
    path: Path
    interpolation: Interpolation
    seconds: Floats
    nodes: Ints
    values: Floats  # (K, n, 3 or 4)
    tangents_in: Floats | None
    tangents_out: Floats | None

    def sample(self, at: Floats, columns: Ints) -> Floats:
        """Values at times, shape (len(at), len(columns), 3 or 4)."""
        values = self.values[:, columns]
        rotation = self.path == "rotation"
        if len(self.seconds) == 1:
            out = np.broadcast_to(values[0], (len(at), *values.shape[1:]))
            return transforms.quaternion_normalized(out) if rotation else out
        clamped = np.clip(at, self.seconds[0], self.seconds[-1])
        segment = np.clip(np.searchsorted(self.seconds, clamped, side="right") - 1, 0, len(self.seconds) - 1)
        if self.interpolation == "step":
            out = values[segment]
            return transforms.quaternion_normalized(out) if rotation else out
        segment = np.minimum(segment, len(self.seconds) - 2)
        gap = self.seconds[segment + 1] - self.seconds[segment]
        # Two keys at one time are a jump: the segment between them has no length and is only met at the very end.
        share = np.where(gap > 0, (clamped - self.seconds[segment]) / np.where(gap > 0, gap, 1.0), 1.0)
        start, end = values[segment], values[segment + 1]
        if self.interpolation == "linear":
            if rotation:
                return transforms.slerp(start, end, np.broadcast_to(share[:, None], start.shape[:2]))
            return start + (end - start) * share[:, None, None]
        assert self.tangents_in is not None
        assert self.tangents_out is not None
        t = share[:, None, None]
        t2, t3 = t * t, t * t * t
        leaving = self.tangents_out[:, columns][segment] * gap[:, None, None]
        arriving = self.tangents_in[:, columns][segment + 1] * gap[:, None, None]
        out = (
            (2 * t3 - 3 * t2 + 1) * start
            + (t3 - 2 * t2 + t) * leaving
            + (-2 * t3 + 3 * t2) * end
            + (t3 - t2) * arriving
        )
        return transforms.quaternion_normalized(out) if rotation else out


@dataclass(frozen=True, eq=False)
class Motion:
    """The curves that are played together."""

    curves: tuple[Curve, ...] = ()
    duration_seconds: float = 0.0
    name: str = ""

    @cached_property
    def nodes(self) -> Ints:
        """Indices of the nodes that are moved, in order."""
        return np.array(sorted({c.node for c in self.curves}), dtype=np.int64)

    @cached_property
    def _groups(self) -> tuple[_Group, ...]:
        shared: dict[tuple[Path, Interpolation, bytes], list[Curve]] = defaultdict(list)
        for curve in self.curves:
            shared[curve.path, curve.interpolation, curve.seconds.tobytes()].append(curve)
        groups = []
        for (path, interpolation, _), curves in shared.items():
            cubic = interpolation == "cubic"
            groups.append(
                _Group(
                    path,
                    interpolation,
                    curves[0].seconds,
                    np.array([c.node for c in curves], dtype=np.int64),
                    np.stack([c.values for c in curves], axis=1),
                    np.stack([c.tangents_in for c in curves if c.tangents_in is not None], axis=1) if cubic else None,
                    np.stack([c.tangents_out for c in curves if c.tangents_out is not None], axis=1) if cubic else None,
                )
            )
        return tuple(groups)

    def sample(
        self, seconds: Floats, nodes: Ints, translation: Floats, quaternion: Floats, scale: Floats
    ) -> tuple[Floats, Floats, Floats]:
        """Translations, quaternions and scales of ``nodes``, each (len(seconds), len(nodes), ...).

        The three arrays given are the rest values, which stand where nothing is keyed.
        """
        column_of = {int(n): i for i, n in enumerate(nodes)}
        out = {"translation": translation, "rotation": quaternion, "scale": scale}
        owned: set[str] = set()
        for group in self._groups:
            columns = np.array([i for i, n in enumerate(group.nodes) if int(n) in column_of], dtype=np.int64)
            if not len(columns):
                continue
            to = np.array([column_of[int(group.nodes[i])] for i in columns])
            values = group.sample(seconds, columns)
            if len(to) == len(nodes) and (to == np.arange(len(nodes))).all():
                out[group.path] = values
            else:
                if group.path not in owned:
                    out[group.path] = np.array(out[group.path])
                out[group.path][:, to] = values
            owned.add(group.path)
        return out["translation"], out["rotation"], out["scale"]

    @cached_property
    def sampled_on_every_frame(self) -> bool:
        """Whether the keys are samples of a recording rather than an animator's: in most curves many, evenly spaced."""

        def sampled(curve: Curve) -> bool:
            gaps = np.diff(curve.seconds)
            if len(gaps) < 11:
                return False
            usual = np.median(gaps)
            return bool(usual <= 1 / 11.5 and np.mean(np.abs(gaps - usual) < 1e-3) > 0.9)

        return 2 * sum(sampled(c) for c in self.curves) > len(self.curves)

    def key_pose_seconds(self) -> Floats:
        """Times at which at least half of the animated nodes have a key; none where every frame is a sample."""
        if not self.curves or self.sampled_on_every_frame:
            return np.zeros(0)
        by_node: dict[int, set[float]] = defaultdict(set)
        for curve in self.curves:
            if len(curve.seconds) > 1:
                by_node[curve.node].update(np.round(curve.seconds, 6).tolist())
        if not by_node:
            return np.zeros(0)
        times, counts = np.unique(np.concatenate([list(s) for s in by_node.values()]), return_counts=True)
        return times[2 * counts >= len(by_node)]
