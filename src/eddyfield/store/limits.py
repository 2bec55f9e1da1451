"""The limits of the production: one row for each that is not as usual."""

from __future__ import annotations

import threading
from collections.abc import Mapping

from eddyfield.core.readings.limits import USUAL, Limits

from .conflicts import Conflict
from .database import Database


class ProductionLimits:
    """Of one database; what was read is kept."""

    def __init__(self, database: Database) -> None:
        self._database = database
        self._lock = threading.Lock()
        self._known: Limits | None = None

    def get(self) -> Limits:
        with self._lock:
            if self._known is None:
                with self._database.transaction() as cursor:
                    cursor.execute("SELECT name, value FROM production_limit")
                    self._known = _limits({row["name"]: row["value"] for row in cursor.fetchall()})
            return self._known

    def set(self, values: Mapping[str, float], was: Mapping[str, float]) -> Limits:
        """Those that are not as usual from now on; ``was`` are those that there were. Raises ``DomainError`` for what cannot be,
        and ``Conflict`` where somebody has set others meanwhile."""
        new = USUAL.having(values)
        with self._lock:
            self._known = None  # read again, unless it was stored
            self._store(new, was)
            self._known = new
        return new

    def _store(self, new: Limits, was: Mapping[str, float]) -> None:
        with self._database.transaction() as cursor:
            cursor.execute("SELECT name, value FROM production_limit FOR UPDATE")
            stands = _limits({row["name"]: row["value"] for row in cursor.fetchall()})
            if stands.changed() != dict(was):
                raise Conflict(0, ("limits of the production",), "limits")
            cursor.execute("DELETE FROM production_limit")
            for name, value in new.changed().items():
                cursor.execute("INSERT INTO production_limit (name, value) VALUES (%s, %s)", (name, value))


def _limits(rows: Mapping[str, float]) -> Limits:
    return USUAL.having(rows)
