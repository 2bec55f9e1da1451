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
    """That the limits were set, for the ``number``-th time; ``who`` is empty where nobody has given a name."""

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
        # As edits read, on the same connection: the number first, so that what is newer is read again the next time.
        with self._database.transaction(of_one_scene=True) as cursor:
            number = _last(cursor).number
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
            _record(cursor, who, window_id)  # first: one at a time sets them
            _store(cursor, new, was)
        return new

    def new(self) -> list[LimitsSet]:
        """Whether they were set since it was asked last: the last time alone; the first time, none. Raises ``Unavailable``. Not
        for several threads at once."""
        with self._database.transaction() as cursor:
            last = _last(cursor)
        told, self._told = self._told, last.number
        return [last] if told not in (None, last.number) else []


def _last(cursor: DictCursor) -> LimitsSet:
    cursor.execute("SELECT number, who, window_id FROM production_limits_set")
    return LimitsSet(**(cursor.fetchone() or {}))


def _store(cursor: DictCursor, new: Limits, was: Mapping[str, float]) -> None:
    cursor.execute("SELECT name, value FROM production_limit FOR UPDATE")
    stands = _limits({row["name"]: row["value"] for row in cursor.fetchall()})
    if stands.changed() != dict(was):
        raise Conflict(0, ("limits of the production",), "limits")
    cursor.execute("DELETE FROM production_limit")
    for name, value in new.changed().items():
        cursor.execute("INSERT INTO production_limit (name, value) VALUES (%s, %s)", (name, value))


def _record(cursor: DictCursor, who: str, window_id: str | None) -> None:
    cursor.execute("UPDATE production_limits_set SET number = number + 1, who = %s, window_id = %s", (who, window_id))


def _limits(rows: Mapping[str, float]) -> Limits:
    return USUAL.having(rows)
