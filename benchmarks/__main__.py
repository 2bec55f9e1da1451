"""``python -m benchmarks [name ...]``."""

import sys

from . import bake, edit, faults, judgement, load, long_scene, many_cameras, playing, projection, rig, tracks

ALL = {
    "rig": rig,
    "projection": projection,
    "bake": bake,
    "edit": edit,
    "cameras": many_cameras,
    "load": load,
    "long": long_scene,
    "playing": playing,
    "tracks": tracks,
}
LONG = {"faults": faults, "judgement": judgement}
"""Only where they are asked for: half an hour, and three minutes."""

for name in sys.argv[1:] or ALL:
    (ALL | LONG)[name].run()
