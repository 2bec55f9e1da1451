"""Edits of the cut: which camera is shown from which frame on, and what is said of each shot."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..cut import cutting
from ..cut.cut import Cut, CutEntry, Handles, ShotState
from ..cut.shots import shots_of
from ..cut.transition import Transition
from ..errors import DomainError
from ..scene import Scene
from ..time.frames import FrameTime
from .camera_keys import ChosenKeys, RetimeCameraKeys
from .edit import Edit
from .reach import Reach

LONGEST_NAME = 120
MOST_TAKES = 2000


@dataclass(frozen=True, kw_only=True)
class CutTo(Edit):
    """From a frame on show this camera, until the next shot begins."""

    edit: Literal["cut to"] = "cut to"
    title: ClassVar[str] = "cut"
    of_scene: ClassVar[tuple[str, ...]] = ("cut",)
    frame: int
    camera_id: str

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.camera_id)
        cut = cutting.cut_to(scene.cut, self.frame, camera.id, scene.frames)
        if cut == scene.cut:
            raise DomainError(
                f"The cut shows {camera.name} on {self.frame} already.", "Choose another camera or frame."
            )
        return replace(scene, cut=cut)


@dataclass(frozen=True, kw_only=True)
class SplitShot(Edit):
    """Begin a new shot of the same camera on a frame."""

    edit: Literal["split shot"] = "split shot"
    title: ClassVar[str] = "split the shot"
    of_scene: ClassVar[tuple[str, ...]] = ("cut",)
    frame: int

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        return replace(scene, cut=cutting.split(scene.cut, self.frame, scene.frames))


@dataclass(frozen=True, kw_only=True)
class JoinShots(Edit):
    """Take the cut on ``first`` away: the shot before goes on."""

    edit: Literal["join shots"] = "join shots"
    title: ClassVar[str] = "join two shots"
    of_scene: ClassVar[tuple[str, ...]] = ("cut",)
    first: int

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        return replace(scene, cut=cutting.joined(scene.cut, self.first))


@dataclass(frozen=True, kw_only=True)
class RollCut(Edit):
    """Move the cut on ``first`` to another frame; both its neighbours make room, as far as they can."""

    edit: Literal["roll cut"] = "roll cut"
    title: ClassVar[str] = "move the cut"
    of_scene: ClassVar[tuple[str, ...]] = ("cut",)
    first: int
    to: int

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        return _recut(scene, cutting.rolled(scene.cut, self.first, self.to, scene.frames))


@dataclass(frozen=True, kw_only=True)
class SlideShot(Edit):
    """Move a whole shot between its neighbours by some frames, as far as they have room."""

    edit: Literal["slide shot"] = "slide shot"
    title: ClassVar[str] = "slide the shot"
    of_scene: ClassVar[tuple[str, ...]] = ("cut",)
    first: int
    by: int

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        return _recut(scene, cutting.slid(scene.cut, self.first, self.by, scene.frames))


@dataclass(frozen=True, kw_only=True)
class SlipShot(Edit):
    """Let the move of a shot's camera come ``by`` frames later under it; its frames, and all other shots, stay."""

    edit: Literal["slip shot"] = "slip shot"
    title: ClassVar[str] = "slip the shot"
    owners_by_scene: ClassVar[bool] = True
    first: int
    by: FrameTime

    def reach(self, scene: Scene) -> Reach:
        return Reach(frozenset({s.camera_id for s in shots_of(scene.cut, scene.frames) if s.begins == self.first}))

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        shots = shots_of(scene.cut, scene.frames)
        shot = next((shot for shot in shots if shot.begins == self.first), None)
        if shot is None:
            raise DomainError(f"No shot begins on {self.first}.", "Choose one in the Sheet or in the list of shots.")
        if shot.locked:
            raise DomainError(f"Shot {shot.title} is locked.", "Unlock it in the list of shots.")
        camera = scene.camera(shot.camera_id)
        others = [other.title for other in shots if other.camera_id == camera.id and other is not shot]
        if others:
            raise DomainError(
                f"“{camera.name}” shows shot {others[0]} as well, which would slip too.",
                "Give one of them a copy of the camera.",
            )
        if not camera.keyed:
            raise DomainError(f"“{camera.name}” has no keys: there is no move to slip.", "Key it first (K).")
        return RetimeCameraKeys(keys=ChosenKeys(camera.id), by=self.by).apply(scene)


