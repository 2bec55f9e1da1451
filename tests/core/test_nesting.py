"""Scenes inside scenes: what comes with a block is where and when the other scene has it, and is changed there alone."""

from __future__ import annotations

import uuid
from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core import edits
from eddyfield.core.bake import Baker
from eddyfield.core.cameras.aim import Aim
from eddyfield.core.cameras.subjects import Subject, Target
from eddyfield.core.cut.cut import Cut
from eddyfield.core.cut.sound import Sound
from eddyfield.core.edits.applying import applied
from eddyfield.core.edits.bend_time import BendSceneTime
from eddyfield.core.edits.blocks import BringInScene, MoveBlock, TakeOutBlock
from eddyfield.core.edits.contents import DoubleThing, RenameThing, TakeOut
from eddyfield.core.edits.edit import Edit
from eddyfield.core.edits.file_cameras import BringFileCamera
from eddyfield.core.edits.scene_time import SetRate
from eddyfield.core.errors import DomainError
from eddyfield.core.nesting import frames_of, nested_id, whole, with_inner, with_surroundings
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.nested import Ground
from eddyfield.core.performance.showing import Showing
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.core.rig import transforms
from eddyfield.core.scene import Block, Scene
from eddyfield.core.time.channels import new_key
from eddyfield.core.time.frames import FrameRange, Rate

from .scenery import SCENE, baker, fail

OUTER_ID, BLOCK = str(uuid.uuid4()), str(uuid.uuid4())
CAMERA = SCENE.cameras[0]
SOUND = Sound(str(uuid.uuid4()), "Water", "0" * 64, SCENE.frames.first - 24)
INNER = replace(SCENE, sounds=(SOUND,))
ODA = SCENE.characters[0]
EMPTY = replace(
    SCENE, id=OUTER_ID, name="Both banks", frames=FrameRange(1, 240), cameras=(replace(CAMERA, locks=()),),
    characters=(), pieces=(), cut=Cut.of((1, CAMERA.id)),
)  # fmt: skip
NESTED_ODA = nested_id(BLOCK, ODA.id)


def work(scene: Scene, *others: Scene) -> Baker:
    made = baker(scene)
    return Baker(scene, made.rig_of, {}, {other.id: other for other in others}.__getitem__)


def done(scene: Scene, edit: Edit, *others: Scene) -> Scene:
    return applied(edit, scene, work(scene, *others))


def brought_in(inner: Scene = INNER, start: int = 51, scene: Scene = EMPTY) -> Scene:
    return done(scene, BringInScene(block_id=BLOCK, scene_id=inner.id, start=start), inner)


@given(st.integers(1, 240), st.floats(-50, 50), st.floats(-50, 50), st.floats(-360, 360))
def test_all_stands_where_the_other_scene_has_it_on_its_ground(start: int, x: float, z: float, turn: float) -> None:
    scene = done(brought_in(start=start), MoveBlock(block_id=BLOCK, values={"x": x, "z": z, "turn": turn}))
    ground = transforms.rigid(transforms.rotation_from_angles(*np.array([-turn, 0.0, 0.0])), np.array([x, 0.0, z]))
    first, last = max(1, start), min(240, start + INNER.frames.count - 1)
    if last < first:
        return
    rows = slice(first - 1, last)
    of_inner = slice(first - start, last - start + 1)
    for thing in INNER.things:
        here, there = work(scene), work(INNER)
        world = here.world(scene.thing(nested_id(BLOCK, thing.id)))[rows]
        np.testing.assert_allclose(world, ground @ there.world(thing)[of_inner], atol=1e-9)
    oda = scene.character(NESTED_ODA)
    starts = work(scene).exposure_starts(oda)[rows] - start
    before = work(INNER).exposure_starts(ODA)[of_inner] - INNER.frames.first
    np.testing.assert_array_equal(starts, np.maximum(before, first - start))


@given(st.floats(-50, 50), st.floats(-50, 50), st.floats(-360, 360))
def test_a_camera_of_a_file_that_comes_with_it_stands_on_its_ground(x: float, z: float, turn: float) -> None:
    mill = next(piece for piece in SCENE.pieces if piece.name == "Mill race")
    window = str(uuid.uuid4())
    own = done(INNER, BringFileCamera(camera_id=window, thing_id=mill.id, camera="Mill window"))
    scene = done(brought_in(), MoveBlock(block_id=BLOCK, values={"x": x, "z": z, "turn": turn}))
    scene = done(scene, BringFileCamera(camera_id=window, thing_id=nested_id(BLOCK, mill.id), camera="Mill window"))
    here, there = (work(s).camera_path(s.camera(window)).world_from_camera[60] for s in (scene, own))
    assert np.allclose(here, Ground(x=x, z=z, turn=turn).world_from_ground() @ there, atol=1e-6)


def test_it_is_there_only_while_the_other_scene_plays() -> None:
    hidden = replace(ODA, showing=Showing(((1010, 1019),), cameras=(CAMERA.id,)))
    scene = brought_in(replace(INNER, characters=(hidden, *INNER.characters[1:])))
    showing = scene.character(NESTED_ODA).showing
    assert showing.hidden == ((1, 50), (60, 69), (147, 240))
    assert showing.cameras == (), "cameras of the other scene are not in this one"
    assert frames_of(scene.blocks[0], scene.rate, scene.frames) == FrameRange(51, 146)


