"""What runs in the process that opens a USD stage: takes it apart into plain arrays, and decides nothing.

It is given a file; it writes an .npz of arrays, with ``description`` as JSON in bytes. Matrices are as USD has them: for row
vectors. Times are seconds from the stage's first time code.
"""

from __future__ import annotations

import io
import json
import math
import os
import resource
import sys
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

MEMORY_BYTES, CPU_SECONDS = 3 * 2**30, 50
SHEARED = 1e-5
LEAST_UNIT_M, MOST_UNIT_M = 1e-6, 1e6
MOST_PRIMS, MOST_SAMPLES, MOST_POINTS = 50_000, 200_000, 3_000_000


class Refused(Exception):
    """What is told of a stage that is not taken apart: what is wrong, and the remedy."""


def main(file: str) -> int:
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    resource.setrlimit(resource.RLIMIT_CPU, (CPU_SECONDS, CPU_SECONDS))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    os.chdir(Path(file).parent)  # whatever is looked for beside it is looked for here, where nothing is
    arrays: dict[str, NDArray[Any]] = {}
    try:
        description = Stage(Path(file), arrays).taken_apart()
    except Refused as refused:
        description = {"refused": refused.args}
    arrays["description"] = np.frombuffer(json.dumps(description).encode(), np.uint8)
    out = io.BytesIO()
    np.savez(out, **arrays)  # type: ignore[arg-type]
    sys.stdout.buffer.write(out.getvalue())
    return 0


