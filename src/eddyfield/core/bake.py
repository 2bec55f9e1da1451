"""Bake: a scene and its rigs in, arrays per frame out.

The work falls into parts. A part is named by everything it depends on, and is looked up under that name before it is
computed, so that nothing is computed again that did not change. Frames are those of ``scene.frames``; row i is frame
``first + i``.
"""

from __future__ import annotations

from collections.abc import Callable, MutableMapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from .arrays import Floats, Ints
from .cameras.camera import Camera
from .cameras.camera_frames import CameraFrames, camera_frames
from .cameras.placement import body_points, calm_joint, front_of
from .cameras.subjects import FOLLOWS, Follows
from .content import content_name
from .cut.cut_path import cut_path
from .optics import screen
from .optics.camera_path import CameraPath
from .performance import contacts as contact_rules
from .performance import exposure
from .performance.ride import Ride, ride_transforms
from .readings.arcs import ArcJudgement, judge_arc, with_causes
from .readings.strobing import Strobing, strobing
from .readings.unframed import Unframed, seen_otherwise
from .rig import transforms
from .rig.rig import Rig
from .scene import Character, RigSource, Scene, SetPiece
from .time.frames import FrameRange, Rate, exact_times, seconds_at

Part = TypeVar("Part")
Memory = MutableMapping[str, Any]


