"""What is read of a stage against USD's own evaluation of it, over stages made at random; and what leads out of a file."""

from __future__ import annotations

import random
from contextlib import suppress
from pathlib import Path

import numpy as np
import pytest
from pxr import Gf, Sdf, Usd, UsdGeom, UsdSkel, Vt

from eddyfield.core.rig.rig import Rig
from eddyfield.core.rig.source import RigSource
from eddyfield.formats.errors import FileError
from eddyfield.formats.table import read_rig

SOURCE = RigSource("0" * 64, "usd")
FIRST, LAST = 1, 25


def read(stage: Usd.Stage) -> Rig:
    return read_rig(stage.GetRootLayer().ExportToString().encode(), SOURCE)


def fresh_stage() -> Usd.Stage:
    stage = Usd.Stage.CreateInMemory()
    UsdGeom.SetStageUpAxis(stage, "Y")
    UsdGeom.SetStageMetersPerUnit(stage, 1.0)
    stage.SetTimeCodesPerSecond(24)
    stage.SetFramesPerSecond(24)
    stage.SetStartTimeCode(FIRST)
    stage.SetEndTimeCode(LAST)
    return stage


def cube(stage: Usd.Stage, path: str) -> UsdGeom.Mesh:
    mesh = UsdGeom.Mesh.Define(stage, path)
    mesh.CreatePointsAttr(Vt.Vec3fArray([Gf.Vec3f(*p) for p in ((0, 0, 0), (1, 0, 0), (0, 1, 0))]))
    mesh.CreateFaceVertexCountsAttr(Vt.IntArray([3]))
    mesh.CreateFaceVertexIndicesAttr(Vt.IntArray([0, 1, 2]))
    return mesh


def moved_at_random(prim: UsdGeom.Xformable, chance: random.Random) -> None:
    def keyed(op: UsdGeom.XformOp, value: object) -> None:
        times = chance.choice([(None,), (FIRST, LAST), (FIRST, 9, 20)])
        for time in times:
            op.Set(value() if callable(value) else value, *([] if time is None else [time]))

    vector = lambda low, high: lambda: Gf.Vec3d(*(chance.uniform(low, high) for _ in range(3)))  # noqa: E731
    pivot = Gf.Vec3d(*(chance.uniform(-1, 1) for _ in range(3)))
    keyed(prim.AddTranslateOp(UsdGeom.XformOp.PrecisionDouble), vector(-3, 3))
    prim.AddTranslateOp(UsdGeom.XformOp.PrecisionDouble, "pivot").Set(pivot)
    if chance.random() < 0.5:
        keyed(prim.AddRotateYOp(UsdGeom.XformOp.PrecisionDouble), lambda: chance.uniform(-720, 720))
    else:
        keyed(prim.AddRotateXYZOp(UsdGeom.XformOp.PrecisionDouble), vector(-300, 300))
    if chance.random() < 0.6:
        keyed(prim.AddScaleOp(UsdGeom.XformOp.PrecisionDouble), vector(0.4, 2.0))
    if chance.random() < 0.4:
        keyed(prim.AddRotateZOp(UsdGeom.XformOp.PrecisionDouble), lambda: chance.uniform(-90, 90))
    prim.AddTranslateOp(UsdGeom.XformOp.PrecisionDouble, "pivot", True)


@pytest.mark.parametrize("seed", range(16))
def test_a_stage_comes_to_what_usd_makes_of_it_on_every_frame(seed: int) -> None:
    chance, stage = random.Random(seed), fresh_stage()
    paths, parent = [], ""
    for depth in range(4):
        kind = chance.choice(["Xform", "Scope", "", "Xform"])
        parent = f"{parent}/level{depth}"
        prim = stage.DefinePrim(parent, kind)
        if kind == "Xform":
            moved_at_random(UsdGeom.Xformable(prim), chance)
        leaf = cube(stage, f"{parent}/leaf{depth}")
        moved_at_random(leaf, chance)
        paths.append(f"{parent}/leaf{depth}")
    rig = read(stage)
    frames = np.arange(FIRST, LAST + 1)
    world = rig.world_matrices((frames - FIRST) / 24)
    for depth, path in enumerate(paths):
        node = max(n for n, name in enumerate(rig.names) if name.split(" ")[0].startswith(f"leaf{depth}"))
        for row, frame in enumerate(frames):
            cache = UsdGeom.XformCache(Usd.TimeCode(float(frame)))
            expected = np.array(cache.GetLocalToWorldTransform(stage.GetPrimAtPath(path))).T
            np.testing.assert_allclose(world[row, node], expected, atol=2e-5, err_msg=f"{path} on {frame}")


def test_a_turntable_that_is_keyed_at_both_ends_turns() -> None:
    stage = fresh_stage()
    table = UsdGeom.Xform.Define(stage, "/Table")
    turn = table.AddRotateYOp()
    turn.Set(0.0, FIRST)
    turn.Set(360.0, LAST)
    cube(stage, "/Table/Plate")
    rig = read(stage)
    quarter = rig.world_matrices(np.array([6 / 24]))[0, rig.index_of["Plate"]]
    assert quarter[:3, 0] == pytest.approx([0.0, 0.0, -1.0], abs=1e-6)


def test_a_stage_without_a_range_lasts_as_long_as_its_samples() -> None:
    stage = Usd.Stage.CreateInMemory()
    stage.SetTimeCodesPerSecond(24)
    box = UsdGeom.Xform.Define(stage, "/Box")
    move = box.AddTranslateOp()
    move.Set(Gf.Vec3d(0, 0, 0), 10)
    move.Set(Gf.Vec3d(2, 0, 0), 34)
    cube(stage, "/Box/Mesh")
    assert read(stage).motion.duration_seconds == pytest.approx(1.0)


