"""Files for the command line."""

from __future__ import annotations

from pathlib import Path

import pytest

from eddyfield.demo import mill_race
from tests.formats.builders import walker


@pytest.fixture(scope="module")
def oda(tmp_path_factory: pytest.TempPathFactory) -> str:
    """Oda's crossing, as the demo has it."""
    file = tmp_path_factory.mktemp("oda") / "oda.glb"
    file.write_bytes(mill_race.oda_glb())
    return str(file)


@pytest.fixture
def shot(tmp_path: Path) -> str:
    """A figure that walks, with a camera that follows."""
    file = tmp_path / "walker.glb"
    file.write_bytes(walker().glb())
    return str(file)
