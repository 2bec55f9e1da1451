"""What runs in the process that opens a USD stage: takes it apart into plain arrays, and decides nothing.

It is given a file; it writes an .npz of arrays, with ``description`` as JSON in bytes. Matrices are as USD has them: for row
vectors. Times are seconds from the stage's first time code.
"""

from __future__ import annotations

import io
import json
import resource
import sys
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

MEMORY_BYTES, CPU_SECONDS = 4 * 2**30, 90
MOST_PRIMS, MOST_SAMPLES, MOST_POINTS = 50_000, 200_000, 3_000_000


class Refused(Exception):
    """What is told of a stage that is not taken apart: what is wrong, and the remedy."""


def main(file: str) -> int:
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    resource.setrlimit(resource.RLIMIT_CPU, (CPU_SECONDS, CPU_SECONDS))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
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
        layer = Sdf.Layer.FindOrOpen(str(file))
        if layer is None:
            raise Refused("The file is no USD, or it is damaged.", "Choose another one, or export it again.")
        self._check_dependencies(layer, file.suffix == ".usdz")
        self.stage = Usd.Stage.Open(layer)
        self.first = self.stage.GetStartTimeCode() if self.stage.HasAuthoredTimeCodeRange() else 0.0
        self.nodes: list[dict[str, Any]] = []
        self.index_of: dict[str, int] = {}
        self.points = 0
        self.notes: list[str] = []

    @staticmethod
    def _check_dependencies(layer: Any, packed: bool) -> None:
        """Only what lies in the package comes along: nothing of this machine is read because a file names it."""
        for asset in layer.GetCompositionAssetDependencies():
            parts = asset.replace("\\", "/").split("/")
            if not packed or ":" in asset or asset.startswith("/") or ".." in parts:
                raise Refused(
                    f"The file goes by “{asset[:80]}”, which did not come with it.",
                    "Flatten it, or export it as .usdz.",
                )

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
        prims = list(self.stage.Traverse())
        if len(prims) > MOST_PRIMS:
            raise Refused(f"The file has {len(prims):,} prims.", "Bring in fewer at a time.")
        skeletons: dict[str, int] = {}
        rigs: dict[str, dict[str, Any]] = {}
        for prim in prims:
            if not prim.IsA(self.geom.Xformable):
                continue
            node = self._node(prim)
            if prim.IsA(self.skel.Root):
                cache.Populate(self.skel.Root(prim), self.usd.PrimDefaultPredicate)
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
                meshes.append(self._mesh(self.geom.Mesh(prim), cache, skeletons))
        return {
            "nodes": self.nodes, "meshes": [m for m in meshes if m], "cameras": cameras, "notes": self.notes,
            "rigs": list(rigs.values()) if len(rigs) > 1 else [],
            "metres": self.geom.GetStageMetersPerUnit(self.stage), "up": str(self.geom.GetStageUpAxis(self.stage)),
            "seconds": float(self.seconds(self.stage.GetEndTimeCode())) if self.stage.HasAuthoredTimeCodeRange() else 0.0,
        }  # fmt: skip

    def _is_seen(self, prim: Any) -> bool:
        imageable = self.geom.Imageable(prim)
        return (
            str(imageable.ComputePurpose()) in ("default", "render")
            and str(imageable.ComputeVisibility()) != "invisible"
        )

    def _node(self, prim: Any) -> int:
        movable = self.geom.Xformable(prim)
        codes = self.codes(movable.GetTimeSamples()) if movable.TransformMightBeTimeVarying() else []
        parent = prim.GetParent()
        above = -1 if movable.GetResetXformStack() else self.index_of.get(str(parent.GetPath()), -1)
        local = [np.array(movable.GetLocalTransformation(code)) for code in codes or [self.usd.TimeCode.Default()]]
        return self._add(prim.GetName(), above, np.stack(local), codes, str(prim.GetPath()))

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
        codes = self.codes(animation.GetJointTransformTimeSamples()) if animation else []
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

    def _mesh(self, mesh: Any, cache: Any, skeletons: dict[str, int]) -> dict[str, Any] | None:
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
            "node": self.index_of[str(prim.GetPath())], "points": self.put(points), "counts": self.put(counts),
            "corners": self.put(corners), "normals": self.put(normals) if smooth else None,
            "colors": self.put(colors) if colored else None, "shapes": [], "skin": None,
            "left_handed": str(mesh.GetOrientationAttr().Get()) == "leftHanded",
        }  # fmt: skip
        query = cache.GetSkinningQuery(prim)
        skeleton = self.skel.BindingAPI(prim).GetInheritedSkeleton() if query else None
        first = skeletons.get(str(skeleton.GetPath())) if skeleton else None
        if query and first is not None:
            self._bind(query, cache.GetSkelQuery(skeleton), first, len(points), out)
        return out

    def _bind(self, query: Any, skeleton: Any, first: int, count: int, out: dict[str, Any]) -> None:
        if query.HasJointInfluences():
            indices, weights = query.ComputeVaryingJointInfluences(count)
            size = query.GetNumInfluencesPerComponent()
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


if __name__ == "__main__":
    sys.exit(main(sys.argv[1]))
