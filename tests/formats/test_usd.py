"""USD in, against files that are written here with usd-core: joints, skins, shapes, cameras, units and axes; what is hostile or
broken ends in one clear line."""

from __future__ import annotations

import io
import uuid
import zipfile
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from pxr import Gf, Sdf, Usd, UsdGeom, UsdSkel, UsdUtils, Vt

from eddyfield.core.bake import Baker
from eddyfield.core.edits.file_cameras import BringFileCamera
from eddyfield.core.optics.lens import DeliveryFrame, Lens
from eddyfield.core.rig.rig import Rig
from eddyfield.core.rig.source import RigSource
from eddyfield.demo import mill_race
from eddyfield.formats.errors import FileError
from eddyfield.formats.table import read_rig
from tests.core.scenery import DIGESTS, SCENE

SOURCE = RigSource("0" * 64, "usd")
TIMES = (1.0, 13.0, 25.0)


def walker(up: str = "Y", metres: float = 1.0) -> Usd.Stage:
    """A skin of two joints under a root that stands at x 2; the upper joint turns about z, a shape opens, a camera travels."""
    stage = Usd.Stage.CreateInMemory()
    UsdGeom.SetStageUpAxis(stage, up)
    UsdGeom.SetStageMetersPerUnit(stage, metres)
    stage.SetTimeCodesPerSecond(24)
    stage.SetStartTimeCode(1)
    stage.SetEndTimeCode(25)
    root = UsdSkel.Root.Define(stage, "/Walker")
    root.AddTranslateOp().Set(Gf.Vec3d(2, 0, 0))
    skeleton = UsdSkel.Skeleton.Define(stage, "/Walker/Skel")
    joints = Vt.TokenArray(["hips", "hips/chest"])
    skeleton.CreateJointsAttr(joints)
    down, up_one = Gf.Matrix4d(1), Gf.Matrix4d(1).SetTranslate(Gf.Vec3d(0, 1, 0))
    skeleton.CreateBindTransformsAttr(Vt.Matrix4dArray([down, up_one]))
    skeleton.CreateRestTransformsAttr(Vt.Matrix4dArray([down, up_one]))
    animation = UsdSkel.Animation.Define(stage, "/Walker/Anim")
    animation.CreateJointsAttr(joints)
    animation.CreateScalesAttr(Vt.Vec3hArray(2, Gf.Vec3h(1, 1, 1)))
    animation.CreateTranslationsAttr(Vt.Vec3fArray([Gf.Vec3f(0, 0, 0), Gf.Vec3f(0, 1, 0)]))
    turns, weights = animation.CreateRotationsAttr(), animation.CreateBlendShapeWeightsAttr()
    animation.CreateBlendShapesAttr(Vt.TokenArray(["open"]))
    for time, degrees, weight in zip(TIMES, (0.0, 30.0, 60.0), (0.0, 1.0, 0.5), strict=True):
        turn = Gf.Quatf(Gf.Rotation(Gf.Vec3d(0, 0, 1), degrees).GetQuat())
        turns.Set(Vt.QuatfArray([turn, Gf.Quatf(1)]), time)
        weights.Set(Vt.FloatArray([weight]), time)
    binding = UsdSkel.BindingAPI.Apply(skeleton.GetPrim())
    binding.CreateAnimationSourceRel().SetTargets([animation.GetPath()])
    mesh = UsdGeom.Mesh.Define(stage, "/Walker/Body")
    mesh.CreatePointsAttr(
        Vt.Vec3fArray([Gf.Vec3f(*p) for p in ((0, 0, 0), (1, 0, 0), (1, 2, 0), (0, 2, 0), (0.5, 3, 0))])
    )
    mesh.CreateFaceVertexCountsAttr(Vt.IntArray([4, 3]))
    mesh.CreateFaceVertexIndicesAttr(Vt.IntArray([0, 1, 2, 3, 3, 2, 4]))
    mesh.CreateDisplayColorAttr(Vt.Vec3fArray([Gf.Vec3f(0.2, 0.4, 0.6)]))
    bound = UsdSkel.BindingAPI.Apply(mesh.GetPrim())
    bound.CreateSkeletonRel().SetTargets([skeleton.GetPath()])
    bound.CreateJointIndicesPrimvar(False, 1).Set(Vt.IntArray([0, 0, 1, 1, 1]))
    bound.CreateJointWeightsPrimvar(False, 1).Set(Vt.FloatArray([1, 1, 1, 1, 1]))
    bound.CreateGeomBindTransformAttr(Gf.Matrix4d(1))
    shape = UsdSkel.BlendShape.Define(stage, "/Walker/Body/open")
    shape.CreateOffsetsAttr(Vt.Vec3fArray([Gf.Vec3f(0, 0.5, 0)]))
    shape.CreatePointIndicesAttr(Vt.IntArray([4]))
    bound.CreateBlendShapesAttr(Vt.TokenArray(["open"]))
    bound.CreateBlendShapeTargetsRel().SetTargets([shape.GetPath()])
    lens = UsdGeom.Camera.Define(stage, "/Lens")
    lens.CreateVerticalApertureAttr(20.0)
    focal = lens.CreateFocalLengthAttr()
    place = lens.AddTranslateOp()
    for time in range(1, 26):
        focal.Set(30.0 + time, time)
        place.Set(Gf.Vec3d(time / 10, 1.5, 5), time)
    lens.CreateClippingRangeAttr(Gf.Vec2f(0.5, 100))
    lens.CreateHorizontalApertureOffsetAttr(2.0)
    lens.CreateVerticalApertureOffsetAttr(-1.5)
    lens.CreateFStopAttr(2.8)
    sharp = lens.CreateFocusDistanceAttr()
    for time, distance in zip(TIMES, (4.0, 2.5, 6.0), strict=True):
        sharp.Set(distance, time)
    return stage


