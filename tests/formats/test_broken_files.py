"""Broken and hostile files: each ends in one clear line and exit 2, in little time and memory."""

from __future__ import annotations

import json
import struct
import tracemalloc
from collections.abc import Callable
from pathlib import Path
from time import process_time
from typing import Any

import numpy as np
import pytest

from eddyfield.cli.main import main
from eddyfield.formats import gltf
from eddyfield.formats.errors import FileError

from .builders import BVH, Gltf, pack_glb, walker

CAMERA = ["--at", "0,1,5", "--look", "0,1,0", "--focal", "35"]
MOST_SECONDS, MOST_BYTES = 4.0, 120_000_000
"""Of the processor, which a busy machine does not make more of."""


def changed(change: Callable[[Gltf], Any], base: Callable[[], Gltf] = walker) -> bytes:
    g = base()
    change(g)
    return g.glb()


def put(*path: str | int, value: Any) -> Callable[[Gltf], None]:
    """Set one member deep in the document."""

    def change(g: Gltf) -> None:
        at: Any = g.json
        for step in path[:-1]:
            at = at[step]
        at[path[-1]] = value

    return change


def bytes_of(index: int, data: bytes) -> Callable[[Gltf], None]:
    """Overwrite the bytes of an accessor."""

    def change(g: Gltf) -> None:
        start = g.json["bufferViews"][g.json["accessors"][index]["bufferView"]]["byteOffset"]
        g.data[start : start + len(data)] = data

    return change


