"""The bake and the readings: the budget's scene and the demo scene, against joint by joint and frame by frame."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from eddyfield.core.bake import Baker
from eddyfield.core.cut.cut import Cut
from eddyfield.core.performance.performance import Performance
from eddyfield.core.performance.ride import Ride
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.core.rig.rig import Rig
from eddyfield.core.scene import Scene
from eddyfield.core.time.frames import FrameRange, seconds_at
from eddyfield.demo import mill_race

from .figures import keyed_rig
from .timing import medians, show


def run() -> None:
    demo = mill_race.scene(*(str(n) * 64 for n in range(len(mill_race.OF_CROSSING))))
    sources = [c.performance.source for c in demo.characters] + [p.performance.source for p in demo.pieces]
    rigs: dict[object, Rig] = dict(zip(sources, map(mill_race.demo_rig, mill_race.OF_CROSSING), strict=True))
    _measure("demo scene", demo, rigs)
    first, second = (replace(demo.characters[0].performance.source, digest=letter * 64) for letter in "ab")
    pair = tuple(
        replace(demo.characters[0], id=s.digest[:36], performance=Performance(s), feet=()) for s in (first, second)
    )
    cameras = tuple(replace(demo.cameras[0], id=f"{n:036d}", name=f"Camera {n}") for n in range(6))
    cut = Cut.of((demo.frames.first, cameras[0].id))
    large = replace(demo, frames=FrameRange(1001, 1240), characters=pair, pieces=(), cameras=cameras, cut=cut)
    _measure("240 frames, 2 x 60 joints, 6 cameras", large, {first: keyed_rig(seed=1), second: keyed_rig(seed=2)})


def _measure(name: str, scene: Scene, rigs: dict[object, Rig]) -> None:
    def baker(memory: dict[str, object] | None = None) -> Baker:
        return Baker(scene, lambda source: rigs[source], memory if memory is not None else {})

    def bake(own: Baker) -> None:
        for character in scene.characters:
            own.world(character)
            own.exposure_starts(character)
        for camera in scene.cameras:
            own.camera_path(camera)

    def one_by_one() -> None:
        for character in scene.characters:
            rig = rigs[character.performance.source]
            for time in seconds_at(scene.frames.frames(), character.performance.timing.start, scene.rate):
                rig.world_matrices(np.array([time]))

    own, other = medians(lambda: bake(baker()), one_by_one, rounds=7)
    show(f"bake, {name}", own, "a frame at a time", other)
    memory: dict[str, object] = {}
    bake(baker(memory))

    def read() -> None:
        fresh = baker(dict(memory))
        for character in scene.characters:
            fresh.strobing(character)
            fresh.strobing(character, Ride("rigid"))
            fresh.contact_price(character)
            fresh.judged_arc(character, int(rigs[character.performance.source].joints[-1]), None)

    def read_all() -> None:
        scene_readings(baker(dict(memory)), None, None, _refuse)

    show(f"readings of the cut, {name}", medians(read, rounds=11)[0])
    show(f"all readings, all joints judged, {name}", medians(read_all, rounds=7)[0])


def _refuse(subject: str, error: Exception) -> None:
    raise error
