"""Small files that would become large: each is refused in little time and memory, or read."""

from __future__ import annotations

import base64
import json
import struct
import time
from pathlib import Path
from typing import Any

from benchmarks.served import Client, served_in

from .report import Report, seconds

MOST_SECONDS, MOST_MB = 10.0, 1200
_NAMED = "data:application/octet-stream;base64," + base64.b64encode(bytes(2**16)).decode()
"""One buffer."""


def files() -> Report:
    """Every bomb, brought in over HTTP; the memory of the server is looked at afterwards."""
    report, took = Report("bombs brought in"), []
    with served_in() as application:
        client = application.start()
        assert application.process is not None
        for name, data in bombs().items():
            began = time.monotonic()
            status, said = upload(client, name, data)
            spent = time.monotonic() - began
            took.append(spent)
            report.tried += 1
            most = peak_mb(application.process.pid)
            if status >= 500 or spent > MOST_SECONDS or most > MOST_MB:
                report.wrong.append(f"{name}: {status} after {spent:.1f} s, {most} MB: {said[:120]!r}")
        report.figures["each took"] = seconds(took)
        report.figures["memory at most"] = f"{peak_mb(application.process.pid)} MB"
    return report


def upload(client: Client, name: str, data: bytes) -> tuple[int, bytes]:
    head = f'--b\r\nContent-Disposition: form-data; name="files"; filename="{name}"\r\n\r\n'.encode()
    kind = {"Content-Type": "multipart/form-data; boundary=b"}
    return client.raw("POST", "/api/uploads", head + data + b"\r\n--b--\r\n", kind)


def peak_mb(pid: int) -> int:
    """The most memory that a process or one of its children ever held."""
    family = [pid, *(int(p) for t in Path(f"/proc/{pid}/task").iterdir() for p in (t / "children").read_text().split())]
    peaks = []
    for member in family:
        status = Path(f"/proc/{member}/status").read_text()
        peaks += [int(line.split()[1]) // 1024 for line in status.splitlines() if line.startswith("VmHWM")]
    return max(peaks)


def bombs() -> dict[str, bytes]:
    """By name."""
    depth = 1990
    joints = "HIERARCHY\nROOT a\n{\nOFFSET 0 0 0\nCHANNELS 1 Xposition\n"
    joints += "JOINT b\n{\nOFFSET 0 1 0\nCHANNELS 1 Zrotation\n" * (depth - 1) + "}\n" * depth
    joints += f"MOTION\nFrames: 1\nFrame Time: 0.04\n{'0 ' * depth}\n"
    return {
        "curves.glb": _curves(1000, 1_000_000),
        "triangles.glb": _triangles(1000, 4_000_000),
        "chain.gltf": _gltf(nodes=[*({"children": [i + 1]} for i in range(99_999)), {}]),
        "deep.bvh": joints.encode(),
        "wide.gltf": _gltf(nodes=[{"name": f"n{i}"} for i in range(400_000)]),
        "nested.gltf": b'{"asset":{"version":"2.0"},"extras":' + b"[" * 200_000 + b"]" * 200_000 + b"}",
        "often.gltf": _gltf(buffers=[{"byteLength": 2**16, "uri": _NAMED}] * 150),
        "zeroes.gltf": _gltf(accessors=[{"componentType": 5126, "count": 2**39, "type": "MAT4"}]),
    }


def _gltf(**members: Any) -> bytes:
    return json.dumps({"asset": {"version": "2.0"}, **members}).encode()


def _glb(document: dict[str, Any], binary: bytes) -> bytes:
    text = json.dumps(document).encode()
    text += b" " * (-len(text) % 4)
    body = struct.pack("<II", len(text), 0x4E4F534A) + text + struct.pack("<II", len(binary), 0x004E4942) + binary
    return b"glTF" + struct.pack("<II", 2, 12 + len(body)) + body


def _curves(curves: int, keys: int) -> bytes:
    channels = [{"sampler": 0, "target": {"node": n, "path": "rotation"}} for n in range(curves)]
    return _gltf(
        nodes=[{"name": f"n{i}"} for i in range(curves)],
        accessors=[
            {"componentType": 5126, "count": keys, "type": "SCALAR"},
            {"componentType": 5126, "count": keys, "type": "VEC4"},
        ],
        animations=[{"channels": channels, "samplers": [{"input": 0, "output": 1}]}],
    )


def _triangles(primitives: int, indices: int) -> bytes:
    shared = {"attributes": {"POSITION": 0}, "indices": 1}
    document = {
        "asset": {"version": "2.0"},
        "nodes": [{"mesh": 0}],
        "meshes": [{"primitives": [shared] * primitives}],
        "buffers": [{"byteLength": 36}],
        "bufferViews": [{"buffer": 0, "byteLength": 36}],
        "accessors": [
            {"bufferView": 0, "componentType": 5126, "count": 3, "type": "VEC3"},
            {"componentType": 5125, "count": indices, "type": "SCALAR"},
        ],
    }
    return _glb(document, bytes(36))
