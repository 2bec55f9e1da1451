"""Scenes inside scenes in the database: what plays in a scene, and in which scenes one plays."""

from __future__ import annotations

from collections.abc import Callable

from pymysql.cursors import DictCursor

from eddyfield.core.nesting import with_inner
from eddyfield.core.scene import Scene

from . import changes as change_record


def with_blocks(cursor: DictCursor, scene: Scene, scene_of: Callable[[DictCursor, str, int], Scene]) -> Scene:
    """The whole scene with what plays in it as it stands now, deleted or not; ``scene_of`` loads a scene at its revision."""
    if not scene.blocks:
        return scene
    ids = sorted({block.scene_id for block in scene.blocks})
    cursor.execute(f"SELECT scene_id, revision FROM scene_standing WHERE scene_id IN ({_marks(ids)})", ids)
    revisions = {row["scene_id"]: row["revision"] for row in cursor.fetchall()}
    return with_inner(scene, {scene_id: scene_of(cursor, scene_id, revisions[scene_id]) for scene_id in ids})


def outer_ids(cursor: DictCursor, scene_id: str) -> list[str]:
    """Scenes in which one plays, however deep, the nearest first."""
    found: list[str] = []
    nearest = [scene_id]
    while nearest:
        cursor.execute(
            f"SELECT DISTINCT scene_id FROM scene_block WHERE inner_id IN ({_marks(nearest)}) ORDER BY scene_id",
            nearest,
        )
        nearest = [row["scene_id"] for row in cursor.fetchall()]
        found = [known for known in found if known not in nearest] + nearest
    return found


def tell_outer(
    cursor: DictCursor, scene: Scene, edit: str, way: change_record.Way, who: str, window_id: str | None
) -> None:
    """Let every scene in which one plays stand at a further revision, as what it shows has changed."""
    for outer_id in outer_ids(cursor, scene.id):
        cursor.execute("UPDATE scene_standing SET revision = revision + 1 WHERE scene_id = %s", (outer_id,))
        cursor.execute("SELECT revision FROM scene_standing WHERE scene_id = %s", (outer_id,))
        row = cursor.fetchone()
        assert row is not None
        remark = f"in “{scene.name}”, which plays in this scene"
        change_record.record(cursor, outer_id, row["revision"], way, edit, who, window_id, remark)


def _marks(ids: list[str]) -> str:
    return ", ".join(["%s"] * len(ids))
