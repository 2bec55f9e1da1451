"""glTF in and out: the ways in which real files differ."""

from __future__ import annotations

import json

import numpy as np
import pytest
from scipy.spatial.transform import Rotation

from eddyfield.core.rig.rig import Rig
from eddyfield.formats import gltf
from eddyfield.formats.errors import FileError
from eddyfield.formats.gltf.container import embedded

from .builders import Gltf, pack_glb, walker

QUARTER = [0.0, float(np.sin(np.pi / 4)), 0.0, float(np.cos(np.pi / 4))]


def place(rig: Rig, name: str, time: float) -> list[float]:
    return [round(float(v), 6) for v in rig.world_positions(np.array([time]), np.array([rig.find(name)]))[0, 0]]


def test_the_same_file_as_text_and_as_binary() -> None:
    for data in (walker().text(), walker().glb(), b"\xef\xbb\xbf" + walker().text() + b"\n\0"):
        rig = gltf.read(data)
        assert rig.joint_names == ("hips", "foot")
        assert place(rig, "foot", 0.5) == [0.5, 0.0, 0.0]
        assert rig.motion.duration_seconds == 1.0
        assert rig.cameras[0].vertical_fov_deg == pytest.approx(np.degrees(0.7))
    assert place(gltf.read(walker().glb(), scale=0.01), "hips", 1.0) == [0.01, 0.01, 0.0]


def test_step_linear_and_cubic_samplers_uneven_and_single_keys() -> None:
    g = Gltf()
    names = ["step", "linear", "cubic", "single", "turn"]
    for name in names:
        g.node(name)
    uneven = [0.0, 0.1, 1.0]
    values = [[0, 0, 0], [1, 0, 0], [2, 0, 0]]
    cubic = [[0, 0, 0], [0, 0, 0], [2, 0, 0], [0, 0, 0], [1, 0, 0], [0, 0, 0], [0, 0, 0], [2, 0, 0], [9, 9, 9]]
    g.animate(
        (0, "translation", uneven, values, "STEP"),
        (1, "translation", uneven, values, "LINEAR"),
        (2, "translation", uneven, cubic, "CUBICSPLINE"),
        (3, "translation", [0.4], [[7, 8, 9]], "LINEAR"),
        (4, "rotation", [0, 1], [[0, 0, 0, 1], [-v for v in QUARTER]], "LINEAR"),
    )
    rig = gltf.read(g.glb())
    assert place(rig, "step", 0.0999)[0] == 0
    assert place(rig, "step", 0.5)[0] == 1
    assert place(rig, "step", 1.0)[0] == 2
    assert place(rig, "linear", 0.55)[0] == pytest.approx(1.5)
    assert place(rig, "cubic", 0.05)[0] == pytest.approx(0.5 + 0.125 * 0.1 * 2)
    assert place(rig, "cubic", 0.55)[0] == pytest.approx(1.5)
    assert place(rig, "single", -3) == place(rig, "single", 3) == [7, 8, 9]
    turned = rig.world_matrices(np.array([0.5]), np.array([4]))[0, 0, :3, :3]
    assert np.allclose(turned, Rotation.from_euler("y", 45, degrees=True).as_matrix()), "the short way, though q is -q"


def test_two_keys_at_one_time_are_a_jump() -> None:
    g = Gltf()
    g.node("a")
    g.animate((0, "translation", [0, 1, 1, 2], [[0, 0, 0], [1, 0, 0], [5, 0, 0], [6, 0, 0]], "LINEAR"))
    rig = gltf.read(g.glb())
    assert [place(rig, "a", t)[0] for t in (0.5, 1.0, 1.5, 2.5)] == [0.5, 5.0, 5.5, 6.0]


def test_mirrored_and_uneven_parents_and_matrices() -> None:
    g = Gltf()
    matrix = np.diag([-2.0, 1.0, 3.0, 1.0])
    matrix[:3, 3] = [1, 2, 3]
    g.node("top", matrix=matrix.T.reshape(-1).tolist(), children=[1])
    g.node("turned", rotation=QUARTER, scale=[1, 2, 1], children=[2])
    g.node("tip", translation=[1, 1, 0])
    g.animate((2, "translation", [0, 1], [[1, 1, 0], [1, 1, 0]], "LINEAR"))
    local = np.eye(4)
    local[:3, :3] = Rotation.from_quat(QUARTER).as_matrix() * [1, 2, 1]
    expected = (matrix @ local @ [1, 1, 0, 1])[:3]
    assert place(gltf.read(g.glb()), "tip", 0.3) == pytest.approx(expected.tolist())


