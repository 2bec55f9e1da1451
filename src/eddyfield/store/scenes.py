"""Scenes in the database: load, save the difference with its journal, undo and redo, list, delete and restore."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime

from pymysql.cursors import DictCursor

from eddyfield.core.errors import DomainError
from eddyfield.core.nesting import inside, refuse_broken, refuse_too_deep, whole, with_inner_changed
from eddyfield.core.scene import Scene

from . import changes as change_record
from . import journal
from .conflicts import Conflict, NotFound
from .database import Database, TooLarge, Unavailable
from .key_rows import Row
from .loading import load_scene
from .nested_scenes import Outer, lock_standings, outer_of, tell_outer, with_blocks
from .replaying import done_again, taken_back
from .rows import Difference, all_rows, difference
from .writing import write

KEPT_SCENES = 32
MOST_BEGINNINGS = 8
"""Of one change: how often others may come in between."""
MOST_APART = 50
"""Edits of others that are looked through."""
MOST_NAMED = 20
"""Edits that a conflict names."""
MOST_ROWS = 400_000
"""Of one edit: more is refused, once and for all."""


Apart = Callable[[Scene, Sequence[str]], bool]
"""Whether an edit changes nothing of what others have, whose edits' arguments are given."""


@dataclass(frozen=True)
class Standing:
    """A scene as stored: its revision, and the edits that undo and redo would take back or bring again in a window."""

    scene: Scene
    revision: int
    undo: str | None
    redo: str | None


@dataclass(frozen=True)
class Use:
    """A thing of a scene that performs a file, at the revision of its scene."""

    scene_id: str
    scene_name: str
    revision: int
    thing_id: str
    thing_name: str


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


class _MoreToHold(Exception):
    """Other scenes have to be held as well."""

    def __init__(self, ids: frozenset[str]) -> None:
        super().__init__()
        self.ids = ids


