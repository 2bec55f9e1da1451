"""Scenes that play inside scenes, stored: what is seen of them is what they are now, and everybody who sees it is told."""

from __future__ import annotations

from dataclasses import replace

import pytest

from eddyfield.core import edits
from eddyfield.core.bake import Baker
from eddyfield.core.cut.cut import Cut
from eddyfield.core.edits.applying import applied
from eddyfield.core.edits.blocks import BringInScene, MoveBlock, TakeOutBlock
from eddyfield.core.edits.contents import DoubleThing, RenameThing
from eddyfield.core.edits.edit import Edit
from eddyfield.core.errors import DomainError
from eddyfield.core.nesting import nested_id
from eddyfield.core.scene import Scene
from eddyfield.core.time.bending import Bend
from eddyfield.store.changes import Changes
from eddyfield.store.database import Database
from eddyfield.store.scenes import Scenes, Standing

from .stored import fresh, rows_in, work

BLOCK = fresh()


@pytest.fixture
def outer(database: Database, standing: Standing) -> Standing:
    """A scene with nothing but a camera of its own, in which the other one plays from its tenth frame on."""
    camera = replace(standing.scene.cameras[0], id=fresh())
    empty = replace(
        standing.scene,
        id=fresh(),
        name="Both",
        cameras=(camera,),
        cut=Cut.of((1001, camera.id)),
        characters=(),
        pieces=(),
    )
    Scenes(database).create(empty)
    return done(Scenes(database), empty.id, BringInScene(block_id=fresh(), scene_id=standing.scene.id, start=1010))


def done(scenes: Scenes, scene_id: str, edit: Edit) -> Standing:
    inner = {other: scenes.get(other).scene for other in edit.brings_scenes()}

    def change(scene: Scene) -> Scene:
        of_scene = work(scene)
        return applied(edit, scene, Baker(scene, of_scene.rig_of, {}, inner.__getitem__))

    return scenes.apply(scene_id, scenes.get(scene_id).revision, edit.edit, change, "Ada", None, "window")


def test_a_block_comes_back_as_it_was_stored_and_nothing_of_it_is_stored_twice(
    database: Database, outer: Standing
) -> None:
    scenes, (block,) = Scenes(database), outer.scene.blocks
    moved = done(scenes, outer.scene.id, MoveBlock(block_id=block.id, start=1020, values={"x": 1 / 3, "turn": -9.5}))
    bent = replace(moved.scene.blocks[0], bends=(Bend.at(-3, 9, 0.5), Bend.at(20, 30, 0.0)))
    scenes.apply(outer.scene.id, moved.revision, "bend", lambda s: replace(s, blocks=(bent,)))
    found = Scenes(database).get(outer.scene.id).scene
    assert found == scenes.get(outer.scene.id).scene
    assert found.blocks == (bent,)
    assert len(found.things) == 3
    tables = [table for table, _ in rows_in(database, found)]  # type: ignore[misc]
    assert "scene_character" not in tables
    before = rows_in(database, found)
    done(scenes, found.id, TakeOutBlock(block_id=block.id, frame=1020))
    assert scenes.get(found.id).scene.things == ()
    scenes.undo(found.id, scenes.get(found.id).revision)
    assert rows_in(database, found) == before
    assert scenes.get(found.id).scene == found


def test_what_is_changed_inside_is_seen_outside_and_told_there(
    database: Database,
    standing: Standing,
    outer: Standing,
) -> None:
    scenes, elsewhere, changes = Scenes(database), Scenes(database), Changes(database)
    elsewhere.get(outer.scene.id)
    changes.new()
    inner = standing.scene
    oda = nested_id(outer.scene.blocks[0].id, inner.characters[0].id)
    done(scenes, inner.id, RenameThing(thing_id=inner.characters[0].id, name="Ferry keeper"))
    for told in (scenes.get(outer.scene.id), elsewhere.get(outer.scene.id)):
        assert (told.scene.character(oda).name, told.revision) == ("Ferry keeper", outer.revision + 1)
    (of_outer,) = [c for c in changes.new() if c.scene_id == outer.scene.id]
    assert (of_outer.edit, of_outer.who, of_outer.revision) == ("rename thing", "Ada", outer.revision + 1)
    assert inner.name in of_outer.remark
    scenes.undo(inner.id, scenes.get(inner.id).revision)
    assert elsewhere.get(outer.scene.id).scene.character(oda).name == inner.characters[0].name
    assert elsewhere.get(outer.scene.id).undo == "bring in scene", "what was done inside is not for the outer to undo"
    with pytest.raises(DomainError, match="comes with"):
        done(scenes, outer.scene.id, RenameThing(thing_id=oda, name="Someone"))


def test_a_scene_that_is_deleted_goes_on_playing_where_it_does(
    database: Database,
    standing: Standing,
    outer: Standing,
) -> None:
    scenes = Scenes(database)
    scenes.set_deleted(standing.scene.id, True)
    assert len(Scenes(database).get(outer.scene.id).scene.things) == 3


def test_scenes_further_outside_are_found_and_told_too(
    database: Database,
    standing: Standing,
    outer: Standing,
) -> None:
    scenes = Scenes(database)
    camera = replace(outer.scene.cameras[0], id=fresh())
    top = replace(
        standing.scene,
        id=fresh(),
        cameras=(camera,),
        cut=Cut.of((1001, camera.id)),
        characters=(),
        pieces=(),
        blocks=(),
    )
    scenes.create(top)
    for other in (outer.scene.id, standing.scene.id):
        done(scenes, top.id, BringInScene(block_id=fresh(), scene_id=other, start=1005))
    assert [scene.id for scene in scenes.outer(standing.scene.id)] == [outer.scene.id, top.id]
    before = scenes.get(top.id).revision
    done(scenes, standing.scene.id, edits.RenameScene(name="Renamed"))
    assert scenes.get(top.id).revision == before + 1
    with pytest.raises(DomainError, match="inside itself"):
        done(scenes, standing.scene.id, BringInScene(block_id=fresh(), scene_id=top.id, start=1005))


def test_undo_inside_takes_nobody_away_whom_a_camera_outside_goes_by(
    database: Database,
    standing: Standing,
    outer: Standing,
) -> None:
    scenes, inner = Scenes(database), standing.scene
    new = fresh()
    done(scenes, inner.id, DoubleThing(thing_id=inner.characters[0].id, new_id=new))
    came = nested_id(outer.scene.blocks[0].id, new)
    face = edits.MakeFaceCamera(camera_id=fresh(), character_id=came, frame=1020)
    done(scenes, outer.scene.id, face)
    before = rows_in(database, inner)
    with pytest.raises(DomainError, match="goes by what would not be there"):
        scenes.undo(inner.id, scenes.get(inner.id).revision)
    assert rows_in(database, inner) == before
    assert scenes.get(outer.scene.id).scene.character(came), "it is still there"
    scenes.undo(outer.scene.id, scenes.get(outer.scene.id).revision)
    scenes.undo(inner.id, scenes.get(inner.id).revision)
    assert came not in [c.id for c in scenes.get(outer.scene.id).scene.characters]
