"""The limits of the production: one row for each that is not as usual."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from pymysql.cursors import DictCursor

from eddyfield.core.readings.limits import USUAL, Limits

from .conflicts import Conflict
from .database import Database


@dataclass(frozen=True)
class LimitsSet:
    """That the limits were set; ``who`` is empty where nobody has given a name."""

    number: int
    who: str
    window_id: str | None


class ProductionLimits:
    """Of one database; what was read is kept until they are set, in whichever process."""

    def __init__(self, database: Database) -> None:
        self._database = database
        self._known: tuple[int, Limits] | None = None
        """By the number of the time that they were set."""
        self._told: int | None = None

    def get(self) -> Limits:
        known = self._known
        with self._database.transaction() as cursor:
            last = _last(cursor)
            number = last.number if last else 0
            if known and known[0] == number:
                return known[1]
            cursor.execute("SELECT name, value FROM production_limit")
            limits = _limits({row["name"]: row["value"] for row in cursor.fetchall()})
        self._known = number, limits
        return limits

    def set(
        self, values: Mapping[str, float], was: Mapping[str, float], who: str = "", window_id: str | None = None
    ) -> Limits:
        """Those that are not as usual from now on; ``was`` are those that there were. Raises ``DomainError`` for what cannot be,
        and ``Conflict`` where somebody has set others meanwhile."""
        new = USUAL.having(values)
        with self._database.transaction() as cursor:
            _store(cursor, new, was)
            _record(cursor, who, window_id)
        return new

    def new(self) -> list[LimitsSet]:
        """Whether they were set since it was asked last: the last time alone; the first time, none. Raises ``Unavailable``. Not
        for several threads at once."""
        with self._database.transaction() as cursor:
            last = _last(cursor)
        number, told = last.number if last else 0, self._told
        self._told = number
        return [last] if last and told not in (None, number) else []


def _last(cursor: DictCursor) -> LimitsSet | None:
    cursor.execute("SELECT number, who, window_id FROM production_limits_set ORDER BY number DESC LIMIT 1")
    row = cursor.fetchone()
    return LimitsSet(**row) if row else None


def _store(cursor: DictCursor, new: Limits, was: Mapping[str, float]) -> None:
    cursor.execute("SELECT name, value FROM production_limit FOR UPDATE")
    stands = _limits({row["name"]: row["value"] for row in cursor.fetchall()})
    if stands.changed() != dict(was):
        raise Conflict(0, ("limits of the production",), "limits")
    cursor.execute("DELETE FROM production_limit")
    for name, value in new.changed().items():
        cursor.execute("INSERT INTO production_limit (name, value) VALUES (%s, %s)", (name, value))


def _record(cursor: DictCursor, who: str, window_id: str | None) -> None:
    cursor.execute("INSERT INTO production_limits_set (who, window_id) VALUES (%s, %s)", (who, window_id))
    cursor.execute("DELETE FROM production_limits_set WHERE number < LAST_INSERT_ID()")


def _limits(rows: Mapping[str, float]) -> Limits:
    return USUAL.having(rows)