@dataclass(frozen=True, eq=False)
class ArcFigures:
    """The track of one joint, per frame: pixels (frames, 2), spacing px, shares px (signed along the step), judgement; and
    where nothing can be told through the camera, what is told otherwise."""

    pixels: Floats
    in_front: NDArray[np.bool_]
    spacing_px: Floats
    subject_px: Floats
    camera_px: Floats
    judgement: ArcJudgement
    unframed: tuple[Unframed, ...]


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
        self._holding: dict[tuple[str, exposure.Stepping], bool] = {}

    def part(self, name: str, compute: Callable[[], Part]) -> Part:
        """A part under its name: from the memory, else computed and kept."""
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
        """By its own settings and keys, and by the motion of what it follows."""

        def compute() -> str:
            followed = {self._followed_name(s.owner_id, f) for s, f in camera.followed() if s.owner_id}
            return content_name("camera", camera.looks_by, self.scene.delivery, *self._timing, *sorted(followed))

        # Remembered by all that could be followed: in a scene of hundreds of cameras most names are asked for again.
        return self.part(content_name("name of a camera", camera.looks_by, self.around_name), compute)

    @cached_property
    def around_name(self) -> str:
        """Of everything that a camera could depend on beside itself."""
        ids = [*(c.id for c in self.scene.characters), *(p.id for p in self.scene.set_pieces)]
        things = [(i, f, self._followed_name(i, f)) for i in ids for f in FOLLOWS]
        return content_name("around", self.scene.delivery, *self._timing, *things)

    def _followed_name(self, owner_id: str, follows: Follows) -> str:
        for character in self.scene.characters:
            if character.id == owner_id:
                stepping = character.stepping if follows == "shown" else None
                return content_name("followed", self.motion_name(character), stepping, character.front_deg)
        return content_name("followed", self.scene.piece(owner_id).source)

    def subjects_name(self, camera: Camera) -> str:
        """Of the figures of all characters in a camera."""
        motions = [(c.id, c.name, c.front_deg, self.motion_name(c)) for c in self.scene.characters]
        return content_name("subjects", self.camera_name(camera), *motions)

    def cut_name(self) -> str:
        return content_name("cut", self.scene.cut, *map(self.camera_name, self.scene.cameras_of_cut))

    def shown_name(self, character: Character) -> str:
        rides = character.ride.way != "off" and self.holds_poses(character)
        through = self.cut_name() if rides else ""
        return content_name("shown", self.motion_name(character), character.stepping, character.ride, through)

    def strobing_name(self, character: Character) -> str:
        # Where nothing is held nothing slips, whatever the camera does.
        through = self.cut_name() if self.holds_poses(character) else ""
        return content_name("strobing", self.shown_name(character), through)

    def arc_name(self, character: Character, node: int, camera: Camera | None, frozen_row: int | None) -> str:
        through = self.camera_name(camera) if camera else self.cut_name()
        return content_name("arc", self.motion_name(character), node, frozen_row, through)

    # --- parts ---

    def world(self, character: Character) -> Floats:
        """The unstepped motion: ``world_from_node`` (frames, nodes, 4, 4)."""

        def compute() -> Floats:
            seconds = seconds_at(self.scene.frames.frames(), character.start, self.scene.rate)
            return self.rig_of(character.source).world_matrices(seconds)

        return self.part(self.motion_name(character), compute)

    def joint_positions(self, character: Character) -> Floats:
        """Places of the joints, unstepped, (frames, joints, 3)."""
        rig = self.rig_of(character.source)
        return self.part(
            content_name("joints", self.motion_name(character)),
            lambda: np.ascontiguousarray(self.world(character)[..., :3, 3][:, rig.joints]),
        )

    def front(self, character: Character) -> Floats:
        """Level unit vector that the character faces, (3,)."""
        if character.front_deg is not None:
            turn = np.radians(character.front_deg)
            return np.array([np.sin(turn), 0.0, np.cos(turn)])
        return self.part(
            content_name("front", self.motion_name(character)),
            lambda: front_of(self.rig_of(character.source), self.world(character)[..., :3, 3]),
        )

    # --- what cameras go by (``Surroundings``) ---

    @property
    def frames(self) -> FrameRange:
        return self.scene.frames

    @property
    def rate(self) -> Rate:
        return self.scene.rate

    def _rows(self, character: Character, follows: Follows) -> Ints | slice:
        return slice(None) if follows == "motion" else self.exposure_starts(character) - self.scene.frames.first

    def joint_frames(self, character_id: str, joint: str, follows: Follows) -> Floats:
        """``world_from_joint`` (frames, 4, 4). Raises ``DomainError`` for a joint that is not there."""
        character = self.scene.character(character_id)
        node = self.rig_of(character.source).find(joint)
        return self.world(character)[self._rows(character, follows), node]

    def body_bounds(self, character_id: str, follows: Follows) -> tuple[Floats, Floats]:
        """Lowest and highest corner of a character's joints, each (frames, 3)."""
        character = self.scene.character(character_id)

        def compute() -> tuple[Floats, Floats]:
            joints = self.joint_positions(character)
            return joints.min(axis=1), joints.max(axis=1)

        low, high = self.part(content_name("bounds", self.motion_name(character)), compute)
        rows = self._rows(character, follows)
        return low[rows], high[rows]

    def body_sphere(self, character_id: str, follows: Follows) -> tuple[Floats, float]:
        """The hips' way, moved by what lies between them and the middle of the body on average, and the radius around it
        that holds all joints: what swings does not make it tremble."""
        character = self.scene.character(character_id)

        def compute() -> tuple[Floats, float]:
            joints = self.joint_positions(character)
            hips = self.joint_frames(character_id, calm_joint(self.rig_of(character.source)), "motion")[:, :3, 3]
            middle = hips + ((joints.min(axis=1) + joints.max(axis=1)) / 2 - hips).mean(axis=0)
            return middle, float(np.linalg.norm(joints - middle[:, None], axis=-1).max())

        middle, radius = self.part(content_name("sphere", self.motion_name(character)), compute)
        return middle[self._rows(character, follows)], radius

    def object_bounds(self, piece_id: str) -> tuple[Floats, Floats]:
        """Lowest and highest corner of a set piece, each (3,)."""
        source = self.scene.piece(piece_id).source

        def compute() -> tuple[Floats, Floats]:
            points = body_points(self.rig_of(source), np.zeros(1))[0]
            return points.min(axis=0), points.max(axis=0)

        return self.part(content_name("object", source), compute)

    def set_triangles(self, piece: SetPiece) -> Floats:
        """Corners of a set piece's triangles as it stands, (T, 3, 3)."""

        def compute() -> Floats:
            rig = self.rig_of(piece.source)
            if rig.mesh is None or rig.skinning is None:
                return np.zeros((0, 3, 3))
            skin = rig.world_matrices(np.zeros(1), rig.skinning.nodes)[0] @ rig.skinning.joint_from_mesh
            blended = np.einsum("vs,vsij->vij", rig.mesh.weights.astype(np.float64), skin[rig.mesh.slots])
            return transforms.apply(blended, rig.mesh.positions.astype(np.float64))[rig.mesh.triangles]

        return self.part(content_name("triangles", piece.source), compute)

    def front_of_character(self, character_id: str) -> Floats:
        return self.front(self.scene.character(character_id))

    def body_blocks(self, character: Character) -> list[Floats]:
        """Points that hold the body over the whole scene, in blocks (frames, points, 3)."""
        rig = self.rig_of(character.source)
        seconds = seconds_at(self.scene.frames.frames(), character.start, self.scene.rate)
        size = max(1, 2_000_000 // max(1, 8 * len(rig.names)))
        return [body_points(rig, seconds[at : at + size]) for at in range(0, len(seconds), size)]

    def row_of(self, frame: int) -> int:
        """The row of a frame, the nearest one where it is outside the scene."""
        return max(0, min(frame, self.scene.frames.last) - self.scene.frames.first)

    # --- cameras ---

    def camera(self, camera: Camera) -> CameraFrames:
        """A camera worked out over all frames."""
        return self.part(self.camera_name(camera), lambda: camera_frames(camera, self, self.scene.delivery))

    def camera_path(self, camera: Camera) -> CameraPath:
        return self.camera(camera).path

    def cut_rows(self) -> tuple[Ints, Ints]:
        """Per frame: the index of the cut's entry that rules it, and the frame on which its span begins in this range."""
        return self.scene.cut.entry_rows(self.scene.frames)

    def cut_path(self) -> CameraPath:
        """The camera of the cut at each frame. With one camera in the cut this is that camera's own path."""
        cameras = self.scene.cameras_of_cut
        if len(cameras) == 1:
            return self.camera_path(cameras[0])
        entries = self.scene.cut.entries

        def compute() -> CameraPath:
            return cut_path([self.camera_path(self.scene.camera(e.camera_id)) for e in entries], self.cut_rows()[0])

        return self.part(self.cut_name(), compute)

    def span_start_rows(self) -> tuple[int, ...]:
        """Rows on which a span of the cut begins."""
        _, firsts = self.cut_rows()
        return tuple(sorted({int(f) - self.scene.frames.first for f in firsts}))

    def key_poses(self, character: Character) -> tuple[Fraction, ...]:
        """Key poses as exact frames: times at which at least half of the animated joints have a key."""

        def compute() -> tuple[Fraction, ...]:
            seconds = self.rig_of(character.source).motion.key_pose_seconds
            return tuple(character.start + time for time in exact_times(seconds, self.scene.rate))

        return self.part(content_name("key poses", character.source, character.start, self.scene.rate), compute)

    def exposure_starts(self, character: Character) -> Ints:
        return self.part(
            content_name("exposures", character.source, character.start, *self._timing, character.stepping),
            lambda: exposure.exposure_starts(character.stepping, self.scene.frames, self.key_poses(character)),
        )

    def holds_poses(self, character: Character) -> bool:
        """Whether any frame shows the pose of an earlier one."""
        key = (character.id, character.stepping)
        if key not in self._holding:
            self._holding[key] = bool((self.comparison(character) != self.scene.frames.frames()).any())
        return self._holding[key]

    def comparison(self, character: Character) -> Ints:
        return exposure.comparison_frames(self.exposure_starts(character), self.cut_rows()[1])

    def anchor_node(self, character: Character) -> int:
        """The node that a held pose is carried by; the rig's own where the one that was chosen is not there."""
        rig = self.rig_of(character.source)
        anchor = rig.index_of.get(character.ride.anchor or "")
        return rig.default_anchor() if anchor is None else anchor

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

        return self.part(content_name("ride", self.shown_name(replace(character, ride=ride))), compute)

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
            half_second = round(float(self.scene.rate) / 2)
            return strobing(self.cut_path(), shown, self.comparison(character), first, 1.0, spans, half_second)

        return self.part(self.strobing_name(as_shown), compute)

    def contact_price(self, character: Character, ride: Ride | None = None) -> ContactPrice | None:
        """What riding costs on the ground; None where the character's feet are not known."""
        rig = self.rig_of(character.source)
        feet = [rig.index_of[name] for name in character.feet if name in rig.index_of]
        if not feet:
            return None
        as_shown = replace(character, ride=ride or character.ride)

        def compute() -> ContactPrice:
            points = self.world(character)[..., :3, 3][:, feet]
            poses = self.exposure_starts(character) - self.scene.frames.first
            found = contact_rules.find_contacts(points, self.scene.rate)
            before = self.shown_points(character, points, Ride())
            after = self.shown_points(as_shown, points)
            return ContactPrice(
                contact_rules.slide_m(found, before, poses),
                contact_rules.slide_m(found, after, poses),
                contact_rules.slide_per_row(found, after, poses),
            )

        return self.part(content_name("contacts", character.feet, self.strobing_name(as_shown)), compute)

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
            judged = judge_arc(seen.pixels, self.scene.delivery, tuple(spans))
            return ArcFigures(
                seen.pixels,
                seen.in_front,
                steps,
                screen.component_along(subject, moved, through),
                screen.component_along(carried, moved, through),
                judged if frozen_row is not None else with_causes(judged, path, points),
                seen_otherwise(judged, through, points, self._parents_of(character, node), _closed(spans, len(points))),
            )

        return self.part(self.arc_name(character, node, camera, frozen_row), compute)

    def _parents_of(self, character: Character, node: int) -> Floats | None:
        """Places (frames, 3) of the node that a node hangs on."""
        parent = int(self.rig_of(character.source).parents[node])
        return None if parent < 0 else self.world(character)[:, parent, :3, 3]


def _closed(starts: Sequence[int], count: int) -> list[tuple[int, int]]:
    """Spans by their first and last rows, from their first rows."""
    ends = [*starts[1:], count]
    return [(start, end - 1) for start, end in zip(starts, ends, strict=True)]
