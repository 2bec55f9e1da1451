"""Many at once: edits in scenes of their own, one client against twenty, without a pause and as people work; then several in one
scene, each at a camera of its own. The clients run in processes of their own, beside that of the server."""

from __future__ import annotations

import threading
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path
from random import Random
from statistics import median, quantiles
from time import perf_counter, sleep

import orjson

from eddyfield.demo import mill_race

from .faults.bombs import upload
from .served import Client, Refused, served_in

CLIENTS, PROCESSES, EDITS = 20, 4, 15
PAUSE_S, WORKS_S = 0.5, 15.0
IN_ONE = 5


def run() -> None:
    with served_in() as application:
        first = application.start()
        host, token = application.wait()
        told = orjson.loads(upload(first, "oda.glb", mill_race.oda_glb())[1])
        for number in range(CLIENTS):
            asked = {"digest": told["digest"], "format": "gltf", "name": f"Scene {number}", "scale": 1.0, "start": 1001}
            first.raw("POST", "/api/scenes", orjson.dumps(asked))
        listed = orjson.loads(first.raw("GET", "/api/scenes", b"")[1])["scenes"]
        own = [s["id"] for s in listed if s["characters"] == [s["name"]]]
        where = host, token, str(application.var)
        with ProcessPoolExecutor(PROCESSES, get_context("spawn")) as pool:

            def all_of(scenes: list[str], pause_s: float, what: str) -> None:
                shares = [(where, scenes[at::PROCESSES], pause_s) for at in range(PROCESSES)]
                _told(list(pool.map(_work, shares)), what)

            all_of(own[:1], 0.0, "one client")
            all_of(own, 0.0, f"{len(own)} clients without a pause")
            all_of(own, PAUSE_S, f"{len(own)} clients, two edits a second each")
        _in_one_scene(where, first.scene_id)


Where = tuple[str, str, str]
"""Host, token and folder of a server."""


def _work(share: tuple[Where, list[str], float]) -> tuple[list[float], float]:
    """Seconds of each edit of some clients in scenes of their own, and how long it took them in all."""
    (host, token, var), scenes, pause_s = share
    clients = [Client(host, token, Path(var), scene) for scene in scenes]
    for client in clients:
        _edits(client, client.cameras[0]["id"], 3, 0.0, [])  # not counted: what is kept is made
    took: list[float] = []
    count = EDITS if not pause_s else round(WORKS_S / pause_s)
    threads = [
        threading.Thread(target=_edits, args=(client, client.cameras[0]["id"], count, pause_s, took))
        for client in clients
    ]
    began = perf_counter()
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return took, perf_counter() - began


def _edits(client: Client, camera_id: str, count: int, pause_s: float, took: list[float]) -> int:
    """Edits of a camera, with pauses as uneven as people's; how many were refused for what others did meanwhile."""
    random, refused = Random(client.scene_id), 0
    for number in range(count):
        if pause_s:
            sleep(pause_s * random.uniform(0.2, 1.8))
        try:
            took.append(client.edit(edit="set camera values", camera_id=camera_id, values={"roll": float(number % 60)}))
        except Refused as error:
            if error.status != 409:
                raise
            refused += 1
            client.look()
    return refused


def _in_one_scene(where: Where, scene_id: str) -> None:
    host, token, var = where
    clients = [Client(host, token, Path(var), scene_id) for _ in range(IN_ONE)]
    took: list[list[float]] = [[] for _ in clients]
    refused = [0] * IN_ONE

    def work(at: int) -> None:
        client = clients[at]
        free = [camera["id"] for camera in client.cameras if not camera["locks"]]
        refused[at] = _edits(client, free[at], EDITS * 2, 0.0, took[at])

    threads = [threading.Thread(target=work, args=(at,)) for at in range(IN_ONE)]
    began = perf_counter()
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    spent = perf_counter() - began
    _told([(one, spent) for one in took], f"{IN_ONE} clients in one scene ({sum(refused)} conflicts)")


def _told(shares: list[tuple[list[float], float]], what: str) -> None:
    took = [seconds for share, _ in shares for seconds in share]
    spent = max(seconds for _, seconds in shares)
    p95 = quantiles(took, n=20)[-1]
    print(
        f"{what:<44}{1000 * median(took):8.1f} ms median{1000 * p95:8.1f} ms p95{len(took) / spent:8.1f} edits a second"
    )
