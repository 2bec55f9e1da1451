"""Bake: a scene and its rigs in, arrays per frame out.

The work falls into parts. A part is named by everything it depends on, and is looked up under that name before it is
computed, so that nothing is computed again that did not change. Frames are those of ``scene.frames``; row i is frame
``first + i``.
"""

from __future__ import annotations

from collections.abc import Callable, MutableMapping
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from . import contacts as contact_rules
from . import exposure, screen, transforms
from .arcs import ArcJudgement, judge_arc
from .camera_path import CameraPath
from .content import content_name
from .placement import front_of
from .ride import Ride, ride_transforms
from .rig import Rig
from .scene import Camera, Character, RigSource, Scene
from .strobing import Strobing, strobing
from .time import seconds_at
from .transforms import Floats

Ints = NDArray[np.int64]
Part = TypeVar("Part")
Memory = MutableMapping[str, Any]


@dataclass(frozen=True, eq=False)
class ArcFigures:
    """The track of one joint, per frame: pixels (frames, 2), spacing px, shares px (signed along the step), judgement."""

    pixels: Floats
    in_front: NDArray[np.bool_]
    spacing_px: Floats
    subject_px: Floats
    camera_px: Floats
    judgement: ArcJudgement


@dataclass(frozen=True, eq=False)
class ContactPrice:
    """Slide of the feet on the ground in metres, with Ride off and as shown."""

    before_m: float
    after_m: float
    shown_per_row_m: Floats


