"""Scenes that play inside a scene, as the browser gets them."""

from __future__ import annotations

from eddyfield.core.edits.blocks import going_from_outside
from eddyfield.core.nesting import frames_of
from eddyfield.core.scene import Block, Scene

from .thing_answers import BlockView


def block_views(scene: Scene, around_id: str | None) -> tuple[list[BlockView], str | None]:
    """Of all blocks but the one that stands for what is around the scene, and the name of that."""
    around = next((block.name for block in scene.blocks if block.id == around_id), None)
    return [_view(scene, block) for block in scene.blocks if block.id != around_id], around


def _view(scene: Scene, block: Block) -> BlockView:
    frames = frames_of(block, scene.rate, scene.frames)
    came = [thing.id for thing in scene.things if thing.nested and thing.nested.block_id == block.id]
    gone_by = dict.fromkeys(name for thing_id in came for name in going_from_outside(scene, thing_id))
    return BlockView(
        id=block.id, name=block.name, scene_id=block.scene_id, scene_name=block.inner.name if block.inner else "",
        first=frames.first, last=frames.last, ground=block.ground, gone_by=list(gone_by),
    )  # fmt: skip
