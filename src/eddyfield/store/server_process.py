"""Processes of database servers: finding the one that holds a data folder, and ending it."""

from __future__ import annotations

import os
import signal
import time
from contextlib import suppress
from pathlib import Path

STOP_SECONDS, KILL_SECONDS = 20.0, 5.0


def servers_of(data: Path) -> list[int]:
    """Process ids of the database servers that run on a data folder, whoever started them."""
    wanted = f"--datadir={data}".encode()
    found = []
    for entry in Path("/proc").iterdir():
        if not entry.name.isdigit():
            continue
        with suppress(OSError):
            words = (entry / "cmdline").read_bytes().split(b"\0")
            if wanted in words and b"mariadbd" in words[0] and _is_alive(int(entry.name)):
                found.append(int(entry.name))
    return found


def listens_on(pid: int, socket: Path) -> bool:
    """Whether a server was told to listen on a socket."""
    with suppress(OSError):
        return f"--socket={socket}".encode() in (Path("/proc") / str(pid) / "cmdline").read_bytes().split(b"\0")
    return False


def end(pid: int) -> None:
    """Shut a server down and wait for it; one that does not go is killed: its data outlive that."""
    for number, seconds in ((signal.SIGTERM, STOP_SECONDS), (signal.SIGKILL, KILL_SECONDS)):
        with suppress(ProcessLookupError):
            os.kill(pid, number)
        until = time.monotonic() + seconds
        while time.monotonic() < until:
            if not _is_alive(pid):
                return
            time.sleep(0.02)


def _is_alive(pid: int) -> bool:
    """Whether a process runs; a child of this one that has ended is taken off the list of processes."""
    with suppress(ChildProcessError):
        if os.waitpid(pid, os.WNOHANG)[0]:
            return False
    try:
        state = (Path("/proc") / str(pid) / "stat").read_text().rpartition(")")[2].split()[0]
    except OSError:
        return False
    return state != "Z"