@dataclass(frozen=True)
class _Held:
    """Scenes that are held, by their ids; the ``revision`` of the one that is changed, and what is around it."""

    ids: frozenset[str]
    revision: int
    outer: Outer

    def need(self, ids: Iterable[str]) -> None:
        """Raise ``_MoreToHold`` where some of them are not held."""
        if more := frozenset(ids) - self.ids:
            raise _MoreToHold(more)


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
            cursor.execute("INSERT INTO scene_standing (scene_id, revision) VALUES (%s, 1)", (scene.id,))
        return Standing(scene, 1, None, None)

    def get(self, scene_id: str, window_id: str | None = None) -> Standing:
        """A scene as it stands. Raises ``NotFound``."""
        with self._database.transaction() as cursor:
            revision = self._revision(cursor, scene_id)
            return self._standing(cursor, self._scene(cursor, scene_id, revision), revision, window_id)

    def known_at(self, scene_id: str, revision: int) -> Standing | None:
        """A scene as it was kept of a revision, without asking whether it still stands there; None where it was not."""
        with self._lock:
            kept = self._kept.get(scene_id)
        return Standing(kept[1], revision, None, None) if kept and kept[0] == revision else None

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

    def uses_of(self, digest: str) -> tuple[Use, ...]:
        """Every thing that performs a file, in scenes that are not deleted."""
        with self._database.transaction() as cursor:
            of_things = " UNION ALL ".join(
                f"SELECT scene_id, id, name, place FROM {table} WHERE digest = %s"
                for table in ("scene_character", "set_piece")
            )
            cursor.execute(
                "SELECT u.scene_id, s.name AS scene_name, t.revision, u.id AS thing_id, u.name AS thing_name"
                f" FROM ({of_things}) u JOIN scene s ON s.id = u.scene_id JOIN scene_standing t ON t.scene_id = s.id"
                " WHERE t.deleted_at IS NULL ORDER BY s.name, s.id, u.place",
                (digest, digest),
            )
            return tuple(Use(**row) for row in cursor.fetchall())

    def apply(
        self,
        scene_id: str,
        revision: int,
        name: str,
        edit: Callable[[Scene], Scene],
        who: str = "",
        request_id: str | None = None,
        window_id: str | None = None,
        arguments: str | None = None,
        remark: str = "",
        around: Callable[[Scene], None] | None = None,
        apart: Apart | None = None,
    ) -> Standing:
        """Change a scene by an edit made on ``revision``, durably, and write it down with its ``arguments`` (JSON); others are
        told of it with a ``remark``. Scenes in which it plays are handed to ``around``, as they come to be, to refuse. Where
        others have changed it since, ``apart`` says of the scene and their edits' arguments whether that is of no matter. An edit
        that was saved before under the same ``request_id`` is not done twice. Raises ``Conflict``, ``NotFound``, or what the
        edit refuses with."""

        def changed(cursor: DictCursor, held: _Held) -> tuple[Standing, bool]:
            current = held.revision
            before = self._scene(cursor, scene_id, current)
            if self._is_answered(cursor, scene_id, request_id):
                return self._standing(cursor, before, current, window_id), False
            if current != revision and not self._is_apart(cursor, before, revision, current, apart):
                self._refuse_conflict(cursor, scene_id, current, revision)
            after = whole(edit(before))
            coming = {block.scene_id for block in after.blocks} - {block.scene_id for block in before.blocks}
            held.need(coming)
            if coming:
                # What comes in may have been changed since it was looked for.
                after = with_blocks(cursor, after, self._scene)
                refuse_too_deep(after, held.outer.levels)
            for outer in self._refuse_broken_outside(cursor, held, after) if after is not before else ():
                if around is not None:
                    around(outer)
            changes = difference(before, after)
            if not changes:
                return self._standing(cursor, before, current, window_id), False
            if len(changes) > MOST_ROWS:
                raise TooLarge(f"{len(changes):,} rows at once")
            write(cursor, changes)
            journal.forget_undone(cursor, scene_id, window_id)
            journal.write_entry(cursor, scene_id, current + 1, name, request_id, who, window_id, arguments, changes)
            self._advance(cursor, scene_id, current + 1)
            change_record.record(cursor, scene_id, current + 1, "done", name, who, window_id, remark)
            tell_outer(cursor, held.outer.ids, after.name, name, "done", who, window_id)
            return Standing(after, current + 1, name, None), True

        return self._holding(scene_id, changed)

    def undo(
        self,
        scene_id: str,
        revision: int,
        request_id: str | None = None,
        who: str = "",
        window_id: str | None = None,
        of_others: bool = False,
    ) -> Standing:
        """Put back the rows from before the last edit that a window made itself; once for one ``request_id``. Where edits of
        others stand on it, or are all that there is, they are undone only if ``of_others`` says so. Without a window it is
        the newest edit, whoever made it. Raises ``NothingToUndo``, ``OthersStandOnIt``, ``Conflict`` or ``NotFound``.

        What a window takes back of its own is the same whatever others did meanwhile, so that is no conflict."""

        def rows(cursor: DictCursor, coming: int) -> tuple[str, Difference]:
            return taken_back(cursor, scene_id, window_id, of_others, coming)

        own = window_id is not None and not of_others
        return self._replay(scene_id, None if own else revision, request_id, who, window_id, "undone", rows)

    def redo(
        self, scene_id: str, revision: int, request_id: str | None = None, who: str = "", window_id: str | None = None
    ) -> Standing:
        """Bring back the edit that a window undid last; without a window, the one that was undone last. Raises
        ``NothingToUndo``, ``CannotRedo``, ``Conflict`` or ``NotFound``."""

        def rows(cursor: DictCursor, coming: int) -> tuple[str, Difference]:
            return done_again(cursor, scene_id, window_id)

        own = window_id is not None
        return self._replay(scene_id, None if own else revision, request_id, who, window_id, "redone", rows)

    def set_deleted(self, scene_id: str, deleted: bool) -> None:
        """Take a scene off the Desk, or put it back."""
        with self._database.transaction() as cursor:
            when = "CURRENT_TIMESTAMP(3)" if deleted else "NULL"
            cursor.execute("SELECT 1 FROM scene_standing WHERE scene_id = %s", (scene_id,))
            if not cursor.fetchone():
                raise NotFound(scene_id)
            cursor.execute(f"UPDATE scene_standing SET deleted_at = {when} WHERE scene_id = %s", (scene_id,))

    def outer(self, scene_id: str) -> tuple[Scene, ...]:
        """The scenes in which one plays, however deep and deleted or not, the nearest first."""
        with self._database.transaction() as cursor:
            return tuple(self._at_its_revision(cursor, outer_id) for outer_id in outer_of(cursor, scene_id).ids)

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
            self._revision(cursor, scene_id)
            cursor.execute(
                "UPDATE scene_standing SET thumbnail = %s, changed_at = changed_at WHERE scene_id = %s", (png, scene_id)
            )

    def _replay(
        self,
        scene_id: str,
        revision: int | None,
        request_id: str | None,
        who: str,
        window_id: str | None,
        way: change_record.Way,
        rows: Callable[[DictCursor, int], tuple[str, Difference]],
    ) -> Standing:
        """``rows`` gives the name of the edit and what to write, by the revision that comes of it; without ``revision`` it holds
        on any."""

        def replayed(cursor: DictCursor, held: _Held) -> tuple[Standing, bool]:
            current = held.revision
            if self._is_answered(cursor, scene_id, request_id):
                return self._standing(cursor, self._scene(cursor, scene_id, current), current, window_id), False
            if revision is not None:
                self._refuse_conflict(cursor, scene_id, current, revision)
            edit, changes = rows(cursor, current + 1)
            coming = {row["inner_id"] for key, _, row in changes if key.table == "scene_block" and row is not None}
            held.need(coming)
            for inner_id in sorted(coming):  # before they are written: what goes in circles could not be read
                inner = self._at_its_revision(cursor, inner_id)
                if scene_id in inside(inner) | {inner_id}:
                    raise DomainError(
                        f"“{inner.name}” would play inside itself by now.", "Take this scene out of it first."
                    )
            write(cursor, changes)
            self._advance(cursor, scene_id, current + 1)
            change_record.record(cursor, scene_id, current + 1, way, edit, who, window_id)
            scene = with_blocks(cursor, load_scene(cursor, scene_id), self._scene)
            if coming:
                refuse_too_deep(scene, held.outer.levels)
            refuse_broken([scene])
            self._refuse_broken_outside(cursor, held, scene)
            tell_outer(cursor, held.outer.ids, scene.name, edit, way, who, window_id)
            _number_places(cursor, scene)
            return self._standing(cursor, scene, current + 1, window_id), True

        return self._holding(scene_id, replayed)

    def _holding(self, scene_id: str, change: Callable[[DictCursor, _Held], tuple[Standing, bool]]) -> Standing:
        """Do a change of a scene with its standing held, and those of the scenes in which it plays and of what comes into it:
        rules over several scenes are looked at with all of them held. Which those are is known only then: where others turn
        out to be among them, it begins anew with them. ``change`` says whether it has changed anything. Raises ``NotFound``."""
        wanted = {scene_id}
        for _ in range(MOST_BEGINNINGS):
            try:
                with self._database.transaction(of_one_scene=True) as cursor:
                    standings = lock_standings(cursor, wanted)
                    own = standings.get(scene_id)
                    if own is None or own.is_deleted:
                        raise NotFound(scene_id)
                    held = _Held(frozenset(wanted), own.revision, outer_of(cursor, scene_id))
                    held.need(held.outer.ids)
                    standing, is_changed = change(cursor, held)
                if is_changed:
                    self._keep(standing.scene, standing.revision)
                return standing
            except _MoreToHold as more:
                wanted |= more.ids
        raise Unavailable("the scenes that play in each other are being changed")

    def _refuse_broken_outside(self, cursor: DictCursor, held: _Held, scene: Scene) -> tuple[Scene, ...]:
        """The scenes in which one plays, with that as it is now."""
        outer = with_inner_changed([self._at_its_revision(cursor, outer_id) for outer_id in held.outer.ids], scene)
        refuse_broken(outer)
        return outer

    @staticmethod
    def _is_answered(cursor: DictCursor, scene_id: str, request_id: str | None) -> bool:
        """Whether a request was answered before; from now on it is, unless it comes to nothing."""
        if request_id is None:
            return False
        values = scene_id, request_id
        return not cursor.execute("INSERT IGNORE INTO answered_request (scene_id, request_id) VALUES (%s, %s)", values)

    @staticmethod
    def _revision(cursor: DictCursor, scene_id: str) -> int:
        cursor.execute("SELECT revision FROM scene_standing WHERE scene_id = %s AND deleted_at IS NULL", (scene_id,))
        row = cursor.fetchone()
        if row is None:
            raise NotFound(scene_id)
        return int(row["revision"])

    @staticmethod
    def _advance(cursor: DictCursor, scene_id: str, revision: int) -> None:
        cursor.execute(
            "UPDATE scene_standing SET revision = %s, changed_at = CURRENT_TIMESTAMP(3) WHERE scene_id = %s",
            (revision, scene_id),
        )

    @staticmethod
    def _refuse_conflict(cursor: DictCursor, scene_id: str, current: int, revision: int) -> None:
        if current != revision:
            since = change_record.of_scene_since(cursor, scene_id, revision, MOST_NAMED)
            raise Conflict(current, tuple(change.edit for change in since))

    @staticmethod
    def _is_apart(cursor: DictCursor, scene: Scene, since: int, current: int, apart: Apart | None) -> bool:
        """Whether all that was done since a revision is known, was not taken back, and is apart from what is asked."""
        if apart is None or not 0 < current - since <= MOST_APART:
            return False
        written = journal.arguments_since(cursor, scene.id, since)
        return len(written) == current - since and None not in written and apart(scene, [w for w in written if w])

    @staticmethod
    def _standing(cursor: DictCursor, scene: Scene, revision: int, window_id: str | None) -> Standing:
        undo = journal.to_undo(cursor, scene.id, window_id, of_others=True)
        redo = journal.to_redo(cursor, scene.id, window_id)
        return Standing(scene, revision, undo.edit if undo else None, redo.edit if redo else None)

    def _at_its_revision(self, cursor: DictCursor, scene_id: str) -> Scene:
        cursor.execute("SELECT revision FROM scene_standing WHERE scene_id = %s", (scene_id,))
        row = cursor.fetchone()
        if row is None:
            raise NotFound(scene_id)
        return self._scene(cursor, scene_id, row["revision"])

    def _scene(self, cursor: DictCursor, scene_id: str, revision: int) -> Scene:
        with self._lock:
            kept = self._kept.get(scene_id)
        known = kept[1] if kept and kept[0] == revision else load_scene(cursor, scene_id)
        scene = with_blocks(cursor, known, self._scene)
        if kept and scene is kept[1]:
            return scene
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


def _number_places(cursor: DictCursor, scene: Scene) -> None:
    """Number cameras and the like anew where taking out an edit from under others has left a gap, or two in one place."""
    ids = {
        "camera": [c.id for c in scene.cameras],
        "scene_character": [c.id for c in scene.characters if c.nested is None],
        "set_piece": [p.id for p in scene.pieces if p.nested is None],
        "scene_block": [b.id for b in scene.blocks],
        "other_cut": [o.id for o in scene.other_cuts],
    }
    for table, in_order in ids.items():
        cursor.execute(f"SELECT id, place FROM {table} WHERE scene_id = %s", (scene.id,))
        indices = {row["id"]: row["place"] for row in cursor.fetchall()}
        for index, thing_id in enumerate(in_order):
            if indices[thing_id] != index:
                cursor.execute(f"UPDATE {table} SET place = %s WHERE id = %s", (index, thing_id))


def _listed(row: Row) -> Listed:
    characters = tuple(row["characters"].split("\n")) if row["characters"] else ()
    return Listed(
        row["id"], row["name"], row["first_frame"], row["last_frame"], row["rate"], row["cameras"], characters,
        row["changed_at"], row["revision"], bool(row["has_picture"]),
    )  # fmt: skip
