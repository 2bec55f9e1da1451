"""An edit over HTTP, durably saved, to the changed parts in the client's hands; against a bare commit to the database."""

from __future__ import annotations

from pathlib import Path
from statistics import median, quantiles
from time import perf_counter

from eddyfield.store.database import Database
from eddyfield.store.server import DatabaseServer

from .served import served
from .timing import show

EDITS = 200


def run() -> None:
    with served() as client:
        camera = client.cameras[0]["id"]
        client.edit(edit="lock camera", camera_id=camera, locks=[])
        times = []
        for number in range(EDITS):
            values = {"rail": (number % 90) / 100}
            times.append(
                client.edit(edit="key camera values", camera_id=camera, time=str(1001 + number % 96), values=values)
            )
        bare = _bare_commits(client.var)
    show("a camera key over HTTP, saved, to the changed parts", median(times))
    print(f"    p95 {1000 * quantiles(times, n=20)[-1]:.2f} ms")
    print(
        f"    a bare durable commit: {1000 * bare:.2f} ms; the whole edit takes {median(times) / bare:.1f} times as long"
    )


def _bare_commits(var: Path) -> float:
    database = Database(DatabaseServer(var / "database").start().url)
    with database.transaction() as cursor:
        cursor.execute("CREATE TABLE IF NOT EXISTS bare (n INT)")
    times = []
    for number in range(EDITS):
        began = perf_counter()
        with database.transaction() as cursor:
            cursor.execute("INSERT INTO bare VALUES (%s)", (number,))
        times.append(perf_counter() - began)
    return median(times)
