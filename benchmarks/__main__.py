"""``python -m benchmarks [name ...]``."""

import sys

from . import bake, edit, projection, rig, tracks

ALL = {"rig": rig, "projection": projection, "bake": bake, "edit": edit, "tracks": tracks}

for name in sys.argv[1:] or ALL:
    ALL[name].run()
