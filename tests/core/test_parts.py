"""Parts: keys of exactly what goes in, values computed once, and the same elsewhere."""

from __future__ import annotations

import pickle
from dataclasses import replace

import numpy as np

from eddyfield.core import edits
from eddyfield.core.parts import Part, Resolver, RigOf
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.rig.rig import Rig
from eddyfield.core.scene import RigSource
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
    outer = Part("outer", noted, (inner, (RigOf(ODA.source), inner), 2.5))
    resolver = Resolver(rig_of, {})
    assert resolver.value(outer) == resolver.value(Part("outer", noted, outer.inputs)) == 2
    assert calls == [(1, "a"), (1, (rig_of(ODA.source), 1), 2.5)]


def test_keys_go_by_all_that_goes_in() -> None:
    inner = Part("inner", noted, (1,))
    keys = {
        Part("a", noted, inputs).key
        for inputs in ((1,), (2,), ("1",), ((1,),), (inner,), (Part("inner", noted, (2,)),), (RigOf(ODA.source),))
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


def test_a_camera_is_known_by_what_it_follows_and_by_its_picture() -> None:
    two = SCENE.camera(mill_race.TWO)
    key = baker().camera_part(two).key
    assert baker().camera_part(replace(two, name="Other", locks=("lens",), tint=2)).key == key
    assert baker().camera_part(replace(two, unkeyed=(("focus_m", 2.0),))).key != key
    stepped = edits.StepCharacter(character_id=ODA.id, stepping=Stepping(4)).apply(SCENE)
    assert baker(stepped).camera_part(two).key == key, "it follows the motion"
    later = SCENE.with_character(replace(ODA, start=ODA.start + 1))
    assert baker(later).camera_part(two).key != key
    still = SCENE.cameras[7]
    assert not list(still.followed())
    assert baker(later).camera_part(still).key == baker().camera_part(still).key
