"""Stand-ins for what is not built yet: simple shapes and figures at given sizes, as a few words of JSON.

They are made with their feet on the ground in the middle of the world, facing +Z, ``height`` metres high.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Annotated, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from eddyfield.core.arrays import Floats
from eddyfield.core.rig.motion import Motion
from eddyfield.core.rig.rig import Mesh, Rig, Skinning
from eddyfield.core.rig.source import RigSource

from .errors import DamagedFile
from .format import Format, Resolver

Shape = Literal["box", "ball", "slope", "steps", "wall", "standing figure", "seated figure"]
SHAPES: tuple[Shape, ...] = ("box", "ball", "slope", "steps", "wall", "standing figure", "seated figure")
Metres = Annotated[float, Field(ge=0.01, le=1000.0)]
COLOUR = (0.56, 0.54, 0.5)
RISE_M = 0.17
MOST_STEPS = 200
ROUND = 24


class StandIn(BaseModel):
    """What stands in, and how large it is. Figures go by their height alone, when they stand up."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)
    shape: Shape
    width_m: Metres = 1.0
    height_m: Metres = 1.0
    depth_m: Metres = 1.0

    def __init__(self, shape: Shape, width_m: float = 1.0, height_m: float = 1.0, depth_m: float = 1.0) -> None:
        super().__init__(shape=shape, width_m=width_m, height_m=height_m, depth_m=depth_m)


class _Written(BaseModel):
    model_config = ConfigDict(extra="forbid")
    version: Literal[1] = 1
    stand_in: StandIn


def write(stand_in: StandIn) -> bytes:
    """As it is kept."""
    return _Written(stand_in=stand_in).model_dump_json().encode()


def read(data: bytes) -> Rig:
    """A rig that stands still, of what ``write`` wrote. Raises ``DamagedFile``."""
    try:
        wanted = _Written.model_validate_json(data).stand_in
    except ValidationError as error:
        raise DamagedFile(f"{error.errors()[0]['msg']} in a stand-in") from error
    if wanted.shape in FIGURES:
        return _figure(FIGURES[wanted.shape], wanted.height_m)
    corners, triangles = SOLIDS[wanted.shape](wanted)
    return _solid(wanted.shape, corners * [wanted.width_m, wanted.height_m, wanted.depth_m], triangles)


Solid = tuple[Floats, NDArray[np.int64]]
"""Points in a box 1 wide (x), high (y, from 0) and deep (z), and triangles that face outwards."""


def _box(_: StandIn) -> Solid:
    return _prism(np.array([[-0.5, 0.0], [0.5, 0.0], [0.5, 1.0], [-0.5, 1.0]]))


def _slope(_: StandIn) -> Solid:
    return _prism(np.array([[-0.5, 0.0], [0.5, 0.0], [0.5, 1.0]]))


def _steps(wanted: StandIn) -> Solid:
    count = max(1, min(MOST_STEPS, round(wanted.height_m / RISE_M)))
    outline = [[-0.5, 0.0], [0.5, 0.0], [0.5, 1.0]]
    for step in range(count - 1, 0, -1):
        outline += [[step / count - 0.5, (step + 1) / count], [step / count - 0.5, step / count]]
    return _prism(np.array([*outline, [-0.5, 1 / count]]))


def _prism(outline: Floats) -> Solid:
    """An outline (x, y), counter-clockwise and as high as it is seen from its right end, drawn out along z."""
    count = len(outline)
    front = np.column_stack([outline, np.full(count, 0.5)])
    corners = np.concatenate([front, front * [1, 1, -1]])
    triangles = []
    for at in range(count):
        after = (at + 1) % count
        triangles += [(at, count + at, count + after), (at, count + after, after)]
    # All of an outline is seen from its corner at the lower right.
    fan = [(1, at, (at + 1) % count) for at in range(2, count)]
    triangles += fan + [(count + a, count + c, count + b) for a, b, c in fan]
    return corners, np.array(triangles, dtype=np.int64)


def _ball(_: StandIn) -> Solid:
    rows = ROUND // 2
    down, round_ = np.meshgrid(np.linspace(0, np.pi, rows + 1), 2 * np.pi * np.arange(ROUND) / ROUND, indexing="ij")
    points = np.stack([np.sin(down) * np.sin(round_), np.cos(down), np.sin(down) * np.cos(round_)], axis=-1) * 0.5
    triangles = []
    for row in range(rows):
        for at in range(ROUND):
            a, b = row * ROUND + at, row * ROUND + (at + 1) % ROUND
            triangles += [(a, a + ROUND, b + ROUND), (a, b + ROUND, b)]
    return points.reshape(-1, 3) + [0, 0.5, 0], np.array(triangles, dtype=np.int64)