class Baker:
    """Computes the parts of one scene; ``memory`` is shared between bakes and may forget at any time."""

    def __init__(self, scene: Scene, rig_of: Callable[[RigSource], Rig], memory: Memory) -> None:
        self.scene = scene
        self.rig_of = rig_of
        self._memory = memory

    def _part(self, name: str, compute: Callable[[], Part]) -> Part:
        value: Part | None = self._memory.get(name)
        if value is None:
            value = self._memory[name] = compute()
        return value

    @cached_property
    def _timing(self) -> tuple[object, ...]:
        return (self.scene.frames, self.scene.rate)

    # --- names: what each part depends on ---

    def motion_name(self, character: Character) -> str:
        return content_name("motion", character.source, character.start, *self._timing)

    def camera_name(self, camera: Camera) -> str:
        stands = camera.channels.content if camera.unkeyed is None else camera.unkeyed
        return content_name("camera", stands, camera.back, camera.near_m, self.scene.delivery, self.scene.frames)

    def cut_name(self) -> str:
        ids = dict.fromkeys(e.camera_id for e in self.scene.cut)
        return content_name("cut", self.scene.cut, *(self.camera_name(self.scene.camera(i)) for i in ids))

    def shown_name(self, character: Character) -> str:
        rides = character.ride.way != "off"
        through = self.cut_name() if rides else ""
        return content_name("shown", self.motion_name(character), character.stepping, character.ride, through)

    def strobing_name(self, character: Character) -> str:
        return content_name("strobing", self.shown_name(character), self.cut_name())

    def arc_name(self, character: Character, node: int, camera: Camera | None, frozen_row: int | None) -> str:
        through = self.camera_name(camera) if camera else self.cut_name()
        return content_name("arc", self.motion_name(character), node, frozen_row, through)

    # --- parts ---

    def world(self, character: Character) -> Floats:
        """The unstepped motion: ``world_from_node`` (frames, nodes, 4, 4)."""

        def compute() -> Floats:
            seconds = seconds_at(self.scene.frames.frames(), character.start, self.scene.rate)
            return self.rig_of(character.source).world_matrices(seconds)

        return self._part(self.motion_name(character), compute)

    def joint_positions(self, character: Character) -> Floats:
        """Places of the joints, unstepped, (frames, joints, 3)."""
        rig = self.rig_of(character.source)
        return self._part(
            content_name("joints", self.motion_name(character)),
            lambda: np.ascontiguousarray(self.world(character)[..., :3, 3][:, rig.joints]),
        )

    def front(self, character: Character, file_has_front: bool) -> Floats:
        """Level unit vector that the character faces, (3,)."""
        return self._part(
            content_name("front", self.motion_name(character), file_has_front),
            lambda: front_of(self.rig_of(character.source), file_has_front, self.world(character)[..., :3, 3]),
        )

    def camera_values(self, camera: Camera) -> Floats:
        """The camera's channels on every frame, (frames, 7): x y z in metres, pan tilt roll in degrees, focal length in mm."""

        def compute() -> Floats:
            frames = self.scene.frames.frames().astype(np.float64)
            if camera.unkeyed is not None:
                still = [getattr(camera.unkeyed, name) for name in camera.channels.by_name()]
                return np.tile(np.array(still, dtype=np.float64), (len(frames), 1))
            return np.stack([channel.at(frames) for channel in camera.channels.by_name().values()], axis=-1)

        return self._part(content_name("values", self.camera_name(camera)), compute)

    def camera_path(self, camera: Camera) -> CameraPath:
        def compute() -> CameraPath:
            values = self.camera_values(camera)
            rotation = transforms.rotation_from_angles(values[:, 3], values[:, 4], values[:, 5])
            focal = np.maximum(values[:, 6], 1.0)
            return CameraPath(
                transforms.rigid(rotation, values[:, :3]), camera.lens().with_focal(focal), self.scene.delivery
            )

        return self._part(self.camera_name(camera), compute)

    def cut_rows(self) -> tuple[Ints, Ints]:
        """Per frame: the index of the cut entry that rules it, and the frame on which its span begins in this range."""
        frames, firsts = self.scene.frames.frames(), np.array([e.first for e in self.scene.cut], dtype=np.int64)
        entry = np.maximum(np.searchsorted(firsts, frames, side="right") - 1, 0)
        return entry, np.maximum(firsts[entry], self.scene.frames.first)

    def cut_path(self) -> CameraPath:
        """The camera of the cut at each frame. With one camera in the cut this is that camera's own path."""
        ids = list(dict.fromkeys(e.camera_id for e in self.scene.cut))
        if len(ids) == 1:
            return self.camera_path(self.scene.camera(ids[0]))

        def compute() -> CameraPath:
            entry, _ = self.cut_rows()
            paths = [self.camera_path(self.scene.camera(e.camera_id)) for e in self.scene.cut]
            rows = np.arange(self.scene.frames.count)
            world = np.stack([p.world_from_camera for p in paths])[entry, rows]
            # Different backs are told by focal length alone: the same pixels per slope on the first back.
            first, delivery = paths[0].lens, self.scene.delivery
            own = np.stack([np.broadcast_to(p.lens.pixels_per_slope(delivery)[1], rows.shape) for p in paths])
            unit = first.with_focal(1.0).pixels_per_slope(delivery)[1]
            return replace(paths[0], world_from_camera=world, lens=first.with_focal(own[entry, rows] / unit))

        return self._part(self.cut_name(), compute)

    def span_start_rows(self) -> tuple[int, ...]:
        """Rows on which a span of the cut begins."""
        _, firsts = self.cut_rows()
        return tuple(sorted({int(f) - self.scene.frames.first for f in firsts}))

    def key_poses(self, character: Character) -> tuple[Fraction, ...]:
        """Key poses as exact frames: times at which at least half of the animated joints have a key."""

        def compute() -> tuple[Fraction, ...]:
            rate = self.scene.rate.frames_per_second
            seconds = self.rig_of(character.source).motion.key_pose_seconds
            return tuple(character.start + (Fraction(float(s)) * rate).limit_denominator(1000) for s in seconds)

        return self._part(content_name("key poses", character.source, character.start, self.scene.rate), compute)

    def exposure_starts(self, character: Character) -> Ints:
        return self._part(
            content_name("exposures", character.source, character.start, *self._timing, character.stepping),
            lambda: exposure.exposure_starts(character.stepping, self.scene.frames, self.key_poses(character)),
        )

    def comparison(self, character: Character) -> Ints:
        return exposure.comparison_frames(self.exposure_starts(character), self.cut_rows()[1])

    def anchor_node(self, character: Character) -> int:
        rig = self.rig_of(character.source)
        return rig.find(character.ride.anchor) if character.ride.anchor else rig.default_anchor()

    def ride_transforms(self, character: Character, ride: Ride | None = None) -> Floats:
        """T(f), (frames, 4, 4): the shown performance is ``T(f) W(e(f))``."""
        ride = ride or character.ride

        def compute() -> Floats:
            rows = self.exposure_starts(character) - self.scene.frames.first
            anchor = self.world(character)[..., :3, 3][rows, self.anchor_node(character)]
            camera = self.cut_path() if ride.way != "off" else None
            if camera is None:
                return np.broadcast_to(np.eye(4), (self.scene.frames.count, 4, 4)).copy()
            return ride_transforms(ride, camera, anchor, self.comparison(character) - self.scene.frames.first)

        return self._part(content_name("ride", self.shown_name(replace(character, ride=ride))), compute)

    def shown_points(self, character: Character, points: Floats, ride: Ride | None = None) -> Floats:
        """Points of the unstepped motion (frames, points, 3) as they are shown: stepped and ridden."""
        rows = self.exposure_starts(character) - self.scene.frames.first
        return transforms.apply(self.ride_transforms(character, ride)[:, None], points[rows])

    def strobing(self, character: Character, ride: Ride | None = None) -> Strobing:
        """Slip and reversals through the cut, as shown (or with another ride)."""
        as_shown = replace(character, ride=ride or character.ride)

        def compute() -> Strobing:
            shown = self.shown_points(as_shown, self.joint_positions(character))
            spans, first = self.span_start_rows(), self.scene.frames.first
            return strobing(self.cut_path(), shown, self.comparison(character), first, span_starts=spans)

        return self._part(self.strobing_name(as_shown), compute)

    def contact_price(self, character: Character, ride: Ride | None = None) -> ContactPrice | None:
        """What riding costs on the ground; None where the character's feet are not known."""
        rig = self.rig_of(character.source)
        feet = [rig.index_of[name] for name in character.feet if name in rig.index_of]
        if not feet:
            return None
        as_shown = replace(character, ride=ride or character.ride)

        def compute() -> ContactPrice:
            points = self.world(character)[..., :3, 3][:, feet]
            found = contact_rules.find_contacts(points, self.scene.rate)
            before = self.shown_points(character, points, Ride())
            after = self.shown_points(as_shown, points)
            return ContactPrice(
                contact_rules.slide_m(found, before),
                contact_rules.slide_m(found, after),
                contact_rules.slide_per_row(found, after),
            )

        return self._part(content_name("contacts", character.feet, self.strobing_name(as_shown)), compute)

    def arc(self, character: Character, node: int, camera: Camera | None, frozen_row: int | None = None) -> ArcFigures:
        """The track of a node's unstepped motion through a camera (None: the cut), or frozen on one row's camera."""
        path = self.camera_path(camera) if camera else self.cut_path()

        def compute() -> ArcFigures:
            points = np.ascontiguousarray(self.world(character)[:, node, :3, 3])
            spans = (0,) if camera or frozen_row is not None else self.span_start_rows()
            through = path if frozen_row is None else screen.frozen(path, frozen_row)
            seen = screen.track(through, points)
            steps = screen.spacing(seen.pixels, through)
            moved = np.diff(seen.pixels, axis=0, prepend=np.nan)
            subject, carried = screen.shares(through, points)
            later_spans = [s for s in spans if s > 0]
            for figures in (steps, moved, subject, carried):
                figures[later_spans] = np.nan
            return ArcFigures(
                seen.pixels,
                seen.in_front,
                steps,
                screen.component_along(subject, moved, through),
                screen.component_along(carried, moved, through),
                judge_arc(seen.pixels, self.scene.delivery, tuple(spans)),
            )

        return self._part(self.arc_name(character, node, camera, frozen_row), compute)
