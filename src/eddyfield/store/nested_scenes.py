"""Scenes inside scenes in the database: what plays in a scene, and in which scenes one plays."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import NamedTuple

from pymysql.cursors import DictCursor

from eddyfield.core.errors import DomainError
from eddyfield.core.nesting import with_inner
from eddyfield.core.scene import Scene

from . import changes as change_record

MOST_LEVELS = 64
"""More than scenes may lie inside each other: what goes on from there goes in circles."""


def with_blocks(cursor: DictCursor, scene: Scene, scene_of: Callable[[DictCursor, str, int], Scene]) -> Scene:
    """The whole scene with what plays in it as it stands now, deleted or not; ``scene_of`` loads a scene at its revision."""
    if not scene.blocks:
        return scene
    ids = sorted({block.scene_id for block in scene.blocks})
    cursor.execute(f"SELECT scene_id, revision FROM scene_standing WHERE scene_id IN ({_marks(ids)})", ids)
    revisions = {row["scene_id"]: row["revision"] for row in cursor.fetchall()}
    return with_inner(scene, {scene_id: scene_of(cursor, scene_id, revisions[scene_id]) for scene_id in ids})


@dataclass(frozen=True)
class Outer:
    """Ids of the scenes in which one plays, however deep, the nearest first, and how many lie around it at most."""

    ids: tuple[str, ...] = ()
    levels: int = 0


def outer_of(cursor: DictCursor, scene_id: str) -> Outer:
    """Raises ``DomainError`` for a scene that plays inside itself, which none should."""
    found: list[str] = []
    nearest, levels = [scene_id], 0
    while True:
        cursor.execute(
            f"SELECT DISTINCT scene_id FROM scene_block WHERE inner_id IN ({_marks(nearest)}) ORDER BY scene_id",
            nearest,
        )
        nearest = [row["scene_id"] for row in cursor.fetchall()]
        if not nearest:
            return Outer(tuple(found), levels)
        levels += 1
        if scene_id in nearest or levels > MOST_LEVELS:
            raise DomainError("This scene plays inside itself.", "Take the scene out of the one in which it plays.")
        found = [known for known in found if known not in nearest] + nearest


class HeldStanding(NamedTuple):
    """How a scene stands while it is held."""

    revision: int
    is_deleted: bool


def lock_standings(cursor: DictCursor, ids: Iterable[str]) -> dict[str, HeldStanding]:
    """Hold the standings of scenes until the transaction ends; those of scenes that there are not are missing. Whoever holds
    several takes them by one call, in the order of their ids: so nobody waits for each other."""
    in_order = sorted(set(ids))
    cursor.execute(
        f"SELECT scene_id, revision, deleted_at FROM scene_standing WHERE scene_id IN ({_marks(in_order)})"
        " ORDER BY scene_id FOR UPDATE",
        in_order,
    )
    return {row["scene_id"]: HeldStanding(row["revision"], row["deleted_at"] is not None) for row in cursor.fetchall()}


def tell_outer(
    cursor: DictCursor,
    outer: Iterable[str],
    name: str,
    edit: str,
    way: change_record.Way,
    who: str,
    window_id: str | None,
) -> None:
    """Let every scene in which one of a ``name`` plays stand at a further revision, as what it shows has changed."""
    for outer_id in outer:
        cursor.execute("UPDATE scene_standing SET revision = revision + 1 WHERE scene_id = %s", (outer_id,))
        cursor.execute("SELECT revision FROM scene_standing WHERE scene_id = %s", (outer_id,))
        row = cursor.fetchone()
        assert row is not None
        remark = f"in “{name}”, which plays in this scene"
        change_record.record(cursor, outer_id, row["revision"], way, edit, who, window_id, remark)


def _marks(ids: list[str]) -> str:
    return ", ".join(["%s"] * len(ids))
