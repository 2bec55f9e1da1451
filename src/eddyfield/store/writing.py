"""Rows into the tables, many at a time."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from typing import Any, TypeVar

from pymysql.cursors import DictCursor

from .rows import PRIMARY_KEYS, Difference, Row

ROWS_AT_ONCE = 500
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
        for rows in _batches(new[table]):
            _put(cursor, table, rows)
        for rows in _batches(changed[table]):
            _put(cursor, table, rows, are_there=True)
    for table in reversed(PRIMARY_KEYS):
        for keys in _batches(going[table]):
            columns = PRIMARY_KEYS[table]
            one = f"({', '.join(['%s'] * len(columns))})"
            names = ", ".join(f"`{c}`" for c in columns)
            cursor.execute(
                f"DELETE FROM `{table}` WHERE ({names}) IN ({', '.join([one] * len(keys))})",
                [value for key in keys for value in key],
            )


def _put(cursor: DictCursor, table: str, rows: Sequence[Row], are_there: bool = False) -> None:
    """Rows that are new, or (``are_there``) take the place of those with their keys. A key that is taken is an error."""
    columns = list(rows[0])
    names = ", ".join(f"`{c}`" for c in columns)
    one = f"({', '.join(['%s'] * len(columns))})"
    statement = f"INSERT INTO `{table}` ({names}) VALUES {', '.join([one] * len(rows))}"
    if are_there:
        others = [c for c in columns if c not in PRIMARY_KEYS[table]]
        statement += " ON DUPLICATE KEY UPDATE " + ", ".join(f"`{c}` = VALUES(`{c}`)" for c in others)
    cursor.execute(statement, [row[column] for row in rows for column in columns])


def _batches(items: Sequence[Item]) -> Iterator[Sequence[Item]]:
    for start in range(0, len(items), ROWS_AT_ONCE):
        yield items[start : start + ROWS_AT_ONCE]
