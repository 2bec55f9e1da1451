"""The private database: who gets to it, that it is started again, and secrets and installations that were cut short."""

from __future__ import annotations

import os
import signal
import subprocess
import time
from collections.abc import Iterator
from pathlib import Path

import pymysql
import pytest

from eddyfield.store.database import Database, Unavailable
from eddyfield.store.migrate import migrate
from eddyfield.store.server import DatabaseServer
from eddyfield.store.server_process import end, servers_of
from eddyfield.web.access import Token, session_secret


@pytest.fixture
def folder(tmp_path: Path) -> Iterator[Path]:
    """A folder for a database of its own; nothing goes on running there."""
    yield tmp_path / "database"
    for pid in [*servers_of(tmp_path / "database" / "data"), *servers_of(tmp_path / "database" / "data.new")]:
        end(pid)


def test_there_is_no_networking_and_only_the_owner_gets_to_the_socket(folder: Path) -> None:
    server = DatabaseServer(folder, buffer_pool_mb=32)
    instance = server.start()
    listening = subprocess.run(["cat", f"/proc/{instance.pid}/net/tcp"], capture_output=True, text=True, check=True)
    own = {os.readlink(f"/proc/{instance.pid}/fd/{f}") for f in os.listdir(f"/proc/{instance.pid}/fd")}
    inodes = {line.split()[9] for line in listening.stdout.splitlines()[1:]}
    assert not [i for i in inodes if f"socket:[{i}]" in own], "it listens on no port"
    assert Path(instance.socket).parent.stat().st_mode & 0o077 == 0
    with pytest.raises(pymysql.OperationalError):
        pymysql.connect(unix_socket=instance.socket, user="root")
    assert not (Path(instance.socket).parent / "first-words.sql").exists(), "the password does not stay there"
    server.stop()
    assert servers_of(folder / "data") == []


def test_loopback_stays_available_by_setting(folder: Path) -> None:
    import socket

    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    server = DatabaseServer(folder, buffer_pool_mb=32, port=port)
    instance = server.start()
    with pymysql.connect(host="127.0.0.1", port=port, user="eddyfield", password=instance.password) as connection:
        assert connection.open
    with pytest.raises(pymysql.OperationalError):
        pymysql.connect(host="127.0.0.1", port=port, user="root")
    server.stop()


def test_an_installation_that_was_cut_short_is_made_anew(folder: Path) -> None:
    (folder / "data.new" / "mysql").mkdir(parents=True)
    (folder / "data.new" / "ibdata1").write_bytes(b"half")
    server = DatabaseServer(folder, buffer_pool_mb=32)
    assert migrate(Database(server.start().url))
    server.stop()


def test_a_server_that_was_left_running_is_taken_over_or_ended(folder: Path) -> None:
    first = DatabaseServer(folder, buffer_pool_mb=32)
    instance = first.start()
    os.close(first._users or 0)  # as when its process is killed: nobody says that it is left
    second = DatabaseServer(folder, buffer_pool_mb=32)
    assert second.start() == instance
    os.kill(instance.pid, signal.SIGSTOP)  # it is there and does not answer
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr("eddyfield.store.server.PATIENCE_SECONDS", 1)
        patch.setattr("eddyfield.store.server_process.STOP_SECONDS", 0.2)
        patch.setattr("eddyfield.store.server._connect", _impatient)
        os.close(second._users or 0)
        third = DatabaseServer(folder, buffer_pool_mb=32)
        started = third.start()
    assert started.pid != instance.pid
    Database(started.url).close()
    third.stop()


def _impatient(instance: object) -> pymysql.Connection:  # type: ignore[type-arg]
    return pymysql.connect(
        unix_socket=instance.socket, user="eddyfield", password=instance.password, database="eddyfield",  # type: ignore[attr-defined]
        connect_timeout=1, read_timeout=1,
    )  # fmt: skip


def test_a_database_that_is_gone_is_started_again_at_the_same_address(folder: Path) -> None:
    server, said = DatabaseServer(folder, buffer_pool_mb=32), []
    instance = server.start()
    server.watch(said.append)
    os.kill(instance.pid, signal.SIGKILL)
    until = time.monotonic() + 20
    while True:
        try:
            with Database(instance.url).transaction() as cursor:
                cursor.execute("SELECT 1")
            break
        except Unavailable:
            assert time.monotonic() < until
            time.sleep(0.05)
    server.stop()
    time.sleep(1.2)
    assert servers_of(folder / "data") == [], "stopped is stopped"
    assert any("starting it again" in words for words in said)


def test_secrets_that_were_cut_short_are_made_anew(tmp_path: Path) -> None:
    (tmp_path / "session-secret").write_bytes(b"")
    secret = session_secret(tmp_path)
    assert len(secret) == 32
    assert session_secret(tmp_path) == secret
    (tmp_path / "token").write_text("")
    token = Token(tmp_path / "token")
    value, mark = token.value, token.mark()
    assert len(value) > 20
    assert Token(tmp_path / "token").value == value
    assert token.renew() != value
    assert token.mark() != mark
    for name in ("session-secret", "token"):
        assert (tmp_path / name).stat().st_mode & 0o077 == 0
