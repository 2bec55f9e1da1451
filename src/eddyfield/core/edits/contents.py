"""Edits of what a scene holds: characters, props and set pieces come in, are named, read otherwise, doubled and taken out."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..cameras.placement import feet_of
from ..errors import DomainError
from ..performance.character import Character
from ..performance.performance import Performance
from ..performance.piece import Piece, PieceKind
from ..performance.placing import PLACING, placing
from ..performance.timing import Timing
from ..rig.rig import Rig
from ..rig.source import RigSource
from ..scene import Scene, Thing, numbered
from ..time.channels import Channel
from ..time.frames import FrameTime
from ..time.retiming import Retiming, retimed
from .edit import Edit, check_new_id
from .letting_go import going_by, let_go
from .names import usable_name
from .reach import Reach

ThingKind = Literal["character", "prop", "set piece"]


@dataclass(frozen=True, kw_only=True)
class BringIn(Edit):
    """Bring what a file holds into the scene, placed by ``values`` (x, y, z, turn), its time 0 on the frame ``start``. Raises
    ``DomainError`` for a file that cannot be what it is to be."""

    edit: Literal["bring in"] = "bring in"
    title: ClassVar[str] = "bring in"
    thing_id: str
    kind: ThingKind
    name: str
    source: RigSource
    start: int
    values: Mapping[str, float]

    def brings(self, scene: Scene) -> tuple[RigSource, ...]:
        return (self.source,)

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        check_fresh(scene, self.thing_id)
        rig = baker.rig_of(self.source)
        name = free_name(scene, usable_name(self.name, self.kind))
        placed = placing(**{n: Channel(checked_value(n, v)) for n, v in self.values.items()})
        performance = Performance(self.source, Timing(FrameTime(self.start)))
        if self.kind == "character":
            check_rigged(rig)
            character = Character(self.thing_id, name, performance, feet=feet_of(rig), placing=placed)
            return replace(scene, characters=(*scene.characters, character))
        if rig.mesh is None:
            raise DomainError("The file has nothing that can be seen: no triangles.", "Choose one with a mesh.")
        return replace(scene, pieces=(*scene.pieces, Piece(self.thing_id, name, performance, self.kind, placed)))


@dataclass(frozen=True, kw_only=True)
class RenameThing(Edit):
    """Give a character, prop or set piece another name."""

    edit: Literal["rename thing"] = "rename thing"
    title: ClassVar[str] = "rename"
    thing_id: str
    name: str

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        thing = scene.thing(self.thing_id)
        name = usable_name(self.name, _kind(thing))
        if any(other.name == name and other.id != thing.id for other in scene.things):
            raise DomainError(f"Something else is called “{name}”.", "Choose a name of its own.")
        return scene.with_thing(replace(thing, name=name))


@dataclass(frozen=True, kw_only=True)
class DoubleThing(Edit):
    """Bring in the same once more, placed beside the first and shown as it is; nobody holds it."""

    edit: Literal["double thing"] = "double thing"
    title: ClassVar[str] = "duplicate"
    thing_id: str
    new_id: str

    BESIDE_M: ClassVar[float] = 1.0

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        check_fresh(scene, self.new_id)
        thing = scene.thing(self.thing_id)
        x = thing.placing["x"]
        beside = replace(
            x, default=x.default + self.BESIDE_M, keys=tuple(replace(k, value=k.value + self.BESIDE_M) for k in x.keys)
        )
        new = replace(thing, id=self.new_id, name=free_name(scene, thing.name), placing=thing.placing.having(x=beside))
        if isinstance(new, Character):
            return replace(scene, characters=(*scene.characters, new))
        return replace(scene, pieces=(*scene.pieces, replace(new, holds=())))


@dataclass(frozen=True, kw_only=True)
class TakeOut(Edit):
    """Take a character, prop or set piece out of the scene. Where cameras or props go by it that is refused, unless
    ``lets_go``: then they first let go of it, and stay where they were on ``frame``."""

    edit: Literal["take out"] = "take out"
    title: ClassVar[str] = "take out"
    owners_by_scene: ClassVar[bool] = True
    thing_id: str
    frame: int
    lets_go: bool = False

    def reach(self, scene: Scene) -> Reach:
        return Reach(frozenset({self.thing_id, *going_by(scene, self.thing_id)}))

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        thing = scene.thing(self.thing_id)
        by_it = scene.going_by(thing.id)
        if not self.lets_go:
            refuse_used(by_it, thing.name)
        scene = let_go(scene, baker, thing.id, self.frame)
        return replace(
            scene,
            characters=tuple(c for c in scene.characters if c.id != thing.id),
            pieces=tuple(p for p in scene.pieces if p.id != thing.id),
        )


@dataclass(frozen=True, kw_only=True)
class ReplaceFile(Edit):
    """Let a prop or set piece be what another file holds: where it stands, when it is seen and who holds it stay. Raises
    ``DomainError`` where a camera goes by a joint that the file does not have."""

    edit: Literal["replace file"] = "replace file"
    title: ClassVar[str] = "replace by another file"
    piece_id: str
    source: RigSource

    def brings(self, scene: Scene) -> tuple[RigSource, ...]:
        return (self.source,)

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        piece = scene.piece(self.piece_id)
        rig = baker.rig_of(self.source)
        if rig.mesh is None:
            raise DomainError("The file has nothing that can be seen: no triangles.", "Choose one with a mesh.")
        missed = {
            s.joint for c in scene.cameras for s, _ in c.followed() if s.owner_id == piece.id and s.kind == "joint"
        }
        for joint in sorted(missed - {*rig.names, None}, key=str):
            raise DomainError(
                f"The file has no “{joint}”, which a camera goes by.", "Have it go by something else first."
            )
        return scene.with_thing(replace(piece, performance=replace(piece.performance, source=self.source)))


@dataclass(frozen=True, kw_only=True)
class ScaleThing(Edit):
    """Read a thing's file in another size: ``scale`` metres per unit of the file."""

    edit: Literal["scale thing"] = "scale thing"
    title: ClassVar[str] = "size"
    thing_id: str
    scale: float

    def brings(self, scene: Scene) -> tuple[RigSource, ...]:
        return (self._read(scene.thing(self.thing_id)).source,)

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        thing = scene.thing(self.thing_id)
        return scene.with_thing(replace(thing, performance=self._read(thing)))

    def _read(self, thing: Thing) -> Performance:
        return replace(thing.performance, source=replace(thing.performance.source, scale=self.scale))


