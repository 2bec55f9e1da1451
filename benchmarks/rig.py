"""Rig evaluation in joint-frames a second, against three.js's animation mixer in Node and against one write to memory."""

from __future__ import annotations

import json
import subprocess
from pathlib import Path

import numpy as np

from .figures import keyed_rig
from .timing import medians, show

ROOT = Path(__file__).resolve().parents[1]
FRAMES = 2400


def run() -> None:
    rig = keyed_rig()
    seconds = np.linspace(0, 10, FRAMES)
    count = FRAMES * len(rig.names)
    source = np.zeros((FRAMES, len(rig.names), 4, 4))
    target = np.empty_like(source)
    evaluated, written = medians(lambda: rig.world_matrices(seconds), lambda: np.copyto(target, source), rounds=9)
    show(f"world matrices of {count:,} joint-frames", evaluated, "written once to memory", written)
    print(f"    {count / evaluated / 1e6:.2f} million joint-frames a second")
    done = subprocess.run(
        ["node", str(ROOT / "benchmarks" / "mixer.mjs")], cwd=ROOT / "web", capture_output=True, text=True, check=True,
        input=json.dumps({"parents": rig.parents.tolist(), "frames": FRAMES, "keys": 61, "seconds": 10}),
    )  # fmt: skip
    other = float(done.stdout)
    show("    three.js AnimationMixer in Node", other)
    print(f"    {count / other / 1e6:.2f} million joint-frames a second; this is {other / evaluated:.2f} times as fast")
