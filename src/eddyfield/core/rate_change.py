"""A scene at another rate: everything at its own time, or on its own frame, and what that costs."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import astuple, dataclass, field, replace
from fractions import Fraction
from typing import Literal, TypeVar, get_args

from .cameras.camera import Camera, LeftMount
from .cameras.lock_correction import CarriedOver
from .cameras.subjects import Target
from .cut.cut import Cut, CutEntry, Handles
from .cut.sound import with_marks
from .cut.transition import Transition
from .performance.character import Character
from .performance.exposure import LONGEST_STEP, Stepping
from .performance.holding import Hold
from .performance.piece import Piece
from .performance.showing import Showing
from .performance.timing import Timing
from .scene import Scene
from .time.channel_tables import Channels
from .time.channels import Channel, Handle
from .time.frames import FrameRange, FrameTime, Rate
from .time.retiming import Retiming, retimed
from .time.timecode import timecode_at_rate

RateKeeps = Literal["times", "frames"]
RATE_KEEPS: tuple[RateKeeps, ...] = get_args(RateKeeps)
_Performs = TypeVar("_Performs", Character, Piece)
_OnFrame = TypeVar("_OnFrame", CutEntry, Hold)


@dataclass(frozen=True)
class RateChange:
    """The scene at its new rate, and what is lost or moved by it, a sentence each."""

    scene: Scene
    costs: tuple[str, ...]


def at_rate(scene: Scene, rate: Rate, keeps: RateKeeps) -> RateChange:
    """``times``: every key and every pose stays at its exact time; what has to stand on a whole frame goes to the nearest.
    ``frames``: every key, cut and pose stays on its frame, and all runs faster or slower; sound, which cannot, lasts as long as
    it did."""
    ratio = rate.frames_per_second / scene.rate.frames_per_second
    if ratio == 1:
        return RateChange(scene, ())
    timecode = timecode_at_rate(scene.timecode, scene.rate, rate)
    costs = ["Time code leaves no numbers out any more."] if scene.timecode.drops and not timecode.drops else []
    scene = replace(scene, timecode=timecode)
    if keeps == "frames":
        on_frames = _on_its_frames(scene, rate, ratio)
        return RateChange(on_frames.scene, (*costs, *on_frames.costs))
    moving = _AtTimes(Retiming(ratio, FrameTime(scene.frames.first)))
    moved = moving.scene(scene, rate)
    return RateChange(moved, (*costs, *moving.costs()))


def _on_its_frames(scene: Scene, rate: Rate, ratio: Fraction) -> RateChange:
    """Files run by the clock: their time is stretched, so that each frame shows what it did."""

    def performed(thing: _Performs) -> _Performs:
        timing = thing.performance.timing
        last = None if timing.last is None else timing.last * ratio
        curve = timing.curve and _times_as_high(timing.curve, ratio)
        stretched = replace(timing, first=timing.first * ratio, last=last, stretch=timing.stretch / ratio, curve=curve)
        return replace(thing, performance=replace(thing.performance, timing=stretched))

    costs = []
    if scene.sounds:
        takes = f"{_number(ratio)} times as many frames" if ratio > 1 else f"1/{_number(1 / ratio)} of the frames"
        costs.append(f"Sound lasts as long as it did: it takes {takes} from where it begins.")
    changed = replace(
        scene,
        rate=rate,
        characters=tuple(map(performed, scene.characters)),
        pieces=tuple(performed(piece) if piece.performance.source.format != "stand-in" else piece for piece in scene.pieces),
    )  # fmt: skip
    return RateChange(changed, tuple(costs))


@dataclass
class _AtTimes:
    """Moves things in time, and writes down what does not come out even."""

    retiming: Retiming
    beside: dict[str, list[Fraction]] = field(default_factory=lambda: defaultdict(list))
    """How many frames each thing of a kind was moved to stand on a frame, where that is not 0."""
    lost: dict[str, int] = field(default_factory=lambda: defaultdict(int))
    told: list[str] = field(default_factory=list)

    def costs(self) -> tuple[str, ...]:
        lost = (
            f"{_counted(count, kind)} lost: another stands on the same frame then." for kind, count in self.lost.items()
        )
        moved = (
            f"{_counted(len(by), kind)} moved to the nearest frame, by {_number(max(map(abs, by)))} of one at most."
            for kind, by in self.beside.items()
        )  # fmt: skip
        return (*self.told, *lost, *moved)

    def frame(self, frame: int, kind: str) -> int:
        """The whole frame nearest to where a frame comes; of two equally near the later one."""
        exact = self.retiming.of(FrameTime(frame))
        snapped = int((exact + Fraction(1, 2)) // 1)
        if snapped != exact:
            self.beside[kind].append(snapped - exact)
        return snapped

    def count(self, frames: int, kind: str) -> int:
        """A number of frames."""
        exact = frames * self.retiming.stretch
        snapped = int((exact + Fraction(1, 2)) // 1)
        if snapped != exact:
            self.beside[kind].append(snapped - exact)
        return snapped

    def scene(self, scene: Scene, rate: Rate) -> Scene:
        frames = FrameRange(
            scene.frames.first, scene.frames.first + max(1, self.count(scene.frames.count, "end of the scene")) - 1
        )
        marks = tuple(replace(mark, frame=self.frame(mark.frame, "mark")) for mark in scene.marks)
        kept = with_marks((), marks)
        if len(kept) < len(marks):
            self.lost["mark"] += len(marks) - len(kept)
        return replace(
            scene,
            rate=rate,
            frames=frames,
            cut=self._cut(scene.cut),
            other_cuts=tuple(replace(other, cut=self._cut(other.cut)) for other in scene.other_cuts),
            cameras=tuple(map(self._camera, scene.cameras)),
            characters=tuple(map(self._character, scene.characters)),
            pieces=tuple(map(self._piece, scene.pieces)),
            sounds=tuple(replace(s, start=self.frame(s.start, "beginning of a sound")) for s in scene.sounds),
            marks=kept,
        )  # fmt: skip

    def _cut(self, cut: Cut) -> Cut:
        return Cut(self._one_a_frame(map(self._entry, cut.entries), "shot"))

    def _entry(self, entry: CutEntry) -> CutEntry:
        handles = Handles(*(self.count(frames, "handle of a shot") for frames in astuple(entry.handles)))
        first, transition = self.frame(entry.first, "cut"), self._transition(entry.transition)
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

    def _channel(self, channel: Channel) -> Channel:
        return retimed(channel, range(len(channel.keys)), self.retiming)

    def _channels(self, channels: Channels) -> Channels:
        return channels.having(**{name: self._channel(channel) for name, channel in channels.items() if channel.keys})

    def _targets(self, targets: tuple[Target, ...]) -> tuple[Target, ...]:
        def moved(frame: int | None) -> int | None:
            return None if frame is None else self.frame(frame, "hand-over of an aim or a focus")

        return tuple(replace(target, first=moved(target.first), last=moved(target.last)) for target in targets)

    def _camera(self, camera: Camera) -> Camera:
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
        channels = tuple((name, self._channel(channel)) for name, channel in left.channels)
        return replace(left, channels=channels, carried_over=self._carried_over(left.carried_over))

    def _carried_over(self, over: CarriedOver | None) -> CarriedOver | None:
        return over and replace(over, frame=self.frame(over.frame, "change of a mount"))

    def _character(self, character: Character) -> Character:
        return replace(self._performed(character), stepping=self._stepping(character))

    def _piece(self, piece: Piece) -> Piece:
        holds = tuple(replace(hold, first=self.frame(hold.first, "hand-over of a prop")) for hold in piece.holds)
        return replace(self._performed(piece), holds=self._one_a_frame(holds, "hand-over of a prop"))

    def _performed(self, thing: _Performs) -> _Performs:
        timing = self._timing(thing.performance.timing)
        return replace(
            thing,
            performance=replace(thing.performance, timing=timing),
            placing=self._channels(thing.placing),
            showing=self._showing(thing.showing),
        )

    def _timing(self, timing: Timing) -> Timing:
        """Frames of a file are counted at the scene's rate."""
        ratio = self.retiming.stretch
        last = None if timing.last is None else timing.last * ratio
        start = self.frame(timing.start, "start of a performance")
        curve = timing.curve and _times_as_high(self._channel(timing.curve), ratio)
        return replace(timing, start=start, first=timing.first * ratio, last=last, curve=curve)

    def _stepping(self, character: Character) -> Stepping:
        stepping = character.stepping
        exact = stepping.step * self.retiming.stretch
        step = min(LONGEST_STEP, max(1, int((exact + Fraction(1, 2)) // 1)))
        if step != exact:
            self.told.append(
                f"{character.name} holds each pose for {step} frames, where {_number(exact)} would be as long as before."
                if step > 1
                else f"{character.name} shows a new pose on every frame, where one would last {_number(exact)} of them."
            )
        return replace(stepping, step=step, offset=self.count(stepping.offset, "offset of exposures"))

    def _showing(self, showing: Showing) -> Showing:
        spans: list[tuple[int, int]] = []
        for first, last in showing.hidden:
            begins, ends = (self.frame(at, "edge of a hidden stretch") for at in (first, last + 1))
            if ends > begins and (not spans or begins > spans[-1][1]):
                spans.append((begins, ends - 1))
            else:
                self.lost["hidden stretch"] += 1
        return replace(showing, hidden=tuple(spans))


def _times_as_high(curve: Channel, ratio: Fraction) -> Channel:
    """A time curve whose values count frames of another rate."""

    def higher(handle: Handle | None) -> Handle | None:
        return handle and Handle(handle.frames, handle.value * float(ratio))

    keys = (
        replace(key, value=key.value * float(ratio), handle_in=higher(key.handle_in), handle_out=higher(key.handle_out))
        for key in curve.keys
    )
    return replace(curve, keys=tuple(keys))


def _number(value: Fraction) -> str:
    return f"{float(value):.3g}"


def _counted(count: int, kind: str) -> str:
    first, *rest = kind.split(" ")
    many = " ".join([first if first.endswith("s") else f"{first}s", *rest])
    return f"1 {kind} is" if count == 1 else f"{count} {many} are"
