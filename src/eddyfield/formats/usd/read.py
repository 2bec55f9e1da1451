"""USD in: the arrays that a stage comes to become a ``Rig``."""

from __future__ import annotations

import json
import tempfile
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from eddyfield.core.arrays import Floats
from eddyfield.core.rig import transforms
from eddyfield.core.rig.look import MeshPart, Shape
from eddyfield.core.rig.motion import Curve, Motion, ShapeCurve
from eddyfield.core.rig.rig import FileCamera, Mesh, Rig, Skinning
from eddyfield.core.rig.source import RigSource

from ..errors import DamagedFile, FileError
from ..format import Resolver
from ..limits import DEEPEST_NODES, check_depth
from ..names import unique_names
from ..own_process import arrays_from
from ..rigs import chosen_rig

SECONDS = 60
PLAIN = (0.62, 0.58, 0.52)
STAGE = "stage"
Arrays = dict[str, NDArray[Any]]


def read(data: bytes, source: RigSource, resolve: Resolver | None = None, with_mesh: bool = True) -> Rig:
    """Raises ``FileError`` for what cannot be read safely. ``scale`` multiplies what the stage says of its units."""
    arrays = _taken_apart(data)
    told = json.loads(arrays["description"].tobytes())
    if "refused" in told:
        raise FileError(*told["refused"])
    if not told["nodes"]:
        raise FileError("The file is no USD, or holds nothing that can be brought in.", "Export it with its models.")
    stage = np.eye(4)
    if told["up"] == "Z":
        stage[:3, :3] = [[1, 0, 0], [0, 0, 1], [0, -1, 0]]
    stage[:3] *= float(told["metres"])
    locals_ = [stage[None], *(_columns(arrays[node["local"]]) for node in told["nodes"])]
    parents = np.array([-1, *(node["parent"] + 1 for node in told["nodes"])], dtype=np.int64)
    joints = [1 + i for i, node in enumerate(told["nodes"]) if node["joint"]]
    curves = [
        curve
        for index, node in enumerate(told["nodes"], start=1)
        if node["times"]
        for curve in _curves(index, arrays[node["times"]], locals_[index])
    ]
    if not joints:
        joints = sorted({curve.node for curve in curves} - {1 + c["node"] for c in told["cameras"]})
    rigs = dict(zip(unique_names([rig["name"] for rig in told["rigs"]]), told["rigs"], strict=True))
    meshes = told["meshes"]
    if source.rig is not None:
        chosen = chosen_rig(rigs, source.rig)
        joints = [1 + joint for joint in chosen["joints"]]
        meshes = [mesh for mesh in meshes if mesh["path"].startswith(chosen["path"])]
        moved = _with_carriers(joints, parents)
        curves = [curve for curve in curves if curve.node in moved]
    names = unique_names([STAGE, *(node["name"] for node in told["nodes"])], joints)
    rest = np.stack([matrices[0] for matrices in locals_])
    translation, quaternion, scale = _parts(rest)
    mesh: Mesh | None = None
    skinning: Skinning | None = None
    shape_curves: tuple[ShapeCurve, ...] = ()
    weights: Floats = np.zeros(0)
    if with_mesh and meshes:
        mesh, skinning, shape_curves, weights = _mesh(meshes, arrays)
    motion = Motion(tuple(curves), float(told["seconds"]), "", shape_curves, weights)
    rig = Rig(
        names, parents, translation, quaternion, scale, rest, np.array(joints, dtype=np.int64), motion,
        tuple(_camera(camera, arrays, float(told["metres"]) * source.scale) for camera in told["cameras"]),
        mesh, skinning, source.scale, faces_z=told["up"] == "Y", notes=tuple(told["notes"]),
        alternatives=tuple(rigs),
    )  # fmt: skip
    check_depth(len(rig.levels), DEEPEST_NODES)
    return rig


