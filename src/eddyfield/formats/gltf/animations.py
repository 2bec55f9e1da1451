"""Animations of a glTF file: which are played, what they move, and the numbers that they change."""

from __future__ import annotations

import re

import numpy as np

from eddyfield.core.arrays import Floats
from eddyfield.core.rig import transforms
from eddyfield.core.rig.motion import Curve, Interpolation, Motion, Path, ShapeCurve

from ..errors import DamagedFile, FileError
from ..limits import MOST_CURVE_NUMBERS, Total
from ..names import unique_names
from .accessors import Accessors
from .document import Animation, Document, Sampler

FOV_POINTER = re.compile(r"/cameras/(\d{1,6})/perspective/yfov")
INTERPOLATIONS: dict[str, Interpolation] = {"STEP": "step", "LINEAR": "linear", "CUBICSPLINE": "cubic"}
PATHS: dict[str, tuple[Path, str]] = {
    "translation": ("translation", "VEC3"),
    "rotation": ("rotation", "VEC4"),
    "scale": ("scale", "VEC3"),
}


def animation_names_of(document: Document) -> tuple[str, ...]:
    return unique_names([a.name or f"animation_{i}" for i, a in enumerate(document.animations)])


def chosen_animations(document: Document, wanted: str | None) -> list[Animation]:
    animations = document.animations
    if wanted is not None:
        names = animation_names_of(document)
        if wanted not in names:
            has = "It has: " + ", ".join(names[:8]) + "." if names else "It has none."
            raise FileError(f"The file has no animation “{wanted}”.", has)
        return [animations[names.index(wanted)]]
    driven = [{c.target.node for c in a.channels if c.target.node is not None} for a in animations]
    together = sum(len(d) for d in driven) == len(set().union(*driven))
    return list(animations) if together else animations[:1]


def read_motion(document: Document, accessors: Accessors, chosen: list[Animation]) -> Motion:
    curves: list[Curve] = []
    duration = 0.0
    driven: set[tuple[int, Path]] = set()
    _bound(accessors, chosen)
    for animation in chosen:
        for channel in animation.channels:
            if channel.sampler >= len(animation.samplers):
                raise DamagedFile(f"An animation refers to sampler {channel.sampler}, which does not exist.")
            sampler = animation.samplers[channel.sampler]
            seconds = accessors.numbers(sampler.input, ("SCALAR",), "An animation's time")[:, 0]
            if not len(seconds):
                raise DamagedFile(f"Sampler {channel.sampler} of an animation has no keys.")
            if (np.diff(seconds) < 0).any():
                raise DamagedFile("An animation's key times run backwards.")
            duration = max(duration, float(seconds[-1]))
            node, path = channel.target.node, channel.target.path
            if node is None or path not in PATHS:
                continue
            if node >= len(document.nodes):
                raise DamagedFile(f"An animation drives node {node}, which does not exist.")
            kind, shape = PATHS[path]
            if (node, kind) not in driven:
                driven.add((node, kind))
                curves.append(_curve(accessors, sampler.output, sampler.interpolation, node, kind, shape, seconds))
    return Motion(tuple(curves), duration, " + ".join(a.name or "" for a in chosen))


def fov_curves(document: Document, accessors: Accessors, chosen: list[Animation]) -> dict[int, ShapeCurve]:
    """The curves of vertical fields of view, radians, by camera (KHR_animation_pointer)."""
    out: dict[int, ShapeCurve] = {}
    for animation in chosen:
        for channel in animation.channels:
            pointer = channel.target.extensions.pointer
            found = FOV_POINTER.fullmatch(pointer.pointer) if pointer else None
            if found is None or int(found[1]) >= len(document.cameras) or int(found[1]) in out:
                continue
            sampler = animation.samplers[channel.sampler]
            out[int(found[1])] = _numbers_over_time(accessors, sampler, (0,), f"The field of view of camera {found[1]}")
    return out


def shape_curves(
    accessors: Accessors, chosen: list[Animation], columns: dict[int, list[int]]
) -> tuple[ShapeCurve, ...]:
    """The curves of the weights of shapes; ``columns`` are the places of each node's shapes."""
    out: dict[int, ShapeCurve] = {}
    for animation in chosen:
        for channel in animation.channels:
            node = channel.target.node
            if channel.target.path != "weights" or node is None or node not in columns or node in out:
                continue
            sampler = animation.samplers[channel.sampler]
            out[node] = _numbers_over_time(accessors, sampler, tuple(columns[node]), f"The weights of node {node}")
    return tuple(out.values())


def _numbers_over_time(accessors: Accessors, sampler: Sampler, columns: tuple[int, ...], what: str) -> ShapeCurve:
    kind = _interpolation(sampler.interpolation)
    seconds = accessors.numbers(sampler.input, ("SCALAR",), "An animation's time")[:, 0]
    values = accessors.numbers(sampler.output, ("SCALAR",), what)[:, 0]
    count = len(seconds) * (3 if kind == "cubic" else 1) * len(columns)
    if len(values) < count:
        raise DamagedFile(f"{what} are fewer than its key times ask for.")
    table = values[:count].reshape(len(seconds), -1, len(columns))
    if kind == "cubic":
        return ShapeCurve(columns, kind, seconds, table[:, 1], table[:, 0], table[:, 2])
    return ShapeCurve(columns, kind, seconds, table[:, 0])


def _interpolation(name: str) -> Interpolation:
    if name not in INTERPOLATIONS:
        raise DamagedFile(f"An animation interpolates by “{name[:40]}”, which glTF does not know.")
    return INTERPOLATIONS[name]


def _bound(accessors: Accessors, chosen: list[Animation]) -> None:
    """Refuse what would come to too much, before any of it is read."""
    numbers = Total("numbers of animation", MOST_CURVE_NUMBERS, "Bring in a shorter or simpler motion.")
    for animation in chosen:
        for channel in animation.channels:
            if channel.sampler < len(animation.samplers):
                sampler = animation.samplers[channel.sampler]
                numbers.add(accessors.count(sampler.input, "An animation's time"))
                numbers.add(4 * accessors.count(sampler.output, "An animation's values"))


def _curve(
    accessors: Accessors, output: int, interpolation: str, node: int, path: Path, shape: str, seconds: Floats
) -> Curve:
    kind = _interpolation(interpolation)
    values = accessors.numbers(output, (shape,), f"The {path} of node {node}")
    count = len(seconds)
    if len(values) < count * (3 if kind == "cubic" else 1):
        raise DamagedFile(f"The {path} of node {node} has fewer values than key times.")
    if kind == "cubic":
        triples = values[: 3 * count].reshape(count, 3, -1)
        return Curve(node, path, kind, seconds, triples[:, 1], triples[:, 0], triples[:, 2])
    values = values[:count]
    return Curve(node, path, kind, seconds, transforms.quaternion_normalized(values) if path == "rotation" else values)