def test_sound_is_heard_from_where_the_other_scene_begins_until_it_ends() -> None:
    (sound,) = brought_in().sounds
    assert (sound.start, sound.first_s, sound.last_s) == (51, 1.0, 5.0)


@pytest.mark.parametrize("stepping", [Stepping(3, 1), Stepping(starts=(1004, 1009, 1050)), Stepping(2, 1, True)])
def test_poses_are_exposed_as_they_are_in_the_other_scene(stepping: Stepping) -> None:
    inner = replace(INNER, characters=(replace(ODA, stepping=stepping), *INNER.characters[1:]))
    scene = brought_in(inner)
    starts = work(scene).exposure_starts(scene.character(NESTED_ODA))
    expected = work(inner).exposure_starts(inner.character(ODA.id))
    np.testing.assert_array_equal(starts[50:146] - 51, expected - 1001)
    np.testing.assert_array_equal(starts[:50], np.arange(1, 51))


def test_another_rate_changes_nothing_of_its_time() -> None:
    scene = brought_in(scene=replace(EMPTY, rate=Rate.parse("48")))
    here, there = work(scene), work(INNER)
    world = here.world(scene.character(NESTED_ODA))
    np.testing.assert_allclose(world[50:240:2], there.world(ODA)[: len(world[50:240:2])], atol=1e-9)
    assert frames_of(scene.blocks[0], scene.rate, scene.frames).count == 192


def test_the_rate_and_the_time_of_the_outer_scene_take_it_along() -> None:
    plain = replace(INNER, characters=(replace(ODA, stepping=Stepping()),), pieces=())
    scene = brought_in(plain)
    twice = done(scene, SetRate(rate="48"))
    assert twice.blocks[0].start == 101
    before, after = (work(s).world(s.character(NESTED_ODA)) for s in (scene, twice))
    np.testing.assert_allclose(after[100:292:2], before[50:146], atol=1e-9)
    for first, last in ((71, 91), (41, 61), (10, 20)):  # within it, over its beginning, before it
        slow = done(scene, BendSceneTime(first=first, last=last, speed=0.5))
        world = work(slow).world(slow.character(NESTED_ODA))
        late = slow.frames.last - scene.frames.last
        moved = slow.blocks[0].start - 51
        rest = before[100:146] if first == 41 else before[120:146]
        of_rest = slice(100 + late, 146 + late) if first == 41 else slice(120 + late, 146 + late)
        assert moved == {71: 0, 41: 10, 10: 5}[first]
        np.testing.assert_allclose(world[of_rest], rest, atol=1e-9)
    slow = done(scene, BendSceneTime(first=71, last=91, speed=0.5))
    np.testing.assert_allclose(work(slow).world(slow.character(NESTED_ODA))[70:91:2], before[70:81], atol=1e-9)


def test_a_camera_goes_by_what_comes_with_it_and_lets_go_of_it() -> None:
    scene = brought_in()
    aim = Aim((Target((Subject("joint", NESTED_ODA, "head"),)),))
    aimed = done(scene, edits.AimCamera(camera_id=CAMERA.id, aim=aim, frame=51))
    head = work(aimed).joint_positions(aimed.character(NESTED_ODA))[60]
    index = baker().rig(ODA).joint_names.index("head")
    path = work(aimed).camera_path(aimed.cameras[0])
    looks = -path.world_from_camera[60, :3, 2]
    towards = head[index] - path.world_from_camera[60, :3, 3]
    np.testing.assert_allclose(looks, towards / np.linalg.norm(towards), atol=1e-6)
    with pytest.raises(DomainError, match="goes by what comes with"):
        done(aimed, TakeOutBlock(block_id=BLOCK, frame=60))
    out = done(aimed, TakeOutBlock(block_id=BLOCK, frame=60, lets_go=True))
    assert (out.blocks, out.things, out.sounds) == ((), (), ())
    assert out.cameras[0].aim is None


@pytest.mark.parametrize(
    "edit",
    [
        RenameThing(thing_id=NESTED_ODA, name="Someone"),
        edits.StepCharacter(character_id=NESTED_ODA, stepping=Stepping(4)),
        TakeOut(thing_id=NESTED_ODA, frame=60, lets_go=True),
        DoubleThing(thing_id=NESTED_ODA, new_id=str(uuid.uuid4())),
    ],
    ids=lambda edit: edit.edit,
)
def test_what_comes_with_it_is_changed_in_its_own_scene_alone(edit: Edit) -> None:
    scene = brought_in()
    with pytest.raises(DomainError, match="comes with the scene"):
        done(scene, edit)


