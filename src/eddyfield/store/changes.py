"""The record of changes: what was done to which scene, by whom and from which window, for those who look at it too."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from pymysql.cursors import DictCursor

from .database import Database

Way = Literal["done", "undone", "redone"]
KEPT_REVISIONS = 1000
"""Of a scene; a window that has missed more than that is told of the last ones only."""
UNSETTLED = 64
"""Numbers are given before a change is committed: as many of the last ones may still come in behind later ones."""


@dataclass(frozen=True)
class Change:
    """A change of a scene. ``number`` counts the changes of all scenes; ``who`` is empty where nobody has given a name."""

    number: int
    scene_id: str
    revision: int
    way: Way
    edit: str
    who: str
    window_id: str | None
    remark: str = ""
    """What others are told beside it."""


_COLUMNS = "number, scene_id, revision, way, edit, who, window_id, remark"


def record(
    cursor: DictCursor,
    scene_id: str,
    revision: int,
    way: Way,
    edit: str,
    who: str,
    window_id: str | None,
    remark: str = "",
) -> None:
    """Write a change down, in the transaction that makes it."""
    cursor.execute(
        "INSERT INTO scene_change (scene_id, revision, way, edit, who, window_id, remark)"
        " VALUES (%s, %s, %s, %s, %s, %s, %s)",
        (scene_id, revision, way, edit, who, window_id, remark),
    )
    if revision % 100 == 0:
        cursor.execute(
            "DELETE FROM scene_change WHERE scene_id = %s AND revision < %s", (scene_id, revision - KEPT_REVISIONS)
        )


def of_scene_since(cursor: DictCursor, scene_id: str, revision: int, most: int) -> list[Change]:
    """Changes of a scene after a revision, the newest first."""
    cursor.execute(
        f"SELECT {_COLUMNS} FROM scene_change WHERE scene_id = %s AND revision > %s ORDER BY revision DESC LIMIT %s",
        (scene_id, revision, most),
    )
    return [Change(**row) for row in cursor.fetchall()]


class Changes:
    """Follows the changes of all scenes. Not for several threads at once."""

    def __init__(self, database: Database) -> None:
        self._database = database
        self._last: int | None = None
        self._seen: set[int] = set()

    def new(self) -> list[Change]:
        """The changes since the last time it was asked for; the first time, none. Raises ``Unavailable``."""
        with self._database.transaction() as cursor:
            if self._last is None:
                cursor.execute("SELECT COALESCE(MAX(number), 0) AS last FROM scene_change")
                self._last = int((cursor.fetchone() or {})["last"])
                cursor.execute("SELECT number FROM scene_change WHERE number > %s", (self._last - UNSETTLED,))
                self._seen = {int(row["number"]) for row in cursor.fetchall()}
                return []
            cursor.execute(
                f"SELECT {_COLUMNS} FROM scene_change WHERE number > %s ORDER BY number", (self._last - UNSETTLED,)
            )
            found = [c for c in (Change(**row) for row in cursor.fetchall()) if c.number not in self._seen]
        self._last = max([self._last, *(c.number for c in found)])
        self._seen = {n for n in (*self._seen, *(c.number for c in found)) if n > self._last - UNSETTLED}
        return found