def usda(stage: Usd.Stage) -> bytes:
    return str(stage.GetRootLayer().ExportToString()).encode()


def rig(data: bytes) -> Rig:
    return read_rig(data, SOURCE)


def drawn(found: Rig, seconds: float) -> np.ndarray:
    """Where the vertices are drawn, (V, 3), their shapes laid on."""
    mesh, skinning = found.mesh, found.skinning
    assert mesh is not None
    assert skinning is not None
    points = mesh.positions.astype(np.float64)
    for shape, weight in zip(mesh.shapes, found.motion.shape_weights(np.array([seconds]))[0], strict=True):
        points[shape.vertices] += weight * shape.moves
    skin = found.world_matrices(np.array([seconds]), skinning.nodes)[0] @ skinning.joint_from_mesh
    placed = np.einsum("vsij,vj->vsi", skin[mesh.slots], np.column_stack([points, np.ones(len(points))]))
    return np.einsum("vs,vsi->vi", mesh.weights, placed)[:, :3]


def as_usd_has_it(stage: Usd.Stage, code: float) -> np.ndarray:
    """The same, as the library itself bakes the skin."""
    UsdSkel.BakeSkinning(stage.Traverse())
    mesh = UsdGeom.Mesh(stage.GetPrimAtPath("/Walker/Body"))
    world = np.array(mesh.ComputeLocalToWorldTransform(code))
    points = np.array(mesh.GetPointsAttr().Get(code))
    return (np.column_stack([points, np.ones(len(points))]) @ world)[:, :3]


@pytest.mark.parametrize("kind", [".usda", ".usdc", ".usdz"])
def test_a_skinned_character_stands_where_usd_itself_has_it(kind: str, tmp_path: Path) -> None:
    stage = walker()
    file = tmp_path / f"walker{kind}"
    if kind == ".usdz":
        stage.GetRootLayer().Export(str(tmp_path / "walker.usdc"))
        assert UsdUtils.CreateNewUsdzPackage(Sdf.AssetPath(str(tmp_path / "walker.usdc")), str(file))
    else:
        stage.GetRootLayer().Export(str(file))
    found = rig(file.read_bytes())
    assert found.joint_names == ("hips", "chest")
    assert found.motion.duration_seconds == pytest.approx(1.0)
    assert np.allclose(found.mesh.colors, [0.2, 0.4, 0.6])  # type: ignore[union-attr]
    for code in TIMES:
        assert np.allclose(drawn(found, (code - 1) / 24), as_usd_has_it(walker(), code), atol=1e-6), code


def test_units_and_the_axis_that_is_up_are_honoured() -> None:
    plain, turned = drawn(rig(usda(walker())), 0.5), drawn(rig(usda(walker("Z", 0.01))), 0.5)
    x, y, z = plain.T
    assert np.allclose(turned, np.stack([x, z, -y], axis=-1) / 100, atol=1e-6), "what was up along z is up along y"
    assert rig(usda(walker("Y", 0.01))).world_positions(np.zeros(1), np.array([1]))[0, 0, 0] == pytest.approx(0.02)