def _with_carriers(joints: list[int], parents: NDArray[np.int64]) -> set[int]:
    """Joints, and all that carries them."""
    out, waiting = set[int](), list(joints)
    while waiting:
        node = waiting.pop()
        if node >= 0 and node not in out:
            out.add(node)
            waiting.append(int(parents[node]))
    return out


def _taken_apart(data: bytes) -> Arrays:
    suffix = ".usdz" if data[:2] == b"PK" else ".usdc" if data[:8] == b"PXR-USDC" else ".usda"
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / f"stage{suffix}"
        file.write_bytes(data)
        out = arrays_from(
            "eddyfield.formats.usd.stage", str(file), seconds=SECONDS, what="a USD stage that cannot be taken apart"
        )
    if any(not np.isfinite(values).all() for values in out.values()):
        raise DamagedFile("numbers that are none, in a USD stage")
    return out


def _columns(matrices: NDArray[Any]) -> Floats:
    """Matrices for column vectors, (samples, 4, 4), of those for row vectors."""
    return np.ascontiguousarray(np.swapaxes(matrices.astype(np.float64), -1, -2))


def _parts(matrices: Floats) -> tuple[Floats, Floats, Floats]:
    """Translation (..., 3), quaternion (..., 4) and scale (..., 3); a mirroring goes into the first scale."""
    turned = matrices[..., :3, :3]
    lengths = np.linalg.norm(turned, axis=-2)
    lengths[..., 0] *= np.where(np.linalg.det(turned) < 0, -1.0, 1.0)
    unit = turned / np.where(np.abs(lengths) > 1e-12, lengths, 1.0)[..., None, :]
    return matrices[..., :3, 3].copy(), transforms.quaternion_from_matrix(unit), lengths


def _curves(node: int, seconds: Floats, local: Floats) -> list[Curve]:
    translation, quaternion, scale = _parts(local)
    out = [
        Curve(node, "translation", "linear", seconds, translation),
        Curve(node, "rotation", "linear", seconds, quaternion),
    ]
    if np.ptp(scale, axis=0).max() > 1e-9:
        out.append(Curve(node, "scale", "linear", seconds, scale))
    return out


def _camera(camera: dict[str, Any], arrays: Arrays, metres: float) -> FileCamera:
    fov = arrays[camera["fov"]]
    curve = ShapeCurve((0,), "linear", arrays[camera["times"]], fov[:, None]) if camera["times"] else None
    focus: ShapeCurve | None = None
    if camera["focus"]:
        times = arrays[camera["focus_times"]] if camera["focus_times"] else np.zeros(1)
        focus = ShapeCurve((0, 1), "linear", times, arrays[camera["focus"]] * [metres, 1.0])
    parallel = camera["height"] is not None
    near, far = max(camera["near"] * metres, 0.01), camera["far"] * metres
    width, height = camera["back"]
    across, up = camera["off_middle"]
    return FileCamera(
        camera["name"], camera["node"] + 1, None if parallel else float(np.degrees(fov[0])),
        camera["height"] * metres if parallel else None, near, None if parallel else curve,
        far_m=far if near < far <= 1e7 else None, back_mm=(width, height) if width > 0 and height > 0 else None,
        off_middle_mm=(across, up), focus_curve=focus,
    )  # fmt: skip


