"""Journal entries: the rows before and after an edit, compressed and in parts that fit into any packet; which of them are
undone, by which window, and which stand on which."""

from __future__ import annotations

import zlib
from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import orjson
from pymysql.cursors import DictCursor

from .key_rows import Row, RowKey
from .rows import Difference

PART_BYTES = 2**20
LEVEL = 3
NEWEST, LAST_UNDONE = "number DESC", "undone_at DESC, number"
OWNING_TABLES = frozenset({"camera", "camera_view", "scene_character", "set_piece"})
"""Whose rows others refer to by id."""


@dataclass(frozen=True)
class Heading:
    """An entry without its rows."""

    number: int
    edit: str
    who: str
    window_id: str | None
    undone: bool
    undone_at: int
    """The revision that came of that."""


@dataclass(frozen=True)
class Entry:
    """The rows before and after an edit."""

    before: dict[RowKey, Row]
    after: dict[RowKey, Row]

    @cached_property
    def things(self) -> frozenset[RowKey]:
        """What it changed: its rows, and the cut as one thing, as its entries go together."""
        return frozenset(
            RowKey("cut_entry", ()) if key.table == "cut_entry" else key for key in (*self.before, *self.after)
        )

    @cached_property
    def comings_and_goings(self) -> frozenset[str]:
        """Ids of what it made or took away."""
        return frozenset(key.key[0] for key in self.before.keys() ^ self.after.keys() if key.table in OWNING_TABLES)

    @cached_property
    def text(self) -> str:
        return orjson.dumps([*self.before.values(), *self.after.values()]).decode()

    def touches(self, other: Entry) -> bool:
        """Whether the order of the two matters: they change the same, or one speaks of what the other makes or takes away."""
        return (
            not self.things.isdisjoint(other.things)
            or any(i in other.text for i in self.comings_and_goings)
            or any(i in self.text for i in other.comings_and_goings)
        )


def write_entry(
    cursor: DictCursor,
    scene_id: str,
    number: int,
    edit: str,
    request_id: str | None,
    who: str,
    window_id: str | None,
    arguments: str | None,
    changes: Difference,
) -> None:
    """Write down an edit, under a number above those before it; ``arguments`` as JSON with their version."""
    cursor.execute(
        "INSERT INTO journal (scene_id, number, edit, request_id, who, window_id, arguments)"
        " VALUES (%s, %s, %s, %s, %s, %s, %s)",
        (scene_id, number, edit, request_id, who, window_id, arguments),
    )
    data = zlib.compress(orjson.dumps([_listed(changes, 1), _listed(changes, 2)]), LEVEL)
    for part, start in enumerate(range(0, len(data), PART_BYTES)):
        cursor.execute(
            "INSERT INTO journal_rows (scene_id, number, part, data) VALUES (%s, %s, %s, %s)",
            (scene_id, number, part, data[start : start + PART_BYTES]),
        )


def read_entry(cursor: DictCursor, scene_id: str, number: int) -> Entry | None:
    """The rows before and after an edit; None where there is none of that number."""
    where = "WHERE scene_id = %s AND number = %s"
    cursor.execute(f"SELECT rows_before, rows_after FROM journal {where}", (scene_id, number))
    entry = cursor.fetchone()
    if entry is None:
        return None
    if entry["rows_before"] is not None:  # as entries were made before they were compressed
        return Entry(_rows(orjson.loads(entry["rows_before"])), _rows(orjson.loads(entry["rows_after"])))
    cursor.execute(f"SELECT data FROM journal_rows {where} ORDER BY part", (scene_id, number))
    before, after = orjson.loads(zlib.decompress(b"".join(row["data"] for row in cursor.fetchall())))
    return Entry(_rows(before), _rows(after))


def to_undo(cursor: DictCursor, scene_id: str, window_id: str | None, of_others: bool) -> Heading | None:
    """The newest entry that stands and is a window's own, or nobody's; else, or where no window asks, the newest at all."""
    standing = "scene_id = %s AND undone = FALSE"
    own = None
    if window_id is not None:
        own = _heading(cursor, f"{standing} AND (window_id = %s OR window_id IS NULL)", NEWEST, scene_id, window_id)
    return own or (_heading(cursor, standing, NEWEST, scene_id) if window_id is None or of_others else None)


