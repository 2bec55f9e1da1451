"""``python -m benchmarks [name ...]``."""

import sys

from . import bake, edit, many_cameras, projection, rig, tracks

ALL = {"rig": rig, "projection": projection, "bake": bake, "edit": edit, "cameras": many_cameras, "tracks": tracks}

for name in sys.argv[1:] or ALL:
    ALL[name].run()
