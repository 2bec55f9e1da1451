"""Several windows on one scene: whose edit undo takes back, what stands on it, and who is told of what."""

from __future__ import annotations

import uuid
from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from eddyfield.core import edits
from eddyfield.core.cut.cut import Cut
from eddyfield.core.errors import DomainError
from eddyfield.core.scene import Scene
from eddyfield.store.changes import KEPT_REVISIONS, Changes
from eddyfield.store.conflicts import Conflict
from eddyfield.store.database import Database
from eddyfield.store.migrate import migrate
from eddyfield.store.replaying import CannotRedo, NothingToUndo, OthersStandOnIt
from eddyfield.store.scenes import Scenes, Standing

from .changes import CHANGES, pose
from .stored import fresh, rows_in, work

ADA, BO = str(uuid.uuid4()), str(uuid.uuid4())
NAMES = {ADA: "Ada", BO: ""}


class Desk:
    """One scene that two windows change."""

    def __init__(self, database: Database, standing: Standing) -> None:
        self.scenes, self.id = Scenes(database), standing.scene.id

    @property
    def now(self) -> Standing:
        return self.scenes.get(self.id)

    def make(self, window: str | None, name: str, number: int = 1) -> Standing:
        return self.apply(window, name, lambda s: CHANGES[name](s, number))

    def apply(self, window: str | None, name: str, edit: object) -> Standing:
        who = NAMES.get(window or "", "")
        return self.scenes.apply(self.id, self.now.revision, name, edit, who, fresh(), window)  # type: ignore[arg-type]

    def undo(self, window: str | None, of_others: bool = False) -> Standing:
        return self.scenes.undo(self.id, self.now.revision, fresh(), "", window, of_others)

    def redo(self, window: str | None) -> Standing:
        return self.scenes.redo(self.id, self.now.revision, fresh(), "", window)


@pytest.fixture
def desk(database: Database, standing: Standing) -> Desk:
    return Desk(database, standing)


def test_undo_takes_back_what_the_window_did_itself(desk: Desk) -> None:
    desk.make(ADA, "rename")
    after = desk.make(BO, "step", 2)
    assert (desk.scenes.get(desk.id, ADA).undo, after.undo) == ("rename", "step")
    undone = desk.undo(ADA)
    assert undone.scene.characters == after.scene.characters
    assert undone.scene.name != after.scene.name
    assert (undone.undo, undone.redo) == ("step", "rename"), "the newest of all is named where none is its own"
    assert desk.scenes.get(desk.id, BO).redo is None, "what Ada undid is not Bo's to do again"
    assert desk.redo(ADA).scene == after.scene


def test_taking_back_and_bringing_back_what_is_its_own_needs_no_news_of_what_others_did(desk: Desk) -> None:
    desk.make(ADA, "rename")
    seen = desk.now.revision
    desk.make(BO, "step", 2)
    undone = desk.scenes.undo(desk.id, seen, fresh(), "", ADA)
    assert (undone.revision, undone.redo) == (seen + 2, "rename")
    assert desk.scenes.redo(desk.id, seen, fresh(), "", ADA).revision == seen + 3
    for of_others, window in ((True, ADA), (False, None)):
        with pytest.raises(Conflict):
            desk.scenes.undo(desk.id, seen, fresh(), "", window, of_others)


def test_what_stands_on_it_is_told_and_goes_along_only_where_that_is_wanted(desk: Desk) -> None:
    before = desk.now.scene
    desk.make(ADA, "key", 3)
    desk.make(BO, "rename")
    camera_id = before.cameras[0].id
    desk.apply(
        BO, "key", lambda s: edits.KeyCamera(camera_id=camera_id, time=Fraction(1003), pose=pose(9)).apply(s, work(s))
    )
    with pytest.raises(OthersStandOnIt) as told:
        desk.undo(ADA)
    assert (told.value.edit, [(h.edit, h.window_id) for h in told.value.headings]) == ("key", [("key", BO)])
    both = desk.undo(ADA, of_others=True)
    assert both.scene.cameras == before.cameras
    assert both.scene.name != before.name, "what does not stand on it stays"
    assert desk.redo(ADA).scene.cameras != before.cameras
    assert desk.redo(ADA).redo is None


