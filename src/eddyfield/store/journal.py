"""Journal entries: the rows before and after an edit, compressed and in parts that fit into any packet."""

from __future__ import annotations

import zlib
from typing import Any

import orjson
from pymysql.cursors import DictCursor

from .rows import Difference, Row, RowKey

PART_BYTES = 2**20
LEVEL = 3


def write_entry(
    cursor: DictCursor, scene_id: str, number: int, edit: str, request_id: str | None, who: str, changes: Difference
) -> None:
    """Write down an edit."""
    cursor.execute(
        "INSERT INTO journal (scene_id, number, edit, request_id, who) VALUES (%s, %s, %s, %s, %s)",
        (scene_id, number, edit, request_id, who),
    )
    data = zlib.compress(orjson.dumps([_listed(changes, 1), _listed(changes, 2)]), LEVEL)
    for part, start in enumerate(range(0, len(data), PART_BYTES)):
        cursor.execute(
            "INSERT INTO journal_rows (scene_id, number, part, data) VALUES (%s, %s, %s, %s)",
            (scene_id, number, part, data[start : start + PART_BYTES]),
        )


def read_entry(cursor: DictCursor, scene_id: str, number: int) -> tuple[dict[RowKey, Row], dict[RowKey, Row]] | None:
    """The rows before and after an edit; None where there is none of that number."""
    where = "WHERE scene_id = %s AND number = %s"
    cursor.execute(f"SELECT rows_before, rows_after FROM journal {where}", (scene_id, number))
    entry = cursor.fetchone()
    if entry is None:
        return None
    if entry["rows_before"] is not None:  # as entries were made before they were compressed
        return _rows(orjson.loads(entry["rows_before"])), _rows(orjson.loads(entry["rows_after"]))
    cursor.execute(f"SELECT data FROM journal_rows {where} ORDER BY part", (scene_id, number))
    before, after = orjson.loads(zlib.decompress(b"".join(row["data"] for row in cursor.fetchall())))
    return _rows(before), _rows(after)


def forget_after(cursor: DictCursor, scene_id: str, number: int) -> None:
    """Take out the entries that were undone and are not brought back any more."""
    cursor.execute("SELECT 1 FROM journal WHERE scene_id = %s AND number > %s LIMIT 1", (scene_id, number))
    if cursor.fetchone() is None:
        return
    for table in ("journal_rows", "journal"):
        cursor.execute(f"DELETE FROM {table} WHERE scene_id = %s AND number > %s", (scene_id, number))


def _listed(changes: Difference, side: int) -> list[Any]:
    return [[c[0].table, list(c[0].key), c[side]] for c in changes if c[side] is not None]


def _rows(entries: list[Any]) -> dict[RowKey, Row]:
    return {RowKey(table, tuple(key)): row for table, key, row in entries}