def sharing_curves(curves: int, keys: int) -> bytes:
    """A small file of many curves that all name the same zero-filled keys."""
    g = walker()
    g.json["accessors"] += [
        {"componentType": 5126, "count": keys // 4, "type": "SCALAR"},
        {"componentType": 5126, "count": keys // 4, "type": "VEC4"},
    ]
    last = len(g.json["accessors"])
    nodes = [g.node(f"n{i}") for i in range(curves)]
    channels = [{"sampler": 0, "target": {"node": n, "path": "rotation"}} for n in nodes]
    g.json["animations"] = [{"channels": channels, "samplers": [{"input": last - 2, "output": last - 1}]}]
    return g.glb()


def chain(count: int) -> bytes:
    nodes = [{"children": [i + 1]} for i in range(count - 1)] + [{"name": "end"}]
    return json.dumps({"asset": {"version": "2.0"}, "nodes": nodes}).encode()


NAN, INFINITE = struct.pack("<f", float("nan")), struct.pack("<f", float("inf"))
DEEP = b'{"asset":{"version":"2.0"},"extras":' + b"[" * 100_000 + b"]" * 100_000 + b"}"

BROKEN_GLB: dict[str, bytes] = {
    "empty": b"",
    "only the magic": b"glTF",
    "header cut": walker().glb()[:11],
    "json cut": walker().glb()[:60],
    "binary cut": walker().glb()[:-20],
    "length beyond the file": pack_glb(b'{"asset":{"version":"2.0"}}', length=10_000_000),
    "chunk beyond the file": walker().glb()[:12] + struct.pack("<I", 0xFFFFFFF0) + walker().glb()[16:],
    "no json chunk": b"glTF" + struct.pack("<III", 2, 20, 0) + b"BIN\0",
    "container of version 1": pack_glb(b"{}", version=1),
    "json is not an object": pack_glb(b"[1,2,3]"),
    "json with NaN": pack_glb(b'{"asset":{"version":"2.0"},"nodes":[{"translation":[NaN,0,0]}]}'),
    "json nested too deep": pack_glb(DEEP),
    "not utf-8": pack_glb(b'{"asset":{"version":"\xff\xfe"}}'),
    "no asset": pack_glb(b'{"nodes":[]}'),
    "glTF 1": pack_glb(b'{"asset":{"version":"1.0"}}'),
    "needs a later version": pack_glb(b'{"asset":{"version":"2.0","minVersion":"2.9"}}'),
    "required extension": changed(put("extensionsRequired", value=["KHR_texture_basisu"])),
    "no nodes at all": pack_glb(b'{"asset":{"version":"2.0"}}'),
    "node is its own child": changed(put("nodes", 1, "children", value=[1])),
    "nodes in a ring": changed(put("nodes", 1, "children", value=[0])),
    "child with two parents": changed(put("nodes", 2, "children", value=[1])),
    "child that does not exist": changed(put("nodes", 0, "children", value=[99])),
    "negative child": changed(put("nodes", 0, "children", value=[-1])),
    "short matrix": changed(put("nodes", 0, "matrix", value=[1, 0, 0])),
    "translation of words": changed(put("nodes", 0, "translation", value=["a", "b", "c"])),
    "infinite scale": pack_glb(b'{"asset":{"version":"2.0"},"nodes":[{"scale":[1e999,1,1]}]}'),
    "scene of a missing node": changed(put("scenes", 0, "nodes", value=[77])),
    "default scene that does not exist": changed(put("scene", value=5)),
    "skin joint that does not exist": changed(put("skins", 0, "joints", value=[0, 44])),
    "camera that does not exist": changed(put("nodes", 3, "camera", value=3)),
    "camera without a view": changed(put("cameras", 0, "perspective", value={})),
    "camera of 200 degrees": changed(put("cameras", 0, "perspective", "yfov", value=3.5)),
    "sampler that does not exist": changed(put("animations", 0, "channels", 0, "sampler", value=9)),
    "animated node that does not exist": changed(put("animations", 0, "channels", 0, "target", "node", value=90)),
    "accessor that does not exist": changed(put("animations", 0, "samplers", 0, "input", value=99)),
    "unknown interpolation": changed(put("animations", 0, "samplers", 0, "interpolation", value="BOUNCE")),
    "times of the wrong type": changed(put("animations", 0, "samplers", 0, "input", value=0)),
    "values of the wrong type": changed(put("animations", 0, "samplers", 0, "output", value=1)),
    "fewer values than times": changed(put("accessors", 0, "count", value=1)),
    "NaN time": changed(bytes_of(1, NAN)),
    "infinite time": changed(bytes_of(1, INFINITE)),
    "NaN value": changed(bytes_of(0, NAN)),
    "times run backwards": changed(bytes_of(1, struct.pack("<f", 3.0))),
    "times without end": changed(bytes_of(1, struct.pack("<ff", 0.0, 3e38))),
    "view that does not exist": changed(put("accessors", 0, "bufferView", value=40)),
    "buffer that does not exist": changed(put("bufferViews", 0, "buffer", value=4)),
    "view beyond its buffer": changed(put("bufferViews", 0, "byteOffset", value=10_000)),
    "accessor beyond its view": changed(put("accessors", 0, "byteOffset", value=9)),
    "huge count": changed(put("accessors", 0, "count", value=2**31)),
    "count beyond counting": changed(put("accessors", 0, "count", value=10**30)),
    "negative count": changed(put("accessors", 0, "count", value=-4)),
    "huge count of nothing": changed(
        lambda g: g.json["accessors"].append({"componentType": 5126, "count": 2**39, "type": "MAT4"})
    ),
    "huge stride": changed(put("bufferViews", 0, "byteStride", value=2**19)),
    "unknown component": changed(put("accessors", 0, "componentType", value=5130)),
    "unknown shape": changed(put("accessors", 0, "type", value="VEC9")),
    "sparse beyond the accessor": changed(
        put(
            "accessors",
            0,
            "sparse",
            value={
                "count": 1,
                "indices": {"bufferView": 1, "byteOffset": 4, "componentType": 5125},
                "values": {"bufferView": 0},
            },
        )
    ),
    "sparse with real indices": changed(
        put(
            "accessors",
            0,
            "sparse",
            value={"count": 1, "indices": {"bufferView": 1, "componentType": 5126}, "values": {"bufferView": 0}},
        )
    ),
    "more sparse than elements": changed(
        put(
            "accessors",
            0,
            "sparse",
            value={"count": 9, "indices": {"bufferView": 1, "componentType": 5121}, "values": {"bufferView": 0}},
        )
    ),
    "skin that does not exist": changed(put("nodes", 2, "skin", value=4)),
    "stride smaller than its element": changed(put("bufferViews", 0, "byteStride", value=4)),
    "sampler without keys": changed(put("accessors", 1, "count", value=0)),
    "curves that share what is not there": sharing_curves(1_000, 3_900_000),
    "chain of 100,000 nodes": pack_glb(chain(100_000)),
    "external buffer outside": walker().text("../../../etc/passwd"),
    "external buffer by address": walker().text("http://example.invalid/a.bin"),
    "external buffer that is missing": walker().text("missing.bin"),
    "embedded buffer that is no base64": walker().text("data:application/octet-stream;base64,@@@@"),
    "embedded buffer without data": walker().text("data:application/octet-stream"),
    "embedded buffer cut": walker().text("data:application/octet-stream;base64,AAAA"),
    "plain words": b"this is not a model at all",
    "html": b"<html><body>404</body></html>",
}

BROKEN_BVH: dict[str, bytes] = {
    "empty": b"",
    "no hierarchy": b"MOTION\nFrames: 1\nFrame Time: 0.1\n0\n",
    "no motion": BVH.split("MOTION")[0].encode(),
    "not closed": BVH.replace("}\nMOTION", "MOTION").encode(),
    "closed too often": BVH.replace("}\nMOTION", "}\n}\nMOTION").encode(),
    "channel count that does not match": BVH.replace("CHANNELS 3", "CHANNELS 4").encode(),
    "unknown channel": BVH.replace("Xposition", "Xspin").encode(),
    "huge channel count": BVH.replace("CHANNELS 3", "CHANNELS 999999999").encode(),
    "short offset": BVH.replace("OFFSET 10 -5 0", "OFFSET 10 -5").encode(),
    "NaN offset": BVH.replace("OFFSET 10 -5 0", "OFFSET nan 0 0").encode(),
    "words in the samples": BVH.replace("0 90 5 0", "0 ninety 5 0").encode(),
    "NaN in the samples": BVH.replace("0 90 5 0", "0 nan 5 0").encode(),
    "infinity in the samples": BVH.replace("0 90 5 0", "0 1e999 5 0").encode(),
    "no rows": BVH[: BVH.index("0 90 0 0 0")].encode(),
    "half a row": (BVH[: BVH.index("0 90 0 0 0")] + "0 90 0\n").encode(),
    "no frame time": BVH.replace("Frame Time: 0.0416667\n", "").encode(),
    "frame time of nought": BVH.replace("0.0416667", "0").encode(),
    "frame time of words": BVH.replace("0.0416667", "soon").encode(),
    "too deep": ("HIERARCHY\nROOT a\n{\n" + "JOINT a\n{\n" * 5000).encode(),
    "too many joints": ("HIERARCHY\nROOT a\n{\n" + "JOINT b\n{\nOFFSET 0 0 0\n}\n" * 20_000 + "}\nMOTION\n").encode(),
    "binary": bytes(range(256)) * 40,
    "negative frame count": BVH.replace("Frames: 3", "Frames: -3").encode(),
    "joint without offset": BVH.replace("    OFFSET 10 -5 0\n", "").encode(),
    "end site without offset": BVH.replace("      OFFSET 0 -85 0\n", "").encode(),
    "1,990 joints deep": (
        "HIERARCHY\nROOT a\n{\nOFFSET 0 0 0\nCHANNELS 1 Xposition\n"
        + "JOINT b\n{\nOFFSET 0 1 0\nCHANNELS 1 Zrotation\n" * 1989
        + "}\n" * 1990
        + "MOTION\nFrames: 1\nFrame Time: 0.04\n"
        + "0 " * 1990
    ).encode(),
}

CASES = [(f"{name}.glb", data) for name, data in BROKEN_GLB.items()] + [(f"{n}.bvh", d) for n, d in BROKEN_BVH.items()]


@pytest.mark.parametrize(("name", "data"), CASES, ids=[name for name, _ in CASES])
def test_a_broken_file_ends_in_one_clear_line(
    name: str, data: bytes, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    file = tmp_path / ("model" + Path(name).suffix)
    file.write_bytes(data)
    tracemalloc.start()
    began = process_time()
    camera = ["--camera", "Shot"] if "camera" in name else CAMERA
    status = main(["tracks", str(file), *camera, "--out", str(tmp_path / "out.csv")])
    took, (_, most) = process_time() - began, tracemalloc.get_traced_memory()
    tracemalloc.stop()
    said = capsys.readouterr()
    assert status == 2
    assert said.out == ""
    lines = said.err.splitlines()
    assert len(lines) == 1, said.err
    assert lines[0].startswith("eddyfield tracks: ")
    assert "Traceback" not in said.err
    assert len(lines[0]) < 600
    assert not (tmp_path / "out.csv").exists(), "nothing is written"
    assert took < MOST_SECONDS
    assert most < MOST_BYTES


def test_there_are_enough_of_them() -> None:
    assert len(CASES) >= 80


@pytest.mark.parametrize(
    "attribute",
    [
        {"JOINTS_0": [[9, 0, 0, 0]] * 3, "WEIGHTS_0": [[1, 0, 0, 0]] * 3},
        {"JOINTS_0": [[0, 0, 0, 0]] * 3},
        {"JOINTS_0": [[0, 0, 0, 0]] * 2, "WEIGHTS_0": [[1, 0, 0, 0]] * 3},
        {"NORMAL": [[0, 1, 0]] * 2},
    ],
)
def test_a_broken_mesh_is_refused(attribute: dict[str, list[list[int]]]) -> None:
    g = walker()
    attributes = {"POSITION": g.accessor(np.zeros((3, 3)))}
    for name, values in attribute.items():
        attributes[name] = g.accessor(values, "<u2" if name == "JOINTS_0" else "<f4")
    g.json["meshes"] = [{"primitives": [{"attributes": attributes}]}]
    g.json["nodes"][2]["mesh"] = 0
    g.json["scenes"][0]["nodes"].append(2)
    with pytest.raises(FileError, match="mesh"):
        gltf.read(g.glb(), with_mesh=True)


@pytest.mark.parametrize("mode", [4, 5])
def test_primitives_that_share_millions_of_indices_are_refused_at_once(mode: int) -> None:
    g = walker()
    attributes = {"POSITION": g.accessor(np.zeros((3, 3)))}
    g.json["accessors"].append({"componentType": 5125, "count": 4_000_000, "type": "SCALAR"})
    shared = {"attributes": attributes, "indices": len(g.json["accessors"]) - 1, "mode": mode}
    g.json["meshes"] = [{"primitives": [shared] * 1_000}]
    g.json["nodes"][3]["mesh"] = 0
    began = process_time()
    with pytest.raises(FileError, match="corners of triangles"):
        gltf.read(g.glb(), with_mesh=True)
    assert process_time() - began < MOST_SECONDS


def test_inverse_bind_matrices_have_to_be_real_numbers() -> None:
    g = walker()
    attributes = {"POSITION": g.accessor(np.zeros((3, 3))), "JOINTS_0": g.accessor(np.zeros((3, 4)), "<u2")}
    attributes["WEIGHTS_0"] = g.accessor([[1, 0, 0, 0]] * 3)
    g.json["meshes"] = [{"primitives": [{"attributes": attributes}]}]
    g.json["nodes"][2]["mesh"] = 0
    g.json["scenes"][0]["nodes"].append(2)
    g.json["skins"][0]["inverseBindMatrices"] = g.accessor(np.tile(np.eye(4).ravel(), (2, 1)), "<u2")
    with pytest.raises(FileError, match="inverse bind"):
        gltf.read(g.glb(), with_mesh=True)


def test_a_long_chain_of_nodes_is_read_in_good_time(tmp_path: Path) -> None:
    count = 20_000
    nodes = [{"name": f"n{i}", "children": [i + 1], "translation": [0, 1e-4, 0]} for i in range(count - 1)] + [
        {"name": "end"}
    ]
    document = {"asset": {"version": "2.0"}, "nodes": nodes}
    file = tmp_path / "chain.gltf"
    file.write_text(json.dumps(document))
    began = process_time()
    assert main(["tracks", str(file), *CAMERA, "--joints", "end", "--out", str(tmp_path / "o.csv")]) == 0
    assert process_time() - began < MOST_SECONDS
    assert (tmp_path / "o.csv").read_text().splitlines()[1].split(",")[8] == f"{(count - 1) * 1e-4:.9f}"


def test_a_broken_camera_is_no_hindrance_where_another_is_looked_through(tmp_path: Path) -> None:
    file = tmp_path / "model.glb"
    file.write_bytes(BROKEN_GLB["camera of 200 degrees"])
    assert main(["tracks", str(file), *CAMERA, "--out", str(tmp_path / "out.csv")]) == 0
