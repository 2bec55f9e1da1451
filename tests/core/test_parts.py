"""Parts: keys of exactly what goes in, values computed once, and the same elsewhere."""

from __future__ import annotations

import gc
import pickle
import weakref
from dataclasses import replace

import numpy as np
import pytest

from eddyfield.core import edits
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.cameras.camera_channels import LOCK_GROUPS
from eddyfield.core.cut.cut import Cut
from eddyfield.core.parts import Part, Resolver, RigOf
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.ride import Ride
from eddyfield.core.performance.timing import Timing
from eddyfield.core.readings.camera_readings import camera_readings_part
from eddyfield.core.readings.every_reading import every_reading
from eddyfield.core.readings.performance_readings import performance_readings_part
from eddyfield.core.rig.rig import Rig
from eddyfield.core.rig.source import RigSource
from eddyfield.core.scene import Scene
from eddyfield.demo import mill_race

from .scenery import DIGESTS, SCENE, baker

ODA = SCENE.characters[0]
calls: list[tuple[object, ...]] = []


def rig_of(source: RigSource) -> Rig:
    return mill_race.demo_rig(DIGESTS[source.digest])


def noted(*inputs: object) -> int:
    calls.append(inputs)
    return len(calls)


def test_a_part_is_computed_once_from_its_inputs_and_nothing_else() -> None:
    calls.clear()
    inner = Part("inner", noted, (1, "a"))
    outer = Part("outer", noted, (inner, (RigOf(ODA.performance.source), inner), 2.5))
    resolver = Resolver(rig_of, {})
    assert resolver.value(outer) == resolver.value(Part("outer", noted, outer.inputs)) == 2
    assert calls == [(1, "a"), (1, (rig_of(ODA.performance.source), 1), 2.5)]


def test_keys_go_by_all_that_goes_in() -> None:
    inner = Part("inner", noted, (1,))
    keys = {
        Part("a", noted, inputs).key
        for inputs in (
            (1,),
            (2,),
            ("1",),
            ((1,),),
            (inner,),
            (Part("inner", noted, (2,)),),
            (RigOf(ODA.performance.source),),
        )
    }
    assert len(keys) == 7
    assert Part("a", noted, (inner,)).key == Part("a", noted, (Part("inner", noted, (1,)),)).key


def test_what_is_not_kept_is_put_together_by_every_resolver() -> None:
    calls.clear()
    memory: dict[str, object] = {}
    for _ in range(2):
        resolver = Resolver(rig_of, memory)
        for _ in range(3):
            resolver.value(Part("loose", noted, (1,), kept=False))
    assert (len(calls), memory) == (2, {})


def test_a_part_of_the_demo_comes_to_the_same_in_another_process() -> None:
    here = baker()
    camera = SCENE.camera(mill_race.TWO)
    for part in (here.arc_part(ODA, 5, camera), here.camera_part(camera), here.path_part(None)):
        sent = pickle.loads(pickle.dumps(part))
        assert sent.key == part.key
    there = Resolver(rig_of, {}).value(pickle.loads(pickle.dumps(here.arc_part(ODA, 5, camera))))
    assert np.array_equal(there.pixels, here.arc(ODA, 5, camera).pixels, equal_nan=True)


def test_readings_can_be_worked_out_elsewhere() -> None:
    here, elsewhere = baker(), baker()
    parts = [camera_readings_part(here, SCENE.camera(mill_race.TWO)), performance_readings_part(here, ODA)]
    for part in parts:
        sent = pickle.loads(pickle.dumps(part))
        assert sent.key == part.key
        assert elsewhere.value(sent) == here.value(part) != []


def test_a_camera_is_judged_anew_only_for_what_it_goes_by() -> None:
    two, other = SCENE.camera(mill_race.TWO), SCENE.cameras[-1]

    def key(scene: Scene, camera: Camera = two) -> str:
        return camera_readings_part(baker(scene), camera).key

    assert key(replace(SCENE, name="Other").with_camera(replace(other, name="Other"))) == key(SCENE)
    assert key(SCENE, replace(two, tint=3)) == key(SCENE)
    assert key(SCENE, replace(two, locks=LOCK_GROUPS)) != key(SCENE), "what it offers to mend"
    cut = Cut.of((SCENE.frames.first, other.id), (SCENE.frames.first + 9, SCENE.cameras[0].id))
    elsewhere = replace(SCENE, cut=cut)
    assert key(elsewhere) == key(replace(SCENE, cut=Cut.of((SCENE.frames.first, other.id)))), "it is in neither"
    assert key(replace(SCENE, cut=Cut.of((SCENE.frames.first + 5, two.id)))) != key(elsewhere)
    ridden = SCENE.with_character(replace(ODA, ride=Ride("rigid")))
    through = replace(ridden.cameras_of_cut[0], unkeyed=(("focal_mm", 70.0),))
    assert key(ridden.with_camera(through)) != key(ridden), "she is carried along with the camera of the cut"


def test_a_performance_is_judged_anew_only_for_what_it_goes_by() -> None:
    def key(scene: Scene) -> str:
        return performance_readings_part(baker(scene), scene.character(ODA.id)).key

    quill = SCENE.characters[1]
    off_the_cut = next(c for c in SCENE.cameras if c not in SCENE.cameras_of_cut)
    assert key(SCENE.with_camera(replace(off_the_cut, unkeyed=(("focal_mm", 70.0),)))) == key(SCENE)
    assert key(SCENE.with_character(replace(quill, name="Other", ride=Ride("rigid")))) == key(SCENE)
    in_cut = SCENE.cameras_of_cut[0]
    assert key(SCENE.with_camera(replace(in_cut, unkeyed=(("focal_mm", 70.0),)))) != key(SCENE)
    on_ones = SCENE.with_character(replace(ODA, stepping=Stepping(1)))
    moved = on_ones.with_camera(replace(in_cut, unkeyed=(("focal_mm", 70.0),)))
    assert key(moved) == key(on_ones), "nothing is held, whatever the camera does"


def test_a_camera_is_known_by_what_it_follows_and_by_its_picture() -> None:
    two = SCENE.camera(mill_race.TWO)
    key = baker().camera_part(two).key
    assert baker().camera_part(replace(two, name="Other", locks=("lens",), tint=2)).key == key
    assert baker().camera_part(replace(two, unkeyed=(("focus_m", 2.0),))).key != key
    stepped = edits.StepCharacter(character_id=ODA.id, stepping=Stepping(4)).apply(SCENE)
    assert baker(stepped).camera_part(two).key == key, "it follows the motion"
    later = SCENE.with_character(
        replace(ODA, performance=replace(ODA.performance, timing=Timing(ODA.performance.timing.start + 1)))
    )
    assert baker(later).camera_part(two).key != key
    still = SCENE.cameras[7]
    assert not list(still.followed())
    assert baker(later).camera_part(still).key == baker().camera_part(still).key


def test_what_a_scene_was_judged_with_is_let_go_with_it() -> None:
    """At once, and not when garbage is collected: in a long file block after block is judged."""
    work = baker()
    assert every_reading(work, work.scene.cameras[0], [(ODA, "hand_r")], pytest.fail)
    known = weakref.ref(work)
    gc.disable()
    try:
        del work
        assert known() is None
    finally:
        gc.enable()