@pytest.mark.parametrize(("dtype", "top"), [("|i1", 127), ("<i2", 32767)])
def test_normalized_whole_numbers_strides_and_sparse(dtype: str, top: int) -> None:
    g = Gltf()
    g.node("a")
    turn = np.round(np.array([[0, 0, 0, 1], QUARTER]) * top)
    output = g.accessor(turn, dtype, stride=12, normalized=True)
    g.animate((0, "rotation", [0, 1], output, "LINEAR"))
    turned = gltf.read(g.glb()).world_matrices(np.array([1.0]))[0, 0, :3, :3]
    assert np.allclose(turned, Rotation.from_quat(QUARTER).as_matrix(), atol=2 / top)
    h = Gltf()
    h.node("a")
    base = h.accessor(np.zeros((3, 3)))
    indices, values = h.accessor([2], "<u2"), h.accessor([[4, 5, 6]])
    views = [h.json["accessors"][i]["bufferView"] for i in (indices, values)]
    h.json["accessors"][base]["sparse"] = {
        "count": 1, "indices": {"bufferView": views[0], "componentType": 5123}, "values": {"bufferView": views[1]},
    }  # fmt: skip
    h.animate((0, "translation", [0, 1, 2], base, "STEP"))
    assert place(gltf.read(h.glb()), "a", 2) == [4, 5, 6]
    del h.json["accessors"][base]["bufferView"]  # then it is nought where nothing is put
    assert place(gltf.read(h.glb()), "a", 2) == [4, 5, 6]
    assert place(gltf.read(h.glb()), "a", 1) == [0, 0, 0]


def test_which_joints_a_file_has() -> None:
    g = walker()
    g.json["skins"].append({"joints": [4]})
    g.json["scenes"].append({"nodes": [4]})
    g.node("other rig")
    assert gltf.read(g.glb()).joint_names == ("hips", "foot"), "only those of the default scene"
    g.json["scene"] = 1
    assert gltf.read(g.glb()).joint_names == ("other rig",)
    plain = walker()
    del plain.json["skins"]
    assert gltf.read(plain.glb()).joint_names == ("hips",), "without a skin: what is animated and is no camera"


def test_unnamed_and_twin_nodes() -> None:
    g = Gltf(skins=[{"joints": [1, 2, 3]}])
    for name in ("hand", "hand", "hand", None):
        g.node(name)
    assert gltf.read(g.glb()).names == ("hand#3", "hand", "hand#2", "node_3"), "joints count before other nodes"


def test_several_animations() -> None:
    g = Gltf()
    g.node("a"), g.node("b")
    for node, name in ((0, "one"), (1, "two")):
        g.animate((node, "translation", [0, 1 + node], [[0, 0, 0], [1 + node, 0, 0]], "LINEAR"), name=name)
    both = gltf.read(g.glb())
    assert place(both, "a", 1)[0] == 1
    assert place(both, "b", 2)[0] == 2
    assert both.motion.duration_seconds == 2
    one = gltf.read(g.glb(), animation="one")
    assert place(one, "b", 2)[0] == 0
    g.animate((0, "translation", [0, 1], [[0, 0, 0], [9, 0, 0]], "LINEAR"))
    first = gltf.read(g.glb())
    assert (place(first, "a", 1)[0], place(first, "b", 2)[0]) == (1, 0), "two takes of one node: the first is played"
    assert place(gltf.read(g.glb(), animation="animation_2"), "a", 1)[0] == 9
    with pytest.raises(FileError, match="It has: one, two"):
        gltf.read(g.glb(), animation="three")


def test_external_buffers_stay_below_the_own_folder() -> None:
    g = walker()
    asked = []

    def resolve(name: str) -> bytes:
        asked.append(name)
        return bytes(g.data)

    rig = gltf.read(g.text("parts/my%20data.bin"), resolve=resolve)
    assert asked == ["parts/my data.bin"]
    assert place(rig, "hips", 1)[0] == 1
    inside = embedded(g.text("a.bin"), resolve)
    assert place(gltf.read(inside), "hips", 1)[0] == 1
    for uri in (
        "../a.bin",
        "%2e%2e/a.bin",
        "/etc/passwd",
        "file:///etc/passwd",
        "http://host/a.bin",
        "a/../../b.bin",
        "..\\a",
    ):
        with pytest.raises(FileError, match="outside"):
            gltf.read(g.text(uri), resolve=resolve)
    with pytest.raises(FileError, match="did not come with it"):
        gltf.read(g.text("a.bin"))


