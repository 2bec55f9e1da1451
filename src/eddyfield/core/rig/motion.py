"""Motion: sampled or keyed curves that move the nodes of a rig, as motion files carry them.

Curves that share their key times and their way of interpolating are evaluated together, as one set of array operations.
"""

from __future__ import annotations

import dataclasses
from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache, cached_property
from types import ModuleType
from typing import Literal

import numpy as np

from ..arrays import Floats, Ints
from ..time.frames import COMMON_RATES, file_tolerance_s
from . import transforms

LEAST_SAMPLES = 9
KEYED_RATES = sorted(rate for rate in COMMON_RATES if 23 < rate <= 60)
MOST_HELD = 4
UNEVEN_SHARE = 1e-3
HELD_WITHIN = 1e-7
"""How near two samples are that hold one value: files keep single precision."""
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
    """Curves of one path with the same key times. Arrays are (components, nodes, keys): times run along the last axis,
    so that every operation runs over memory in order."""

    path: Path
    interpolation: Interpolation
    seconds: Floats
    nodes: Ints
    values: Floats
    tangents_in: Floats | None
    tangents_out: Floats | None

    def sample(self, at: Floats, columns: Ints) -> Floats:
        """Values of some of the nodes at times, (components, len(columns), len(at))."""
        every = len(columns) == len(self.nodes)
        values = self.values if every else self.values[:, columns]
        rotation = self.path == "rotation"
        if len(self.seconds) == 1:
            out = np.broadcast_to(values, (*values.shape[:2], len(at)))
            return _unit(out) if rotation else out
        segment, share, gap = self.segments(at)
        if self.interpolation == "step":
            out = values[..., segment]
            return _unit(out) if rotation else out
        if self.interpolation == "linear":
            if rotation:
                return self._slerped(columns, every, segment, share)
            start = values[..., segment]
            return start + (values[..., segment + 1] - start) * share
        assert self.tangents_in is not None
        assert self.tangents_out is not None
        square, cube = share * share, share**3
        out = (2 * cube - 3 * square + 1) * values[..., segment] + (3 * square - 2 * cube) * values[..., segment + 1]
        out += ((cube - 2 * square + share) * gap) * self.tangents_out[:, columns][..., segment]
        out += ((cube - square) * gap) * self.tangents_in[:, columns][..., segment + 1]
        return _unit(out) if rotation else out

    def segments(self, at: Floats) -> tuple[Ints, Floats, Floats]:
        """Per time: the key that its segment begins with, the share of the segment that is over, its length in seconds."""
        clamped = np.clip(at, self.seconds[0], self.seconds[-1])
        # A key within the file's rounding of a time is a key at that time, not one that comes a frame late.
        segment = np.searchsorted(self.seconds, clamped + file_tolerance_s(clamped), side="right") - 1
        if self.interpolation == "step":
            return segment, np.zeros(len(at)), np.zeros(len(at))
        segment = np.minimum(segment, len(self.seconds) - 2)
        gap = self.seconds[segment + 1] - self.seconds[segment]
        # Two keys at one time are a jump: the segment between them has no length and is only met at the very end.
        share = np.where(gap > 0, (clamped - self.seconds[segment]) / np.where(gap > 0, gap, 1.0), 1.0)
        return segment, np.maximum(share, 0.0), gap

    def sample_into(self, at: Floats, of: Ints, to: Ints, out: Floats) -> None:
        """As ``sample`` of the columns ``of``, compiled, into the columns ``to`` of ``out`` (len(at), columns, components)."""
        compiled = compiled_loops()
        if compiled is None or self.interpolation != "linear" or len(self.seconds) == 1:
            out[:, to] = self.sample(at, of).transpose(2, 1, 0)
            return
        segment, share, _ = self.segments(at)
        if self.path == "rotation":
            compiled.turn_keys(self.values, *self._arcs, segment, share, of, to, out)
        else:
            compiled.blend_keys(self.values, segment, share, of, to, out)

    @cached_property
    def _arcs(self) -> tuple[Floats, Floats, Floats]:
        """Per segment: the side (1 or -1) its end is taken on, the angle to it, and 1 / the angle's sine (0: too small)."""
        dot = np.einsum("cnk,cnk->nk", self.values[..., :-1], self.values[..., 1:])
        angle = np.arccos(np.minimum(np.abs(dot), 1.0))
        sine = np.sin(angle)
        inverse = np.where(sine < 1e-9, 0.0, 1.0 / np.where(sine < 1e-9, 1.0, sine))
        return np.where(dot < 0, -1.0, 1.0), angle, inverse

    def _slerped(self, columns: Ints, every: bool, segment: Ints, share: Floats) -> Floats:
        values, (sides, angles, inverses) = self.values, self._arcs
        if not every:
            values, sides, angles, inverses = values[:, columns], sides[columns], angles[columns], inverses[columns]
        angle, inverse = angles[:, segment], inverses[:, segment]
        leaving = np.where(inverse == 0, 1.0 - share, np.sin((1.0 - share) * angle) * inverse)
        arriving = np.where(inverse == 0, share, np.sin(share * angle) * inverse) * sides[:, segment]
        out = leaving * values[..., segment]
        out += arriving * values[..., segment + 1]
        return out


