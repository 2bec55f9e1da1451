"""Scenes in the database: load, save the difference with its journal, undo and redo, list, delete and restore."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime

import orjson
from pymysql.cursors import DictCursor

from eddyfield.core.scene import Scene

from .database import LARGEST_PACKET, Database, TooLarge
from .journal import forget_after, read_entry, write_entry
from .rows import Row, all_rows, difference, scene_from_rows
from .writing import KEY_COLUMNS, write

KEPT_SCENES = 32
MOST_ROWS = 400_000
"""Of one edit: more is refused, once and for all."""


class Conflict(Exception):
    """The scene has moved on since the revision an edit was made on; tells what changed since."""

    def __init__(self, revision: int, edits_since: tuple[str, ...]) -> None:
        super().__init__(f"the scene is at revision {revision}")
        self.revision = revision
        self.edits_since = edits_since


class NotFound(Exception):
    """There is no such scene, or it was deleted."""


class NothingToUndo(Exception):
    """The journal has no entry in that direction."""


@dataclass(frozen=True)
class Standing:
    """A scene as stored: its revision, and the edits that undo and redo would take back or bring again."""

    scene: Scene
    revision: int
    undo: str | None
    redo: str | None


@dataclass(frozen=True)
class Listed:
    """A scene on the Desk."""

    id: str
    name: str
    first: int
    last: int
    rate: str
    cameras: int
    characters: tuple[str, ...]
    changed_at: datetime
    revision: int
    has_picture: bool


class Scenes:
    """All scenes of one database. Loaded scenes are kept while their revision stands."""

    def __init__(self, database: Database) -> None:
        self._database = database
        self._kept: OrderedDict[str, tuple[int, Scene]] = OrderedDict()
        self._lock = threading.Lock()

    def create(self, scene: Scene) -> Standing:
        """Store a new scene."""
        with self._database.transaction() as cursor:
            write(cursor, [(key, None, row) for key, row in all_rows(scene).items()])
            cursor.execute(
                "INSERT INTO scene_standing (scene_id, revision, journal_head) VALUES (%s, 1, 0)", (scene.id,)
            )
        return Standing(scene, 1, None, None)

    def get(self, scene_id: str) -> Standing:
        """A scene as it stands. Raises ``NotFound``."""
        with self._database.transaction() as cursor:
            revision, head = self._standing(cursor, scene_id)
            return self._told(cursor, self._scene(cursor, scene_id, revision), revision, head)

    def list(self) -> list[Listed]:
        """Scenes that are not deleted, the last changed first."""
        with self._database.transaction() as cursor:
            cursor.execute(
                "SELECT s.id, s.name, s.first_frame, s.last_frame, s.rate, t.changed_at, t.revision,"
                " t.thumbnail IS NOT NULL AS has_picture,"
                " (SELECT COUNT(*) FROM camera c WHERE c.scene_id = s.id) AS cameras,"
                " (SELECT GROUP_CONCAT(p.name ORDER BY p.place SEPARATOR '\n') FROM scene_character p"
                "  WHERE p.scene_id = s.id) AS characters"
                " FROM scene s JOIN scene_standing t ON t.scene_id = s.id"
                " WHERE t.deleted_at IS NULL ORDER BY t.changed_at DESC, s.name"
            )
            return [_listed(row) for row in cursor.fetchall()]

    def apply(
        self,
        scene_id: str,
        revision: int,
        name: str,
        edit: Callable[[Scene], Scene],
        who: str,
        request_id: str | None = None,
    ) -> Standing:
        """Change a scene by an edit made on ``revision``, durably. An edit that was saved before under the same
        ``request_id`` is not done twice. Raises ``Conflict``, ``NotFound``, or what the edit refuses with."""
        with self._database.transaction(of_one_scene=True) as cursor:
            current, head = self._standing(cursor, scene_id, for_update=True)
            before = self._scene(cursor, scene_id, current)
            if request_id is not None and self._is_answered(cursor, scene_id, request_id):
                return self._told(cursor, before, current, head)
            if current != revision:
                raise Conflict(current, self._edits_since(cursor, scene_id, head, current - revision))
            after = edit(before)
            changes = difference(before, after)
            self._answered(cursor, scene_id, request_id)
            if not changes:
                return self._told(cursor, before, current, head)
            if len(changes) > MOST_ROWS:
                raise TooLarge(f"{len(changes):,} rows at once")
            write(cursor, changes)
            forget_after(cursor, scene_id, head)
            write_entry(cursor, scene_id, head + 1, name, request_id, who, changes)
            self._advance(cursor, scene_id, current + 1, head + 1)
            told = Standing(after, current + 1, name, None)
        self._keep(after, current + 1)
        return told

    def undo(self, scene_id: str, revision: int, request_id: str | None = None) -> Standing:
        """Put back the rows from before the last edit; once for one ``request_id``. Raises ``NothingToUndo``, ``Conflict`` or
        ``NotFound``."""
        return self._replay(scene_id, revision, request_id, back=True)

    def redo(self, scene_id: str, revision: int, request_id: str | None = None) -> Standing:
        """Bring back the edit that was undone last, likewise."""
        return self._replay(scene_id, revision, request_id, back=False)

    def set_deleted(self, scene_id: str, deleted: bool) -> None:
        """Take a scene off the Desk, or put it back."""
        with self._database.transaction() as cursor:
            when = "CURRENT_TIMESTAMP(3)" if deleted else "NULL"
            cursor.execute("SELECT 1 FROM scene_standing WHERE scene_id = %s", (scene_id,))
            if not cursor.fetchone():
                raise NotFound(scene_id)
            cursor.execute(f"UPDATE scene_standing SET deleted_at = {when} WHERE scene_id = %s", (scene_id,))

    def exists(self, scene_id: str) -> bool:
        """Whether there is such a scene, deleted or not."""
        with self._database.transaction() as cursor:
            cursor.execute("SELECT 1 FROM scene WHERE id = %s", (scene_id,))
            return cursor.fetchone() is not None

    def thumbnail(self, scene_id: str) -> bytes | None:
        with self._database.transaction() as cursor:
            cursor.execute("SELECT thumbnail FROM scene_standing WHERE scene_id = %s", (scene_id,))
            row = cursor.fetchone()
        return row["thumbnail"] if row else None

    def set_thumbnail(self, scene_id: str, png: bytes) -> None:
        """Keep a picture of a scene for the Desk. Raises ``NotFound``."""
        with self._database.transaction() as cursor:
            self._standing(cursor, scene_id)
            cursor.execute(
                "UPDATE scene_standing SET thumbnail = %s, changed_at = changed_at WHERE scene_id = %s", (png, scene_id)
            )

    def _replay(self, scene_id: str, revision: int, request_id: str | None, back: bool) -> Standing:
        with self._database.transaction(of_one_scene=True) as cursor:
            current, head = self._standing(cursor, scene_id, for_update=True)
            if request_id is not None and self._is_answered(cursor, scene_id, request_id):
                return self._told(cursor, self._scene(cursor, scene_id, current), current, head)
            if current != revision:
                raise Conflict(current, self._edits_since(cursor, scene_id, head, current - revision))
            number = head if back else head + 1
            entry = read_entry(cursor, scene_id, number)
            if entry is None:
                raise NothingToUndo
            before, after = entry
            source, target = (after, before) if back else (before, after)
            write(cursor, [(key, source.get(key), target.get(key)) for key in dict.fromkeys([*source, *target])])
            head = number - 1 if back else number
            self._answered(cursor, scene_id, request_id)
            self._advance(cursor, scene_id, current + 1, head)
            scene = _load(cursor, scene_id)
            told = self._told(cursor, scene, current + 1, head)
        self._keep(scene, current + 1)
        return told

    @staticmethod
    def _is_answered(cursor: DictCursor, scene_id: str, request_id: str) -> bool:
        cursor.execute("SELECT 1 FROM answered_request WHERE scene_id = %s AND request_id = %s", (scene_id, request_id))
        return cursor.fetchone() is not None

    @staticmethod
    def _answered(cursor: DictCursor, scene_id: str, request_id: str | None) -> None:
        if request_id is not None:
            cursor.execute(
                "INSERT INTO answered_request (scene_id, request_id) VALUES (%s, %s)", (scene_id, request_id)
            )

    @staticmethod
    def _standing(cursor: DictCursor, scene_id: str, for_update: bool = False) -> tuple[int, int]:
        lock = " FOR UPDATE" if for_update else ""
        cursor.execute(
            f"SELECT revision, journal_head FROM scene_standing WHERE scene_id = %s AND deleted_at IS NULL{lock}",
            (scene_id,),
        )
        row = cursor.fetchone()
        if row is None:
            raise NotFound(scene_id)
        return int(row["revision"]), int(row["journal_head"])

    @staticmethod
    def _advance(cursor: DictCursor, scene_id: str, revision: int, head: int) -> None:
        cursor.execute(
            "UPDATE scene_standing SET revision = %s, journal_head = %s, changed_at = CURRENT_TIMESTAMP(3)"
            " WHERE scene_id = %s",
            (revision, head, scene_id),
        )

    @staticmethod
    def _edits_since(cursor: DictCursor, scene_id: str, head: int, count: int) -> tuple[str, ...]:
        cursor.execute(
            "SELECT edit FROM journal WHERE scene_id = %s AND number <= %s ORDER BY number DESC LIMIT %s",
            (scene_id, head, max(0, min(count, 20))),
        )
        return tuple(r["edit"] for r in cursor.fetchall())

    @staticmethod
    def _told(cursor: DictCursor, scene: Scene, revision: int, head: int) -> Standing:
        cursor.execute(
            "SELECT number, edit FROM journal WHERE scene_id = %s AND number IN (%s, %s)", (scene.id, head, head + 1)
        )
        names = {int(r["number"]): str(r["edit"]) for r in cursor.fetchall()}
        return Standing(scene, revision, names.get(head), names.get(head + 1))

    def _scene(self, cursor: DictCursor, scene_id: str, revision: int) -> Scene:
        with self._lock:
            kept = self._kept.get(scene_id)
        if kept and kept[0] == revision:
            return kept[1]
        scene = _load(cursor, scene_id)
        self._keep(scene, revision)
        return scene

    def _keep(self, scene: Scene, revision: int) -> None:
        with self._lock:
            kept = self._kept.get(scene.id)
            if kept and kept[0] > revision:
                return
            self._kept[scene.id] = (revision, scene)
            self._kept.move_to_end(scene.id)
            while len(self._kept) > KEPT_SCENES:
                self._kept.popitem(last=False)


def _listed(row: Row) -> Listed:
    characters = tuple(row["characters"].split("\n")) if row["characters"] else ()
    return Listed(
        row["id"], row["name"], row["first_frame"], row["last_frame"], row["rate"], row["cameras"], characters,
        row["changed_at"], row["revision"], bool(row["has_picture"]),
    )  # fmt: skip


_OF_SCENE = {
    "scene": "id = %s",
    "camera": "scene_id = %s",
    "camera_channel": "camera_id IN (SELECT id FROM camera WHERE scene_id = %s)",
    "camera_key": "camera_id IN (SELECT id FROM camera WHERE scene_id = %s)",
    "camera_view": "camera_id IN (SELECT id FROM camera WHERE scene_id = %s)",
    "scene_character": "scene_id = %s",
    "character_foot": "character_id IN (SELECT id FROM scene_character WHERE scene_id = %s)",
    "set_piece": "scene_id = %s",
    "cut_entry": "scene_id = %s",
}


def stored_rows(cursor: DictCursor, scene_id: str, but: str = "") -> list[tuple[str, Row]]:
    """All rows of a scene, each with its table; those of one table may be left out."""
    out: list[tuple[str, Row]] = []
    for table, condition in _OF_SCENE.items():
        if table == but:
            continue
        cursor.execute(f"SELECT * FROM {table} WHERE {condition}", (scene_id,))
        out += [(table, row) for row in cursor.fetchall()]
    return out


def _load(cursor: DictCursor, scene_id: str) -> Scene:
    rows = stored_rows(cursor, scene_id, but="camera_key")
    if not rows:
        raise NotFound(scene_id)
    return scene_from_rows([*rows, *_key_rows(cursor, scene_id)])


def _key_rows(cursor: DictCursor, scene_id: str) -> list[tuple[str, Row]]:
    """The keys, handed over by channel as one text each: there may be a hundred thousand."""
    columns = list(KEY_COLUMNS)[2:]
    cursor.execute(f"SET SESSION group_concat_max_len = {LARGEST_PACKET}")
    cursor.execute(
        f"SELECT camera_id, channel, JSON_ARRAYAGG(JSON_ARRAY({', '.join(columns)})) AS told FROM camera_key"
        f" WHERE {_OF_SCENE['camera_key']} GROUP BY camera_id, channel",
        (scene_id,),
    )
    out: list[tuple[str, Row]] = []
    for row in cursor.fetchall():
        own = {"camera_id": row["camera_id"], "channel": row["channel"]}
        for values in orjson.loads(row["told"]):
            out.append(("camera_key", {**own, **dict(zip(columns, values, strict=True))}))
    return out
