"""Sequences in the database: load, save with a journal, undo and redo."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from pymysql.cursors import DictCursor

from eddyfield.core.cut.sequence import SceneLength, Sequence, rate_of
from eddyfield.core.errors import DomainError
from eddyfield.core.time.frames import FrameRange, Rate
from eddyfield.core.time.timecode import Timecode

from .conflicts import Conflict, NotFound
from .database import Database
from .records import SEQUENCE
from .replaying import NothingToUndo

Change = Callable[[Sequence, Rate | None], Sequence]


@dataclass(frozen=True)
class ListedScene:
    """A scene of a sequence, as far as the sequence and its list go by it."""

    length: SceneLength
    name: str
    revision: int
    has_picture: bool


@dataclass(frozen=True)
class StandingSequence:
    """A sequence as stored, with its scenes that are not deleted, in order, and the edits that undo and redo would take."""

    sequence: Sequence
    revision: int
    undo: str | None
    redo: str | None
    scenes: tuple[ListedScene, ...]

    @property
    def rate(self) -> Rate | None:
        return rate_of(scene.length for scene in self.scenes)


class Sequences:
    """All sequences of one database."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def create(self, sequence: Sequence) -> StandingSequence:
        """Store a new one. Raises ``AlreadyThere``, or ``DomainError`` for scenes that there are not."""
        with self._database.transaction() as cursor:
            cursor.execute(
                "INSERT INTO scene_sequence (id, name, timecode_start, timecode_drops, revision) VALUES (%s, %s, %s, %s, 1)",
                (sequence.id, sequence.name, sequence.timecode.starts_at, sequence.timecode.drops),
            )
            _write_scenes(cursor, sequence)
            return _standing(cursor, sequence, 1)

    def get(self, sequence_id: str) -> StandingSequence:
        """Raises ``NotFound``."""
        with self._database.transaction() as cursor:
            return _load(cursor, sequence_id)

    def list(self) -> list[StandingSequence]:
        """Those that are not deleted, by their names."""
        with self._database.transaction() as cursor:
            cursor.execute("SELECT id FROM scene_sequence WHERE deleted_at IS NULL ORDER BY name, id")
            return [_load(cursor, row["id"]) for row in cursor.fetchall()]

    def exists(self, sequence_id: str) -> bool:
        """Whether there is one, deleted or not."""
        with self._database.transaction() as cursor:
            cursor.execute("SELECT 1 FROM scene_sequence WHERE id = %s", (sequence_id,))
            return cursor.fetchone() is not None

    def apply(
        self, sequence_id: str, revision: int, edit: str, change: Change, who: str, request_id: str, arguments: str
    ) -> StandingSequence:
        """Change a sequence by an edit made on ``revision``, durably; once for one ``request_id``. Raises ``Conflict``,
        ``NotFound``, or what the edit refuses with."""
        with self._database.transaction() as cursor:
            standing = _load(cursor, sequence_id, for_update=True)
            cursor.execute(
                "SELECT 1 FROM sequence_journal WHERE sequence_id = %s AND request_id = %s", (sequence_id, request_id)
            )
            if cursor.fetchone():
                return standing
            if standing.revision != revision:
                raise Conflict(standing.revision, _edits_since(cursor, sequence_id), "sequence")
            before = standing.sequence
            after = change(before, standing.rate)
            if after is before:
                return standing
            cursor.execute("DELETE FROM sequence_journal WHERE sequence_id = %s AND undone", (sequence_id,))
            cursor.execute(
                "INSERT INTO sequence_journal (sequence_id, number, edit, arguments, request_id, who, before_it, after_it)"
                " SELECT %s, COALESCE(MAX(number), 0) + 1, %s, %s, %s, %s, %s, %s FROM sequence_journal WHERE sequence_id = %s",
                (
                    sequence_id,
                    edit,
                    arguments,
                    request_id,
                    who,
                    SEQUENCE.write(before),
                    SEQUENCE.write(after),
                    sequence_id,
                ),
            )
            return _put(cursor, after, revision + 1)

    def undo(self, sequence_id: str, revision: int) -> StandingSequence:
        """Take the last edit back. Raises ``NothingToUndo``, ``Conflict`` or ``NotFound``."""
        return self._replay(sequence_id, revision, "NOT undone ORDER BY number DESC", "before_it", True)

    def redo(self, sequence_id: str, revision: int) -> StandingSequence:
        """Bring back what was undone last. Raises ``NothingToUndo``, ``Conflict`` or ``NotFound``."""
        return self._replay(sequence_id, revision, "undone ORDER BY number", "after_it", False)

    def set_deleted(self, sequence_id: str, deleted: bool) -> None:
        """Take a sequence off the Desk, or put it back; its scenes stay."""
        with self._database.transaction() as cursor:
            cursor.execute("SELECT 1 FROM scene_sequence WHERE id = %s", (sequence_id,))
            if not cursor.fetchone():
                raise NotFound(sequence_id, "sequence")
            when = "CURRENT_TIMESTAMP(3)" if deleted else "NULL"
            cursor.execute(f"UPDATE scene_sequence SET deleted_at = {when} WHERE id = %s", (sequence_id,))

    def _replay(self, sequence_id: str, revision: int, which: str, side: str, undone: bool) -> StandingSequence:
        with self._database.transaction() as cursor:
            standing = _load(cursor, sequence_id, for_update=True)
            if standing.revision != revision:
                raise Conflict(standing.revision, _edits_since(cursor, sequence_id), "sequence")
            cursor.execute(
                f"SELECT number, {side} AS state FROM sequence_journal WHERE sequence_id = %s AND {which} LIMIT 1",
                (sequence_id,),
            )
            row = cursor.fetchone()
            if row is None:
                raise NothingToUndo
            cursor.execute(
                "UPDATE sequence_journal SET undone = %s WHERE sequence_id = %s AND number = %s",
                (undone, sequence_id, row["number"]),
            )
            return _put(cursor, SEQUENCE.read(row["state"]), revision + 1)


