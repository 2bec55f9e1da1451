"""A scene at another rate: everything at its own time, or on its own frame, and what that costs."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from fractions import Fraction
from math import ceil
from typing import Literal, TypeVar, get_args

from .arrays import Floats
from .moving_time import MovingTime, number_of
from .performance.character import Character
from .performance.exposure import LONGEST_STEP, Stepping
from .performance.piece import Piece
from .performance.timing import Timing
from .scene import Block, Scene
from .time.channels import Channel
from .time.frames import FrameTime, Rate
from .time.keys import Handle
from .time.retiming import Retiming, retimed
from .time.timecode import timecode_at_rate

RateKeeps = Literal["times", "frames"]
RATE_KEEPS: tuple[RateKeeps, ...] = get_args(RateKeeps)
_Performs = TypeVar("_Performs", Character, Piece)


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
    moving = AtTimes(retiming=Retiming(ratio, FrameTime(scene.frames.first)))
    moved = replace(moving.scene(scene), rate=rate)
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
        takes = f"{number_of(ratio)} times as many frames" if ratio > 1 else f"1/{number_of(1 / ratio)} of the frames"
        costs.append(f"Sound lasts as long as it did: it takes {takes} from where it begins.")
    if scene.blocks:
        costs.append("A scene that plays inside lasts as long as it did.")
    changed = replace(
        scene,
        rate=rate,
        characters=tuple(c if c.nested else performed(c) for c in scene.characters),
        pieces=tuple(
            p if p.nested or p.performance.source.format == "stand-in" else performed(p) for p in scene.pieces
        ),
    )  # fmt: skip
    return RateChange(changed, tuple(costs))


@dataclass
class AtTimes(MovingTime):
    """Everything at its own time, counted at another rate, and moved by as many frames as the ``retiming`` says."""

    retiming: Retiming = field(kw_only=True)

    def of(self, time: FrameTime) -> FrameTime:
        return self.retiming.of(time)

    def moments(self, frames: Floats) -> Floats:
        about, by, stretch = (float(n) for n in (self.retiming.about, self.retiming.by, self.retiming.stretch))
        return about + (frames - by - about) / stretch

    def channel(self, channel: Channel) -> Channel:
        return retimed(channel, range(len(channel.keys)), self.retiming)

    def count(self, frames: int, kind: str) -> int:
        exact = frames * self.retiming.stretch
        snapped = int((exact + Fraction(1, 2)) // 1)
        if snapped != exact:
            self.beside[kind].append(snapped - exact)
        return snapped

    def block(self, block: Block) -> Block:
        stretch = self.retiming.stretch
        bends = (replace(bend, first=bend.first * stretch, last=bend.last * stretch) for bend in block.bends)
        return replace(super().block(block), bends=tuple(bends))

    def timing(self, timing: Timing) -> Timing:
        """Frames of a file are counted at the scene's rate."""
        ratio = self.retiming.stretch
        last = None if timing.last is None else timing.last * ratio
        start = self.of(timing.start)
        curve = timing.curve and _times_as_high(self.channel(timing.curve), ratio)
        return replace(timing, start=start, first=timing.first * ratio, last=last, curve=curve)

    def stepping(self, stepping: Stepping, who: str) -> Stepping:
        stepping = self.exposed(stepping)
        exact = stepping.step * self.retiming.stretch
        step = min(LONGEST_STEP, max(1, int((exact + Fraction(1, 2)) // 1)))
        if step != exact and stepping.starts is None:
            self.told.append(
                f"{who} holds each pose for {step} frames, where {number_of(exact)} would be as long as before."
                if step > 1
                else f"{who} shows a new pose on every frame, where one would last {number_of(exact)} of them."
            )
        return replace(stepping, step=step, offset=self.count(stepping.offset, "offset of exposures"))


class OnFirstFrames(AtTimes):
    """The same where each frame shows what there was on the frame in which its moment lies: what ruled from a frame on does so
    from the first frame at which that has come."""

    def rules_from(self, frame: int, kind: str) -> int:
        return ceil(self.of(FrameTime(frame)))


def _times_as_high(curve: Channel, ratio: Fraction) -> Channel:
    """A time curve whose values count frames of another rate."""

    def higher(handle: Handle | None) -> Handle | None:
        return handle and Handle(handle.frames, handle.value * float(ratio))

    keys = (
        replace(key, value=key.value * float(ratio), handle_in=higher(key.handle_in), handle_out=higher(key.handle_out))
        for key in curve.keys
    )
    return replace(curve, keys=tuple(keys))