@dataclass(frozen=True, kw_only=True)
class TimeThing(Edit):
    """Say how the motion of a thing's file runs: from which frame on, how long, which part of it, and how often. Where it only
    begins elsewhere, what its time was bent to comes along."""

    edit: Literal["time thing"] = "time thing"
    title: ClassVar[str] = "time of a motion"
    version: ClassVar[int] = 2  # in the first a motion began on a whole frame
    thing_id: str
    timing: Timing

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        thing = scene.thing(self.thing_id)
        was, timing = thing.performance.timing, self.timing
        if timing.curve is not None and timing.curve == was.curve and timing.start != was.start:
            later = Retiming(by=timing.start - was.start)
            timing = replace(timing, curve=retimed(timing.curve, range(len(timing.curve.keys)), later))
        return scene.with_thing(replace(thing, performance=replace(thing.performance, timing=timing)))


@dataclass(frozen=True, kw_only=True)
class SetPieceKind(Edit):
    """Make a set piece a prop, which hands may take, or the other way round."""

    edit: Literal["set piece kind"] = "set piece kind"
    title: ClassVar[str] = "prop or set piece"
    piece_id: str
    kind: PieceKind

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        piece = scene.piece(self.piece_id)
        if piece.holds and self.kind != "prop":
            raise DomainError(f"{piece.name} is held by hands.", "Take its hand-overs away first.")
        return scene.with_thing(replace(piece, kind=self.kind))


def check_fresh(scene: Scene, new_id: str) -> None:
    """Raise ``DomainError`` for what cannot be the id of something that comes into the scene."""
    check_new_id(new_id)
    if any(thing.id == new_id for thing in scene.things):
        raise DomainError("That is in the scene already.", "Give what comes in an id of its own.")


def check_rigged(rig: Rig) -> None:
    """Raise ``DomainError`` for what no character can be made of."""
    if not len(rig.joints):
        raise DomainError(
            "The file has no joints: no skin, and nothing is animated.", "Bring it in as a prop or a set piece."
        )


def checked_value(name: str, value: float) -> float:
    PLACING[name].check(value)
    return value


def refuse_used(by_it: tuple[str, ...], what: str) -> None:
    """Raise ``DomainError`` for something that is to go out and that anything, of these names, goes by."""
    if by_it:
        names = ", ".join(f"“{name}”" for name in by_it[:3]) + (f" and {len(by_it) - 3} more" if len(by_it) > 3 else "")
        goes = "go" if len(by_it) > 1 else "goes"
        raise DomainError(f"{names} {goes} by {what}.", "Let go of it first: “Let go and take out”.")


def free_name(scene: Scene, wanted: str) -> str:
    """The name, with a number behind it where something is called so already."""
    return numbered(wanted, {thing.name for thing in scene.things})


def _kind(thing: Thing) -> str:
    return "character" if isinstance(thing, Character) else thing.kind
