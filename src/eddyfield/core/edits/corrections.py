"""Edits that lay a correction over a performance, where its file cannot be changed here."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

import numpy as np

from ..arrays import Floats, Ints
from ..bake import Baker
from ..errors import DomainError
from ..optics.camera_path import CameraPath
from ..optics.screen import shifts_in_world
from ..performance.character import Character
from ..performance.correction import Correction, Moment
from ..performance.nested import ground_of
from ..performance.piece import Piece
from ..performance.placing import world_from_file
from ..readings.arc_sources import BroughtPoint, brought_point, displaced, source_changes
from ..rig import transforms
from ..rig.joint_change import NO_CHANGE, JointChange, changed, moved_by, vector
from ..rig.pulled import pulled
from ..rig.rig import Rig
from ..scene import Scene
from ..time.fading import LONGEST_FADE, fading, fading_frames
from .edit import Edit
from .reach import POSES, Reach, Stretch

FARTHEST_PX = 4000.0
SAME_MOMENT_S = 1e-9
NOT_YET = (Moment(0.0, NO_CHANGE, 0.0),)


@dataclass(frozen=True, kw_only=True)
class CorrectJoint(Edit):
    """Bring a joint of a character, or of what one holds, ``shift_px`` (right, down) farther ``on_frame``, as the camera
    sees it (None: through the cut), and blend that over ``fades`` frames on both sides. As a ``step`` half of it goes to the
    frames from that one on, and the opposite half to those before. It is brought by ``changes`` of joints, and what these leave
    is moved; without any, by bending the limb that it ends, else by a turn of what carries it: as far as bones let it, which
    keep their length."""

    edit: Literal["correct joint"] = "correct joint"
    title: ClassVar[str] = "correction"
    owners_by_scene: ClassVar[bool] = True
    thing_id: str
    joint: str
    on_frame: int
    camera_id: str | None = None
    shift_px: tuple[float, float]
    fades: int = 0
    step: bool = False
    changes: tuple[JointChange, ...] = ()

    def reach(self, scene: Scene) -> Reach:
        return _reached(scene, self.thing_id, self.on_frame, self.fades)

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        if self.on_frame not in scene.frames:
            raise DomainError(f"Frame {self.on_frame} is not in the scene.", "Choose one that is.")
        if not 0 <= self.fades <= LONGEST_FADE:
            raise DomainError(f"It cannot be blended over {self.fades} frames.", f"Give from 0 to {LONGEST_FADE}.")
        if math.hypot(*self.shift_px) > FARTHEST_PX:
            raise DomainError("That is farther than a picture is wide.", f"Keep it within {FARTHEST_PX:.0f} px.")
        if self.shift_px == (0.0, 0.0):
            return scene
        brought = brought_point(baker, self.thing_id, self.joint, self.on_frame)
        for change in self.changes:
            baker.rig(brought.character).find(change.joint)
        seen_by = self._seen_by(scene, baker)
        wanted_px = seen_by.project(brought.place[None]).pixels[0] + self.shift_px
        before = self._without_the_same(scene, baker, brought)
        if before is not scene:
            scene, baker = before, baker.of(before)
            brought = brought_point(baker, self.thing_id, self.joint, self.on_frame)
        performance = brought.character.performance
        correction = self._correction(scene, baker, brought, seen_by, wanted_px)
        performance = replace(performance, corrections=(*performance.corrections, correction))
        return scene.with_thing(replace(brought.character, performance=performance))

    def _without_the_same(self, scene: Scene, baker: Baker, brought: BroughtPoint) -> Scene:
        """Without the last correction, where that is of the same joint on the same frames: pushed again, it is another one."""
        character = brought.character
        last = next(reversed(character.performance.corrections), None)
        if last is None or self.changes or self.thing_id != character.id or last.joint != self.joint:
            return scene
        moments = self._moments(scene, baker.rig(character), character, last)
        return (
            _without(scene, character, len(character.performance.corrections) - 1) if last.moments == moments else scene
        )

    def _correction(
        self, scene: Scene, baker: Baker, brought: BroughtPoint, seen_by: CameraPath, wanted_px: Floats
    ) -> Correction:
        character, row = brought.character, baker.row_of(self.on_frame)
        rig = baker.rig(character)
        placed = world_from_file(character.placing, scene.frames, ground_of(character.nested))
        world_from_file_here = placed[row if len(placed) > 1 else 0]
        file_from_world = np.linalg.inv(world_from_file_here)
        pose = file_from_world @ baker.world(character)[row]
        place = transforms.apply(file_from_world, brought.place)
        beside = vector(transforms.apply(np.linalg.inv(pose[rig.index_of[brought.joint]]), place))
        if not self.changes:
            towards = self._towards(seen_by, brought.place, wanted_px)
            wanted, sight = (
                transforms.apply(file_from_world, towards),
                file_from_world[:3, :3] @ _sight(seen_by, towards),
            )
            changes = pulled(rig, pose, brought.joint, place, wanted, transforms.normalized(sight, (0.0, 0.0, -1.0)))
            return self._blended(scene, rig, character, Correction(brought.joint, changes, NOT_YET, beside))
        changes, after = self.changes, changed(rig, pose[None], self.changes, np.ones(1))[0]
        comes_to = transforms.apply(after[rig.index_of[brought.joint]], np.array(beside))
        there = transforms.apply(world_from_file_here, comes_to)
        left = transforms.apply(file_from_world, self._towards(seen_by, there, wanted_px)) - comes_to
        changes = (*changes, moved_by(rig, after, brought.joint, left))
        return self._blended(scene, rig, character, Correction(brought.joint, changes, NOT_YET, beside))

    def _blended(self, scene: Scene, rig: Rig, character: Character, correction: Correction) -> Correction:
        return replace(correction, moments=self._moments(scene, rig, character, correction))

    def _moments(self, scene: Scene, rig: Rig, character: Character, correction: Correction) -> tuple[Moment, ...]:
        frames, shares = self._shares(scene, rig, character)
        seconds = character.performance.timing.file_seconds(frames, scene.rate, rig.motion.duration_seconds)
        seconds, first_of = np.unique(seconds, return_index=True)  # in order, backwards as well
        places = correction.places(rig, seconds)
        return tuple(
            Moment(float(second), vector(place), float(share))
            for second, place, share in zip(seconds, places, shares[first_of], strict=True)
        )

    def _shares(self, scene: Scene, rig: Rig, character: Character) -> tuple[Ints, Floats]:
        """The frames on which it shows, and how much of it on each. Where the moment that it is made for comes again before it
        has faded, as long as time is frozen or where a motion turns back, there is all of it every time."""
        reaches = self.fades + 1
        frames: Ints = self.on_frame + np.arange(-reaches, reaches + 1)
        if self.step:
            return frames, fading(self.fades, True)
        shown = scene.frames.frames()
        seconds = character.performance.timing.file_seconds(shown, scene.rate, rig.motion.duration_seconds)
        again = shown[np.abs(seconds - seconds[self.on_frame - scene.frames.first]) < SAME_MOMENT_S]
        apart = np.flatnonzero(np.diff(again) > 2 * reaches)  # it has faded in between
        at = int(np.searchsorted(again[apart], self.on_frame))
        again = np.split(again, apart + 1)[at]
        frames = np.arange(again[0] - reaches, again[-1] + reaches + 1)
        away = np.minimum(np.abs(frames[:, None] - again), reaches)
        return frames, np.minimum(1.0, (0.5 + 0.5 * np.cos(np.pi * away / reaches)).sum(axis=1))

    def _seen_by(self, scene: Scene, baker: Baker) -> CameraPath:
        """The camera of that frame alone."""
        camera = scene.camera(self.camera_id) if self.camera_id else None
        return baker.value(baker.path_part(camera)).at_rows(np.array([baker.row_of(self.on_frame)]))

    def _towards(self, seen_by: CameraPath, place: Floats, wanted_px: Floats) -> Floats:
        """The place (3,) as far away as another one that is seen at a point of the picture."""
        shift_px = wanted_px - seen_by.project(place[None]).pixels[0]
        shift: Floats = shifts_in_world(seen_by, place[None], shift_px[None])[0]
        if not np.isfinite(shift).all():
            raise DomainError(
                f"“{self.joint}” is not in front of the camera on {self.on_frame}.", "Choose another frame."
            )
        return place + shift


@dataclass(frozen=True, kw_only=True)
class CorrectFault(Edit):
    """Take a fault of an arc away: what displaces a joint ``on_frame``, as the camera sees it (None: through the cut), or
    makes it jump there (``step``), by the joints that make it, whichever those are."""

    edit: Literal["correct fault"] = "correct fault"
    title: ClassVar[str] = "correction of a fault"
    owners_by_scene: ClassVar[bool] = True
    thing_id: str
    joint: str
    on_frame: int
    camera_id: str | None = None
    fades: int = 0
    step: bool = False

    def reach(self, scene: Scene) -> Reach:
        return _reached(scene, self.thing_id, self.on_frame, self.fades)

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        brought = brought_point(baker, self.thing_id, self.joint, self.on_frame)
        camera = scene.camera(self.camera_id) if self.camera_id else None
        thing = scene.thing(self.thing_id)
        told = thing, baker.rig(thing).find(self.joint)
        found = displaced(baker, told, brought, self.on_frame, camera, "step" if self.step else "displaced")
        if found is None:
            raise DomainError(
                f"Too near the end of the scene to tell a fault on {self.on_frame}.", "Push the joint by hand."
            )
        return CorrectJoint(
            thing_id=self.thing_id, joint=self.joint, on_frame=self.on_frame, camera_id=self.camera_id,
            shift_px=found.mend_px, fades=self.fades, step=self.step, changes=source_changes(found, brought.joint),
        ).apply(scene, baker)  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class DropCorrection(Edit):
    """Take a correction away again, the one in that ``place`` among those of a character."""

    edit: Literal["drop correction"] = "drop correction"
    title: ClassVar[str] = "correction taken away"
    character_id: str
    place: int

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        character = scene.character(self.character_id)
        corrections = character.performance.corrections
        if not 0 <= self.place < len(corrections):
            raise DomainError("That correction is not there any more.", "Choose another one.")
        return _without(scene, character, self.place)


def _without(scene: Scene, character: Character, place: int) -> Scene:
    corrections = character.performance.corrections
    left = (*corrections[:place], *corrections[place + 1 :])
    return scene.with_thing(replace(character, performance=replace(character.performance, corrections=left)))


def _sight(seen_by: CameraPath, place: Floats) -> Floats:
    """The direction (3,) in the world in which a place is looked at."""
    world = seen_by.world_from_camera[0]
    return np.asarray(-world[:3, 2] if seen_by.lens.orthographic_height_m is not None else place - world[:3, 3])


def _reached(scene: Scene, thing_id: str, on_frame: int, fades: int) -> Reach:
    """Poses of the character, or of who holds the prop, on the frames on which it shows while the file runs, and wherever
    the same moments come again. One that is pushed again in the same way comes in the place of the last."""
    thing = scene.thing(thing_id)
    hold = thing.held_on(on_frame) if isinstance(thing, Piece) else None
    if hold is not None and hold.character_id is not None:
        thing = scene.character(hold.character_id)
    timing = thing.performance.timing
    if timing.repeats != "once" or timing.curve is not None:
        return Reach(frozenset({thing.id}), stretch=Stretch(frozenset({POSES})))
    frames, _ = fading_frames(on_frame, fades, True)
    stretch = Stretch(frozenset({POSES}), int(frames[0]), int(frames[-1]))
    return Reach(frozenset({thing.id}), stretch=stretch)
