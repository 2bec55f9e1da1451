"""An edit changes what it says that it reaches, and nothing else: every kind, on scenes made at random from the demo's."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction
from functools import cache
from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from pydantic import TypeAdapter

from eddyfield.core import edits
from eddyfield.core.bake import Baker
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.edits.applying import applied
from eddyfield.core.edits.bend_time import BendTime
from eddyfield.core.edits.spacing import SpaceStretch
from eddyfield.core.performance.timing import Timing
from eddyfield.core.rig.rig import Rig
from eddyfield.core.rig.source import RigSource
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.frames import FrameTime
from eddyfield.core.time.keys import KEY_SHAPES, Handle, Key
from eddyfield.demo import mill_landing, mill_race
from eddyfield.web.requests import AnyEdit

from ..every_edit import AFTER, BANK, EDITS, ODA, QUILL, ZOOM
from .reached import beyond
from .scenery import DIGESTS, SCENE

LANDING = {"e" * 64: "oda landing", "b" * 64: "quill", "c" * 64: "set", "f" * 64: "pole landing"}
RANDOM_SCENES = 5
UNLOCKED = edits.LockCamera(camera_id=BANK, locks=()).apply(SCENE)
MEMORY: dict[str, Any] = {}
ASKED: TypeAdapter[edits.Edit] = TypeAdapter(AnyEdit)


@cache
def landing() -> Scene:
    return mill_landing.scene(tuple(LANDING), next(iter(DIGESTS)))


def rig_of(source: RigSource) -> Rig:
    """A file that is none of the demo's is Oda's, in another size."""
    return mill_race.demo_rig((DIGESTS | LANDING).get(source.digest, "oda"))


def at_work(scene: Scene) -> Baker:
    return Baker(scene, rig_of, MEMORY, {landing().id: landing()}.__getitem__)


def random_keys(rng: np.random.Generator, first: int, last: int, about: float, by: float) -> tuple[Key, ...]:
    times = sorted(
        {Fraction(int(t), 4) for t in rng.integers(first * 4, last * 4, 7)} | {Fraction(first), Fraction(last)}
    )
    return tuple(
        Key(FrameTime(t), about + by * float(rng.uniform(-1, 1)), KEY_SHAPES[int(rng.integers(len(KEY_SHAPES)))],
            Handle(float(rng.uniform(0, 3)), float(rng.uniform(-by, by))) if rng.random() < 0.5 else None,
            Handle(float(rng.uniform(0, 3)), float(rng.uniform(-by, by))) if rng.random() < 0.5 else None)
        for t in times
    )  # fmt: skip


def random_scene(seed: int) -> Scene:
    """The demo's with other keys on two cameras, another time of Oda's and other exposures; keys stay where the examples of edits
    name them. The first is the demo's own."""
    if seed == 0:
        return UNLOCKED
    rng, scene = np.random.default_rng(seed), UNLOCKED
    frames = scene.frames
    for camera_id in (BANK, ZOOM):
        camera = scene.camera(camera_id)
        names = [name for name, channel in camera.channels.items() if channel.keys]
        keyed = {name: _with_others(rng, camera, name, frames.first - 5, frames.last + 9) for name in names}
        scene = scene.with_camera(replace(camera, channels=camera.channels.having(**keyed)))
    curve = random_curve(rng, frames.first + int(rng.integers(0, 20)), frames.last - int(rng.integers(0, 20)))
    oda = scene.character(ODA)
    timing = Timing(FrameTime(frames.first), curve=curve)
    scene = scene.with_thing(replace(oda, performance=replace(oda.performance, timing=timing)))
    starts = {frames.first, *map(int, rng.integers(frames.first, frames.last, 30))}
    for character_id in (ODA, QUILL):
        shown = scene.character(character_id)
        stepping = replace(shown.stepping, starts=tuple(sorted(starts)))
        scene = scene.with_thing(replace(shown, stepping=stepping))
    return scene


