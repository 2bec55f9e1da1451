"""Scenes inside scenes: all that a scene holds with what comes into it by its blocks, and which of that is its own.

Everything that is worked out goes by the whole; an edit is applied to the whole as well, and what it left alone of the blocks
goes out of it again before the scene is stored.
"""

from __future__ import annotations

import uuid
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from math import ceil
from typing import TypeVar

import numpy as np

from .cut.sound import Sound
from .errors import DomainError
from .moving_time import MovingTime
from .performance.character import Character
from .performance.holding import Hold
from .performance.nested import Nested, ground_of
from .performance.piece import Piece
from .performance.showing import ALWAYS, Showing
from .rate_change import OnFirstFrames
from .scene import Block, Scene, numbered
from .scene_bend import SAME_MOMENT, BendingTime
from .time.frames import FrameRange, FrameTime, Rate
from .time.retiming import Retiming
from .time.stretches import runs

_Comes = TypeVar("_Comes", Character, Piece, Sound)
_Things = TypeVar("_Things", Character, Piece)
DEEPEST = 8
"""Scenes inside scenes inside scenes."""


@dataclass(frozen=True)
class _Coming:
    """What a block brings, and the last frame that it plays on."""

    characters: tuple[Character, ...] = ()
    pieces: tuple[Piece, ...] = ()
    sounds: tuple[Sound, ...] = ()
    last: int = 0


def nested_id(block_id: str, inner_id: str) -> str:
    """The id under which something comes with a block."""
    return str(uuid.uuid5(uuid.UUID(block_id), inner_id))


def whole(scene: Scene) -> Scene:
    """The scene with all that comes with its blocks as they are now; the same one where it has none."""
    if not scene.blocks and not any(thing.nested for thing in (*scene.things, *scene.sounds)):
        return scene
    made: Scene | None = vars(scene).get("_whole")
    if made is None:
        coming = [_coming(block, scene.rate, scene.frames) for block in scene.blocks]
        own = _own(scene)
        names = {thing.name for thing in own.things}
        made = replace(
            own,
            characters=(*own.characters, *(_named(c, names) for some in coming for c in some.characters)),
            pieces=(*own.pieces, *(_named(p, names) for some in coming for p in some.pieces)),
            sounds=(*own.sounds, *(sound for some in coming for sound in some.sounds)),
        )
        vars(scene)["_whole"] = vars(made)["_whole"] = made
    return made


def renewed(before: Scene, after: Scene) -> Scene:
    """The whole of what an edit has made of a whole scene. Raises ``DomainError`` where that changes what comes with a block."""
    if after is before or not (before.blocks or after.blocks):
        return after
    _refuse_changes(before, after)
    return whole(after)


def with_inner(scene: Scene, inner: Mapping[str, Scene]) -> Scene:
    """The whole scene with its blocks showing these scenes, by their ids; the same one where they show them already."""
    if all(block.inner is inner[block.scene_id] for block in scene.blocks):
        return scene
    blocks = (b if b.inner is inner[b.scene_id] else replace(b, inner=inner[b.scene_id]) for b in scene.blocks)
    return whole(replace(scene, blocks=tuple(blocks)))


def with_inner_changed(outer: Sequence[Scene], inner: Scene) -> tuple[Scene, ...]:
    """The whole scenes in which one plays, the nearest first, as they are once it is changed."""
    now = {inner.id: inner}
    for scene in outer:
        shown = {block.scene_id: now.get(block.scene_id) or block.inner for block in scene.blocks}
        now[scene.id] = with_inner(scene, {scene_id: other for scene_id, other in shown.items() if other})
    return tuple(now[scene.id] for scene in outer)


def refuse_too_deep(scene: Scene, around: int) -> None:
    """Raise ``DomainError`` where a whole scene plays inside itself, or more scenes than may lie inside each other with those
    ``around`` it."""
    if scene.id in inside(scene):
        raise DomainError(f"“{scene.name}” would play inside itself.", "Choose a scene that this one does not play in.")
    if around + depth(scene) > DEEPEST:
        raise DomainError(f"More than {DEEPEST} scenes would lie inside each other.", "Bring in one further inside.")