def _mesh(meshes: list[dict[str, Any]], arrays: Arrays) -> tuple[Mesh, Skinning, tuple[ShapeCurve, ...], Floats]:
    slots: list[int] = []
    before: list[Floats] = []
    out: dict[str, list[NDArray[Any]]] = {
        n: [] for n in ("positions", "normals", "colors", "slots", "weights", "triangles")
    }
    parts: list[MeshPart] = []
    shapes: list[Shape] = []
    curves: list[ShapeCurve] = []
    rest: list[float] = []
    first = triangle = 0
    for mesh in meshes:
        points = arrays[mesh["points"]]
        triangles = _triangles(arrays[mesh["counts"]], arrays[mesh["corners"]], mesh["left_handed"])
        own, weights = np.zeros((len(points), 4), dtype=np.int64), np.tile([1.0, 0.0, 0.0, 0.0], (len(points), 1))
        if mesh["skin"]:
            own, weights = _influences(mesh["skin"], arrays, len(slots))
            bind = _columns(arrays[mesh["skin"]["bind"]])
            geometry = _columns(arrays[mesh["skin"]["geometry"]])
            slots += [node + 1 for node in mesh["skin"]["nodes"]]
            before += list(np.linalg.inv(bind) @ geometry)
        else:
            own[:, 0] = len(slots)
            slots.append(mesh["node"] + 1)
            before.append(np.eye(4))
        colors = arrays[mesh["colors"]] if mesh["colors"] else np.array([PLAIN])
        normals = arrays[mesh["normals"]] if mesh["normals"] else np.tile([0.0, 1.0, 0.0], (len(points), 1))
        for name, given in (
            ("positions", points), ("normals", normals), ("colors", np.broadcast_to(colors, (len(points), 3))),
            ("slots", own), ("weights", weights), ("triangles", triangles + first),
        ):  # fmt: skip
            out[name].append(given)
        parts.append(MeshPart(triangle, triangle + len(triangles), None, mesh["normals"] is not None))
        for shape in mesh["shapes"]:
            at, moves = arrays[shape["points"]] + first, arrays[shape["moves"]]
            none = np.zeros((0, 3), dtype=np.float32)
            values: Floats = arrays[shape["weights"]]
            if shape["times"]:
                curves.append(ShapeCurve((len(shapes),), "linear", arrays[shape["times"]], values[:, None]))
            rest.append(float(values[0]))
            shapes.append(Shape(shape["name"], at.astype(np.uint32), moves.astype(np.float32), none))
        first, triangle = first + len(points), triangle + len(triangles)
    kinds = {"slots": np.uint16, "triangles": np.uint32}
    together = {name: np.concatenate(values).astype(kinds.get(name, np.float32)) for name, values in out.items()}
    made = Mesh(**together, parts=tuple(parts), shapes=tuple(shapes))  # type: ignore[arg-type]
    return made, Skinning(np.array(slots, dtype=np.int64), np.stack(before)), tuple(curves), np.array(rest)


def _influences(skin: dict[str, Any], arrays: Arrays, first_slot: int) -> tuple[NDArray[np.int64], Floats]:
    """The four greatest influences of each point: slots and weights, (V, 4)."""
    indices, weights = arrays[skin["indices"]].astype(np.int64), arrays[skin["weights"]].astype(np.float64)
    if indices.size and (indices.min() < 0 or indices.max() >= len(skin["nodes"])):
        raise DamagedFile("a mesh that follows a joint which its skeleton does not have")
    order = np.argsort(-weights, axis=1, kind="stable")[:, :4]
    best, share = np.take_along_axis(indices, order, 1), np.take_along_axis(weights, order, 1)
    missing = 4 - best.shape[1]
    if missing > 0:
        best, share = np.pad(best, ((0, 0), (0, missing))), np.pad(share, ((0, 0), (0, missing)))
    total = share.sum(axis=1, keepdims=True)
    share = np.where(total > 1e-9, share / np.where(total > 1e-9, total, 1.0), [1.0, 0.0, 0.0, 0.0])
    return np.where(share > 0, best, 0) + first_slot, share


def _triangles(counts: NDArray[Any], corners: NDArray[Any], left_handed: bool) -> NDArray[np.int64]:
    """Each face as a fan around its first corner."""
    firsts = np.cumsum(counts) - counts
    fans = np.maximum(counts - 2, 0)
    face = np.repeat(np.arange(len(counts)), fans)
    step = np.arange(fans.sum()) - np.repeat(np.cumsum(fans) - fans, fans)
    out = np.stack([corners[firsts[face]], corners[firsts[face] + step + 1], corners[firsts[face] + step + 2]], axis=-1)
    return out[:, ::-1] if left_handed else out