def test_animated_cameras_see_what_usd_sees() -> None:
    found, stage = rig(usda(walker())), walker()
    (camera,) = found.cameras
    assert camera.fov_curve is not None
    assert camera.near_m == pytest.approx(0.5)
    delivery, points = DeliveryFrame(), np.array([[0.3, 1.0, 0.0], [2.0, 2.5, -1.0], [1.0, 0.2, 1.5]])
    for code in (1, 7, 25):
        at = np.array([(code - 1) / 24])
        world = found.world_matrices(at, np.array([camera.node]))[0, 0]
        fov = float(np.degrees(camera.fov_curve.sample(at)[0, 0]))
        lens = Lens(vertical_fov_deg=fov)
        across, up = np.array(camera.off_middle_mm) / (np.array([delivery.aspect, 1.0]) * 20)
        slope = np.asarray(lens.pixels_per_slope(delivery))
        local = (np.linalg.inv(world) @ np.column_stack([points, np.ones(3)]).T).T[:, :3]
        seen = local[:, :2] / -local[:, 2:] * slope.reshape(-1)[:2]
        gf = UsdGeom.Camera(stage.GetPrimAtPath("/Lens")).GetCamera(code)
        gf.horizontalAperture = gf.verticalAperture * delivery.aspect
        view = gf.frustum.ComputeViewMatrix() * gf.frustum.ComputeProjectionMatrix()
        clip = np.column_stack([points, np.ones(3)]) @ np.array(view)
        wanted = clip[:, :2] / clip[:, 3:] * [delivery.width / 2, delivery.height / 2]
        assert np.allclose(seen - [across * delivery.width, up * delivery.height], wanted, atol=1e-3), code
        assert fov == pytest.approx(2 * np.degrees(np.arctan(20 / 2 / (30 + code))), abs=1e-6)


@pytest.mark.parametrize("error_px", [0.1, None])
def test_a_camera_of_the_scene_keeps_back_shift_planes_and_focus(error_px: float | None) -> None:
    found, stage = rig(usda(walker())), walker()
    source = RigSource("e" * 64, "usd")
    oda = SCENE.characters[0]
    performed = replace(oda, id="walker", performance=replace(oda.performance, source=source))
    scene = replace(SCENE, characters=(*SCENE.characters, performed))

    def rig_of(wanted: RigSource) -> Rig:
        return found if wanted == source else mill_race.demo_rig(DIGESTS[wanted.digest])

    camera_id = str(uuid.UUID(int=9))
    edit = BringFileCamera(camera_id=camera_id, thing_id="walker", camera="Lens", error_px=error_px)
    scene = edit.apply(scene, Baker(scene, rig_of, {}))
    camera = scene.camera(camera_id)
    assert (camera.glass.near_m, camera.glass.far_m) == (0.5, 100.0)
    assert camera.back.height_mm == 20.0
    shown = Baker(scene, rig_of, {}).camera(camera)
    points = np.array([[0.3, 1.0, 0.0], [2.0, 2.5, -1.0], [1.0, 0.2, 1.5]])
    pixels = shown.path.project(np.broadcast_to(points, (scene.frames.count, 3, 3))).pixels
    delivery = scene.delivery
    for row in (0, 6, 24):
        gf = UsdGeom.Camera(stage.GetPrimAtPath("/Lens")).GetCamera(row + 1)
        gf.horizontalAperture = gf.verticalAperture * delivery.aspect
        clip = np.column_stack([points, np.ones(3)]) @ np.array(
            gf.frustum.ComputeViewMatrix() * gf.frustum.ComputeProjectionMatrix()
        )
        wanted = (clip[:, :2] / clip[:, 3:] * [0.5, -0.5] + 0.5) * [delivery.width, delivery.height]
        assert np.allclose(pixels[row], wanted, atol=1e-2 if error_px is None else 0.25), row
        assert shown.focus_m[row] == pytest.approx(gf.focusDistance, abs=1e-6 if error_px is None else 0.05)
        assert shown.aperture[row] == pytest.approx(2.8, abs=1e-6)


def test_without_an_f_number_all_is_sharp() -> None:
    stage = walker()
    UsdGeom.Camera(stage.GetPrimAtPath("/Lens")).GetFStopAttr().Set(0.0)
    (camera,) = rig(usda(stage)).cameras
    assert camera.focus_curve is None


