"""Edits that slow, speed up, freeze or turn round time over a stretch: of a performance, of a camera, of the whole scene."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..errors import DomainError
from ..performance.timing import bent
from ..scene import Scene
from ..scene_bend import BendingTime
from ..time.bending import Bend
from .cameras import refuse_locked_channels
from .edit import Edit
from .reach import POSES, Reach, Stretch


@dataclass(frozen=True, kw_only=True)
class BendTime(Edit):
    """Let a thing's time run ``speed`` times as fast from one frame to another: slower, faster, frozen (0) or backwards; after
    that it goes on from where it is by then."""

    edit: Literal["bend time"] = "bend time"
    title: ClassVar[str] = "time of a performance"
    thing_id: str
    first: int
    last: int
    speed: float

    def reach(self, scene: Scene) -> Reach:
        return Reach(frozenset({self.thing_id}), stretch=Stretch(frozenset({POSES}), self.first))

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        bend = Bend.at(self.first, self.last, self.speed)
        thing = scene.thing(self.thing_id)
        timing = bent(thing.performance.timing, bend)
        return scene.with_thing(replace(thing, performance=replace(thing.performance, timing=timing)))


@dataclass(frozen=True, kw_only=True)
class BendCameraTime(Edit):
    """Let all that is keyed on a camera run ``speed`` times as fast from one frame to another, and go on from there. What it
    follows keeps its own time."""

    edit: Literal["bend camera time"] = "bend camera time"
    title: ClassVar[str] = "time of a camera"
    camera_id: str
    first: int
    last: int
    speed: float

    def reach(self, scene: Scene) -> Reach:
        names = frozenset(scene.camera(self.camera_id).channels)
        return Reach(frozenset({self.camera_id}), stretch=Stretch(names, self.first))

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        bend = Bend.at(self.first, self.last, self.speed)
        camera = scene.camera(self.camera_id)
        names = {name for name, channel in camera.channels.items() if channel.keys}
        if not names:
            raise DomainError(f"“{camera.name}” has no keys whose time could run otherwise.", "Key it first (K).")
        refuse_locked_channels(camera, names, "changed")
        return scene.with_camera(BendingTime(bend).camera(camera))


@dataclass(frozen=True, kw_only=True)
class BendSceneTime(Edit):
    """Let everything run ``speed`` times as fast from one frame to another: performances, cameras, what is held and hidden. Cuts,
    marks and sounds come when what they go with comes, and the scene ends when it has ended. Backwards (below 0) all goes back
    to where it has been, and comes once more after that; sound is heard forwards alone."""

    edit: Literal["bend scene time"] = "bend scene time"
    title: ClassVar[str] = "time of the scene"
    first: int
    last: int
    speed: float

    def reach(self, scene: Scene) -> Reach:
        return Reach(of_scene=frozenset({"frames", "cut", "other_cuts", "marks", "accepted"}), all_owners=True)

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        bend = Bend.at(self.first, self.last, self.speed)
        if not (scene.frames.first <= bend.first and bend.last <= scene.frames.last):
            raise DomainError("The stretch lies outside the scene.", "Choose frames of it.")
        if bend.reached < scene.frames.first:
            raise DomainError(
                f"It would run back to {float(bend.reached):g}, before the scene's first frame.",
                "Choose a shorter stretch, or a slower speed.",
            )
        return BendingTime(bend).scene(scene)
