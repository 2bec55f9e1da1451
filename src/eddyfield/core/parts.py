"""Parts: what is computed once and kept, under a key that is made of exactly what it is computed from."""

from __future__ import annotations

from collections.abc import Callable, MutableMapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any, Generic, TypeVar

from .cameras.camera import Camera
from .content import content_key
from .cut.cut import Cut
from .readings.limits import Limits
from .rig.rig import Rig
from .rig.source import RigSource
from .scene import Scene

Value = TypeVar("Value")
Memory = MutableMapping[str, Any]


@dataclass(frozen=True, eq=False)
class Part(Generic[Value]):
    """``compute`` of ``inputs``, and of nothing else; it is a function of a module, so that a part can be sent elsewhere.

    Inputs that are parts are handed over as their values, ``RigOf`` as the rig, ``LookOf`` as the camera without what does not
    decide its picture, ``BakerOf`` as what bakes that scene; in tuples too. All others are plain data. What is not ``kept`` is
    put together anew by every resolver.
    """

    kind: str
    compute: Callable[..., Value]
    inputs: tuple[Any, ...]
    kept: bool = True

    @cached_property
    def key(self) -> str:
        """The same for the same inputs, and for no others."""
        return content_key(self.kind, *map(_content, self.inputs))


@dataclass(frozen=True)
class RigOf:
    """A rig among the inputs of a part."""

    source: RigSource


@dataclass(frozen=True, eq=False)
class LookOf:
    """A camera among the inputs of a part, by all that decides its picture."""

    camera: Camera


@dataclass(frozen=True, eq=False)
class BakerOf:
    """A scene of a production with those limits among the inputs of a part that asks for many others of its parts: all of the
    scene counts."""

    scene: Scene
    limits: Limits


class Resolver:
    """Works parts out; ``memory`` is shared between resolvers and may forget at any time. ``baker_of`` makes what bakes a
    scene, where parts ask for that."""

    def __init__(
        self, rig_of: Callable[[RigSource], Rig], memory: Memory, baker_of: Callable[[BakerOf], Any] | None = None
    ) -> None:
        self.rig_of = rig_of
        self.memory = memory
        self.baker_of = baker_of
        self._unkept: dict[str, Any] = {}

    def value(self, part: Part[Value]) -> Value:
        """The value of a part: as it is remembered, else computed."""
        memory = self.memory if part.kept else self._unkept
        value: Value | None = memory.get(part.key)
        if value is None:
            value = memory[part.key] = part.compute(*map(self._handed, part.inputs))
        return value

    def _handed(self, item: Any) -> Any:
        if isinstance(item, Part):
            return self.value(item)
        if isinstance(item, RigOf):
            return self.rig_of(item.source)
        if isinstance(item, LookOf):
            return item.camera.look
        if isinstance(item, BakerOf):
            if self.baker_of is None:
                raise TypeError("This resolver bakes no scenes.")
            return self.baker_of(item)
        if type(item) is tuple:
            return tuple(map(self._handed, item))
        return item


def _content(item: Any) -> Any:
    if isinstance(item, Part):
        return item.key
    if isinstance(item, LookOf):
        return item.camera.looks_by
    if isinstance(item, Cut):
        return item.content
    if isinstance(item, BakerOf):
        s = item.scene
        cameras = tuple(camera.shown_by for camera in s.cameras)
        cut = s.cut.told_by
        return (
            s.id,
            s.name,
            s.rate,
            s.frames,
            s.delivery,
            s.characters,
            s.pieces,
            cut,
            s.marks,
            s.room,
            cameras,
            item.limits.at(s.strictness),
        )
    if type(item) is tuple:
        return tuple(map(_content, item))
    return item
