"""Scenes out of the database: which rows are a scene's, and the scene that they make."""

from __future__ import annotations

from collections.abc import Collection

import orjson
from pymysql.cursors import DictCursor

from eddyfield.core.scene import Scene

from .conflicts import NotFound
from .database import LARGEST_PACKET
from .key_rows import Row
from .rows import PRIMARY_KEYS, scene_from_rows
from .writing import KEY_COLUMNS

_OF_SCENE = {
    "scene": "id = %s",
    "camera": "scene_id = %s",
    "camera_channel": "camera_id IN (SELECT id FROM camera WHERE scene_id = %s)",
    "camera_key": "camera_id IN (SELECT id FROM camera WHERE scene_id = %s)",
    "camera_view": "camera_id IN (SELECT id FROM camera WHERE scene_id = %s)",
    "left_mount": "camera_id IN (SELECT id FROM camera WHERE scene_id = %s)",
    "left_channel": "camera_id IN (SELECT id FROM camera WHERE scene_id = %s)",
    "left_key": "camera_id IN (SELECT id FROM camera WHERE scene_id = %s)",
    "scene_character": "scene_id = %s",
    "character_foot": "character_id IN (SELECT id FROM scene_character WHERE scene_id = %s)",
    "character_exposure": "character_id IN (SELECT id FROM scene_character WHERE scene_id = %s)",
    "character_correction": "character_id IN (SELECT id FROM scene_character WHERE scene_id = %s)",
    "set_piece": "scene_id = %s",
    "prop_hold": "piece_id IN (SELECT id FROM set_piece WHERE scene_id = %s)",
    "placed_channel": "scene_id = %s",
    "placed_key": "thing_id IN (SELECT thing_id FROM placed_channel WHERE scene_id = %s)",
    "cut_entry": "scene_id = %s",
    "other_cut": "scene_id = %s",
    "other_cut_entry": "cut_id IN (SELECT id FROM other_cut WHERE scene_id = %s)",
    "sound": "scene_id = %s",
    "frame_mark": "scene_id = %s",
    "scene_block": "scene_id = %s",
    "accepted_reading": "scene_id = %s",
}


def stored_rows(cursor: DictCursor, scene_id: str, but: Collection[str] = ()) -> list[tuple[str, Row]]:
    """All rows of a scene, each with its table; those of some tables may be left out."""
    out: list[tuple[str, Row]] = []
    for table, condition in _OF_SCENE.items():
        if table in but:
            continue
        cursor.execute(f"SELECT * FROM {table} WHERE {condition}", (scene_id,))
        out += [(table, row) for row in cursor.fetchall()]
    return out


def load_scene(cursor: DictCursor, scene_id: str) -> Scene:
    """A scene with what is its own. Raises ``NotFound``."""
    rows = stored_rows(cursor, scene_id, but=KEY_COLUMNS)
    if not rows:
        raise NotFound(scene_id)
    return scene_from_rows([*rows, *_key_rows(cursor, scene_id)])


def _key_rows(cursor: DictCursor, scene_id: str) -> list[tuple[str, Row]]:
    """The keys, handed over by channel as one text each: there may be a hundred thousand."""
    cursor.execute(f"SET SESSION group_concat_max_len = {LARGEST_PACKET}")
    out: list[tuple[str, Row]] = []
    for table, columns in KEY_COLUMNS.items():
        owner = PRIMARY_KEYS[table][:-1]
        of_key = [column for column in columns if column not in owner]
        cursor.execute(
            f"SELECT {', '.join(owner)}, JSON_ARRAYAGG(JSON_ARRAY({', '.join(of_key)})) AS key_rows FROM {table}"
            f" WHERE {_OF_SCENE[table]} GROUP BY {', '.join(owner)}",
            (scene_id,),
        )
        for row in cursor.fetchall():
            own = {name: row[name] for name in owner}
            out += [(table, {**own, **dict(zip(of_key, v, strict=True))}) for v in orjson.loads(row["key_rows"])]
    return out
