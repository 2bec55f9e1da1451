"""Two people at once in scenes that play in each other: rules over several scenes hold, and nobody waits for ever."""

from __future__ import annotations

import threading
import time
import uuid
from collections.abc import Callable
from functools import partial

import orjson

from benchmarks.served import Client, Refused, served_in
from eddyfield.core.nesting import nested_id
from eddyfield.demo import mill_race

from .bombs import upload
from .report import Report

STAGGERS_S = (-0.04, -0.02, -0.01, 0.0, 0.01, 0.02, 0.04)
MOST_SECONDS = 10.0


def over_scenes(rounds: int) -> Report:
    """Scenes brought into each other at once; then one takes a character out inside while another aims at it outside."""
    report = Report("races over several scenes")
    with served_in() as application:
        first = application.start()
        host, token = application.wait()
        digest = orjson.loads(upload(first, "oda.glb", mill_race.oda_glb())[1])["digest"]

        def scene(name: str) -> Client:
            asked = {"digest": digest, "format": "gltf", "name": name, "scale": 1.0, "start": 1001}
            made = orjson.loads(first.raw("POST", "/api/scenes", orjson.dumps(asked))[1])["id"]
            return Client(host, token, application.var, made)

        for number in range(rounds):
            stagger = STAGGERS_S[number % len(STAGGERS_S)]
            one, other = scene("one"), scene("other")
            both = _at_once(stagger, partial(_bring, one, other), partial(_bring, other, one))
            _judge(report, f"a circle, staggered by {stagger} s", both, 1, (one, other))
            inner, outer = scene("inside"), scene("outside")
            block = _bring(outer, inner)
            oda = inner.scene["characters"][0]["id"]
            subject = {"kind": "joint", "owner_id": nested_id(block, oda), "joint": "head"}
            aim = {"targets": [{"subjects": [subject]}]}
            both = _at_once(
                stagger,
                partial(inner.edit, edit="take out", thing_id=oda, frame=1001),
                partial(outer.edit, edit="aim camera", camera_id=outer.cameras[0]["id"], aim=aim, frame=1001),
            )
            _judge(report, f"taken out and aimed at, staggered by {stagger} s", both, 1, (inner, outer))
    return report


def _bring(into: Client, what: Client) -> str:
    block = str(uuid.uuid4())
    into.edit(edit="bring in scene", block_id=block, scene_id=what.scene_id, start=into.scene["first"])
    return block


def _at_once(stagger_s: float, *acts: Callable[[], object]) -> list[int]:
    """The statuses of two acts, one begun so much after the other; 0 of what was never answered."""
    statuses = [0, 0]

    def run(at: int, wait_s: float) -> None:
        time.sleep(max(0.0, wait_s))
        try:
            acts[at]()
            statuses[at] = 200
        except Refused as refused:
            statuses[at] = refused.status

    threads = [
        threading.Thread(target=run, args=(at, wait), daemon=True) for at, wait in ((0, -stagger_s), (1, stagger_s))
    ]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(MOST_SECONDS)
    return statuses


def _judge(report: Report, what: str, statuses: list[int], most: int, clients: tuple[Client, ...]) -> None:
    report.tried += 1
    if statuses.count(200) > most or 0 in statuses or any(status >= 500 for status in statuses):
        report.wrong.append(f"{what}: {statuses}")
    for client in clients:
        try:
            client.look()
        except Refused as refused:
            report.wrong.append(f"{what}: a scene cannot be opened any more ({refused.status})")
