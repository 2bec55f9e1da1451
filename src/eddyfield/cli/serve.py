"""``serve``: starts the database and serves the application until it is told to stop."""

from __future__ import annotations

import gc
import os
import socket
import sys
from pathlib import Path
from typing import Any

from gunicorn.app.base import BaseApplication

from eddyfield.core.errors import DomainError
from eddyfield.demo.load import load_demo
from eddyfield.store.database import Database, Unavailable, migrate
from eddyfield.store.server import DatabaseError, DatabaseServer
from eddyfield.web.access import session_secret
from eddyfield.web.app import Settings, create_app

from .arguments import OneLineParser, UsageError, checked, whole

PORT = 8640

COLLECT_AFTER = (50_000, 20, 50)
"""Objects made, and rounds, before the younger and the oldest of them are looked through."""


class ServeError(DomainError):
    """The application cannot be served."""


def parser() -> OneLineParser:
    out = OneLineParser(prog="eddyfield start", description="Serve the application on this machine.")
    out.add_argument("--demo", action="store_true", help="load the demo scene")
    out.add_argument("--host", default="127.0.0.1", help="address to listen on (127.0.0.1: this machine only)")
    out.add_argument("--port", type=checked(whole), help=f"port (the first free one from {PORT}; 0: any)")
    return out


def run(words: list[str]) -> None:
    options = parser().parse(words)
    var = Path(os.environ.get("EDDYFIELD_VAR", "var")).resolve()
    var.mkdir(parents=True, exist_ok=True)
    port = options.port or _free_port(options.host, range(PORT, PORT + 50) if options.port is None else range(1))
    server: DatabaseServer | None = None
    url = os.environ.get("EDDYFIELD_DATABASE_URL")
    try:
        if not url:
            _say("starting the database")
            server = DatabaseServer(var / "database")
            url = server.start().url
        database = Database(url)
        for name in migrate(database):
            _say(f"prepared the tables ({name})")
        if options.demo:
            load_demo(database)
        hosts = None
        if options.host in ("127.0.0.1", "localhost"):
            hosts = frozenset({f"127.0.0.1:{port}", f"localhost:{port}"})
        settings = Settings(var / "front-end", session_secret(var), hosts=hosts)
        address = f"http://{options.host}:{port}/sign-in?token={settings.token}"
        _Server(create_app(database, settings), options.host, port, address).run()
    except (DatabaseError, Unavailable, ValueError) as error:
        raise ServeError(str(error)) from error
    finally:
        if server is not None and server.started_here:
            server.stop()


class _Server(BaseApplication):  # type: ignore[misc]
    """Gunicorn with one process and threads, so that baked parts are kept in one place."""

    def __init__(self, app: Any, host: str, port: int, address: str) -> None:
        self._app, self._host, self._port, self._address = app, host, port, address
        super().__init__()

    def load_config(self) -> None:
        settings = {
            "bind": f"{self._host}:{self._port}",
            "workers": 1,
            "threads": 16,
            "worker_class": "gthread",
            "timeout": 120,
            "graceful_timeout": 5,
            "keepalive": 60,
            "loglevel": "warning",
            "when_ready": lambda _: _say(f"ready: open {self._address}"),
            "control_socket_disable": True,
            "post_worker_init": lambda _: _collect_seldom(),
        }
        for name, value in settings.items():
            if name in self.cfg.settings:
                self.cfg.set(name, value)

    def load(self) -> Any:
        return self._app

    def run(self) -> None:
        from gunicorn.arbiter import Arbiter

        # The arbiter leaves by SystemExit; the caller still stops the database.
        Arbiter(self).run()


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
    raise UsageError(f"No port from {ports.start} to {ports.stop - 1} is free on {host}.", "Give one with --port.")


def _say(text: str) -> None:
    print(f"eddyfield: {text}", file=sys.stderr, flush=True)