class Stage:
    """One stage, and the arrays that it comes to."""

    def __init__(self, file: Path, arrays: dict[str, NDArray[Any]]) -> None:
        from pxr import Sdf, Usd, UsdGeom, UsdSkel

        self.usd, self.geom, self.skel = Usd, UsdGeom, UsdSkel
        self.arrays = arrays
        self.file = str(file.resolve())
        layer = Sdf.Layer.FindOrOpen(str(file))
        if layer is None:
            raise Refused("The file is no USD, or it is damaged.", "Choose another one, or export it again.")
        self._check_dependencies(layer, file.suffix == ".usdz")
        self.stage = Usd.Stage.Open(layer)
        self._check_layers()
        self.first, self.last = self._range()
        self.nodes: list[dict[str, Any]] = []
        self.index_of: dict[str, int] = {}
        self.points = 0
        self.notes: list[str] = []

    @staticmethod
    def _check_dependencies(layer: Any, packed: bool) -> None:
        """Only what lies in the package comes along: nothing of this machine is read because a file names it."""
        for asset in filter(None, layer.GetCompositionAssetDependencies()):  # what names none is in the file itself
            parts = asset.replace("\\", "/").split("/")
            if not packed or ":" in asset or asset.startswith("/") or ".." in parts:
                raise Refused(
                    f"The file goes by “{asset[:80]}”, which did not come with it.",
                    "Flatten it, or export it as .usdz.",
                )

    def _check_layers(self) -> None:
        """All that took part in what was read is of this file: variables in names, and clips of values, tell only now where they
        lead."""
        for used in self.stage.GetUsedLayers(True):
            real = str(used.realPath)
            if not used.anonymous and real.split("[")[0] != self.file:
                raise Refused(
                    f"The file goes by “{Path(real).name[:80]}”, which did not come with it.",
                    "Flatten it, or export it as .usdz.",
                )

    def _range(self) -> tuple[float, float]:
        """First and last time code: as the stage says, else those of the samples in it."""
        if self.stage.HasAuthoredTimeCodeRange():
            return self.stage.GetStartTimeCode(), self.stage.GetEndTimeCode()
        codes: set[float] = set()
        for prim in self._prims():
            for attribute in prim.GetAuthoredAttributes():
                if attribute.GetNumTimeSamples() > 1:
                    samples = attribute.GetTimeSamples()
                    codes |= {float(samples[0]), float(samples[-1])}
        return (min(codes), max(codes)) if codes else (0.0, 0.0)

    def _prims(self) -> list[Any]:
        """All that is there, instances as often as they are, but for what stands below an instancer of points."""
        everything = iter(self.usd.PrimRange.Stage(self.stage, self.usd.TraverseInstanceProxies()))
        out = []
        for prim in everything:
            out.append(prim)
            if len(out) > MOST_PRIMS:
                raise Refused(f"The file has more than {MOST_PRIMS:,} prims.", "Bring in fewer at a time.")
            if prim.IsA(self.geom.PointInstancer):
                everything.PruneChildren()
        return out

    def seconds(self, codes: Any) -> NDArray[np.float64]:
        return np.asarray((np.asarray(codes, dtype=np.float64) - self.first) / self.stage.GetTimeCodesPerSecond())

    def put(self, values: Any) -> str:
        name = f"a{len(self.arrays)}"
        self.arrays[name] = np.ascontiguousarray(values)
        return name

    def codes(self, samples: Any) -> list[float]:
        out = sorted({float(t) for t in samples})
        if len(out) > MOST_SAMPLES:
            raise Refused(f"The file has {len(out):,} samples of one motion.", "Bring in a shorter one.")
        return out

    def taken_apart(self) -> dict[str, Any]:
        cache, meshes, cameras = self.skel.Cache(), [], []
        prims = self._prims()
        skeletons: dict[str, int] = {}
        rigs: dict[str, dict[str, Any]] = {}
        for prim in prims:
            if not prim.IsA(self.geom.Xformable):
                continue
            node = self._node(prim)
            if prim.IsA(self.skel.Root):
                cache.Populate(self.skel.Root(prim), self.usd.TraverseInstanceProxies())
            if prim.IsA(self.skel.Skeleton):
                first = self._joints(cache.GetSkelQuery(self.skel.Skeleton(prim)), node)
                skeletons[str(prim.GetPath())] = first
                root = self.skel.Root.Find(prim).GetPrim()
                above = str((root or prim).GetPath())
                rig = rigs.setdefault(above, {"name": (root or prim).GetName(), "path": above + "/", "joints": []})
                rig["joints"] += range(first, len(self.nodes))
            if prim.IsA(self.geom.Camera):
                cameras.append(self._camera(self.geom.Camera(prim), node))
        for prim in prims:
            if prim.IsA(self.geom.Mesh) and self._is_seen(prim):
                meshes.append(self._mesh(self.geom.Mesh(prim), cache, skeletons, self.index_of[str(prim.GetPath())]))
            if prim.IsA(self.geom.PointInstancer) and self._is_seen(prim):
                meshes += self._instanced(self.geom.PointInstancer(prim))
        self._check_layers()
        return {
            "nodes": self.nodes, "meshes": [m for m in meshes if m], "cameras": cameras, "notes": self.notes,
            "rigs": list(rigs.values()) if len(rigs) > 1 else [],
            "metres": self._metres_per_unit(), "up": str(self.geom.GetStageUpAxis(self.stage)),
            "seconds": float(self.seconds(self.last)),
        }  # fmt: skip

    def _metres_per_unit(self) -> float:
        metres = float(self.geom.GetStageMetersPerUnit(self.stage))
        if not LEAST_UNIT_M <= metres <= MOST_UNIT_M:
            raise Refused(
                f"The file counts in units of {metres:g} m, which is none.", "Set its metersPerUnit: 0.01 for cm."
            )
        return metres

    def _is_seen(self, prim: Any) -> bool:
        imageable = self.geom.Imageable(prim)
        return (
            str(imageable.ComputePurpose()) in ("default", "render")
            and str(imageable.ComputeVisibility()) != "invisible"
        )

    def _node(self, prim: Any) -> int:
        movable = self.geom.Xformable(prim)
        codes = self.with_frames(movable.GetTimeSamples()) if movable.TransformMightBeTimeVarying() else []
        above = -1 if movable.GetResetXformStack() else self._above(prim)
        at = codes or [self.usd.TimeCode.EarliestTime()]
        local = np.stack([np.array(movable.GetLocalTransformation(code)) for code in at])
        if _is_sheared(local):
            # A scale along turned axes: each of its steps by itself has none.
            *outer, last = movable.GetOrderedXformOps()
            for op in outer:
                above = self._add(prim.GetName(), above, np.stack([np.array(op.GetOpTransform(c)) for c in at]), codes)
            local = np.stack([np.array(last.GetOpTransform(code)) for code in at])
            if _is_sheared(local):
                self.note(f"“{prim.GetName()[:60]}” is sheared by a matrix: the nearest turn and scale stand for it.")
        return self._add(prim.GetName(), above, local, codes, str(prim.GetPath()))

    def _above(self, prim: Any) -> int:
        """The node of the nearest prim above that has a place; those without one have none of their own."""
        parent = prim.GetParent()
        while parent and not parent.IsPseudoRoot():
            found = self.index_of.get(str(parent.GetPath()))
            if found is not None:
                return found
            parent = parent.GetParent()
        return -1

    def note(self, text: str) -> None:
        if text not in self.notes:
            self.notes.append(text)

    def with_frames(self, samples: Any) -> list[float]:
        """The times of samples, and every frame of the stage's rate between them: what is between is USD's to say."""
        codes = self.codes(samples)
        if len(codes) < 2:
            return codes
        step = self.stage.GetTimeCodesPerSecond() / max(1e-6, self.stage.GetFramesPerSecond())
        first, last = math.ceil(codes[0] / step), math.floor(codes[-1] / step)
        if last - first > MOST_SAMPLES:
            raise Refused(f"The file has {last - first:,} frames.", "Bring in a shorter one.")
        return self.codes([*codes, *(n * step for n in range(first, last + 1))])

    def _instanced(self, instancer: Any) -> list[dict[str, Any] | None]:
        """What an instancer of points shows, once for each of its points; nothing of it is skinned."""
        prim, earliest = instancer.GetPrim(), self.usd.TimeCode.EarliestTime()
        of_point = list(instancer.GetProtoIndicesAttr().Get(earliest) or [])
        prototypes = [self.stage.GetPrimAtPath(path) for path in instancer.GetPrototypesRel().GetTargets()]
        samples = [
            t for a in prim.GetAuthoredAttributes() for t in (a.GetTimeSamples() if a.GetNumTimeSamples() > 1 else [])
        ]
        codes = self.with_frames(samples)
        places = [np.array(instancer.ComputeInstanceTransformsAtTime(c, c)) for c in codes or [earliest]]
        if any(len(at) != len(of_point) for at in places):
            self.note(
                f"“{prim.GetName()[:60]}” shows other points at other times: those of its beginning stand for them."
            )
            codes, places = [], places[:1]
        if len(places[0]) != len(of_point):
            return []
        above, out = self.index_of[str(prim.GetPath())], []
        for index, which in enumerate(of_point):
            if not 0 <= which < len(prototypes) or not prototypes[which]:
                continue
            root = self._add(prim.GetName(), above, np.stack([at[index] for at in places]), codes)
            nodes = {str(prototypes[which].GetPath()): root}
            for part in self.usd.PrimRange(prototypes[which], self.usd.TraverseInstanceProxies()):
                if len(self.nodes) > MOST_PRIMS:
                    raise Refused(f"The file shows more than {MOST_PRIMS:,} things.", "Bring in fewer at a time.")
                path, parent = str(part.GetPath()), str(part.GetParent().GetPath())
                if path not in nodes:
                    nodes[path] = nodes[parent]
                    if part.IsA(self.geom.Xformable):
                        local = np.array(self.geom.Xformable(part).GetLocalTransformation(earliest))
                        nodes[path] = self._add(part.GetName(), nodes[parent], local[None], [])
                if part.IsA(self.geom.Mesh):
                    out.append(self._mesh(self.geom.Mesh(part), None, {}, nodes[path]))
        return out

    def _add(
        self, name: str, parent: int, local: NDArray[Any], codes: list[float], path: str = "", joint: bool = False
    ) -> int:
        node = {"name": name, "parent": parent, "local": self.put(local), "joint": joint, "times": None}
        if codes:
            node["times"] = self.put(self.seconds(codes))
        self.nodes.append(node)
        if path:
            self.index_of[path] = len(self.nodes) - 1
        return len(self.nodes) - 1

    def _joints(self, query: Any, above: int) -> int:
        """The joints of a skeleton as nodes below its own; where they begin."""
        order, topology = list(query.GetJointOrder()), query.GetTopology()
        animation = query.GetAnimQuery()
        codes = self.with_frames(animation.GetJointTransformTimeSamples()) if animation else []
        first = len(self.nodes)
        rest = np.array(query.ComputeJointLocalTransforms(self.usd.TimeCode.Default(), True) or [])
        moved = np.array([query.ComputeJointLocalTransforms(code) for code in codes]) if codes else rest[None]
        for index, joint in enumerate(order):
            parent = topology.GetParent(index)
            self._add(
                joint.split("/")[-1], first + parent if parent >= 0 else above, moved[:, index], codes, joint=True
            )
        return first

    def _camera(self, camera: Any, node: int) -> dict[str, Any]:
        focal, aperture = camera.GetFocalLengthAttr(), camera.GetVerticalApertureAttr()
        sharp, f_number = camera.GetFocusDistanceAttr(), camera.GetFStopAttr()
        start = self.usd.TimeCode.EarliestTime()

        def over_time(*attributes: Any) -> tuple[list[float], list[Any], str | None]:
            codes = self.codes([t for a in attributes for t in a.GetTimeSamples()])
            return codes, codes or [start], self.put(self.seconds(codes)) if codes else None

        _, at, times = over_time(focal, aperture)
        fov = [2 * np.arctan(aperture.Get(t) / 2 / max(float(focal.Get(t)), 1e-6)) for t in at]
        _, focused, focus_times = over_time(sharp, f_number)
        focus = np.array([[float(sharp.Get(t)), float(f_number.Get(t))] for t in focused])
        parallel = str(camera.GetProjectionAttr().Get()) == "orthographic"
        near, far = camera.GetClippingRangeAttr().Get(start) or (0.0, 0.0)
        return {
            "name": camera.GetPrim().GetName(), "node": node, "fov": self.put(fov), "times": times,
            "near": float(near), "far": float(far),
            "back": [float(a.Get(start)) for a in (camera.GetHorizontalApertureAttr(), aperture)],
            "off_middle": [
                float(a.Get(start))
                for a in (camera.GetHorizontalApertureOffsetAttr(), camera.GetVerticalApertureOffsetAttr())
            ],
            # Without an f-number, or a distance, all is sharp.
            "focus": self.put(focus) if (focus > 0).all() else None, "focus_times": focus_times,
            "height": float(aperture.Get(start)) / 10 if parallel else None,
        }  # fmt: skip

    def _mesh(self, mesh: Any, cache: Any, skeletons: dict[str, int], node: int) -> dict[str, Any] | None:
        prim = mesh.GetPrim()
        points = np.array(mesh.GetPointsAttr().Get(self.usd.TimeCode.EarliestTime()) or [], dtype=np.float64)
        counts = np.array(mesh.GetFaceVertexCountsAttr().Get() or [], dtype=np.int64)
        corners = np.array(mesh.GetFaceVertexIndicesAttr().Get() or [], dtype=np.int64)
        self.points += len(points) + len(corners)
        if self.points > MOST_POINTS:
            raise Refused(f"The file has more than {MOST_POINTS:,} points.", "Bring in a lighter model.")
        if not len(points) or not len(counts):
            return None
        if counts.min() < 0 or counts.sum() != len(corners) or corners.min() < 0 or corners.max() >= len(points):
            raise Refused(f"The faces of “{prim.GetName()[:60]}” do not fit its points.", "Export it again.")
        normals = mesh.GetNormalsAttr().Get()
        smooth = normals is not None and len(normals) == len(points)
        colors = mesh.GetDisplayColorAttr().Get()
        colored = colors is not None and len(colors) in (1, len(points))
        out: dict[str, Any] = {
            "path": str(prim.GetPath()),
            "node": node, "points": self.put(points), "counts": self.put(counts),
            "corners": self.put(corners), "normals": self.put(normals) if smooth else None,
            "colors": self.put(colors) if colored else None, "shapes": [], "skin": None,
            "left_handed": str(mesh.GetOrientationAttr().Get()) == "leftHanded",
        }  # fmt: skip
        query = cache.GetSkinningQuery(prim) if cache else None
        skeleton = self.skel.BindingAPI(prim).GetInheritedSkeleton() if query else None
        first = skeletons.get(str(skeleton.GetPath())) if skeleton else None
        if query and first is not None:
            self._bind(query, cache.GetSkelQuery(skeleton), first, len(points), out)
        return out

    def _bind(self, query: Any, skeleton: Any, first: int, count: int, out: dict[str, Any]) -> None:
        if query.HasJointInfluences():
            indices, weights = query.ComputeVaryingJointInfluences(count)
            size = query.GetNumInfluencesPerComponent()
            if size > 4:
                self.note("Points that follow more than four joints follow the four that count most.")
            if str(query.GetSkinningMethod()) == "dualQuaternion":
                self.note("What is skinned by dual quaternions is skinned by matrices.")
            order = list(skeleton.GetJointOrder())
            mapper = query.GetJointMapper()
            own = list(query.GetJointOrder() or order) if mapper else order
            names = {name: place for place, name in enumerate(order)}
            bind = np.array(skeleton.GetJointWorldBindTransforms())
            out["skin"] = {
                "indices": self.put(np.array(indices).reshape(count, size)),
                "weights": self.put(np.array(weights).reshape(count, size)),
                "nodes": [first + names[name] for name in own],
                "bind": self.put(np.array([bind[names[name]] for name in own])),
                "geometry": self.put(np.array(query.GetGeomBindTransform())),
            }
        shapes = query.GetBlendShapeOrder() if query.HasBlendShapes() else None
        for name, path in zip(
            shapes or [], query.GetBlendShapeTargetsRel().GetTargets() if shapes else [], strict=False
        ):
            shape = self.skel.BlendShape(self.stage.GetPrimAtPath(path))
            if shape.GetInbetweens():
                self.note(f"The in-betweens of the shape “{str(name)[:60]}” are left out.")
            offsets = np.array(shape.GetOffsetsAttr().Get() or [], dtype=np.float64).reshape(-1, 3)
            at = shape.GetPointIndicesAttr().Get()
            places = np.arange(count) if at is None else np.array(at, dtype=np.int64)
            if len(places) != len(offsets) or (len(places) and (places.min() < 0 or places.max() >= count)):
                raise Refused(f"The shape “{str(name)[:60]}” does not fit its mesh.", "Export it again.")
            out["shapes"].append({"name": str(name), "points": self.put(places), "moves": self.put(offsets),
                                  **self._weights(skeleton.GetAnimQuery(), str(name))})  # fmt: skip

    def _weights(self, animation: Any, shape: str) -> dict[str, Any]:
        order = [str(name) for name in animation.GetBlendShapeOrder()] if animation else []
        if shape not in order:
            return {"weights": self.put([0.0]), "times": None}
        codes = self.codes(animation.GetBlendShapeWeightTimeSamples())
        at = codes or [self.usd.TimeCode.Default()]
        values = [(animation.ComputeBlendShapeWeights(t) or [0.0] * len(order))[order.index(shape)] for t in at]
        return {"weights": self.put(values), "times": self.put(self.seconds(codes)) if codes else None}


def _is_sheared(matrices: NDArray[Any]) -> bool:
    """Whether any of matrices for row vectors (n, 4, 4) has axes that are not at right angles."""
    axes = matrices[:, :3, :3]
    lengths = np.linalg.norm(axes, axis=2)
    unit = axes / np.where(lengths > 1e-12, lengths, 1.0)[..., None]
    between = np.einsum("nij,nkj->nik", unit, unit) * (1 - np.eye(3))
    return bool(np.abs(between).max() > SHEARED)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1]))