@cache
def compiled_loops() -> ModuleType | None:
    """The compiled loops, which take long to load; None where this machine cannot have them, and NumPy does it all."""
    try:
        from . import compiled
    except Exception:  # whatever is wrong with the compiler or its files: it is slower without, not wrong
        return None
    return compiled


def _unit(quaternions: Floats) -> Floats:
    """Unit quaternions of (4, nodes, times); one of no length becomes the identity."""
    return np.moveaxis(transforms.quaternion_normalized(np.moveaxis(quaternions, 0, -1)), -1, 0)


@dataclass(frozen=True, eq=False)
class ShapeCurve:
    """Weights of some shapes over time: ``columns`` are their places among all shapes of the rig; the rest is as in ``Curve``,
    values (K, columns)."""

    columns: tuple[int, ...]
    interpolation: Interpolation
    seconds: Floats
    values: Floats
    tangents_in: Floats | None = None
    tangents_out: Floats | None = None

    def sample(self, at: Floats) -> Floats:
        """At times in seconds, (times, columns)."""

        def arranged(values: Floats | None) -> Floats | None:
            return None if values is None else np.ascontiguousarray(values.T[:, None])

        group = _Group(
            "translation", self.interpolation, self.seconds, np.zeros(1, dtype=np.int64),
            np.ascontiguousarray(self.values.T[:, None]), arranged(self.tangents_in), arranged(self.tangents_out),
        )  # fmt: skip
        return group.sample(at, np.zeros(1, dtype=np.int64))[:, 0].T