def test_where_a_window_has_changed_nothing_the_last_change_is_asked_about(desk: Desk) -> None:
    with pytest.raises(NothingToUndo):
        desk.undo(BO)
    desk.make(ADA, "rename")
    with pytest.raises(OthersStandOnIt) as told:
        desk.undo(BO)
    assert (told.value.edit, [h.who for h in told.value.headings]) == (None, ["Ada"])
    desk.undo(BO, of_others=True)
    with pytest.raises(NothingToUndo):
        desk.redo(ADA)
    desk.redo(BO)
    assert desk.undo(None).redo == "rename", "without a window it is the newest edit, whoever made it"


def test_a_camera_that_is_worked_on_elsewhere_is_not_taken_away_beneath(desk: Desk) -> None:
    camera_id = fresh()
    desk.apply(ADA, "copy camera", lambda s: edits.CopyCamera(camera_id=s.cameras[0].id, new_id=camera_id).apply(s))
    desk.apply(
        BO, "set camera key", lambda s: edits.KeyCamera(camera_id=camera_id, time=Fraction(1010)).apply(s, work(s))
    )
    with pytest.raises(OthersStandOnIt):
        desk.undo(ADA)
    desk.undo(BO)
    desk.undo(ADA)
    with pytest.raises(CannotRedo) as told:
        desk.redo(BO)
    assert told.value.heading.edit == "copy camera"
    assert told.value.heading.undone


def test_what_another_window_had_undone_before_is_no_obstacle(desk: Desk) -> None:
    desk.make(BO, "rename", 1)
    desk.undo(BO)
    desk.make(ADA, "rename", 2)
    desk.undo(ADA)
    assert desk.redo(ADA).scene.name.startswith("Überfahrt 2")


def test_places_stay_in_order_when_an_edit_is_taken_out_from_under_others(desk: Desk, database: Database) -> None:
    first, second = fresh(), fresh()
    desk.apply(ADA, "copy camera", lambda s: edits.CopyCamera(camera_id=s.cameras[0].id, new_id=first).apply(s))
    desk.apply(BO, "copy camera", lambda s: edits.CopyCamera(camera_id=s.cameras[0].id, new_id=second).apply(s))
    try:
        undone = desk.undo(ADA)
    except OthersStandOnIt:  # where copies are put in between
        undone = desk.undo(ADA, of_others=True)
    with database.transaction() as cursor:
        cursor.execute("SELECT place FROM camera WHERE scene_id = %s ORDER BY place", (desk.id,))
        assert [row["place"] for row in cursor.fetchall()] == list(range(len(undone.scene.cameras)))


EDITS = ["key", "rename", "step", "front", "lines", "copy", "delete", "values"]
STEPS = st.tuples(st.sampled_from([ADA, BO]), st.sampled_from(EDITS))


@settings(max_examples=25, suppress_health_check=[HealthCheck.function_scoped_fixture], deadline=None)
@given(st.lists(st.tuples(STEPS, st.integers(1, 5)), min_size=2, max_size=7))
def test_taking_back_all_of_both_windows_in_any_order_leaves_the_first_rows(
    database: Database, standing: Standing, steps: list[tuple[tuple[str, str], int]]
) -> None:
    scene_id = fresh()
    made = replace(
        standing.scene, id=scene_id,
        cameras=(camera := replace(standing.scene.cameras[0], id=fresh()),),
        cut=Cut.of((1001, camera.id)),
        characters=tuple(replace(c, id=fresh()) for c in standing.scene.characters),
        pieces=(replace(standing.scene.pieces[0], id=fresh()),),
    )  # fmt: skip
    desk = Desk(database, Scenes(database).create(made))
    before = rows_in(database, made)
    for (window, name), number in steps:
        try:
            desk.make(window, name, number)
        except (IndexError, DomainError):
            continue
    for window in (ADA, BO, ADA, BO):
        while True:
            try:
                desk.undo(window)
            except (NothingToUndo, OthersStandOnIt):
                break
    while desk.now.undo:
        desk.undo(ADA, of_others=True)
    assert rows_in(database, made) == before


