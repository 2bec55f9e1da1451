"""Random files read by the project and by a second, plain reader written for this test: they have to agree."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation, Slerp

from eddyfield.cli.main import main
from eddyfield.formats import bvh, gltf
from eddyfield.formats.gltf import GltfWriter

from .builders import Gltf

Matrix = np.ndarray
TIMES = np.linspace(-0.1, 1.2, 14)


# --- BVH: a joint at a time, a row at a time ---


class PlainBvh:
    """The textbook reading: each channel is a matrix, multiplied in the order in which it stands."""

    def __init__(self, joints: list[tuple[int, list[float], list[str]]], rows: Matrix, step: float, adds: bool) -> None:
        self.joints, self.rows, self.step, self.adds = joints, rows, step, adds

    def local(self, joint: int, row: int) -> tuple[Matrix, Rotation]:
        _, offset, channels = self.joints[joint]
        column = sum(len(c) for _, _, c in self.joints[:joint])
        place, turn = np.array(offset, dtype=float), Rotation.identity()
        for name, value in zip(channels, self.rows[row][column : column + len(channels)], strict=True):
            axis = "XYZ".index(name[0])
            if name.endswith("position"):
                place[axis] = value + (offset[axis] if self.adds else 0)
            else:
                turn = turn * Rotation.from_euler("xyz"[axis], value, degrees=True)
        return place, turn

    def world(self, joint: int, time: float) -> Matrix:
        at = np.clip(time / self.step, 0, len(self.rows) - 1)
        low = int(min(np.floor(at + 1e-12), len(self.rows) - 1))
        high = min(low + 1, len(self.rows) - 1)
        matrix = np.eye(4)
        (place_a, turn_a), (place_b, turn_b) = self.local(joint, low), self.local(joint, high)
        share = at - low
        matrix[:3, 3] = place_a + (place_b - place_a) * share
        pair = Rotation.concatenate([turn_a, turn_b])
        matrix[:3, :3] = (Slerp([0, 1], pair)(share) if high > low else turn_a).as_matrix()
        parent = self.joints[joint][0]
        return matrix if parent < 0 else self.world(parent, time) @ matrix


def bvh_text(joints: list[tuple[int, list[float], list[str]]], rows: Matrix, step: float) -> str:
    def block(joint: int, depth: int) -> list[str]:
        parent, offset, channels = joints[joint]
        pad = "\t" * depth
        lines = [f"{pad}{'ROOT' if parent < 0 else 'JOINT'} joint {joint}", pad + "{"]
        lines += [
            f"{pad}\tOFFSET {' '.join(map(str, offset))}",
            f"{pad}\tCHANNELS {len(channels)} {' '.join(channels)}",
        ]
        children = [c for c, (p, _, _) in enumerate(joints) if p == joint]
        for child in children:
            lines += block(child, depth + 1)
        if not children:
            lines += [f"{pad}\tEnd Site", pad + "\t{", f"{pad}\t\tOFFSET 0 1 0", pad + "\t}"]
        return [*lines, pad + "}"]

    lines = ["HIERARCHY"]
    for joint, (parent, _, _) in enumerate(joints):
        if parent < 0:
            lines += block(joint, 0)
    lines += ["MOTION", f"Frames: {len(rows)}", f"Frame Time: {step!r}"]
    return "\n".join(lines + [" ".join(repr(float(v)) for v in row) for row in rows]) + "\n"


@settings(max_examples=25)
@given(st.integers(0, 10_000), st.booleans())
def test_bvh_agrees_with_a_plain_reading(seed: int, adds: bool) -> None:
    rng = np.random.default_rng(seed)
    count = int(rng.integers(1, 6))
    # Depth-first order, as the text has it: each joint hangs on the one before it, or is a second root.
    parents = [-1] + [i - 1 if rng.uniform() < 0.8 else -1 for i in range(1, count)]
    joints = []
    for parent in parents:
        names = [f"{a}{k}" for k in ("position", "rotation") for a in "XYZ"]
        chosen = rng.permutation(names)[: int(rng.integers(1, 7))]
        joints.append((parent, rng.uniform(-5, 5, 3).round(3).tolist(), list(chosen)))
    width = sum(len(c) for _, _, c in joints)
    rows, step = rng.uniform(-400, 400, (4, width)).round(4), 0.25
    rig = bvh.read(bvh_text(joints, rows, step).encode(), scale=0.5, offsets="add" if adds else "replace")
    plain = PlainBvh(joints, rows, step, adds)
    world = rig.world_matrices(TIMES, rig.joints)
    for row, time in enumerate(TIMES):
        for joint in range(count):
            expected = np.diag([0.5, 0.5, 0.5, 1]) @ plain.world(joint, time)
            assert np.allclose(world[row, joint], expected, atol=1e-6), (joint, time)


# --- glTF: the specification's own pseudo-code, a node at a time ---


def plain_sample(document: dict, data: bytes, animation: dict, channel: dict, time: float) -> Matrix:  # type: ignore[type-arg]
    sampler = animation["samplers"][channel["sampler"]]

    def numbers(index: int) -> Matrix:
        accessor = document["accessors"][index]
        view = document["bufferViews"][accessor["bufferView"]]
        width = {"SCALAR": 1, "VEC3": 3, "VEC4": 4}[accessor["type"]]
        return (
            np.frombuffer(data, "<f4", accessor["count"] * width, view["byteOffset"]).reshape(-1, width).astype(float)
        )

    times, values = numbers(sampler["input"])[:, 0], numbers(sampler["output"])
    kind, rotation = sampler["interpolation"], channel["target"]["path"] == "rotation"
    time = float(np.clip(time, times[0], times[-1]))
    k = int(np.searchsorted(times, time + max(1e-6, abs(time) * 2**-23), side="right")) - 1
    last = k == len(times) - 1
    if kind == "CUBICSPLINE":
        if last:
            value = values[3 * k + 1]
        else:
            d = times[k + 1] - times[k]
            t = (time - times[k]) / d
            v0, b0, a1, v1 = values[3 * k + 1], values[3 * k + 2], values[3 * k + 3], values[3 * k + 4]
            value = (2*t**3 - 3*t**2 + 1)*v0 + d*(t**3 - 2*t**2 + t)*b0 + (-2*t**3 + 3*t**2)*v1 + d*(t**3 - t**2)*a1  # fmt: skip
        return value / np.linalg.norm(value) if rotation else value
    if kind == "STEP" or last:
        return values[k] / np.linalg.norm(values[k]) if rotation else values[k]
    t = (time - times[k]) / (times[k + 1] - times[k])
    if not rotation:
        return values[k] * (1 - t) + values[k + 1] * t
    a, b = (v / np.linalg.norm(v) for v in (values[k], values[k + 1]))
    d = a @ b
    angle = np.arccos(min(1.0, abs(d)))
    sign = 1.0 if d >= 0 else -1.0
    return np.sin(angle * (1 - t)) / np.sin(angle) * a + sign * np.sin(angle * t) / np.sin(angle) * b


def plain_world(document: dict, data: bytes, node: int, time: float) -> Matrix:  # type: ignore[type-arg]
    entry = document["nodes"][node]
    parts = {"translation": [0, 0, 0], "rotation": [0, 0, 0, 1], "scale": [1, 1, 1]}
    parts = {name: np.array(entry.get(name, default), dtype=float) for name, default in parts.items()}
    animated = False
    for animation in document["animations"]:
        for channel in animation["channels"]:
            if channel["target"]["node"] == node:
                parts[channel["target"]["path"]] = plain_sample(document, data, animation, channel, time)
                animated = True
    local = np.eye(4)
    local[:3, :3] = Rotation.from_quat(parts["rotation"]).as_matrix() * parts["scale"]
    local[:3, 3] = parts["translation"]
    if "matrix" in entry and not animated:
        local = np.array(entry["matrix"]).reshape(4, 4).T
    for parent, other in enumerate(document["nodes"]):
        if node in other.get("children", []):
            return plain_world(document, data, parent, time) @ local
    return local


def random_document(seed: int) -> Gltf:
    rng = np.random.default_rng(seed)
    g, count = Gltf(), int(rng.integers(2, 7))
    for node in range(count):
        members: dict[str, object] = {}
        if rng.uniform() < 0.3:
            matrix = np.eye(4)
            matrix[:3, :3] = rng.normal(size=(3, 3))
            matrix[:3, 3] = rng.normal(size=3)
            members["matrix"] = matrix.T.reshape(-1).tolist()
        else:
            members["translation"] = rng.normal(size=3).tolist()
            turn = rng.normal(size=4)
            members["rotation"] = (turn / np.linalg.norm(turn)).tolist()
            members["scale"] = (rng.uniform(0.5, 2, 3) * rng.choice([-1, 1], 3)).tolist()
        g.node(f"node {node}", **members)
    for node in range(1, count):
        parent = int(rng.integers(0, node))
        g.json["nodes"][parent].setdefault("children", []).append(node)
    curves = []
    for node in range(count):
        if "matrix" in g.json["nodes"][node]:
            continue
        for path in rng.permutation(["translation", "rotation", "scale"])[: int(rng.integers(1, 4))]:
            keys = int(rng.integers(1, 5))
            times = np.sort(rng.choice(np.linspace(0, 1, 21), keys, replace=False))
            kind = str(rng.choice(["STEP", "LINEAR", "CUBICSPLINE"]))
            values = rng.normal(size=(keys * (3 if kind == "CUBICSPLINE" else 1), 4 if path == "rotation" else 3)) + 0.1
            curves.append((node, str(path), times, values, kind))
    if not curves:
        curves.append((0, "translation", [0.0], [[0, 0, 0]], "STEP"))
        g.json["nodes"][0].pop("matrix", None)
    g.animate(*curves)
    return g


@settings(max_examples=40)
@given(st.integers(0, 100_000))
def test_gltf_agrees_with_the_specification_read_aloud(seed: int) -> None:
    g = random_document(seed)
    rig = gltf.read(g.glb())
    world = rig.world_matrices(TIMES)
    for row, time in enumerate(TIMES):
        for node in range(len(rig.names)):
            expected = plain_world(g.json, bytes(g.data), node, time)
            assert np.allclose(world[row, node], expected, atol=2e-5, rtol=1e-5), (node, time)


@settings(max_examples=15, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.integers(0, 100_000), st.integers(1, 4), st.integers(-2, 3), st.sampled_from(["off", "rigid", "position"]))
def test_strobe_agrees_with_its_definitions_read_aloud(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], seed: int, step: int, offset: int, way: str
) -> None:
    g = random_document(seed)
    eye = g.node("Eye", camera=0, translation=[0, 0, 12])
    g.json["cameras"] = [{"type": "perspective", "perspective": {"yfov": 0.8, "znear": 0.05}}]
    sway = np.array([[0, 0, 12], [0.5, 0.3, 12.5], [1.2, -0.2, 11.5]])
    g.json["animations"][0]["channels"].append({"sampler": len(g.json["animations"][0]["samplers"]), "target": {
        "node": eye, "path": "translation"}})  # fmt: skip
    output, times = g.accessor(sway), g.accessor([0, 0.5, 1.0])
    g.json["animations"][0]["samplers"].append({"input": times, "output": output, "interpolation": "LINEAR"})
    file = tmp_path / "random.glb"
    file.write_bytes(g.glb())
    words = [
        "strobe",
        str(file),
        "--camera",
        "Eye",
        "--fps",
        "12",
        "--start",
        "5",
        "--step",
        str(step),
        "--offset",
        str(offset),
    ]
    assert main([*words, "--ride", way, "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    rig = gltf.read(g.glb())
    data = bytes(g.data)
    frames = list(range(5, 5 + 13))
    anchor = rig.default_anchor()

    def at(frame: int, node: int) -> Matrix:
        return plain_world(g.json, data, node, (frame - 5) / 12)

    def held(frame: int) -> int:
        first = 5 + offset
        return max(5, first + step * ((frame - first) // step))

    def shown(frame: int, node: int) -> Matrix:
        place = at(held(frame), node)[:3, 3]
        then, now = at(held(frame), eye), at(frame, eye)
        carried = now @ np.linalg.inv(then)
        if way == "rigid":
            return (carried @ [*place, 1])[:3]
        root = at(held(frame), anchor)[:3, 3]
        return place + (((carried @ [*root, 1])[:3] - root) if way == "position" else 0)

    def seen(frame: int, point: Matrix) -> Matrix | None:
        x, y, z, _ = np.linalg.inv(at(frame, eye)) @ [*point, 1]
        scale = 540 / np.tan(0.4)
        return None if -z <= 0.05 else np.array([960 + scale * x / -z, 540 - scale * y / -z])

    assert found["exposure_start"] == [held(f) for f in frames]
    for frame, slip in zip(frames, found["slip_px"], strict=True):
        distances = []
        for node in rig.joints:
            a, b = seen(held(frame), shown(held(frame), int(node))), seen(frame, shown(frame, int(node)))
            if a is not None and b is not None:
                distances.append(float(np.hypot(*(b - a))))
        if held(frame) == frame:
            assert slip == 0
        elif not distances:
            assert slip is None
        else:
            assert slip == pytest.approx(float(np.median(distances)), abs=2e-2, rel=1e-4)


def test_tracks_holds_every_row_of_a_long_file(tmp_path: Path) -> None:
    g = Gltf()
    names = [f"n{i}" for i in range(40)]
    for name in names:
        g.node(name)
    times = np.arange(0, 150, 0.5)
    g.animate(
        *((n, "translation", times, np.random.default_rng(n).normal(size=(len(times), 3)), "LINEAR") for n in range(40))
    )
    file, out = tmp_path / "long.glb", tmp_path / "out.csv"
    file.write_bytes(g.glb())
    assert main(["tracks", str(file), "--at", "0,0,9", "--look", "0,0,0", "--focal", "24", "--out", str(out)]) == 0
    rows = list(csv.DictReader(io.StringIO(out.read_text())))
    assert [(r["frame"], r["joint"]) for r in rows] == [(str(f), n) for f in range(1, 3590) for n in names]


# --- glTF out ---


def writes(build: Callable[[GltfWriter], None]) -> bytes:
    writer = GltfWriter("test")
    build(writer)
    return writer.to_glb()


def test_what_is_written_is_read_back() -> None:
    times, values = np.array([0.0, 1.0]), np.array([[1.0, 2, 3], [4, 5, 6]])

    def build(writer: GltfWriter) -> None:
        writer.add("nodes", {"name": "a"})
        sampler = {
            "input": writer.accessor(times, bounds=True),
            "output": writer.accessor(values),
            "interpolation": "LINEAR",
        }
        writer.add(
            "animations",
            {"samplers": [sampler], "channels": [{"sampler": 0, "target": {"node": 0, "path": "translation"}}]},
        )

    data = writes(build)
    assert len(data) % 4 == 0
    assert int.from_bytes(data[8:12], "little") == len(data)
    rig = gltf.read(data)
    assert rig.world_positions(np.array([0.5]), np.array([0]))[0, 0].tolist() == [2.5, 3.5, 4.5]


@pytest.mark.parametrize("dtype", [np.uint8, np.uint16, np.uint32, np.float32])
def test_arrays_keep_their_kind_and_alignment(dtype: type) -> None:
    writer = GltfWriter("test")
    first = writer.accessor(np.array([1, 2, 3], dtype=dtype), bounds=True)
    second = writer.accessor(np.arange(8, dtype=dtype).reshape(2, 4))
    views, accessors = writer.root["bufferViews"], writer.root["accessors"]
    assert all(view["byteOffset"] % 4 == 0 for view in views)
    assert (accessors[first]["min"], accessors[first]["max"]) == ([1], [3])
    assert (accessors[second]["type"], accessors[second]["count"]) == ("VEC4", 2)