@dataclass(frozen=True, eq=False)
class Motion:
    """The curves that are played together. ``rest_weights`` (shapes,) are those of shapes that nothing animates."""

    curves: tuple[Curve, ...] = ()
    duration_seconds: float = 0.0
    name: str = ""
    shape_curves: tuple[ShapeCurve, ...] = ()
    rest_weights: Floats = dataclasses.field(default_factory=lambda: np.zeros(0))

    @property
    def moves_anything(self) -> bool:
        return bool(self.curves or self.shape_curves)

    def shape_weights(self, seconds: Floats) -> Floats:
        """The weight of every shape at times in seconds, (times, shapes)."""
        out = np.tile(self.rest_weights, (len(seconds), 1))
        for curve in self.shape_curves:
            out[:, list(curve.columns)] = curve.sample(seconds)
        return out

    @cached_property
    def nodes(self) -> Ints:
        """Indices of the nodes that are moved, in order."""
        return np.array(sorted({c.node for c in self.curves}), dtype=np.int64)

    @cached_property
    def _groups(self) -> tuple[_Group, ...]:
        shared: dict[tuple[Path, Interpolation, bytes], list[Curve]] = defaultdict(list)
        for curve in self.curves:
            shared[curve.path, curve.interpolation, curve.seconds.tobytes()].append(curve)

        def together(curves: list[Curve], name: str) -> Floats:
            return np.ascontiguousarray(np.stack([getattr(c, name) for c in curves], axis=1).transpose(2, 1, 0))

        groups = []
        for (path, interpolation, _), curves in shared.items():
            tangents = (
                together(curves, n) if interpolation == "cubic" else None for n in ("tangents_in", "tangents_out")
            )
            nodes = np.array([c.node for c in curves], dtype=np.int64)
            groups.append(_Group(path, interpolation, curves[0].seconds, nodes, together(curves, "values"), *tangents))
        return tuple(groups)

    def sample(self, seconds: Floats, nodes: Ints, rest: dict[Path, Floats]) -> dict[Path, Floats]:
        """Translation, rotation and scale of ``nodes`` at times, each (components, len(nodes), len(seconds)).

        ``rest`` holds the values (all nodes of the rig, components) that stand where nothing is keyed.
        """
        out: dict[Path, Floats] = {}
        for group, columns, to in self._groups_of(nodes):
            values = group.sample(seconds, columns)
            if len(to) == len(nodes) and (to == np.arange(len(nodes))).all():
                out[group.path] = values
                continue
            if group.path not in out:
                still = rest[group.path][nodes].T[..., None]
                out[group.path] = np.broadcast_to(still, (*still.shape[:2], len(seconds))).copy()
            out[group.path][:, to] = values
        for path, values in rest.items():
            if path not in out:
                still = values[nodes].T[..., None]
                out[path] = np.broadcast_to(still, (*still.shape[:2], len(seconds)))
        return out

    def sample_rows(self, seconds: Floats, nodes: Ints, rest: dict[Path, Floats]) -> dict[Path, Floats]:
        """As ``sample``, compiled and by rows: each (len(seconds), len(nodes), components)."""
        out = {path: np.empty((len(seconds), len(nodes), values.shape[1])) for path, values in rest.items()}
        for path, values in rest.items():
            out[path][:] = values[nodes]
        for group, columns, to in self._groups_of(nodes):
            group.sample_into(seconds, columns, to, out[group.path])
        return out

    def _groups_of(self, nodes: Ints) -> Iterator[tuple[_Group, Ints, Ints]]:
        """The groups that move some of ``nodes``, with the places of these in the group and in ``nodes``."""
        column_of = {int(n): i for i, n in enumerate(nodes)}
        for group in self._groups:
            columns = np.array([i for i, n in enumerate(group.nodes) if int(n) in column_of], dtype=np.int64)
            if len(columns):
                yield group, columns, np.array([column_of[int(group.nodes[i])] for i in columns], dtype=np.int64)

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

    @cached_property
    def sample_interval_s(self) -> float | None:
        """How far apart the samples of a motion lie that was sampled evenly, seconds: where values are held over several, the
        time from one new value to the next. Of one that was keyed it is a frame of the slowest common rate, no slower than 24,
        on whose frames its keys stand. None where there is no such."""
        moving = [c for c in self.curves if len(c.seconds) >= LEAST_SAMPLES]
        if not moving:
            return None
        if not self.sampled_on_every_frame:
            times = np.unique(np.concatenate([c.seconds for c in moving]))
            off = {
                rate: np.abs(times * float(rate) - np.rint(times * float(rate))).max() / float(rate)
                for rate in KEYED_RATES
            }
            near = float(file_tolerance_s(times[-1])) * 2
            return next((float(1 / rate) for rate in KEYED_RATES if off[rate] <= near), None)
        times = max(moving, key=lambda c: len(c.seconds)).seconds
        gaps = np.diff(times)
        interval = float(times[-1] - times[0]) / len(gaps)
        if np.abs(gaps - interval).max() > UNEVEN_SHARE * interval + float(file_tolerance_s(times[-1])) * 2:
            return None
        of_all = [c.values for c in moving if len(c.seconds) == len(times)]
        news = (
            np.flatnonzero(np.any([(np.abs(np.diff(v, axis=0)) > HELD_WITHIN).any(axis=1) for v in of_all], axis=0)) + 1
        )
        steps = int(np.gcd.reduce(np.diff(news))) if len(news) > LEAST_SAMPLES // 2 else 1
        return interval * (steps if 1 <= steps <= MOST_HELD else 1)

    @cached_property
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
