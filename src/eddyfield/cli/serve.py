"""``serve``: starts the database and serves the application until it is told to stop."""

from __future__ import annotations

import argparse
import errno
import fcntl
import gc
import os
import socket
import sys
import threading
from pathlib import Path
from typing import Any

from gunicorn.app.base import BaseApplication

from eddyfield.core.errors import DomainError
from eddyfield.demo.load import load_demo, write_second_version
from eddyfield.store.blobs import Blobs
from eddyfield.store.database import Database, DiskFull, Unavailable
from eddyfield.store.disk import Disk
from eddyfield.store.migrate import migrate
from eddyfield.store.private_file import write_private
from eddyfield.store.server import DatabaseError, DatabaseServer
from eddyfield.web.access import Token, session_secret
from eddyfield.web.app import Settings, create_app
from eddyfield.web.open_sessions import OpenSessions
from eddyfield.web.patient_worker import PatientWorker
from eddyfield.web.requests import build_requests

from .arguments import OneLineParser, UsageError, checked, whole
from .running import SERVING

PORT = 8640
EVERYWHERE = ("0.0.0.0", "::", "")
MOST_PROCESSES = 2
THREADS = 16
"""For requests; streams of events have as many more as there may be of them."""
NOT_WRITABLE = frozenset({errno.EACCES, errno.EPERM, errno.EROFS, errno.ENOTDIR})

BUILD_AFTER_SECONDS = 2.0
"""After the first picture has been asked for, and before the first edit: until then what checks edits is built."""
COLLECT_AFTER = (50_000, 20, 50)
"""Objects made, and rounds, before the younger and the oldest of them are looked through."""


class ServeError(DomainError):
    """The application cannot be served."""


def parser() -> OneLineParser:
    out = OneLineParser(prog="eddyfield start", description="Serve the application on this machine.")
    out.add_argument("--demo", action="store_true", help="load the demo scene")
    out.add_argument("--host", default="127.0.0.1", help="address to listen on (127.0.0.1: this machine only)")
    out.add_argument("--processes", type=checked(whole), help="how many serve (one a core, up to 2)")
    out.add_argument(
        "--new-address", action="store_true", help="renew the address; whoever is signed in, is signed out"
    )
    out.add_argument("--port", type=checked(whole), help=f"port (the first free one from {PORT}; 0: any)")
    return out


def run(words: list[str]) -> None:
    options = parser().parse(words)
    var = Path(os.environ.get("EDDYFIELD_VAR", "var")).resolve()
    wanted = range(PORT, PORT + 50) if options.port is None else range(options.port, options.port + 1)
    port = _free_port(options.host, wanted)
    server: DatabaseServer | None = None
    own, is_first = os.getpid(), False
    url = os.environ.get("EDDYFIELD_DATABASE_URL")
    try:
        var.mkdir(parents=True, exist_ok=True)
        if not url:
            _say("starting the database")
            server = DatabaseServer(var / "database", port=_database_port())
            url = server.start().url
        database = Database(url)
        for name in migrate(database):
            _say(f"prepared the tables ({name})")
        if options.demo:
            load_demo(database)
            write_second_version(var / "demo")
        cleared = Blobs(database).clear_unused()
        if cleared:
            _say(f"cleared {len(cleared)} files that no scene uses")
        database.close()  # the processes that serve open their own connections
        hosts = None
        if options.host in ("127.0.0.1", "localhost"):
            hosts = frozenset({f"127.0.0.1:{port}", f"localhost:{port}"})
        token = Token(var / "sign-in-token")
        if options.new_address:
            token.renew()
        settings = Settings(
            var / "front-end", session_secret(var), token, OpenSessions(var / "sessions"), hosts=hosts, port=port,
            disk=Disk(var / "database" if server else None),
        )  # fmt: skip
        address = f"http://{options.host}:{port}/sign-in?token={token.value}"
        # Where the first of several answers is what commands go by.
        is_first = _is_first(var)
        if is_first:
            write_private(
                var / SERVING, f"http://{'127.0.0.1' if options.host in EVERYWHERE else options.host}:{port}".encode()
            )
        _Server(create_app(database, settings), options, settings, address, server).run()
    except (DatabaseError, Unavailable, DiskFull, ValueError) as error:
        raise ServeError(str(error)) from error
    except OSError as error:
        if error.errno not in NOT_WRITABLE or not str(error.filename or "").startswith(str(var)):
            raise
        raise ServeError(
            f"“{error.filename}” cannot be written ({error.strerror}).",
            "Let the folder be written, or name another one by EDDYFIELD_VAR.",
        ) from error
    finally:
        if is_first and os.getpid() == own:  # not in the processes that were split off
            (var / SERVING).unlink(missing_ok=True)
        if server is not None:
            server.stop()