def test_what_has_no_skeleton_moves_by_its_nodes() -> None:
    stage = Usd.Stage.CreateInMemory()
    UsdGeom.SetStageMetersPerUnit(stage, 1.0)
    stage.SetTimeCodesPerSecond(24)
    wheel = UsdGeom.Xform.Define(stage, "/Wheel")
    turn = wheel.AddRotateZOp()
    turn.Set(0.0, 0.0)
    turn.Set(90.0, 24.0)
    spoke = UsdGeom.Mesh.Define(stage, "/Wheel/Spoke")
    spoke.CreatePointsAttr(Vt.Vec3fArray([Gf.Vec3f(1, 0, 0), Gf.Vec3f(2, 0, 0), Gf.Vec3f(1, 1, 0)]))
    spoke.CreateFaceVertexCountsAttr(Vt.IntArray([3]))
    spoke.CreateFaceVertexIndicesAttr(Vt.IntArray([0, 1, 2]))
    found = rig(usda(stage))
    assert np.allclose(drawn(found, 0.0)[0], [1, 0, 0], atol=1e-6)
    assert np.allclose(drawn(found, 1.0)[0], [0, 1, 0], atol=1e-6)


def text(body: str, head: str = "") -> bytes:
    return f"#usda 1.0\n({head})\n{body}\n".encode()


def package(**files: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as made:
        for name, data in files.items():
            made.writestr(name.replace("__", "/"), data)
    return out.getvalue()


def meshed(**attributes: Any) -> Callable[[], bytes]:
    def make() -> bytes:
        stage = walker()
        mesh = UsdGeom.Mesh(stage.GetPrimAtPath("/Walker/Body"))
        for name, value in attributes.items():
            mesh.GetPrim().GetAttribute(name).Set(value)
        return usda(stage)

    return make


BROKEN: dict[str, bytes | Callable[[], bytes]] = {
    "nothing": b"",
    "no USD": b"#usda 1.0 but not really {{{",
    "a crate cut off": b"PXR-USDC" + b"\0" * 40,
    "a package of nothing": package(),
    "a package that is none": b"PK\3\4" + b"\xff" * 60,
    "a package of something else": package(**{"notes.txt": b"hello"}),
    "a path that escapes": package(**{"..__..__evil.usda": text("")}),
    "a reference outside": text('def "A" (references = @/etc/passwd@) {}'),
    "a reference above": text('def "A" (references = @../../secret.usda@) {}'),
    "a payload of the network": text('def "A" (payload = @https://example.invalid/a.usd@) {}'),
    "a layer that did not come along": text("", "subLayers = [@./other.usda@]"),
    "a layer outside in a package": package(**{"a.usda": text("", "subLayers = [@/etc/hosts@]")}),
    "faces that do not fit": meshed(faceVertexIndices=Vt.IntArray([0, 1, 2, 3, 3, 2, 99])),
    "faces of a count below nothing": meshed(faceVertexCounts=Vt.IntArray([-4, 3])),
    "fewer corners than counted": meshed(faceVertexCounts=Vt.IntArray([400, 3])),
    "a layer that has itself below it": text("", "subLayers = [@./scene.usda@]"),
    "a reference in a ring": text('def "A" (references = </B>) {}\ndef "B" (references = </A>) {}'),
    "a layer of a million levels": text('def "A" {' * 20_000 + "}" * 20_000),
    "faces of more corners than can be counted": meshed(faceVertexCounts=Vt.IntArray([2**31 - 1, 2**31 - 1])),
    "points that are no numbers": meshed(points=Vt.Vec3fArray([Gf.Vec3f(float("nan"), 0, 0)] * 5)),
}


@pytest.mark.parametrize("name", BROKEN)
def test_what_is_broken_or_reaches_outside_ends_in_one_clear_line(name: str) -> None:
    data = BROKEN[name]
    with pytest.raises(FileError) as told:
        rig(data() if callable(data) else data)
    assert "\n" not in str(told.value)
    assert told.value.remedy


@pytest.mark.parametrize("unit", ["nan", "0", "-1", "1e300", "inf"])
def test_a_unit_that_is_none_is_refused_with_a_remedy(unit: str) -> None:
    stage = f'#usda 1.0\n(\n    metersPerUnit = {unit}\n)\ndef Xform "a"\n{{\n    def Cube "b"\n    {{\n    }}\n}}\n'
    with pytest.raises(FileError, match="units of"):
        read_rig(stage.encode(), SOURCE)
