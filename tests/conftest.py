"""What all tests share: hypothesis without deadlines (machines differ), and the database of the run."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from hypothesis import settings

from eddyfield.store.database import Database
from eddyfield.store.migrate import migrate
from eddyfield.store.server import DatabaseServer

settings.register_profile("project", deadline=None, derandomize=True, print_blob=True, max_examples=60)
settings.load_profile("project")


@pytest.fixture(scope="session")
def database_server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[DatabaseServer]:
    """A private MariaDB of this test process."""
    server = DatabaseServer(tmp_path_factory.mktemp("database"), buffer_pool_mb=32)
    server.start()
    yield server
    server.stop()


@pytest.fixture(scope="session")
def database(database_server: DatabaseServer) -> Database:
    """The migrated database."""
    database = Database(database_server.start().url)
    migrate(database)
    return database
