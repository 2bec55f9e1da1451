"""Edits of where things stand, when they are there and for whom, and who holds props."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..errors import DomainError
from ..performance.holding import Hold, in_a_hand
from ..performance.piece import Piece
from ..performance.placing import PLACING, is_keyed
from ..performance.showing import Showing
from ..scene import Scene, Thing
from ..time.channels import Channel, new_key
from ..time.frames import FrameTime
from .contents import checked_value
from .edit import Edit


@dataclass(frozen=True, kw_only=True)
class PlaceThing(Edit):
    """Put a character, prop or set piece somewhere (x, y, z, turn): for good, or by a key on ``time`` where it has keys."""

    edit: Literal["place thing"] = "place thing"
    title: ClassVar[str] = "place"
    thing_id: str
    values: Mapping[str, float]
    time: FrameTime

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        thing = scene.thing(self.thing_id)
        _refuse_held(scene, thing, self.time)
        moved = {
            n: _moved(thing.placing[PLACING[n].name], checked_value(n, v), self.time) for n, v in self.values.items()
        }
        return scene.with_thing(replace(thing, placing=thing.placing.having(**moved)))


def _moved(channel: Channel, value: float, time: FrameTime) -> Channel:
    return new_key(channel, time, value) if channel.keys else Channel(value)


@dataclass(frozen=True, kw_only=True)
class KeyThing(Edit):
    """Set a key on where a thing stands at ``time``."""

    edit: Literal["key thing"] = "key thing"
    title: ClassVar[str] = "key of a place"
    thing_id: str
    time: FrameTime

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        thing = scene.thing(self.thing_id)
        _refuse_held(scene, thing, self.time)
        at = float(self.time)
        keyed = {n: new_key(c, self.time, float(c.at(at))) for n, c in thing.placing.items()}
        return scene.with_thing(replace(thing, placing=thing.placing.having(**keyed)))


@dataclass(frozen=True, kw_only=True)
class DeleteThingKeys(Edit):
    """Take away a thing's keys at ``time``, or all of them (None): then it stands where it was on ``frame``."""

    edit: Literal["delete thing keys"] = "delete thing keys"
    title: ClassVar[str] = "delete keys of a place"
    thing_id: str
    time: FrameTime | None
    frame: int

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        thing = scene.thing(self.thing_id)
        if not is_keyed(thing.placing):
            raise DomainError(f"{thing.name} has no keys.", "There is nothing to delete.")
        left = {}
        for name, channel in thing.placing.items():
            keys = () if self.time is None else tuple(k for k in channel.keys if k.time != self.time)
            default = channel.default if keys else float(channel.at(float(self.frame)))
            left[name] = replace(channel, default=default, keys=keys)
        if self.time is not None and thing.placing.having(**left) == thing.placing:
            raise DomainError(f"{thing.name} has no key on frame {self.time}.", "Go to one of its keys first.")
        return scene.with_thing(replace(thing, placing=thing.placing.having(**left)))


@dataclass(frozen=True, kw_only=True)
class ShowThing(Edit):
    """Say when a thing is there, and for which cameras. Raises ``DomainError`` for a camera that is not in the scene."""

    edit: Literal["show thing"] = "show thing"
    title: ClassVar[str] = "hide and show"
    thing_id: str
    showing: Showing

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        for camera_id in self.showing.cameras or ():
            scene.camera(camera_id)
        return scene.with_thing(replace(scene.thing(self.thing_id), showing=self.showing))


@dataclass(frozen=True, kw_only=True)
class HoldProp(Edit):
    """Say who holds a prop, from which frame on. Raises ``DomainError`` for a joint that is not there."""

    edit: Literal["hold prop"] = "hold prop"
    title: ClassVar[str] = "who holds a prop"
    piece_id: str
    holds: tuple[Hold, ...]

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        for hold in self.holds:
            if hold.character_id and hold.joint:
                baker.rig(scene.character(hold.character_id)).find(hold.joint)
        return scene.with_thing(replace(scene.piece(self.piece_id), holds=self.holds))


def _refuse_held(scene: Scene, thing: Thing, time: FrameTime) -> None:
    if not isinstance(thing, Piece) or not thing.holds:
        return
    row = int(max(scene.frames.first, min(scene.frames.last, round(time)))) - scene.frames.first
    if in_a_hand(thing.holds, scene.frames)[row] or time >= thing.holds[0].first:
        raise DomainError(
            f"{thing.name} goes by hands from frame {thing.holds[0].first} on.", "Place it on a frame before that."
        )
