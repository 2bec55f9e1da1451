"""Scenes that play inside a scene, as rows; what comes with them is stored with the scene that it is in."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import asdict

from eddyfield.core.performance.nested import Ground
from eddyfield.core.scene import Block
from eddyfield.core.time.frames import FrameTime

from .key_rows import Row, RowKey, Rows
from .records import BENDS, Bends, read_if_any


def block_rows(block: Block, scene_id: str, place: int) -> Rows:
    row: Row = {
        "id": block.id, "scene_id": scene_id, "place": place, "name": block.name, "inner_id": block.scene_id,
        "start_frame": str(block.start), **asdict(block.ground),
        "bends": BENDS.write(Bends(block.bends)) if block.bends else None,
    }  # fmt: skip
    return {RowKey("scene_block", (block.id,)): row}


def blocks_from(rows: Iterable[Row]) -> tuple[Block, ...]:
    return tuple(map(_block_from, sorted(rows, key=lambda row: row["place"])))


def _block_from(row: Row) -> Block:
    ground = Ground(row["x"], row["y"], row["z"], row["turn"])
    bends = read_if_any(BENDS, row["bends"])
    return Block(
        row["id"], row["name"], row["inner_id"], FrameTime(row["start_frame"]), ground, bends.in_order if bends else ()
    )  # fmt: skip
