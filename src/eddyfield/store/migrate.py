"""The numbered migrations: SQL scripts that are applied in order, once, and go on where they were cut short.

What was done is written down statement by statement, and every statement can be run again, as the one that was under way may
have been done already. A line ``-- needs TABLE.COLUMN`` before a statement passes over it where that column is gone.
"""

from __future__ import annotations

import re
from importlib.resources import files
from typing import NamedTuple

from pymysql.cursors import DictCursor

from .database import Database, Unavailable

MIGRATION_LOCK, LOCK_SECONDS = "eddyfield-migrations", 60
_NEEDS = re.compile(r"^\s*--\s*needs\s+(\w+)\.(\w+)\s*$")


class Statement(NamedTuple):
    """A statement, and the table and column without which it has nothing to do."""

    sql: str
    needs: tuple[str, str] | None


def migrate(database: Database) -> list[str]:
    """Apply what is not applied yet, one process at a time; returns the names of the scripts."""
    folder = files(__package__) / "migrations"
    scripts = sorted((f for f in folder.iterdir() if f.name.endswith(".sql")), key=lambda f: f.name)
    applied_now = []
    with database.transaction() as cursor:
        cursor.execute("SELECT GET_LOCK(%s, %s) AS got", (MIGRATION_LOCK, LOCK_SECONDS))
        if not (cursor.fetchone() or {}).get("got"):
            raise Unavailable("Another process is changing the tables.")
        try:
            cursor.execute(
                "CREATE TABLE IF NOT EXISTS applied_migration (name VARCHAR(100) NOT NULL PRIMARY KEY,"
                " at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3)) ENGINE=InnoDB"
            )
            cursor.execute(
                "CREATE TABLE IF NOT EXISTS applied_statement (name VARCHAR(100) NOT NULL PRIMARY KEY,"
                " statements INT NOT NULL) ENGINE=InnoDB"
            )
            cursor.execute("SELECT name FROM applied_migration")
            applied = {row["name"] for row in cursor.fetchall()}
            for script in scripts:
                if script.name not in applied:
                    _apply(cursor, script.name, statements(script.read_text(encoding="utf-8")))
                    applied_now.append(script.name)
        finally:
            cursor.execute("SELECT RELEASE_LOCK(%s)", (MIGRATION_LOCK,))
    return applied_now


def _apply(cursor: DictCursor, name: str, script: list[Statement]) -> None:
    cursor.execute("SELECT statements FROM applied_statement WHERE name = %s", (name,))
    row = cursor.fetchone()
    for number, statement in enumerate(script[row["statements"] if row else 0 :], row["statements"] if row else 0):
        if statement.needs is None or _has_column(cursor, *statement.needs):
            cursor.execute(statement.sql)
        cursor.execute(
            "INSERT INTO applied_statement (name, statements) VALUES (%s, %s)"
            " ON DUPLICATE KEY UPDATE statements = VALUES(statements)",
            (name, number + 1),
        )
        cursor.connection.commit()
    cursor.execute("INSERT INTO applied_migration (name) VALUES (%s)", (name,))
    cursor.connection.commit()


def _has_column(cursor: DictCursor, table: str, column: str) -> bool:
    cursor.execute(
        "SELECT 1 FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name = %s"
        " AND column_name = %s",
        (table, column),
    )
    return cursor.fetchone() is not None


def statements(script: str) -> list[Statement]:
    """The statements of a script, each with what it needs."""
    out: list[Statement] = []
    lines: list[str] = []
    needs: tuple[str, str] | None = None
    for line in script.splitlines():
        found = _NEEDS.match(line)
        if found:
            needs = (found[1], found[2])
        elif not line.lstrip().startswith("--"):
            lines.append(line)
        if line.rstrip().endswith(";") and not line.lstrip().startswith("--"):
            sql = "\n".join(lines).strip().removesuffix(";").strip()
            if sql:
                out.append(Statement(sql, needs))
            lines, needs = [], None
    return out