@dataclass(frozen=True, kw_only=True)
class SwapShotCameras(Edit):
    """Let two shots show each other's camera."""

    edit: Literal["swap shot cameras"] = "swap shot cameras"
    title: ClassVar[str] = "swap the cameras of two shots"
    of_scene: ClassVar[tuple[str, ...]] = ("cut",)
    first: int
    other: int

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        return _recut(scene, cutting.cameras_swapped(scene.cut, self.first, self.other))


@dataclass(frozen=True, kw_only=True)
class SetShot(Edit):
    """Say of the shot that begins on ``first`` what it is called, shows and is; what is None stays. An empty name is the one
    that its number gives it."""

    edit: Literal["set shot"] = "set shot"
    title: ClassVar[str] = "shot"
    of_scene: ClassVar[tuple[str, ...]] = ("cut",)
    first: int
    camera_id: str | None = None
    name: str | None = None
    note: str | None = None
    state: ShotState | None = None
    locked: bool | None = None
    handles: Handles | None = None

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        if self.camera_id is not None:
            scene.camera(self.camera_id)
        if self.name is not None and len(self.name) > LONGEST_NAME:
            raise DomainError(f"A name of {len(self.name)} letters is too long.", f"Keep it within {LONGEST_NAME}.")
        fields = ("camera_id", "name", "note", "state", "locked", "handles")
        changes = {name: value for name in fields if (value := getattr(self, name)) is not None}
        if "name" in changes:
            changes["name"] = changes["name"].strip()
        return _recut(scene, cutting.shot_changed(scene.cut, self.first, **changes))


@dataclass(frozen=True, kw_only=True)
class SetTransition(Edit):
    """Say how the shot that begins on ``first`` takes over from the one before."""

    edit: Literal["set transition"] = "set transition"
    title: ClassVar[str] = "transition"
    of_scene: ClassVar[tuple[str, ...]] = ("cut",)
    first: int
    transition: Transition

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        cut = cutting.with_transition(scene.cut, self.first, self.transition, scene.frames)
        if self.transition.kind == "blend":
            index = next(at for at, entry in enumerate(cut.entries) if entry.first == self.first)
            cameras = [scene.camera(cut.entries[at].camera_id) for at in (index - 1, index)]
            parallel = [camera.glass.orthographic_height_m is not None for camera in cameras]
            if parallel[0] != parallel[1]:
                raise DomainError(
                    f"“{cameras[0].name}” and “{cameras[1].name}” cannot be blended: only one of them is a parallel view.",
                    "Dissolve instead, or choose another camera.",
                )
        return _recut(scene, cut)


@dataclass(frozen=True)
class Take:
    """From ``first`` on, this camera was chosen while it played."""

    first: int
    camera_id: str


@dataclass(frozen=True, kw_only=True)
class CutLive(Edit):
    """What was cut while it played, from the first take to ``last``; after that the cut goes on as it was."""

    edit: Literal["cut live"] = "cut live"
    title: ClassVar[str] = "cut while playing"
    of_scene: ClassVar[tuple[str, ...]] = ("cut",)
    takes: tuple[Take, ...]
    last: int

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        if len(self.takes) > MOST_TAKES:
            raise DomainError(f"{len(self.takes):,} cuts are more than can be made at once.", "Play a shorter stretch.")
        entries = [CutEntry(take.first, scene.camera(take.camera_id).id) for take in self.takes]
        return _recut(scene, cutting.taken_live(scene.cut, entries, self.last, scene.frames))


@dataclass(frozen=True, kw_only=True)
class FitCut(Edit):
    """Take the shots out that lie outside the scene."""

    edit: Literal["fit cut"] = "fit cut"
    title: ClassVar[str] = "fit the cut to the scene"
    of_scene: ClassVar[tuple[str, ...]] = ("cut",)

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        return _recut(scene, cutting.within(scene.cut, scene.frames))


def _recut(scene: Scene, cut: Cut) -> Scene:
    return scene if cut == scene.cut else replace(scene, cut=cut)
