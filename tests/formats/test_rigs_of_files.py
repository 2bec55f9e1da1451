"""Files that hold several rigs: each can be had by itself, whichever scene of the file it is in, and is what it is when alone."""

from __future__ import annotations

import numpy as np
import pytest
from pxr import Sdf, Usd, UsdGeom

from eddyfield.core.rig.rig import Rig
from eddyfield.core.rig.source import RigSource
from eddyfield.formats import gltf
from eddyfield.formats.errors import FileError
from eddyfield.formats.table import read_rig

from .builders import Gltf
from .test_usd import usda, walker

SECONDS = np.array([0.0, 0.5, 1.0])


def people(count: int = 3) -> Gltf:
    """Anna and Bert in one scene, on a float that drifts; Cleo in another. Each with two joints, a skin in two meshes that share
    it, and a hat that is no part of the skin."""
    g = Gltf(scene=0, scenes=[{"nodes": [0]}, {"nodes": []}], skins=[], meshes=[], materials=[{"doubleSided": True}])
    g.node("float", children=[])
    for number, name in enumerate(("Anna", "Bert", "Cleo")[:count]):
        first = len(g.json["nodes"])
        g.node(name, children=[first + 1, first + 4, first + 5], translation=[number, 0, 0])
        g.node("hips", children=[first + 2], translation=[0, 1, 0])
        g.node("head", children=[first + 3], translation=[0, 0.5 + number / 10, 0])
        g.node("hat", mesh=2 * number + 1)
        g.node("body", mesh=2 * number, skin=number)
        g.node("coat", mesh=2 * number, skin=number)
        g.json["skins"].append({"joints": [first + 1, first + 2]})
        corners = [[0, 0, 0], [0.2, 0, 0], [0, 1.0 + number, 0], [0, 0, 0], [0, 0, 0.2], [0, 1.0 + number, 0]]
        skinned = {
            "POSITION": g.accessor(corners),
            "JOINTS_0": g.accessor([[0, 0, 0, 0], [0, 0, 0, 0], [1, 0, 0, 0]] * 2, "u1"),
            "WEIGHTS_0": g.accessor([[1, 0, 0, 0]] * 6),
        }
        for attributes in (skinned, {"POSITION": g.accessor(corners)}):
            g.json["meshes"].append({"primitives": [{"attributes": attributes, "material": 0}]})
        if number < 2:
            g.json["nodes"][0]["children"].append(first)
        else:
            g.json["scenes"][1]["nodes"].append(first)
        turns = [[0, 0, 0, 1], [0, np.sin(number / 4 + 0.2), 0, np.cos(number / 4 + 0.2)]]
        g.animate((first + 1, "rotation", [0, 1], turns, "LINEAR"), name=f"turn {name}")
    g.animate((0, "translation", [0, 1], [[0, 0, 0], [0, 0, 2]], "LINEAR"), name="drift")
    return g


def read(g: Gltf, rig: str | None = None) -> Rig:
    return gltf.read(g.glb(), rig=rig, with_mesh=True)


def test_all_that_a_scene_shows_comes_together_and_the_rigs_are_named() -> None:
    both = read(people())
    assert both.alternatives == ("Anna", "Bert", "Cleo")
    assert both.joint_names == ("hips", "head", "hips#2", "head#2"), "Cleo is in another scene"
    assert read(people(1)).alternatives == ()


@pytest.mark.parametrize(("name", "number"), [("Anna", 0), ("Bert", 1), ("Cleo", 2)])
def test_one_by_itself_stands_and_moves_as_among_the_others(name: str, number: int) -> None:
    one = read(people(), name)
    assert [joint.split("#")[0] for joint in one.joint_names] == ["hips", "head"]
    assert one.mesh is not None
    assert len(one.mesh.triangles) == 6, "body, coat and hat"
    # By the file's own words: the float drifts along z, the hips turn about y, the head is carried by them.
    drift = 2 * SECONDS if number < 2 else 0 * SECONDS
    heads = one.world_positions(SECONDS, one.joints)[:, 1]
    wanted = np.stack([np.full(3, float(number)), np.full(3, 1.5 + number / 10), drift], axis=-1)
    assert np.allclose(heads, wanted, atol=1e-6)
    moved = {"turn " + name} | ({"drift"} if number < 2 else set())
    assert len(one.motion.curves) == len(moved), "what moves the others is left out"


def test_skins_that_share_joints_are_one_rig_and_one_name_is_refused() -> None:
    g = people()
    g.json["skins"][1]["joints"] = g.json["skins"][0]["joints"] + g.json["skins"][1]["joints"]
    assert read(g).alternatives == ("float", "Cleo")
    with pytest.raises(FileError, match="no rig “Dora”") as told:
        read(g, "Dora")
    assert "Cleo" in told.value.remedy
    with pytest.raises(FileError, match="no rig “Anna”") as told:
        read(people(1), "Anna")
    assert "leave the name out" in told.value.remedy


def test_two_of_the_same_name_can_be_told_apart() -> None:
    g = people()
    for node in g.json["nodes"]:
        if node["name"] in ("Anna", "Bert", "Cleo"):
            node["name"] = "Extra"
    assert read(g).alternatives == ("Extra", "Extra#2", "Extra#3")


def test_the_rigs_of_a_usd_stage() -> None:
    stage = Usd.Stage.CreateInMemory()
    one = walker()
    stage.GetRootLayer().TransferContent(one.GetRootLayer())
    Sdf.CopySpec(one.GetRootLayer(), "/Walker", stage.GetRootLayer(), "/Other")
    UsdGeom.Xformable(stage.GetPrimAtPath("/Other")).GetOrderedXformOps()[0].Set((7, 0, 0))
    data = usda(stage)

    def rig(name: str | None) -> Rig:
        return read_rig(data, RigSource("0" * 64, "usd", rig=name))

    assert rig(None).alternatives == ("Walker", "Other")
    other, alone = rig("Other"), read_rig(usda(one), RigSource("0" * 64, "usd"))
    assert len(other.joints) == len(alone.joints) == 2
    assert np.allclose(
        other.world_positions(SECONDS, other.joints) - [5, 0, 0],
        alone.world_positions(SECONDS, alone.joints),
        atol=1e-6,
    )
    assert other.mesh is not None
    assert alone.mesh is not None
    assert len(other.mesh.triangles) == len(alone.mesh.triangles)
    with pytest.raises(FileError, match="no rig “Third”"):
        rig("Third")
