"""All that a scene has at other times: what comes where is for each way of moving time to say."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import astuple, dataclass, field, replace
from fractions import Fraction
from typing import TypeVar

from .acceptance import Acceptance
from .arrays import Floats
from .cameras.camera import Camera, LeftMount
from .cameras.lock_correction import CarriedOver
from .cameras.subjects import Target
from .cut.cut import Cut, CutEntry, Handles
from .cut.sound import Mark, Sound, with_marks
from .cut.transition import Transition
from .performance.character import Character
from .performance.exposure import Stepping
from .performance.holding import Hold
from .performance.piece import Piece
from .performance.showing import Showing
from .performance.timing import Timing
from .scene import Block, Scene
from .time.channel_tables import Channels
from .time.channels import Channel
from .time.frames import FrameRange, FrameTime

_Performs = TypeVar("_Performs", Character, Piece)
_OnFrame = TypeVar("_OnFrame", CutEntry, Hold)


@dataclass
class MovingTime(ABC):
    """Moves all that a scene has in time, and writes down what does not come out even."""

    beside: dict[str, list[Fraction]] = field(default_factory=lambda: defaultdict(list))
    """How many frames each thing of a kind was moved to stand on a frame, where that is not 0."""
    lost: dict[str, int] = field(default_factory=lambda: defaultdict(int))
    told: list[str] = field(default_factory=list)

    def costs(self) -> tuple[str, ...]:
        lost = (
            f"{_counted(count, kind)} lost: another stands on the same frame then." for kind, count in self.lost.items()
        )
        moved = (
            f"{_counted(len(by), kind)} moved to the nearest frame, by {number_of(max(map(abs, by)))} of one at most."
            for kind, by in self.beside.items()
        )  # fmt: skip
        return (*self.told, *lost, *moved)

    @abstractmethod
    def of(self, time: FrameTime) -> FrameTime:
        """Where a moment comes."""

    @abstractmethod
    def moments(self, frames: Floats) -> Floats:
        """What comes on frames, as times from before, of the same shape."""

    @abstractmethod
    def channel(self, channel: Channel) -> Channel:
        """A channel with what it does at the times where that comes."""

    @abstractmethod
    def timing(self, timing: Timing) -> Timing:
        """How the time of a performance runs then."""

    def count(self, frames: int, kind: str) -> int:
        """A number of frames that are counted and not placed: a handle, the length of a transition."""
        return frames

    def stepping(self, stepping: Stepping, who: str) -> Stepping:
        """How somebody, or a part of somebody, is exposed then."""
        return self.exposed(stepping)

    def exposed(self, stepping: Stepping) -> Stepping:
        """Exposures of its own on the frames where they come; of several on one frame one."""
        if stepping.starts is None:
            return stepping
        moved = sorted({self.rules_from(start, "exposure") for start in stepping.starts})
        if len(moved) < len(stepping.starts):
            self.lost["exposure"] += len(stepping.starts) - len(moved)
        return replace(stepping, starts=tuple(moved))

    def frame(self, frame: int, kind: str) -> int:
        """The whole frame nearest to where a frame comes; of two equally near the later one."""
        exact = self.of(FrameTime(frame))
        snapped = int((exact + Fraction(1, 2)) // 1)
        if snapped != exact:
            self.beside[kind].append(snapped - exact)
        return snapped

    def rules_from(self, frame: int, kind: str) -> int:
        """The whole frame from which on something rules that ruled from a frame on."""
        return self.frame(frame, kind)

    def scene(self, scene: Scene) -> Scene:
        end = self.rules_from(scene.frames.last + 1, "end of the scene")
        frames = FrameRange(scene.frames.first, max(scene.frames.first, end - 1))
        marks = self.marks(scene.marks)
        kept = with_marks((), tuple(marks))
        if len(kept) < len(marks):
            self.lost["mark"] += len(marks) - len(kept)
        return replace(
            scene,
            frames=frames,
            cut=self.cut(scene.cut),
            other_cuts=tuple(replace(other, cut=self.cut(other.cut)) for other in scene.other_cuts),
            cameras=tuple(map(self.camera, scene.cameras)),
            characters=tuple(c if c.nested else self.character(c) for c in scene.characters),
            pieces=tuple(p if p.nested else self.piece(p) for p in scene.pieces),
            sounds=tuple(s if s.nested else self.sound(s) for s in scene.sounds),
            blocks=tuple(map(self.block, scene.blocks)),
            marks=kept,
            accepted=tuple(map(self._acceptance, scene.accepted)),
        )  # fmt: skip

    def marks(self, marks: Iterable[Mark]) -> list[Mark]:
        return [replace(mark, frame=self.frame(mark.frame, "mark")) for mark in marks]

    def _acceptance(self, accepted: Acceptance) -> Acceptance:
        first, last = (self.frame(at, "accepted reading") for at in (accepted.first, accepted.last))
        return replace(accepted, first=first, last=last)

    def cut(self, cut: Cut) -> Cut:
        return Cut(self._one_a_frame(map(self._entry, cut.entries), "shot"))

    def _entry(self, entry: CutEntry) -> CutEntry:
        handles = Handles(*(self.count(frames, "handle of a shot") for frames in astuple(entry.handles)))
        first, transition = self.rules_from(entry.first, "cut"), self._transition(entry.transition)
        return replace(entry, first=first, transition=transition, handles=handles)

    def _transition(self, transition: Transition) -> Transition:
        if transition.kind == "cut":
            return transition
        frames = max(1, self.count(transition.frames, "length of a transition"))
        before = min(frames, self.count(transition.before, "length of a transition"))
        return replace(transition, frames=frames, before=before)

    def _one_a_frame(self, items: Iterable[_OnFrame], kind: str) -> tuple[_OnFrame, ...]:
        """Of several on one frame the last, which would have ruled longest."""
        items = tuple(items)
        kept = {item.first: item for item in items}
        if len(kept) < len(items):
            self.lost[kind] += len(items) - len(kept)
        return tuple(kept.values())

    def _channels(self, channels: Channels) -> Channels:
        return channels.having(**{name: self.channel(channel) for name, channel in channels.items() if channel.keys})

    def _targets(self, targets: tuple[Target, ...]) -> tuple[Target, ...]:
        def moved(frame: int | None) -> int | None:
            return None if frame is None else self.frame(frame, "hand-over of an aim or a focus")

        return tuple(replace(target, first=moved(target.first), last=moved(target.last)) for target in targets)

    def camera(self, camera: Camera) -> Camera:
        aim, focus, framing = camera.aim, camera.focus, camera.framing
        return replace(
            camera,
            channels=self._channels(camera.channels),
            aim=aim and replace(aim, targets=self._targets(aim.targets)),
            focus=focus and replace(focus, targets=self._targets(focus.targets)),
            framing=framing and replace(framing, carried_over=self._carried_over(framing.carried_over)),
            left=tuple(map(self._left, camera.left)),
        )

    def _left(self, left: LeftMount) -> LeftMount:
        channels = tuple((name, self.channel(channel)) for name, channel in left.channels)
        return replace(left, channels=channels, carried_over=self._carried_over(left.carried_over))

    def _carried_over(self, over: CarriedOver | None) -> CarriedOver | None:
        return over and replace(over, frame=self.frame(over.frame, "change of a mount"))

    def block(self, block: Block) -> Block:
        """A scene inside it comes when it comes; what is in it has its own time."""
        return replace(block, start=self.of(block.start))

    def sound(self, sound: Sound) -> Sound:
        return replace(sound, start=self.frame(sound.start, "beginning of a sound"))

    def character(self, character: Character) -> Character:
        ride = character.ride
        parts = (replace(p, stepping=self.stepping(p.stepping, p.joint)) for p in character.parts)
        return replace(
            self._performed(character),
            stepping=self.stepping(character.stepping, character.name),
            ride=replace(ride, weights=self.channel(ride.weights)) if ride.weights else ride,
            parts=tuple(parts),
        )

    def piece(self, piece: Piece) -> Piece:
        holds = tuple(replace(hold, first=self.rules_from(hold.first, "hand-over of a prop")) for hold in piece.holds)
        stepping = piece.stepping and self.stepping(piece.stepping, piece.name)
        held = self._one_a_frame(holds, "hand-over of a prop")
        return replace(self._performed(piece), holds=held, stepping=stepping)

    def _performed(self, thing: _Performs) -> _Performs:
        timing = thing.performance.timing
        if thing.performance.source.format != "stand-in":  # those have no time of their own
            timing = self.timing(timing)
        return replace(
            thing,
            performance=replace(thing.performance, timing=timing),
            placing=self._channels(thing.placing),
            showing=self.showing(thing.showing),
        )

    def showing(self, showing: Showing) -> Showing:
        spans: list[tuple[int, int]] = []
        for first, last in showing.hidden:
            begins, ends = (self.rules_from(at, "edge of a hidden stretch") for at in (first, last + 1))
            if ends > begins and (not spans or begins > spans[-1][1]):
                spans.append((begins, ends - 1))
            else:
                self.lost["hidden stretch"] += 1
        return replace(showing, hidden=tuple(spans))


def number_of(value: Fraction) -> str:
    return f"{float(value):.3g}"


def _counted(count: int, kind: str) -> str:
    first, *rest = kind.split(" ")
    many = " ".join([first if first.endswith("s") else f"{first}s", *rest])
    return f"1 {kind} is" if count == 1 else f"{count} {many} are"
