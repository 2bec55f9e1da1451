"""The demo scene with stand-ins for its rigs, and its rows as they are stored."""

from __future__ import annotations

import uuid
from hashlib import sha256

from eddyfield.core.bake import Baker
from eddyfield.core.scene import Scene
from eddyfield.demo import mill_race
from eddyfield.store.database import Database
from eddyfield.store.loading import stored_rows
from tests.core.scenery import baker

NAMES = {sha256(name.encode()).hexdigest(): name for name in mill_race.OF_CROSSING}
"""Stand-ins for the demo's rigs: by the digest of a few bytes."""


def fresh() -> str:
    return str(uuid.uuid4())


def work(scene: Scene) -> Baker:
    return baker(scene, NAMES)


def rows_in(database: Database, scene: Scene) -> list[object]:
    with database.transaction() as cursor:
        return sorted(((table, sorted(row.items(), key=str)) for table, row in stored_rows(cursor, scene.id)), key=repr)