def refuse_broken(outer: Iterable[Scene]) -> None:
    """Raise ``DomainError`` where a camera or prop of a whole scene goes by something that is not there any more."""
    for scene in outer:
        there = {thing.id for thing in scene.things}
        for camera in scene.cameras:
            owners = {subject.owner_id for subject, _ in camera.followed()} | {camera.steps_with}
            if owners - there - {None}:
                _refuse_broken(scene, camera.name)
        for piece in scene.pieces:
            if {hold.character_id for hold in piece.holds} - there - {None}:
                _refuse_broken(scene, piece.name)


def _refuse_broken(scene: Scene, name: str) -> None:
    raise DomainError(
        f"In “{scene.name}”, where this scene plays, “{name}” goes by what would not be there any more.",
        "Let it go by something else there first.",
    )


def with_surroundings(scene: Scene, outer: Scene, block_id: str) -> Scene:
    """A scene with what surrounds it where it plays as a block of ``outer``: as if that were a block of this one."""
    block = outer.block(block_id)
    ratio = scene.rate.frames_per_second / outer.rate.frames_per_second
    starts = scene.frames.first - (block.start - outer.frames.first) * ratio
    without = replace(outer, blocks=tuple(b for b in outer.blocks if b.id != block_id))
    around = Block(block_id, outer.name, outer.id, starts, block.ground.inverse(), (), whole(without))
    return whole(replace(scene, blocks=(*scene.blocks, around)))


def without_surroundings(scene: Scene, block_id: str) -> Scene:
    """The scene by itself again."""
    return whole(replace(scene, blocks=tuple(b for b in scene.blocks if b.id != block_id)))


def frames_of(block: Block, rate: Rate, frames: FrameRange) -> FrameRange:
    """The frames of a scene on which a block plays, as far as it is known."""
    first = ceil(block.start)
    return FrameRange(first, max(first, _coming(block, rate, frames).last))


def inside(scene: Scene) -> set[str]:
    """Ids of all scenes that play in a scene, however deep."""
    out: set[str] = set()
    for block in scene.blocks:
        out |= {block.scene_id} | (inside(block.inner) if block.inner else set())
    return out


def depth(scene: Scene) -> int:
    """How many scenes lie inside each other below this one."""
    return max((1 + (depth(block.inner) if block.inner else 0) for block in scene.blocks), default=0)


def _own(scene: Scene) -> Scene:
    def own(things: Iterable[_Comes]) -> tuple[_Comes, ...]:
        return tuple(thing for thing in things if thing.nested is None)

    return replace(scene, characters=own(scene.characters), pieces=own(scene.pieces), sounds=own(scene.sounds))


def _refuse_changes(before: Scene, after: Scene) -> None:
    """What comes with a block that is still there is as it was, or it is not for this scene to change."""
    names = {block.id: block.name for block in after.blocks if any(was.id == block.id for was in before.blocks)}

    def nested(scene: Scene) -> dict[str, Character | Piece | Sound]:
        things = (*scene.things, *scene.sounds)
        return {thing.id: thing for thing in things if thing.nested and thing.nested.block_id in names}

    was, now = nested(before), nested(after)
    for thing_id in dict.fromkeys((*was, *now)):
        old, new = was.get(thing_id), now.get(thing_id)
        if old is not new and old != new:
            thing = old or new
            assert thing is not None
            assert thing.nested is not None
            raise DomainError(
                f"{thing.name} comes with the scene “{names[thing.nested.block_id]}”.",
                "Change it there: “Open in place”.",
            )


def _named(thing: _Comes, taken: set[str]) -> _Comes:
    """Two of one name in one scene could not be told apart."""
    name = numbered(thing.name, taken)
    taken.add(name)
    return thing if name == thing.name else replace(thing, name=name)


def _coming(block: Block, rate: Rate, frames: FrameRange) -> _Coming:
    """What a block brings into a scene of that rate and those frames; worked out once for each."""
    if block.inner is None:
        return _Coming(last=ceil(block.start))
    made: dict[tuple[Rate, FrameRange], _Coming] = vars(block).setdefault("_coming", {})
    found = made.get((rate, frames))
    if found is None:
        found = made[rate, frames] = _worked_out(block, block.inner, rate, frames)
    return found


