"""Sequences in the real MariaDB: what is stored comes back, undo and redo, conflicts, and scenes that go."""

from __future__ import annotations

import uuid

import pytest

from eddyfield.core.cut.sequence import Sequence
from eddyfield.core.edits.sequences import (
    AddScene,
    MoveScene,
    RenameSequence,
    SequenceEdit,
    StartTimecode,
    TakeSceneOut,
)
from eddyfield.core.errors import DomainError
from eddyfield.core.time.timecode import Timecode
from eddyfield.demo.load import load_demo
from eddyfield.store.conflicts import Conflict, NotFound
from eddyfield.store.database import Database
from eddyfield.store.replaying import NothingToUndo
from eddyfield.store.scenes import Scenes
from eddyfield.store.sequences import Sequences, StandingSequence


@pytest.fixture
def scene_ids(database: Database) -> list[str]:
    load_demo(database)
    return [scene.id for scene in Scenes(database).list() if scene.name.startswith("Crossing")][:2]


def made(database: Database, *scene_ids: str) -> StandingSequence:
    return Sequences(database).create(Sequence(str(uuid.uuid4()), "Mill race", scene_ids))


def change(database: Database, standing: StandingSequence, edit: SequenceEdit, request: str = "") -> StandingSequence:
    return Sequences(database).apply(
        standing.sequence.id, standing.revision, edit.edit, edit.apply, "Ada", request or str(uuid.uuid4()), "{}"
    )


def test_every_change_is_stored_undone_and_done_again(database: Database, scene_ids: list[str]) -> None:
    one, other = scene_ids
    now = made(database, one)
    states = [now.sequence]
    for edit in (
        AddScene(scene_id=other), MoveScene(scene_id=other, index=0), RenameSequence(name="Race"),
        StartTimecode(text="01:00:00:00"), TakeSceneOut(scene_id=one),
    ):  # fmt: skip
        now = change(database, now, edit)
        states.append(now.sequence)
        assert Sequences(database).get(now.sequence.id) == now
    assert states[-1] == Sequence(now.sequence.id, "Race", (other,), Timecode(86400))
    assert [scene.length.scene_id for scene in now.scenes] == [other]
    for state in reversed(states[:-1]):
        now = Sequences(database).undo(now.sequence.id, now.revision)
        assert now.sequence == state
    assert now.undo is None
    for state in states[1:]:
        now = Sequences(database).redo(now.sequence.id, now.revision)
        assert now.sequence == state
    with pytest.raises(NothingToUndo):
        Sequences(database).redo(now.sequence.id, now.revision)
    back = Sequences(database).undo(now.sequence.id, now.revision)
    after = change(database, back, RenameSequence(name="Another way"))
    assert (after.undo, after.redo) == ("rename sequence", None), "a new edit ends the redo"


def test_an_edit_is_done_once_and_a_conflict_is_told(database: Database, scene_ids: list[str]) -> None:
    before, request = made(database, scene_ids[0]), str(uuid.uuid4())
    after = change(database, before, AddScene(scene_id=scene_ids[1]), request)
    assert change(database, before, AddScene(scene_id=scene_ids[1]), request) == after
    with pytest.raises(Conflict, match="sequence") as told:
        change(database, before, RenameSequence(name="Late"))
    assert (told.value.revision, told.value.edits_since) == (after.revision, ("add scene",))
    with pytest.raises(Conflict):
        Sequences(database).undo(before.sequence.id, before.revision)
    same = change(database, after, RenameSequence(name="Mill race"))
    assert same.revision == after.revision, "what changes nothing is no change"


def test_a_scene_that_is_not_there_is_refused_and_one_that_is_deleted_is_passed_over(
    database: Database, scene_ids: list[str]
) -> None:
    now = made(database, *scene_ids)
    with pytest.raises(DomainError, match="no such scene"):
        change(database, now, AddScene(scene_id=str(uuid.uuid4())))
    assert Sequences(database).get(now.sequence.id) == now
    Scenes(database).set_deleted(scene_ids[0], True)
    shown = Sequences(database).get(now.sequence.id)
    assert [scene.length.scene_id for scene in shown.scenes] == [scene_ids[1]]
    Scenes(database).set_deleted(scene_ids[0], False)
    assert Sequences(database).get(now.sequence.id) == now


def test_a_deleted_sequence_is_gone_until_it_is_brought_back(database: Database, scene_ids: list[str]) -> None:
    sequences, now = Sequences(database), made(database, scene_ids[0])
    sequences.set_deleted(now.sequence.id, True)
    assert now.sequence.id not in [s.sequence.id for s in sequences.list()]
    for gone in (now.sequence.id, str(uuid.uuid4())):
        with pytest.raises(NotFound):
            sequences.get(gone)
    assert sequences.exists(now.sequence.id)
    sequences.set_deleted(now.sequence.id, False)
    assert now in sequences.list()