def test_references_within_the_file_and_instances_are_all_there() -> None:
    stage = fresh_stage()
    cube(stage, "/Stones/Stone")
    for n, x in enumerate((1.0, 3.0, 5.0)):
        copy = UsdGeom.Xform.Define(stage, f"/Copy{n}")
        copy.AddTranslateOp().Set(Gf.Vec3d(x, 0, 0))
        copy.GetPrim().GetReferences().AddInternalReference("/Stones")
        copy.GetPrim().SetInstanceable(True)
    rig = read(stage)
    assert rig.mesh is not None
    assert len(rig.mesh.parts) == 4


def test_an_instancer_of_points_shows_each_of_them_and_not_what_it_copies() -> None:
    stage = fresh_stage()
    reeds = UsdGeom.PointInstancer.Define(stage, "/Reeds")
    reeds.AddTranslateOp().Set(Gf.Vec3d(0, 2, 0))
    cube(stage, "/Reeds/Kinds/Reed").AddTranslateOp().Set(Gf.Vec3d(0, 0, 1))
    reeds.CreatePrototypesRel().SetTargets([Sdf.Path("/Reeds/Kinds/Reed")])
    reeds.CreateProtoIndicesAttr(Vt.IntArray([0, 0, 0]))
    reeds.CreatePositionsAttr(Vt.Vec3fArray([Gf.Vec3f(x, 0, 0) for x in (1, 2, 3)]))
    rig = read(stage)
    assert rig.mesh is not None
    assert rig.skinning is not None
    assert len(rig.mesh.parts) == 3
    places = rig.world_matrices(np.zeros(1), rig.skinning.nodes)[0, :, :3, 3]
    assert sorted(places.tolist()) == [[1, 2, 1], [2, 2, 1], [3, 2, 1]]


def test_what_is_left_out_of_shapes_is_said() -> None:
    from .test_usd import walker

    stage = walker()
    shape = UsdSkel.BlendShape(stage.GetPrimAtPath("/Walker/Body/open"))
    shape.CreateInbetween("half").SetOffsets(Vt.Vec3fArray([Gf.Vec3f(0, 0.1, 0)]))
    UsdSkel.BindingAPI(stage.GetPrimAtPath("/Walker/Body")).GetPrim().CreateAttribute(
        "primvars:skel:skinningMethod", Sdf.ValueTypeNames.Token
    ).Set("dualQuaternion")
    notes = " ".join(read(stage).notes)
    assert "in-betweens of the shape “open”" in notes
    assert "dual quaternions" in notes


SECRET = """#usda 1.0
def Xform "Secret"
{
    def Mesh "M"
    {
        point3f[] points = [(7, 7, 7), (8, 7, 7), (7, 8, 7)]
        int[] faceVertexCounts = [3]
        int[] faceVertexIndices = [0, 1, 2]
    }
}
"""


@pytest.mark.parametrize("way", ["variable", "absolute", "beside", "clips", "packed"])
def test_nothing_outside_of_the_file_is_read(tmp_path: Path, monkeypatch: pytest.MonkeyPatch, way: str) -> None:
    secret = tmp_path / "secret.usda"
    secret.write_text(SECRET)
    monkeypatch.chdir(tmp_path)
    head = f'#usda 1.0\n(\n    expressionVariables = {{ string WHERE = "{secret}" }}\n)\n'
    texts = {
        "variable": head + 'def Xform "A" (references = @`"${WHERE}"`@</Secret>)\n{\n}\n',
        "absolute": f'#usda 1.0\ndef Xform "A" (references = @{secret}@</Secret>)\n{{\n}}\n',
        "beside": '#usda 1.0\ndef Xform "A" (references = @secret.usda@</Secret>)\n{\n}\n',
        "clips": '#usda 1.0\ndef Xform "A" (\n clips = { dictionary default = {\n'
        f'  asset[] assetPaths = [@{secret}@]\n  string primPath = "/Secret"\n  asset manifestAssetPath = @{secret}@\n'
        "  double2[] active = [(0, 0)]\n  double2[] times = [(0, 0), (10, 10)] } }\n"
        ') { def Mesh "M" { point3f[] points\nint[] faceVertexCounts = [3]\nint[] faceVertexIndices = [0,1,2] } }\n',
        "packed": f'#usda 1.0\ndef Xform "A" (references = @{secret}@</Secret>)\n{{\n}}\n',
    }
    data = texts[way].encode()
    if way == "packed":
        archive = tmp_path / "packed.usdz"
        for name, text in (("a.usda", "#usda 1.0\n( subLayers = [@./b.usda@] )\n"), ("b.usda", texts[way])):
            (tmp_path / name).write_text(text)
        with Sdf.ZipFileWriter.CreateNew(str(archive)) as packed:
            for name in ("a.usda", "b.usda"):
                packed.AddFile(str(tmp_path / name), name)
        data = archive.read_bytes()
    rig = None
    with suppress(FileError):  # in one line; where it is not refused nothing came of it
        rig = read_rig(data, SOURCE)
    assert rig is None or rig.mesh is None or not np.isclose(rig.mesh.positions, 7).any()
    if way in ("variable", "packed"):
        with pytest.raises(FileError, match=r"did not come with it"):
            read_rig(data, SOURCE)