def test_extensions_are_refused_by_name_or_passed_over() -> None:
    g = walker()
    g.json["extensionsUsed"] = ["KHR_lights_punctual"]
    assert gltf.read(g.glb()).joint_names
    g.json["extensionsRequired"] = ["KHR_texture_basisu"]
    with pytest.raises(FileError, match="KHR_texture_basisu"):
        gltf.read(g.glb())
    g.json["extensionsRequired"] = ["KHR_mesh_quantization"]
    assert gltf.read(g.glb()).joint_names


def test_a_quantized_skinned_mesh_and_a_strip() -> None:
    g = walker()
    positions = g.accessor([[0, 0, 0], [100, 0, 0], [0, 100, 0], [100, 100, 0]], "<u2", stride=8)
    joints = g.accessor([[0, 1, 0, 0]] * 4, "|u1")
    weights = g.accessor(np.array([[192, 63, 0, 0]] * 4), "|u1", normalized=True)
    attributes = {"POSITION": positions, "JOINTS_0": joints, "WEIGHTS_0": weights}
    g.json["meshes"] = [
        {"primitives": [{"attributes": attributes, "mode": 5}, {"attributes": {"POSITION": positions}, "mode": 1}]}
    ]
    g.json["nodes"][2]["mesh"] = 0
    g.json["scenes"][0]["nodes"].append(2)
    rig = gltf.read(g.glb(), with_mesh=True)
    assert rig.mesh is not None
    assert rig.mesh.triangles.tolist() == [[0, 1, 2], [2, 1, 3]]
    assert np.allclose(rig.mesh.weights[0, :2], [192 / 255, 63 / 255], atol=1e-6)
    assert np.allclose(np.abs(rig.mesh.normals), [0, 0, 1])


def test_chunks_that_are_not_known_are_passed_over_and_cut_files_told() -> None:
    whole = walker().glb()
    extra = b"\4\0\0\0XTRA1234"
    grown = whole + extra
    grown = grown[:8] + len(grown).to_bytes(4, "little") + grown[12:]
    assert gltf.read(grown).joint_names
    assert gltf.read(whole + b"trailing").joint_names
    with pytest.raises(FileError, match="cut off"):
        gltf.read(whole[:-5])
    with pytest.raises(FileError, match="version 1"):
        gltf.read(pack_glb(b"{}", version=1))


def test_a_buffer_that_is_named_often_is_fetched_and_kept_once() -> None:
    g = walker()
    asked = []

    def resolve(name: str) -> bytes:
        asked.append(name)
        return bytes(g.data)

    raw = json.loads(g.text("a.bin"))
    raw["buffers"] += [raw["buffers"][0]] * 149
    for number, view in enumerate(raw["bufferViews"]):
        view["buffer"] = number * 7 % 150
    often = json.dumps(raw).encode()
    assert place(gltf.read(often, resolve=resolve), "hips", 1)[0] == 1
    assert asked == ["a.bin"]
    inside = embedded(often, resolve)
    assert len(inside) < len(often) + 2 * len(g.data) + 1000
    assert place(gltf.read(inside), "hips", 1)[0] == 1


@pytest.mark.parametrize("with_mesh", [False, True])
def test_matrices_that_are_none_are_refused_where_nothing_is_drawn_with_them(with_mesh: bool) -> None:
    for values, why in (
        (np.tile([0.0, 0.0, 0.0, 1.0], (2, 1)), "inverse bind matrices should be MAT4 and are VEC4"),
        (np.eye(4).reshape(1, 16), "inverse bind matrices are 1, of 2 joints"),
    ):
        g = walker()
        g.json["skins"][0]["inverseBindMatrices"] = g.accessor(values, "<f4")
        with pytest.raises(FileError, match=why):
            gltf.read(g.glb(), with_mesh=with_mesh)


@pytest.mark.parametrize("with_mesh", [False, True])
def test_what_says_that_it_is_compressed_and_is_not_is_refused_in_one_line(with_mesh: bool) -> None:
    g = walker()
    place = g.accessor([[0, 0, 0], [1, 0, 0], [0, 1, 0]], "<f4")
    packed = {"bufferView": len(g.json["bufferViews"]) - 1, "attributes": {"POSITION": 0}}
    g.json["meshes"] = [
        {"primitives": [{"attributes": {"POSITION": place}, "extensions": {"KHR_draco_mesh_compression": packed}}]}
    ]
    g.json["extensionsUsed"] = ["KHR_draco_mesh_compression"]
    with pytest.raises(FileError, match=r"says that it is compressed .*, and is not"):
        gltf.read(g.glb(), with_mesh=with_mesh)
