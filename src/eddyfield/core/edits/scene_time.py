"""Edits of a scene's time as a whole: its rate, and its time code."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..rate_change import RateKeeps, at_rate
from ..scene import Scene
from ..time.frames import Rate
from ..time.timecode import timecode_from_text
from .edit import Edit
from .reach import Reach


@dataclass(frozen=True, kw_only=True)
class SetRate(Edit):
    """Give the scene another rate, with everything at its exact time (``times``) or on its own frame (``frames``)."""

    edit: Literal["set rate"] = "set rate"
    title: ClassVar[str] = "rate of the scene"
    rate: str
    keeps: RateKeeps = "times"

    def reach(self, scene: Scene) -> Reach:
        return Reach(of_scene=frozenset({"rate", "frames", "cut", "other_cuts", "marks", "accepted"}), all_owners=True)

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        return at_rate(scene, Rate.parse(self.rate), self.keeps).scene


@dataclass(frozen=True, kw_only=True)
class SetTimecode(Edit):
    """Say which time code the scene's first frame has; with ``;`` before the frames it is drop-frame."""

    edit: Literal["set timecode"] = "set timecode"
    title: ClassVar[str] = "time code"
    of_scene: ClassVar[tuple[str, ...]] = ("timecode",)
    text: str

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        timecode = timecode_from_text(self.text, scene.rate)
        return scene if timecode == scene.timecode else replace(scene, timecode=timecode)