def _load(cursor: DictCursor, sequence_id: str, for_update: bool = False) -> StandingSequence:
    lock = " FOR UPDATE" if for_update else ""
    cursor.execute(f"SELECT * FROM scene_sequence WHERE id = %s AND deleted_at IS NULL{lock}", (sequence_id,))
    head = cursor.fetchone()
    if head is None:
        raise NotFound(sequence_id, "sequence")
    cursor.execute("SELECT scene_id FROM sequence_scene WHERE sequence_id = %s ORDER BY place", (sequence_id,))
    timecode = Timecode(head["timecode_start"], bool(head["timecode_drops"]))
    scene_ids = tuple(row["scene_id"] for row in cursor.fetchall())
    return _standing(cursor, Sequence(head["id"], head["name"], scene_ids, timecode), head["revision"])


def _standing(cursor: DictCursor, sequence: Sequence, revision: int) -> StandingSequence:
    cursor.execute(
        "SELECT s.id, s.name, s.rate, s.first_frame, s.last_frame, t.revision, t.thumbnail IS NOT NULL AS has_picture"
        " FROM sequence_scene q JOIN scene s ON s.id = q.scene_id JOIN scene_standing t ON t.scene_id = s.id"
        " WHERE q.sequence_id = %s AND t.deleted_at IS NULL ORDER BY q.place",
        (sequence.id,),
    )
    scenes = tuple(
        ListedScene(
            SceneLength(row["id"], FrameRange(row["first_frame"], row["last_frame"]), Rate.parse(row["rate"])),
            row["name"], row["revision"], bool(row["has_picture"]),
        )
        for row in cursor.fetchall()
    )  # fmt: skip
    edits = []
    for which in ("NOT undone ORDER BY number DESC", "undone ORDER BY number"):
        cursor.execute(f"SELECT edit FROM sequence_journal WHERE sequence_id = %s AND {which} LIMIT 1", (sequence.id,))
        row = cursor.fetchone()
        edits.append(row["edit"] if row else None)
    return StandingSequence(sequence, revision, edits[0], edits[1], scenes)


def _put(cursor: DictCursor, sequence: Sequence, revision: int) -> StandingSequence:
    cursor.execute(
        "UPDATE scene_sequence SET name = %s, timecode_start = %s, timecode_drops = %s, revision = %s,"
        " changed_at = CURRENT_TIMESTAMP(3) WHERE id = %s",
        (sequence.name, sequence.timecode.starts_at, sequence.timecode.drops, revision, sequence.id),
    )
    cursor.execute("DELETE FROM sequence_scene WHERE sequence_id = %s", (sequence.id,))
    _write_scenes(cursor, sequence)
    return _standing(cursor, sequence, revision)


def _write_scenes(cursor: DictCursor, sequence: Sequence) -> None:
    if not sequence.scene_ids:
        return
    marks = ", ".join(["%s"] * len(sequence.scene_ids))
    cursor.execute(f"SELECT COUNT(*) AS known FROM scene WHERE id IN ({marks})", sequence.scene_ids)
    if (cursor.fetchone() or {})["known"] != len(sequence.scene_ids):
        raise DomainError("There is no such scene any more.", "Choose one that is on the Desk.")
    rows = [(sequence.id, place, scene_id) for place, scene_id in enumerate(sequence.scene_ids)]
    cursor.executemany("INSERT INTO sequence_scene (sequence_id, place, scene_id) VALUES (%s, %s, %s)", rows)


def _edits_since(cursor: DictCursor, sequence_id: str) -> tuple[str, ...]:
    cursor.execute(
        "SELECT edit FROM sequence_journal WHERE sequence_id = %s AND NOT undone ORDER BY number DESC LIMIT 3",
        (sequence_id,),
    )
    return tuple(row["edit"] for row in cursor.fetchall())
