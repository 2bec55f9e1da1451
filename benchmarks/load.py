"""Many at once: edits in scenes of their own, one client against twenty."""

from __future__ import annotations

import threading
from statistics import median, quantiles
from time import perf_counter

import orjson

from eddyfield.demo import mill_race

from .faults.bombs import upload
from .served import Client, served_in

CLIENTS, EDITS = 20, 15


def run() -> None:
    with served_in() as application:
        first = application.start()
        host, token = application.wait()
        told = orjson.loads(upload(first, "oda.glb", mill_race.oda_glb())[1])
        for number in range(CLIENTS):
            asked = {"digest": told["digest"], "format": "gltf", "name": f"Scene {number}", "scale": 1.0, "start": 1001}
            first.raw("POST", "/api/scenes", orjson.dumps(asked))
        listed = orjson.loads(first.raw("GET", "/api/scenes", b"")[1])["scenes"]
        clients = [Client(host, token, application.var, s["id"]) for s in listed if s["characters"] == [s["name"]]]
        _round(clients[:1], "one client")
        _round(clients, f"{len(clients)} clients in as many scenes")


def _round(clients: list[Client], what: str) -> None:
    took: list[float] = []

    def work(client: Client) -> None:
        camera = client.cameras[0]["id"]
        for number in range(EDITS):
            took.append(client.edit(edit="set camera values", camera_id=camera, values={"roll": float(number)}))

    for client in clients:
        work(client)  # not counted: what is kept is made
    took.clear()
    threads = [threading.Thread(target=work, args=(client,)) for client in clients]
    began = perf_counter()
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    spent = perf_counter() - began
    p95 = quantiles(took, n=20)[-1]
    print(
        f"{what:<40}{1000 * median(took):8.1f} ms median{1000 * p95:8.1f} ms p95{len(took) / spent:8.1f} edits a second"
    )
