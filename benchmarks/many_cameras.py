"""Edits of one camera in a scene with 200 cameras, against the same edits in a scene with six."""

from __future__ import annotations

import uuid
from statistics import median, quantiles

from .served import Client, served

FEW, MANY, EDITS = 6, 200, 240


def run() -> None:
    with served() as few, served() as many:
        for camera in few.cameras[FEW:]:
            few.edit(edit="delete camera", camera_id=camera["id"], replace_by=None)
        for number in range(MANY - len(many.cameras)):
            copied = many.cameras[1 + number % (FEW - 1)]["id"]
            many.edit(edit="copy camera", camera_id=copied, new_id=str(uuid.uuid4()))
        times = _measure(few, many)
    for name, one, other in zip(("edit saved", "shown in the hand"), *times, strict=True):
        a, b = median(one), median(other)
        print(f"a camera moved, {name}: {1000 * a:.2f} ms with {FEW} cameras, {1000 * b:.2f} ms with {MANY}")
        p95 = [1000 * quantiles(found, n=20)[-1] for found in (one, other)]
        print(f"    ratio {b / a:.2f}; p95 {p95[0]:.2f} and {p95[1]:.2f} ms")


def _measure(*clients: Client) -> list[tuple[list[float], list[float]]]:
    """Moves of the crane's arm, saved, and while it is in the hand: the clients in turn, so that drift touches all."""
    times: list[tuple[list[float], list[float]]] = [([], []) for _ in clients]
    cranes = [next(c["id"] for c in client.cameras if c["mount"]["kind"] == "crane") for client in clients]
    for number in range(EDITS):
        length = 3 + (number % 40) / 20
        for client, crane, (saved, shown) in zip(clients, cranes, times, strict=True):
            values = {"arm_length": length}
            saved.append(client.edit(edit="set camera values", camera_id=crane, values=values))
            values = {"arm_length": length + 0.01}
            shown.append(client.preview(edit="set camera values", camera_id=crane, values=values))
    return times