def _worked_out(block: Block, inner: Scene, rate: Rate, frames: FrameRange) -> _Coming:
    first, end = FrameTime(inner.frames.first), FrameTime(inner.frames.last + 1)
    ratio = rate.frames_per_second / inner.rate.frames_per_second
    ways: list[MovingTime] = [OnFirstFrames(retiming=Retiming(ratio, first, block.start - first))]
    for bend in block.bends:
        bending = BendingTime(replace(bend, first=bend.first + block.start, last=bend.last + block.start))
        late = bending.of(block.start) - block.start
        ways += [bending, OnFirstFrames(retiming=Retiming(by=-late))] if late else [bending]
    for way in ways:
        end = way.of(end)
    begins_on = ceil(block.start)
    last = max(begins_on, ceil(end) - 1)
    moments = frames.frames().astype(np.float64)
    for way in reversed(ways):
        moments = way.moments(moments)
    on = np.floor(moments + SAME_MOMENT).astype(np.int64)
    plays = (moments >= inner.frames.first - SAME_MOMENT) & (moments < inner.frames.last + 1 - SAME_MOMENT)

    def coming(things: Iterable[_Comes], moved: Callable[[MovingTime, _Comes], _Comes]) -> tuple[_Comes, ...]:
        out = []
        for thing in things:
            for way in ways:
                thing = moved(way, thing)
            ground = block.ground.under(ground_of(thing.nested))
            begins = begins_on if thing.nested is None else _moved_frame(thing.nested.begins, ways)
            nested = Nested(block.id, ground, begins)
            out.append(replace(thing, id=nested_id(block.id, thing.id), nested=nested))
        return tuple(out)

    def shown(showing: Showing) -> Showing:
        there = plays & showing.there_on(on)
        hidden = [(frames.first + a, frames.first + b) for a, b in runs(~there)]
        cameras = None if showing.cameras is None else ()  # those are not in this scene
        return Showing(tuple(hidden), cameras, showing.roam_only)

    # When they are there is asked of the other scene's own frames: edges that are moved come on frames of this one.
    characters = coming(map(_always, inner.characters), lambda way, thing: way.character(thing))
    pieces = coming(map(_always, inner.pieces), lambda way, thing: way.piece(thing))
    sounds = coming(inner.sounds, lambda way, sound: way.sound(sound))
    heard = (_heard(sound, begins_on, last, rate) for sound in sounds)
    return _Coming(
        tuple(replace(c, showing=shown(o.showing)) for c, o in zip(characters, inner.characters, strict=True)),
        tuple(
            replace(p, showing=shown(o.showing), holds=_held(p.holds, block))
            for p, o in zip(pieces, inner.pieces, strict=True)
        ),
        tuple(sound for sound in heard if sound is not None),
        last,
    )


def _always(thing: _Things) -> _Things:
    return replace(thing, showing=ALWAYS)


def _held(holds: tuple[Hold, ...], block: Block) -> tuple[Hold, ...]:
    """Who holds a prop, by the ids that they come with. What was taken before the block plays is taken as it begins."""
    came = (
        Hold(
            max(hold.first, ceil(block.start)), hold.character_id and nested_id(block.id, hold.character_id), hold.joint
        )
        for hold in holds
    )
    return tuple({hold.first: hold for hold in came}.values())


def _moved_frame(frame: int, ways: Iterable[MovingTime]) -> int:
    for way in ways:
        frame = way.frame(frame, "beginning of exposures")
    return frame


def _heard(sound: Sound, first: int, last: int, rate: Rate) -> Sound | None:
    """What is heard of a sound while a block plays; None where that is nothing."""
    late = max(0, first - sound.start)
    first_s = sound.first_s + late / float(rate)
    ends = first_s + (last + 1 - sound.start - late) / float(rate)
    last_s = ends if sound.last_s is None else min(ends, sound.last_s)
    return replace(sound, start=sound.start + late, first_s=first_s, last_s=last_s) if last_s > first_s else None