SOLIDS: dict[str, Callable[[StandIn], Solid]] = {
    "box": _box, "ball": _ball, "slope": _slope, "steps": _steps, "wall": _box,
}  # fmt: skip


def _solid(name: str, corners: Floats, triangles: NDArray[np.int64]) -> Rig:
    """Every triangle with corners of its own: its faces are flat."""
    points = corners[triangles]
    normals = np.cross(points[:, 1] - points[:, 0], points[:, 2] - points[:, 0])
    length = np.linalg.norm(normals, axis=-1, keepdims=True)
    keep = length[:, 0] > 1e-12
    points, normals = points[keep], (normals / np.where(length > 1e-12, length, 1.0))[keep]
    count = 3 * len(points)
    slots, weights = np.zeros((count, 4), dtype=np.uint16), np.zeros((count, 4), dtype=np.float32)
    weights[:, 0] = 1.0
    mesh = Mesh(
        points.reshape(-1, 3).astype(np.float32),
        np.repeat(normals, 3, axis=0).astype(np.float32),
        np.tile(np.array(COLOUR, dtype=np.float32), (count, 1)),
        slots,
        weights,
        np.arange(count, dtype=np.uint32).reshape(-1, 3),
    )
    nodes = _still((name,), np.array([-1]), np.zeros((1, 3)), joints=0)
    return Rig(**nodes, mesh=mesh, skinning=Skinning(np.array([0]), np.eye(4)[None]))  # type: ignore[arg-type]


# Places of joints from the one above, in shares of the height when standing up: (name, above, x, y, z).
STANDING: tuple[tuple[str, str, float, float, float], ...] = (
    ("hips", "", 0.0, 0.53, 0.0), ("spine", "hips", 0.0, 0.07, 0.0), ("chest", "spine", 0.0, 0.12, 0.0),
    ("neck", "chest", 0.0, 0.13, 0.0), ("head", "neck", 0.0, 0.03, 0.01), ("crown", "head", 0.0, 0.12, 0.0),
    *(
        joint
        for side, to in (("l", 1.0), ("r", -1.0))
        for joint in (
            (f"shoulder_{side}", "chest", to * 0.03, 0.1, 0.0),
            (f"upper_arm_{side}", f"shoulder_{side}", to * 0.08, 0.0, 0.0),
            (f"forearm_{side}", f"upper_arm_{side}", to * 0.03, -0.17, 0.0),
            (f"hand_{side}", f"forearm_{side}", to * 0.01, -0.15, 0.01),
            (f"fingers_{side}", f"hand_{side}", 0.0, -0.09, 0.01),
            (f"thigh_{side}", "hips", to * 0.055, -0.02, 0.0),
            (f"shin_{side}", f"thigh_{side}", 0.0, -0.24, 0.005),
            (f"foot_{side}", f"shin_{side}", 0.0, -0.23, -0.01),
            (f"toe_{side}", f"foot_{side}", 0.0, -0.035, 0.1),
        )
    ),
)  # fmt: skip
SITS = {"hips": (0.0, 0.285, 0.0), "shin": (0.0, 0.0, 0.245), "forearm": (0.0, -0.16, 0.03), "hand": (0.0, -0.02, 0.15)}
SEATED = tuple(
    (name, above, *(x if name != "hips" else 0.0, *SITS[name.split("_")[0]][1:])) if name.split("_")[0] in SITS
    else (name, above, x, y, z)
    for name, above, x, y, z in STANDING
)  # fmt: skip
FIGURES = {"standing figure": STANDING, "seated figure": SEATED}


def _figure(joints: tuple[tuple[str, str, float, float, float], ...], height_m: float) -> Rig:
    names = tuple(joint[0] for joint in joints)
    parents = np.array([names.index(above) if above else -1 for _, above, *_ in joints])
    places = np.array([joint[2:] for joint in joints]) * height_m
    return Rig(**_still(names, parents, places, joints=len(names)))  # type: ignore[arg-type]


def _still(names: tuple[str, ...], parents: NDArray[np.int64], places: Floats, joints: int) -> dict[str, object]:
    """Nodes that nothing moves, the first of which are joints."""
    count = len(names)
    matrices = np.tile(np.eye(4), (count, 1, 1))
    matrices[:, :3, 3] = places
    return {
        "names": names, "parents": parents, "rest_translation": places,
        "rest_quaternion": np.tile([0.0, 0.0, 0.0, 1.0], (count, 1)), "rest_scale": np.ones((count, 3)),
        "rest_matrices": matrices, "joints": np.arange(joints), "motion": Motion(), "faces_z": True,
    }  # fmt: skip


def _read(data: bytes, source: RigSource, resolve: Resolver | None, with_mesh: bool) -> Rig:
    return replace(read(data), scale=source.scale)


FORMAT = Format("stand-in", "Stand-in", (".standin",), 1.0, _read)
