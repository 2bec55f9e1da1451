"""Edits of one camera in a scene with 200 cameras, against the same edits in a scene with six."""

from __future__ import annotations

import uuid
from statistics import median, quantiles

from .served import Client, served

FEW, MANY, EDITS = 6, 200, 80


def run() -> None:
    with served() as client:
        for camera in client.cameras[FEW:]:
            client.edit(edit="delete camera", camera_id=camera["id"], replace_by=None)
        few = _measure(client)
        for number in range(MANY - FEW):
            copied = client.cameras[1 + number % (FEW - 1)]["id"]
            client.edit(edit="copy camera", camera_id=copied, new_id=str(uuid.uuid4()))
        many = _measure(client)
    for name, one, other in zip(("edit saved", "shown in the hand"), few, many, strict=True):
        a, b = median(one), median(other)
        print(f"a camera moved, {name}: {1000 * a:.2f} ms with {FEW} cameras, {1000 * b:.2f} ms with {MANY}")
        print(
            f"    ratio {b / a:.2f}; p95 {1000 * quantiles(one, n=20)[-1]:.2f} and {1000 * quantiles(other, n=20)[-1]:.2f} ms"
        )


def _measure(client: Client) -> tuple[list[float], list[float]]:
    """Moves of the crane's arm: saved, and while it is in the hand."""
    crane = next(c["id"] for c in client.cameras if c["mount"]["kind"] == "crane")
    saved, shown = [], []
    for number in range(EDITS):
        length = 3 + (number % 40) / 20
        values = {"arm_length": length}
        saved.append(client.edit(edit="set camera values", camera_id=crane, values=values))
        values = {"arm_length": length + 0.01}
        shown.append(client.preview(edit="set camera values", camera_id=crane, values=values))
    return saved, shown
