"""Edits of scenes that play inside a scene: they come in, are placed in time and on the ground, and are taken out."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..errors import DomainError
from ..nesting import DEEPEST, depth, inside
from ..scene import Block, Scene, numbered
from ..time.frames import FrameTime
from .contents import checked_value, refuse_used
from .edit import Edit, check_new_id
from .letting_go import going_by, let_go
from .names import usable_name
from .reach import Reach

MOST_BLOCKS = 50


@dataclass(frozen=True, kw_only=True)
class BringInScene(Edit):
    """Let another scene play inside this one, from the frame ``start`` on. Raises ``DomainError`` for one that this scene plays
    in itself."""

    edit: Literal["bring in scene"] = "bring in scene"
    title: ClassVar[str] = "bring in a scene"
    block_id: str
    scene_id: str
    start: int

    def brings_scenes(self) -> tuple[str, ...]:
        return (self.scene_id,)

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        check_new_id(self.block_id)
        inner = baker.scene_of(self.scene_id)
        if scene.id in inside(inner) | {inner.id}:
            raise DomainError(
                f"“{inner.name}” would play inside itself.", "Choose a scene that this one does not play in."
            )
        if depth(inner) + 1 > DEEPEST:
            raise DomainError(
                f"More than {DEEPEST} scenes would lie inside each other.", "Bring in one further inside."
            )
        if len(scene.blocks) >= MOST_BLOCKS:
            raise DomainError(f"More than {MOST_BLOCKS} scenes would play inside this one.", "Take some out first.")
        _check_start(scene, self.start)
        block = Block(
            self.block_id,
            numbered(inner.name, {b.name for b in scene.blocks}),
            inner.id,
            FrameTime(self.start),
            inner=inner,
        )
        return replace(scene, blocks=(*scene.blocks, block))


@dataclass(frozen=True, kw_only=True)
class MoveBlock(Edit):
    """Let a scene that plays inside begin on another frame, stand elsewhere (x, y, z, turn), or be called otherwise; None
    leaves it."""

    edit: Literal["move block"] = "move block"
    title: ClassVar[str] = "move a scene inside"
    block_id: str
    start: int | None = None
    values: Mapping[str, float] | None = None
    name: str | None = None

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        block = scene.block(self.block_id)
        values = {n: checked_value(n, v) for n, v in (self.values or {}).items()}
        ground = replace(block.ground, **values) if values else block.ground
        if self.start is not None:
            _check_start(scene, self.start)
        start = block.start if self.start is None else FrameTime(self.start)
        name = block.name if self.name is None else usable_name(self.name, "block")
        if any(other.name == name and other.id != block.id for other in scene.blocks):
            raise DomainError(f"Another one is called “{name}”.", "Choose a name of its own.")
        moved = replace(block, start=start, ground=ground, name=name)
        if moved == block:
            return scene
        return replace(scene, blocks=tuple(moved if b.id == moved.id else b for b in scene.blocks))


@dataclass(frozen=True, kw_only=True)
class TakeOutBlock(Edit):
    """Take a scene that plays inside out again. Where cameras or props go by what came with it that is refused, unless
    ``lets_go``: then they first let go of it, and stay where they were on ``frame``."""

    edit: Literal["take out block"] = "take out block"
    title: ClassVar[str] = "take out a scene inside"
    owners_by_scene: ClassVar[bool] = True
    block_id: str
    frame: int
    lets_go: bool = False

    def reach(self, scene: Scene) -> Reach:
        came = [thing.id for thing in scene.things if thing.nested and thing.nested.block_id == self.block_id]
        return Reach(frozenset({self.block_id, *(other for thing_id in came for other in going_by(scene, thing_id))}))

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        block = scene.block(self.block_id)
        came = [thing.id for thing in scene.things if thing.nested and thing.nested.block_id == block.id]
        by_it = tuple(dict.fromkeys(name for thing_id in came for name in going_from_outside(scene, thing_id)))
        if not self.lets_go:
            refuse_used(by_it, f"what comes with “{block.name}”")
        for thing_id in came if by_it else ():
            scene = let_go(scene, baker.of(scene), thing_id, self.frame)
        return replace(scene, blocks=tuple(b for b in scene.blocks if b.id != block.id))


def _check_start(scene: Scene, start: int) -> None:
    if start not in scene.frames:
        raise DomainError(
            f"Frame {start} is not in the scene.", f"Let it begin from {scene.frames.first} to {scene.frames.last}."
        )


def going_from_outside(scene: Scene, thing_id: str) -> tuple[str, ...]:
    """Names of what goes by a thing that comes with a block, and does not come with it itself."""
    came = {piece.name for piece in scene.pieces if piece.nested}
    return tuple(name for name in scene.going_by(thing_id) if name not in came)
