"""Kills at any moment: of first starts, of the database and of the server in streams of edits."""

from __future__ import annotations

import contextlib
import http.client
import os
import random
import signal
import threading
import time
import uuid
from typing import cast

import orjson

from benchmarks.served import Client, Refused, Served, served_in

from .report import Report, seconds

FIRST_START_SECONDS = 7.0
LOST = (OSError, http.client.HTTPException)


def first_starts(count: int, seed: int = 1, within: float = FIRST_START_SECONDS) -> Report:
    """A first start is killed at a random moment, in every second case the database as well; the next has to come up."""
    rng, report, took = random.Random(seed), Report("first starts that were cut short"), []
    for number in range(count):
        moment = rng.uniform(0.05, within)
        with served_in() as application:
            application.begin()
            time.sleep(moment)
            application.kill()
            if number % 2:
                for pid in application.database_pids():
                    os.kill(pid, signal.SIGKILL)
            began = time.monotonic()
            report.tried += 1
            try:
                client = application.start()
                if not client.scene["cameras"]:
                    report.wrong.append(f"killed after {moment:.2f} s: the scene is empty")
                took.append(time.monotonic() - began)
            except Exception as error:
                report.wrong.append(f"killed after {moment:.2f} s: {str(error)[-400:]}")
    report.figures["up again after"] = seconds(took)
    return report


class _Stream:
    """Renames one after the other, and a file that comes in beside each third; what was acknowledged last is known."""

    def __init__(self, client: Client) -> None:
        self.client, self.number = client, 0
        self.acknowledged = (client.scene["revision"], client.scene["name"])
        self.pieces = len(client.scene["pieces"])

    def edit(self) -> None:
        self.number += 1
        if self.number % 3 == 0:
            self._bring_in()
        name = f"Named {uuid.uuid4()}"
        self.client.edit(edit="rename scene", name=name)
        self.acknowledged = (self.client.scene["revision"], name)

    def _bring_in(self) -> None:
        """A file that was not there before, and with it a prop."""
        shape = {"shape": "box", "width_m": 0.2 + random.random(), "height_m": 0.5, "depth_m": 0.5}
        file = orjson.loads(self.client._ask("POST", "/api/stand-ins", shape))
        source = {"digest": file["digest"], "format": file["format"]}
        self.client.edit(edit="bring in", thing_id=str(uuid.uuid4()), kind="prop", name="Box", source=source, start=1)
        self.acknowledged = (self.client.scene["revision"], self.client.scene["name"])
        self.pieces += 1

    def check(self, scene: dict[str, object], report: Report) -> None:
        """The scene is as acknowledged, or one edit farther: one under way may have been stored, unacknowledged. What has come in
        is wholly there, its file too, or not at all."""
        revision, name = self.acknowledged
        pieces = cast(list[dict[str, str]], scene["pieces"])
        if len(pieces) not in (self.pieces, self.pieces + 1):
            report.wrong.append(f"{len(pieces)} props after {self.pieces} were acknowledged")
        report.wrong += [
            f"{piece['name']} came in without {part}"
            for piece in pieces
            for part in ("rig", "placed")
            if piece[part] not in self.client.parts
        ]
        self.pieces = len(pieces)
        if scene["revision"] not in (revision, revision + 1):
            report.wrong.append(f"revision {scene['revision']} after {revision} was acknowledged")
        elif scene["revision"] == revision and scene["name"] != name:
            report.wrong.append(f"revision {revision} has the name “{scene['name']}” in place of “{name}”")
        self.client._keep(scene)
        self.acknowledged = (self.client.scene["revision"], self.client.scene["name"])


def databases(count: int, seed: int = 2) -> Report:
    """The database is killed in a stream of edits; it has to come back by itself, with every acknowledged edit."""
    rng, report, took = random.Random(seed), Report("databases killed in a stream of edits"), []
    with served_in() as application:
        stream = _Stream(application.start())
        for _ in range(count):
            pids = application.database_pids()
            timer = threading.Timer(rng.uniform(0.02, 0.3), _kill_all, (pids,))
            timer.start()
            with contextlib.suppress(Refused):
                while True:
                    stream.edit()
            timer.join()
            began = time.monotonic()
            report.tried += 1
            scene = _when_it_answers(stream.client)
            if scene is None:
                report.wrong.append("the database does not come back")
                break
            took.append(time.monotonic() - began)
            stream.check(scene, report)
    report.figures["answers again after"] = seconds(took)
    return report


def servers(count: int, seed: int = 3) -> Report:
    """The server is killed in a stream of edits, in every second case with its database; the next start goes on."""
    rng, report, took = random.Random(seed), Report("servers killed in a stream of edits"), []
    with served_in() as application:
        stream = _Stream(application.start())
        for number in range(count):
            moment = rng.uniform(0.02, 0.5)
            timer = threading.Timer(moment, _kill_server, (application, number % 2 == 1))
            timer.start()
            with contextlib.suppress(Refused, *LOST):
                while True:
                    stream.edit()
            timer.join()
            report.tried += 1
            began = time.monotonic()
            try:
                client = application.start()
            except RuntimeError as error:
                report.wrong.append(str(error)[-400:])
                break
            took.append(time.monotonic() - began)
            stream.client = client
            stream.check(client.scene, report)
    report.figures["up again after"] = seconds(took)
    return report


def _kill_server(application: Served, database_too: bool) -> None:
    if database_too:
        _kill_all(application.database_pids())
    application.kill()


def _kill_all(pids: list[int]) -> None:
    for pid in pids:
        with contextlib.suppress(ProcessLookupError):
            os.kill(pid, signal.SIGKILL)


def _when_it_answers(client: Client, within: float = 60) -> dict[str, object] | None:
    until = time.monotonic() + within
    while time.monotonic() < until:
        with contextlib.suppress(Refused):
            return client.view()
        time.sleep(0.05)
    return None
