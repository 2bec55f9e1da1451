"""A motion of 30 minutes from the command line: time and memory of evaluating it, of ``tracks`` with its file, and of ``read``
through a camera, with one joint and with all joints judged."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from pathlib import Path
from time import perf_counter

import numpy as np

ROOT = Path(__file__).resolve().parents[1]
FRAMES, JOINTS = 43_200, 60
READ = [sys.executable, "-m", "eddyfield", "read", "--json"]
READ_ONLY = """
import sys
from eddyfield.cli.shot import open_shot
from eddyfield.cli.tracks import parser
from eddyfield.core.optics.screen import track
shot = open_shot(parser().parse(sys.argv[1:]))
frames = shot.frames.frames()
for first in range(0, len(frames), 1000):
    some = frames[first:first + 1000]
    track(shot.camera(some), shot.rig.world_positions(shot.seconds(some), shot.joints))
"""
MEASURED = """
import resource, subprocess, sys
subprocess.run(sys.argv[1:], stdout=subprocess.DEVNULL, check=True)
print(resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss)
"""
"""Started from a small process: what a command is started from counts as its own memory, too."""


def run() -> None:
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "long.bvh"
        _write(file)
        words = [str(file), "--at", "0,1,5", "--look", "0,1,0", "--focal", "35"]
        for name, command in (
            ("evaluated and projected, nothing written", [sys.executable, "-c", READ_ONLY, *words]),
            (
                "tracks, written as CSV",
                [sys.executable, "-m", "eddyfield", "tracks", *words, "--out", f"{folder}/o.csv"],
            ),
            ("all readings, one joint judged", [*READ, *words, "--joints", "j59"]),
            ("all readings, all joints judged", [*READ, *words]),
        ):
            began = perf_counter()
            environment = {**os.environ, "PYTHONPATH": str(ROOT / "src")}
            measured = [sys.executable, "-c", MEASURED, *command]
            most_kb = subprocess.run(measured, env=environment, stdout=subprocess.PIPE, check=True).stdout
            took = perf_counter() - began
            print(f"{FRAMES:,} frames x {JOINTS} joints, {name}: {took:.1f} s, {int(most_kb) / 1024:.0f} MB at most")


def _write(file: Path) -> None:
    lines = [
        "HIERARCHY",
        "ROOT j0",
        "{",
        "OFFSET 0 90 0",
        "CHANNELS 6 Xposition Yposition Zposition Zrotation Xrotation Yrotation",
    ]
    for joint in range(1, JOINTS):
        lines += [f"JOINT j{joint}", "{", "OFFSET 0 2 1", "CHANNELS 3 Zrotation Xrotation Yrotation"]
    lines += ["End Site", "{", "OFFSET 0 1 0", "}"] + ["}"] * JOINTS
    lines += ["MOTION", f"Frames: {FRAMES}", "Frame Time: 0.0416666667"]
    rng = np.random.default_rng(0)
    # Smooth, as motion is: each channel swings by a few degrees at a rate of its own.
    rates, starts = rng.uniform(0.3, 1.2, (2, 3 + 3 * JOINTS))
    with file.open("w") as out:
        out.write("\n".join(lines) + "\n")
        for first in range(0, FRAMES, 2400):
            seconds = np.arange(first, min(first + 2400, FRAMES))[:, None] / 24
            np.savetxt(out, 8 * np.sin(2 * np.pi * (rates * seconds + starts)), fmt="%.4f")
