"""Two people at once in scenes that play in each other: rules over several scenes hold, and nobody waits for ever."""

from __future__ import annotations

import itertools
import threading
import time
from collections.abc import Callable
from dataclasses import replace

import pytest

from eddyfield.core import edits
from eddyfield.core.bake import Baker
from eddyfield.core.cameras.aim import Aim
from eddyfield.core.cameras.subjects import Subject, Target
from eddyfield.core.cut.cut import Cut
from eddyfield.core.edits.applying import applied
from eddyfield.core.edits.blocks import BringInScene, TakeOutBlock
from eddyfield.core.edits.contents import TakeOut
from eddyfield.core.edits.edit import Edit
from eddyfield.core.errors import DomainError
from eddyfield.core.nesting import DEEPEST, nested_id
from eddyfield.core.scene import Scene
from eddyfield.store.database import Database
from eddyfield.store.replaying import NothingToUndo
from eddyfield.store.scenes import Scenes, Standing

from .stored import fresh, work

SLOWLY_S = 0.12
"""How long an edit is worked out here, so that others come meanwhile."""


def empty_like(scene: Scene, name: str) -> Scene:
    camera = replace(scene.cameras[0], id=fresh())
    return replace(
        scene, id=fresh(), name=name, cameras=(camera,), cut=Cut.of((1001, camera.id)), characters=(), pieces=(), blocks=(),
    )  # fmt: skip


def done(scenes: Scenes, scene_id: str, edit: Edit, wait_s: float = 0.0) -> Standing:
    """As the server does an edit: what it goes by is looked for first."""
    inner = {other: scenes.get(other).scene for other in edit.brings_scenes()}

    def change(scene: Scene) -> Scene:
        time.sleep(wait_s)
        return applied(edit, scene, Baker(scene, work(scene).rig_of, {}, inner.__getitem__))

    return scenes.apply(scene_id, scenes.get(scene_id).revision, edit.edit, change, "Ada", None, "window")


def at_once(*acts: Callable[[], object]) -> list[Exception | None]:
    """What each of them was refused with, when all are begun together."""
    refused: list[Exception | None] = [None] * len(acts)

    def run(index: int, act: Callable[[], object]) -> None:
        try:
            act()
        except Exception as error:
            refused[index] = error

    threads = [threading.Thread(target=run, args=(n, act), daemon=True) for n, act in enumerate(acts)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(30)
    assert not any(thread.is_alive() for thread in threads), "somebody waits for ever"
    return refused


@pytest.mark.parametrize("stagger_s", [-0.05, 0.0, 0.05])
def test_what_is_gone_by_outside_is_not_taken_out_inside_at_once(
    database: Database, standing: Standing, stagger_s: float
) -> None:
    inside, outside, looking = Scenes(database), Scenes(database), Scenes(database)
    outer, block = empty_like(standing.scene, "Both"), fresh()
    looking.create(outer)
    done(looking, outer.id, BringInScene(block_id=block, scene_id=standing.scene.id, start=1001))
    oda = standing.scene.characters[0].id
    head = Subject("joint", nested_id(block, oda), "head")
    take_out = TakeOut(thing_id=oda, frame=1001, lets_go=True)
    aim = edits.AimCamera(camera_id=outer.cameras[0].id, aim=Aim((Target((head,)),)), frame=1001)

    def taking() -> None:
        time.sleep(max(0.0, stagger_s))
        done(inside, standing.scene.id, take_out, SLOWLY_S)

    def aiming() -> None:
        time.sleep(max(0.0, -stagger_s))
        done(outside, outer.id, aim, SLOWLY_S)

    refused = at_once(taking, aiming)
    assert sum(error is not None for error in refused) == 1, refused
    found = Scenes(database).get(outer.id).scene
    for camera in found.cameras:
        Baker(found, work(found).rig_of, {}).camera(camera)


def test_two_scenes_brought_into_each_other_at_once_do_not_go_in_circles(
    database: Database, standing: Standing
) -> None:
    one, other = Scenes(database), Scenes(database)
    a, b = (empty_like(standing.scene, name) for name in "AB")
    for scene in (a, b):
        one.create(scene)
    for _ in range(3):
        acts = (
            lambda: done(one, a.id, BringInScene(block_id=fresh(), scene_id=b.id, start=1001), SLOWLY_S),
            lambda: done(other, b.id, BringInScene(block_id=fresh(), scene_id=a.id, start=1001), SLOWLY_S),
        )
        refused = at_once(*acts)
        assert [type(error) for error in refused if error] == [DomainError], refused
        assert "inside itself" in str(next(error for error in refused if error))
        found = [Scenes(database).get(scene.id).scene for scene in (a, b)]
        assert sum(len(scene.blocks) for scene in found) == 1
        holder = next(scene for scene in found if scene.blocks)
        # Taken back here and brought in there: bringing it back would go in circles.
        one.undo(holder.id, one.get(holder.id).revision, window_id="window")
        free = b if holder.id == a.id else a
        there = fresh()
        done(one, free.id, BringInScene(block_id=there, scene_id=holder.id, start=1001))
        with pytest.raises(DomainError, match="inside itself"):
            one.redo(holder.id, one.get(holder.id).revision, window_id="window")
        assert not Scenes(database).get(holder.id).scene.blocks
        done(one, free.id, TakeOutBlock(block_id=there, frame=1001))
        assert one.get(holder.id).redo is not None
        try:
            one.redo(holder.id, one.get(holder.id).revision, window_id="window")
            one.undo(holder.id, one.get(holder.id).revision, window_id="window")
        except NothingToUndo:
            pytest.fail("what was undone can be done again once nothing is in its way")


def test_no_more_lie_inside_each_other_seen_from_above_either(database: Database, standing: Standing) -> None:
    """Two chains that are short enough each, joined at the upper one's lowest scene."""
    scenes = Scenes(database)
    chains = [
        [empty_like(standing.scene, f"{name} {n}") for n in range(DEEPEST // 2 + 2)] for name in ("upper", "lower")
    ]
    for chain in chains:
        for scene in chain:
            scenes.create(scene)
        for above, below in itertools.pairwise(chain):
            done(scenes, above.id, BringInScene(block_id=fresh(), scene_id=below.id, start=1001))
    joined = BringInScene(block_id=fresh(), scene_id=chains[1][0].id, start=1001)
    with pytest.raises(DomainError, match=f"More than {DEEPEST} scenes"):
        done(scenes, chains[0][-1].id, joined)
