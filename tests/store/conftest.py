"""A stored scene for every test."""

from __future__ import annotations

from dataclasses import replace

import pytest

from eddyfield.core.cut.cut import Cut
from eddyfield.demo import mill_race
from eddyfield.store.blobs import Blobs
from eddyfield.store.database import Database
from eddyfield.store.scenes import Scenes, Standing

from .stored import NAMES, fresh


@pytest.fixture
def standing(database: Database) -> Standing:
    """A scene of its own for every test, like the demo's."""
    for name in NAMES.values():
        Blobs(database).put(name.encode(), f"{name}.glb")
    base = mill_race.scene(*NAMES)
    camera = replace(base.cameras[0], id=fresh(), locks=())
    scene = replace(
        base, id=fresh(), cameras=(camera,), cut=Cut.of((1001, camera.id)),
        characters=tuple(replace(c, id=fresh()) for c in base.characters), pieces=(replace(base.pieces[0], id=fresh()),),
    )  # fmt: skip
    return Scenes(database).create(scene)