def _with_others(rng: np.random.Generator, camera: Camera, name: str, first: int, last: int) -> Channel:
    own = camera.channels[name]
    values = np.array([key.value for key in own.keys])
    low, high = values.min(), values.max()
    more = random_keys(rng, first, last, float(low + high) / 2, float(high - low) / 4)
    # What a channel may be has bounds, which its keys keep to here as well: no handles of their own.
    kept = [replace(key, handle_in=None, handle_out=None) for key in more if own.key_at(key.time) is None]
    return replace(own, keys=tuple(sorted((*own.keys, *kept), key=lambda key: key.time)))


def random_curve(rng: np.random.Generator, first: int, last: int) -> Channel:
    """Time that runs forwards, quicker and slower."""
    keys = random_keys(rng, first, last, 0.0, 0.0)
    passed = np.cumsum([0.0, *(float(b.time - a.time) * rng.uniform(0.6, 1.4) for a, b in pairwise(keys))])
    shapes = ("linear", "smooth", "ease")
    return Channel(
        0.0,
        tuple(
            Key(key.time, float(value), shapes[int(rng.integers(3))])  # type: ignore[arg-type]
            for key, value in zip(keys, passed, strict=True)
        ),
    )


@pytest.mark.parametrize("seed", range(RANDOM_SCENES))
@pytest.mark.parametrize("asked", EDITS, ids=[e["edit"] for e in EDITS])
def test_an_edit_changes_what_it_says_and_nothing_else(asked: dict[str, Any], seed: int) -> None:
    scene = random_scene(seed)
    for one in (asked, *AFTER.get(asked["edit"], ())):
        edit, before = ASKED.validate_python(one), at_work(scene)
        reach, scene = edit.reach(scene), applied(edit, scene, before)
        assert beyond(reach, before, at_work(scene)) == []


def test_edits_that_are_apart_leave_each_other_as_they_were_made() -> None:
    """Every kind, after one of another."""
    tried = 0
    made = [ASKED.validate_python(asked) for asked in EDITS]
    for at, one in enumerate(made):
        other = made[(at * 7 + 3) % len(made)]
        own = one.reach(UNLOCKED)
        if other is one or not own.is_apart_from(other.reach(UNLOCKED)):
            continue
        first = applied(one, UNLOCKED, at_work(UNLOCKED))
        both = applied(other, first, at_work(first))
        assert beyond(other.reach(first), at_work(first), at_work(both)) == []
        owners = {owner.id: owner for some in (both.cameras, both.things, both.sounds) for owner in some}
        for some in (first.cameras, first.things, first.sounds):
            assert all(owners[owner.id] == owner for owner in some if owner.id in own.owners), (one.edit, other.edit)
        tried += 1
    assert tried > 40


@pytest.mark.parametrize(
    ("one", "does"),
    [
        (edits.RenameCamera(camera_id=BANK, name="Rail"), lambda scene: replace(scene, name="Dusk")),
        (edits.RenameScene(name="Dusk"), lambda scene: edits.RenameCamera(camera_id=BANK, name="Rail").apply(scene)),
        (
            edits.SetCameraValues(camera_id=ZOOM, values={"aperture": 4.0}),
            lambda scene: edits.SetCameraValues(camera_id=ZOOM, values={"focus_m": 2.0}).apply(scene),
        ),
        (
            SpaceStretch(character_id=ODA, joint="hand_r", first=1050, last=1053, shares=(0.0, 0.25, 0.5, 1.0)),
            lambda scene: BendTime(thing_id=ODA, first=1049, last=1053, speed=0.5).apply(scene),
        ),
    ],
)  # fmt: skip
def test_what_goes_beyond_its_reach_is_found(one: edits.Edit, does: Callable[[Scene], Scene]) -> None:
    assert len(beyond(one.reach(UNLOCKED), at_work(UNLOCKED), at_work(does(UNLOCKED)))) == 1