def test_what_the_other_scene_becomes_is_seen_at_once_and_nothing_else_is_worked_out_again() -> None:
    scene = brought_in()
    assert with_inner(scene, {INNER.id: INNER}) is scene
    renamed = replace(INNER, characters=(replace(ODA, name="Ferry keeper"), *INNER.characters[1:]))
    now = with_inner(scene, {INNER.id: renamed})
    assert now.character(NESTED_ODA).name == "Ferry keeper"
    moved = now.with_camera(replace(now.cameras[0], name="Wide"))
    assert whole(moved).characters[0] is now.characters[0]


def test_names_stay_apart_and_a_scene_may_play_twice() -> None:
    own = replace(ODA, id=str(uuid.uuid4()), name="Oda")
    scene = brought_in(scene=replace(EMPTY, characters=(own,)))
    again = done(scene, BringInScene(block_id=str(uuid.uuid4()), scene_id=INNER.id, start=100), INNER)
    assert [c.name for c in again.characters if c.name.startswith("Oda")] == ["Oda", "Oda 2", "Oda 3"]
    assert [b.name for b in again.blocks] == [INNER.name, f"{INNER.name} 2"]


def test_scenes_lie_inside_each_other_but_never_in_themselves() -> None:
    middle = brought_in()
    block = str(uuid.uuid4())
    top = replace(EMPTY, id=str(uuid.uuid4()), name="Top")
    deep = done(top, BringInScene(block_id=block, scene_id=middle.id, start=11), middle)
    turned = done(deep, MoveBlock(block_id=block, values={"turn": 90.0, "x": 2.0}))
    oda = turned.character(nested_id(block, NESTED_ODA))
    world = work(turned).world(oda)[60:70, 0, :3, 3]
    inside = work(INNER).world(ODA)[:10, 0, :3, 3]
    np.testing.assert_allclose(world, np.stack([2 + inside[:, 2], inside[:, 1], -inside[:, 0]], axis=-1), atol=1e-9)
    assert oda.nested is not None
    assert oda.nested.begins == 61
    for scene in (INNER, middle):
        with pytest.raises(DomainError, match="inside itself"):
            done(scene, BringInScene(block_id=str(uuid.uuid4()), scene_id=deep.id, start=1), replace(deep, blocks=(
                *deep.blocks, Block(str(uuid.uuid4()), "It", scene.id, 1, inner=scene))))  # fmt: skip


def test_what_surrounds_a_scene_stands_around_it_as_it_does_outside() -> None:
    own = replace(ODA, id=str(uuid.uuid4()), name="Own")
    outer = done(
        brought_in(scene=replace(EMPTY, characters=(own,))), MoveBlock(block_id=BLOCK, values={"x": 3.0, "turn": 30.0})
    )
    around = with_surroundings(INNER, outer, BLOCK)
    (shown,) = [c for c in around.characters if c.nested]
    here, there = work(around), work(outer)
    inner_oda, outer_oda = here.world(ODA), there.world(outer.character(NESTED_ODA))
    inner_own, outer_own = here.world(shown), there.world(outer.character(own.id))
    apart = np.linalg.inv(inner_oda[:, 0]) @ inner_own[:, 0]
    np.testing.assert_allclose(apart, (np.linalg.inv(outer_oda[:, 0]) @ outer_own[:, 0])[50:146], atol=1e-9)
    assert around.things[: len(ODA.feet)], "its own things are there as before"


@given(
    st.builds(Ground, *[st.floats(-100, 100)] * 3, st.floats(-720, 720)),
    st.builds(Ground, *[st.floats(-100, 100)] * 3, st.floats(-720, 720)),
)
def test_grounds_compose_as_their_matrices(lower: Ground, upper: Ground) -> None:
    expected = lower.world_from_ground() @ upper.world_from_ground()
    np.testing.assert_allclose(lower.under(upper).world_from_ground(), expected, atol=1e-9)
    np.testing.assert_allclose(lower.inverse().under(lower).world_from_ground(), np.eye(4), atol=1e-9)


def test_exact_times_of_keys_survive_another_rate() -> None:
    placed = ODA.placing["x"]
    keyed = replace(ODA, placing=ODA.placing.having(x=new_key(placed, Fraction(2005, 2), 1.5)))
    inner = replace(INNER, characters=(keyed,), pieces=())
    scene = brought_in(inner, scene=replace(EMPTY, rate=Rate.parse("30")))
    (key,) = scene.character(NESTED_ODA).placing["x"].keys
    assert key.time == 51 + (Fraction(2005, 2) - 1001) * Fraction(30, 24)


def test_what_comes_with_it_is_judged_but_mended_in_its_own_scene() -> None:
    stepped = replace(INNER, characters=(replace(ODA, stepping=Stepping(2)),), pieces=())
    own = replace(ODA, id=str(uuid.uuid4()), name="Own", stepping=Stepping(2))
    outer = replace(EMPTY, frames=SCENE.frames, characters=(own,), cut=Cut.of((1001, CAMERA.id)))
    scene = brought_in(stepped, 1003, outer)
    strobing = [r for r in scene_readings(work(scene), None, None, fail) if r.kind == "strobes"]
    fixes = {r.character_id: {f.edit.edit for f in r.fixes} for r in strobing}
    assert "ride" in fixes[own.id]
    assert "ride" not in fixes[NESTED_ODA]