def to_redo(cursor: DictCursor, scene_id: str, window_id: str | None) -> Heading | None:
    """The entry that a window took back last."""
    if window_id is None:
        return _heading(cursor, "scene_id = %s AND undone = TRUE", LAST_UNDONE, scene_id)
    own = "scene_id = %s AND undone = TRUE AND (undone_by = %s OR undone_by IS NULL)"
    return _heading(cursor, own, LAST_UNDONE, scene_id, window_id)


def newer(cursor: DictCursor, scene_id: str, number: int) -> list[Heading]:
    """Entries that stand and are newer than one, the oldest first."""
    return _headings(cursor, "scene_id = %s AND number > %s AND undone = FALSE", "number", scene_id, number)


def older_undone_since(cursor: DictCursor, scene_id: str, entry: Heading) -> list[Heading]:
    """Entries that are older than one that is undone, and were undone after it."""
    where = "scene_id = %s AND number < %s AND undone = TRUE AND undone_at > %s"
    return _headings(cursor, where, "number", scene_id, entry.number, entry.undone_at)


def mark_undone(
    cursor: DictCursor, scene_id: str, numbers: Iterable[int], window_id: str | None, revision: int
) -> None:
    """Note that entries were taken back by a window, and the revision that comes of it."""
    for number in numbers:
        cursor.execute(
            "UPDATE journal SET undone = TRUE, undone_by = %s, undone_at = %s WHERE scene_id = %s AND number = %s",
            (window_id, revision, scene_id, number),
        )


def mark_done_again(cursor: DictCursor, scene_id: str, number: int) -> None:
    """Note that an entry was done again."""
    cursor.execute(
        "UPDATE journal SET undone = FALSE, undone_by = NULL WHERE scene_id = %s AND number = %s", (scene_id, number)
    )


def arguments_since(cursor: DictCursor, scene_id: str, revision: int) -> list[str | None]:
    """The arguments of what was done to a scene after a revision and was not taken back, in order."""
    cursor.execute(
        "SELECT arguments FROM journal WHERE scene_id = %s AND number > %s AND undone = FALSE ORDER BY number",
        (scene_id, revision),
    )
    return [row["arguments"] for row in cursor.fetchall()]


def forget_undone(cursor: DictCursor, scene_id: str, window_id: str | None) -> None:
    """Take out the entries that a window took back and that are not brought back any more."""
    which = "scene_id = %s AND undone = TRUE" + (
        "" if window_id is None else " AND (undone_by = %s OR undone_by IS NULL)"
    )
    values = (scene_id,) if window_id is None else (scene_id, window_id)
    cursor.execute(f"SELECT number FROM journal WHERE {which}", values)
    numbers = [row["number"] for row in cursor.fetchall()]
    if numbers:
        for table in ("journal_rows", "journal"):
            cursor.execute(f"DELETE FROM {table} WHERE scene_id = %s AND number IN %s", (scene_id, numbers))


def _heading(cursor: DictCursor, where: str, order: str, *values: Any) -> Heading | None:
    return next(iter(_headings(cursor, where, f"{order} LIMIT 1", *values)), None)


def _headings(cursor: DictCursor, where: str, order: str, *values: Any) -> list[Heading]:
    cursor.execute(
        f"SELECT number, edit, who, window_id, undone, undone_at FROM journal WHERE {where} ORDER BY {order}", values
    )
    return [Heading(**(row | {"undone": bool(row["undone"])})) for row in cursor.fetchall()]


def _listed(changes: Difference, side: int) -> list[Any]:
    return [[c[0].table, list(c[0].key), c[side]] for c in changes if c[side] is not None]


def _rows(entries: list[Any]) -> dict[RowKey, Row]:
    return {RowKey(table, tuple(key)): row for table, key, row in entries}