def _is_first(var: Path) -> bool:
    """Whether no other server that keeps its things here runs; this one is the first for as long as it does."""
    handle = os.open(var / "serving.lock", os.O_RDWR | os.O_CREAT, 0o600)
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        os.close(handle)
        return False
    return True


def _database_port() -> int | None:
    """The port on loopback on which the database can be reached as well, where somebody wants that."""
    wanted = os.environ.get("EDDYFIELD_DATABASE_PORT", "")
    if not wanted:
        return None
    if not wanted.isdigit() or not 0 < int(wanted) < 65536:
        raise UsageError(f"EDDYFIELD_DATABASE_PORT is “{wanted[:20]}”.", "Give a port from 1 to 65535, or none.")
    return int(wanted)


class _Server(BaseApplication):  # type: ignore[misc]
    """Gunicorn with a process for each core, up to two, and threads. What a process keeps of baked parts is named by its
    content, so that every one of them answers the same."""

    def __init__(
        self,
        app: Any,
        options: argparse.Namespace,
        settings: Settings,
        address: str,
        database: DatabaseServer | None,
    ) -> None:
        self._app, self._options, self._port, self._address = app, options, settings.port, address
        self._streams = settings.streams_at_once
        self._database = database
        super().__init__()

    def load_config(self) -> None:
        settings = {
            "bind": f"{self._options.host}:{self._port}",
            "workers": self._options.processes or min(MOST_PROCESSES, os.cpu_count() or 1),
            "threads": THREADS + self._streams,
            "worker_class": PatientWorker,
            "timeout": 120,
            "graceful_timeout": 5,
            "keepalive": 60,
            "loglevel": "warning",
            "when_ready": lambda _: self._ready(),
            "control_socket_disable": True,
            "post_worker_init": lambda _: _begin_work(),
        }
        for name, value in settings.items():
            if name in self.cfg.settings:
                self.cfg.set(name, value)

    def _ready(self) -> None:
        if self._database is not None:
            self._database.watch(_say)
        _say(f"ready: open {self._address}")

    def load(self) -> Any:
        return self._app

    def run(self) -> None:
        from gunicorn.arbiter import Arbiter

        # The arbiter leaves by SystemExit; the caller still stops the database.
        Arbiter(self).run()


def _begin_work() -> None:
    """Of each process that serves."""
    _collect_seldom()
    soon = threading.Timer(BUILD_AFTER_SECONDS, build_requests)
    soon.daemon = True
    soon.start()


def _collect_seldom() -> None:
    """Scenes are kept as many small frozen parts without cycles: looking through all of them for cycles is put off."""
    gc.freeze()
    gc.set_threshold(*COLLECT_AFTER)


def _free_port(host: str, ports: range) -> int:
    for port in ports:
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind((host, port))
            except OSError:
                continue
            return int(probe.getsockname()[1])
    if len(ports) == 1:
        raise UsageError(f"Port {ports.start} on {host} is in use, or not to be had.", "Give another one with --port.")
    raise UsageError(f"No port from {ports.start} to {ports.stop - 1} is free on {host}.", "Give one with --port.")


def _say(text: str) -> None:
    print(f"eddyfield: {text}", file=sys.stderr, flush=True)
