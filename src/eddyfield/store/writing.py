"""Rows into the tables, many at a time."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from typing import Any, TypeVar

import orjson
from pymysql.cursors import DictCursor

from .key_rows import Row
from .rows import PRIMARY_KEYS, Difference

ROWS_AT_ONCE, KEYS_AT_ONCE = 500, 20_000
_NUMBERS = {
    "channel": "VARCHAR(16)", "frame_time": "VARCHAR(48)", "value": "DOUBLE",
    "shape": "VARCHAR(8)", "in_frames": "DOUBLE", "in_value": "DOUBLE", "out_frames": "DOUBLE", "out_value": "DOUBLE",
}  # fmt: skip
KEY_COLUMNS = {
    "camera_key": {"camera_id": "CHAR(36)", **_NUMBERS},
    "left_key": {"camera_id": "CHAR(36)", "kind": "VARCHAR(16)", **_NUMBERS},
    "placed_key": {"thing_id": "CHAR(36)", **_NUMBERS},
}
"""Of each table of keys. They come by the ten thousand: they are handed over as one text, which the database takes apart."""
WITH_FILES = ("scene_character", "set_piece", "sound")
Item = TypeVar("Item")


def write(cursor: DictCursor, changes: Difference) -> None:
    """Bring the tables from before to after: rows come parents first, so that others can refer to them at once, and go
    children first when nothing does any more."""
    new: dict[str, list[Row]] = defaultdict(list)
    changed: dict[str, list[Row]] = defaultdict(list)
    going: dict[str, list[tuple[Any, ...]]] = defaultdict(list)
    for key, before, after in changes:
        if after is None:
            going[key.table].append(key.key)
        else:
            (new if before is None else changed)[key.table].append(after)
    for table in PRIMARY_KEYS:
        put, at_once = (_put_keys, KEYS_AT_ONCE) if table in KEY_COLUMNS else (_put, ROWS_AT_ONCE)
        for rows in _batches(new[table], at_once):
            put(cursor, table, rows, are_there=False)
        for rows in _batches(changed[table], at_once):
            put(cursor, table, rows, are_there=True)
    _remember_files(cursor, [row for table in WITH_FILES for row in (*new[table], *changed[table])])
    for table in reversed(PRIMARY_KEYS):
        for keys in _batches(going[table], ROWS_AT_ONCE):
            columns = PRIMARY_KEYS[table]
            one = f"({', '.join(['%s'] * len(columns))})"
            names = ", ".join(f"`{c}`" for c in columns)
            cursor.execute(
                f"DELETE FROM `{table}` WHERE ({names}) IN ({', '.join([one] * len(keys))})",
                [value for key in keys for value in key],
            )


def _remember_files(cursor: DictCursor, rows: Sequence[Row]) -> None:
    """That a scene has named these files: they stay even where others take their places, as that may be undone."""
    named = sorted({(row["scene_id"], row["digest"]) for row in rows})
    if named:
        cursor.executemany("INSERT IGNORE INTO scene_file (scene_id, digest) VALUES (%s, %s)", named)


def _put(cursor: DictCursor, table: str, rows: Sequence[Row], are_there: bool) -> None:
    """Rows that are new, or (``are_there``) take the place of those with their keys. A key that is taken is an error."""
    columns = list(rows[0])
    names = ", ".join(f"`{c}`" for c in columns)
    one = f"({', '.join(['%s'] * len(columns))})"
    statement = f"INSERT INTO `{table}` ({names}) VALUES {', '.join([one] * len(rows))}"
    if are_there:
        statement += _taking_over(table, columns)
    cursor.execute(statement, [row[column] for row in rows for column in columns])


def _put_keys(cursor: DictCursor, table: str, rows: Sequence[Row], are_there: bool) -> None:
    columns = KEY_COLUMNS[table]
    names = ", ".join(f"`{c}`" for c in columns)
    paths = ", ".join(f"`{name}` {kind} PATH '$[{n}]'" for n, (name, kind) in enumerate(columns.items()))
    values = orjson.dumps([[row[c] for c in columns] for row in rows]).decode()
    statement = f"INSERT INTO `{table}` ({names}) SELECT {names} FROM JSON_TABLE(%s, '$[*]' COLUMNS ({paths})) AS t"
    cursor.execute(statement + (_taking_over(table, list(columns)) if are_there else ""), (values,))


def _taking_over(table: str, columns: Sequence[str]) -> str:
    others = [c for c in columns if c not in PRIMARY_KEYS[table]]
    return " ON DUPLICATE KEY UPDATE " + ", ".join(f"`{c}` = VALUES(`{c}`)" for c in others)


def _batches(items: Sequence[Item], at_once: int) -> Iterator[Sequence[Item]]:
    for start in range(0, len(items), at_once):
        yield items[start : start + at_once]