def test_who_changed_what_is_told_once_and_in_order(desk: Desk, database: Database) -> None:
    changes = Changes(database)
    assert changes.new() == []
    desk.make(ADA, "rename")
    desk.make(BO, "step", 2)
    desk.undo(ADA)
    told = [c for c in changes.new() if c.scene_id == desk.id]
    assert [(c.revision, c.way, c.edit, c.who, c.window_id) for c in told] == [
        (2, "done", "rename", "Ada", ADA), (3, "done", "step", "", BO), (4, "undone", "rename", "", ADA),
    ]  # fmt: skip
    assert [c for c in changes.new() if c.scene_id == desk.id] == []


def test_a_change_that_is_committed_late_is_told_too(desk: Desk, database: Database) -> None:
    """Its number is given before, and later ones may be there already."""
    changes = Changes(database)
    changes.new()
    with database.transaction() as cursor:
        cursor.execute("SELECT MAX(number) AS last FROM scene_change")
        last = int((cursor.fetchone() or {})["last"] or 0)
        row = (
            "INSERT INTO scene_change (number, scene_id, revision, way, edit, who) VALUES (%s, %s, %s, 'done', 'x', '')"
        )
        cursor.execute(row, (last + 2, desk.id, 12))
    assert [c.revision for c in changes.new()] == [12]
    with database.transaction() as cursor:
        cursor.execute(row, (last + 1, desk.id, 11))
    assert [c.revision for c in changes.new()] == [11]


def test_old_changes_are_forgotten(desk: Desk, database: Database) -> None:
    with database.transaction() as cursor:
        cursor.execute("UPDATE scene_standing SET revision = %s WHERE scene_id = %s", (KEPT_REVISIONS + 1099, desk.id))
        cursor.execute(
            "INSERT INTO scene_change (scene_id, revision, way, edit, who) VALUES (%s, 5, 'done', 'x', '')", (desk.id,)
        )
    desk.make(ADA, "rename")
    with database.transaction() as cursor:
        cursor.execute("SELECT revision FROM scene_change WHERE scene_id = %s", (desk.id,))
        assert [row["revision"] for row in cursor.fetchall()] == [KEPT_REVISIONS + 1100]


def test_a_database_from_before_windows_keeps_its_history(desk: Desk, database: Database) -> None:
    """Entries and a head as they were written then: what lay beyond the head had been undone."""
    before = desk.now.scene
    for number in (1, 2, 3):
        desk.make(None, "rename", number)
    desk.undo(None)
    names: list[Scene] = [desk.now.scene]
    with database.transaction() as cursor:
        cursor.execute("DELETE FROM applied_migration WHERE name LIKE '0004%'")
        cursor.execute("DELETE FROM applied_statement WHERE name LIKE '0004%'")
        cursor.execute(
            "ALTER TABLE journal DROP COLUMN window_id, DROP COLUMN undone, DROP COLUMN undone_by,"
            " DROP COLUMN undone_at, DROP COLUMN arguments"
        )
        cursor.execute("ALTER TABLE scene_standing ADD COLUMN journal_head BIGINT NOT NULL DEFAULT 0")
        cursor.execute("UPDATE scene_standing SET journal_head = 3 WHERE scene_id = %s", (desk.id,))
        cursor.execute("UPDATE journal SET who = 'local' WHERE scene_id = %s", (desk.id,))
    assert migrate(database) == ["0004_windows.sql"]
    assert desk.redo(ADA).scene.name.startswith("Überfahrt 3")
    for _ in range(3):
        last = desk.undo(ADA)
    assert last.scene == before
    assert names[0] != before
