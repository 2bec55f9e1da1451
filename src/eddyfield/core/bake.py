"""Bake: the parts of a scene, each by exactly what it depends on. What computes them stands beside what it is about.

Frames are those of ``scene.frames``; row i is frame ``first + i``.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from fractions import Fraction
from functools import cached_property
from typing import TypeVar

import numpy as np

from .arrays import Floats, Ints
from .cameras.around import Around, Bounds, ByCharacter, FollowedCharacter, object_bounds
from .cameras.camera import Camera
from .cameras.camera_frames import CameraFrames, camera_frames
from .cameras.placement import body_points, front_of
from .cameras.subjects import Follows
from .content import content_key
from .cut.cut import Cut
from .cut.cut_path import cut_path
from .optics.camera_path import CameraPath
from .parts import LookOf, Memory, Part, Resolver, RigOf
from .performance import exposure, shown
from .performance.contact_price import ContactPrice, contact_price
from .performance.ride import Ride
from .readings.arc_figures import ArcFigures, arc_figures
from .readings.strobing import Strobing, nothing_slips, strobing
from .rig import transforms
from .rig.rig import Rig
from .scene import Character, RigSource, Scene, SetPiece
from .time.frames import FrameRange, Rate, seconds_at

Value = TypeVar("Value")


class Baker(ByCharacter):
    """The parts of one scene, and what cameras go by in it (``Surroundings``); ``memory`` is shared between bakes and may
    forget at any time."""

    def __init__(self, scene: Scene, rig_of: Callable[[RigSource], Rig], memory: Memory) -> None:
        self.scene = scene
        self.rig_of = rig_of
        self._parts = Resolver(lambda source: self.rig_of(source), memory)
        self._cameras: dict[str, Part[CameraFrames]] = {}
        self._holding: dict[tuple[str, exposure.Stepping], bool] = {}

    def part(self, key: str, compute: Callable[[], Value]) -> Value:
        """What is kept under a key of the caller's: from the memory, else computed."""
        value: Value | None = self._parts.memory.get(key)
        if value is None:
            value = self._parts.memory[key] = compute()
        return value

    @property
    def frames(self) -> FrameRange:
        return self.scene.frames

    @property
    def rate(self) -> Rate:
        return self.scene.rate

    def row_of(self, frame: int) -> int:
        """The row of a frame, the nearest one where it is outside the scene."""
        return max(0, min(frame, self.frames.last) - self.frames.first)

    # --- parts, and what each is made from ---

    def motion_part(self, character: Character) -> Part[Floats]:
        return Part("motion", shown.performed, (RigOf(character.source), character.start, self.frames, self.rate))

    def _joints_part(self, character: Character) -> Part[Floats]:
        return Part("joints", shown.joint_places, (RigOf(character.source), self.motion_part(character)))

    def _front_part(self, character: Character) -> Part[Floats]:
        return Part("front", front_of, (RigOf(character.source), self._places_part(character)))

    def _places_part(self, character: Character) -> Part[Floats]:
        return Part("places", _places, (self.motion_part(character),), kept=False)

    def _key_poses_part(self, character: Character) -> Part[tuple[Fraction, ...]]:
        return Part("key poses", shown.key_poses, (RigOf(character.source), character.start, self.rate))

    def _starts_part(self, character: Character) -> Part[Ints]:
        inputs = (character.stepping, self.frames, self._key_poses_part(character))
        return Part("exposures", exposure.exposure_starts, inputs)

    def _rows_part(self, character: Character) -> Part[Ints]:
        return Part("rows", _rows, (self._starts_part(character), self.frames), kept=False)

    def _compared_part(self, character: Character) -> Part[Ints]:
        return Part("compared", _compared, (self._starts_part(character), self.scene.cut, self.frames), kept=False)

    def _followed_part(self, character: Character, follows: Iterable[Follows]) -> Part[FollowedCharacter]:
        rows = self._rows_part(character) if "shown" in follows else None
        inputs = (RigOf(character.source), self.motion_part(character), rows, character.front_deg)
        return Part("followed", FollowedCharacter, inputs, kept=False)

    def _object_part(self, piece: SetPiece) -> Part[Bounds]:
        return Part("object", object_bounds, (RigOf(piece.source),))

    def _around_part(self, camera: Camera) -> Part[Around]:
        """Of what a camera follows, and nothing beside."""
        followed: dict[str, set[Follows]] = {}
        for subject, follows in camera.followed():
            if subject.owner_id:
                followed.setdefault(subject.owner_id, set()).add(follows)
        characters = tuple(
            (c.id, self._followed_part(c, followed[c.id])) for c in self.scene.characters if c.id in followed
        )
        objects = tuple((p.id, self._object_part(p)) for p in self.scene.set_pieces if p.id in followed)
        return Part("around", Around, (self.frames, self.rate, characters, objects), kept=False)

    def camera_part(self, camera: Camera) -> Part[CameraFrames]:
        """By what decides its picture, and by the motion of what it follows."""
        part = self._cameras.get(camera.looks_by)
        if part is None:
            inputs = (LookOf(camera), self._around_part(camera), self.scene.delivery)
            part = self._cameras[camera.looks_by] = Part("camera", camera_frames, inputs)
        return part

    def path_part(self, camera: Camera | None) -> Part[CameraPath]:
        """Of a camera, or of the cut. With one camera in the cut it is that camera's own path."""
        cameras = [camera] if camera else list(self.scene.cameras_of_cut)
        if len(cameras) == 1:
            return Part("path", _path_of, (self.camera_part(cameras[0]),), kept=False)
        entries = tuple(self.camera_part(self.scene.camera(e.camera_id)) for e in self.scene.cut.entries)
        return Part("cut", _path_of_cut, (entries, self.scene.cut, self.frames))

    def _carried_part(self, character: Character, ride: Ride) -> Part[Floats]:
        rides = ride.way != "off" and self.holds_poses(character)
        inputs = (
            ride if rides else Ride(), RigOf(character.source), self.motion_part(character),
            self._rows_part(character), Part("compared rows", _rows, (self._compared_part(character), self.frames), False),
            self.path_part(None) if rides else None,
        )  # fmt: skip
        return Part("ride", shown.carried, inputs)

    def _strobing_part(self, character: Character, ride: Ride) -> Part[Strobing]:
        if not self.holds_poses(character):  # then nothing slips, whatever the camera does
            return Part("strobing", nothing_slips, (self.frames.count,))
        inputs = (
            self.path_part(None), self._joints_part(character), self._rows_part(character),
            self._carried_part(character, ride), self._compared_part(character), self.frames,
            self.span_start_rows(), self.rate,
        )  # fmt: skip
        return Part("strobing", _strobing_of, inputs)

    def _price_part(self, character: Character, ride: Ride) -> Part[ContactPrice]:
        inputs = (
            RigOf(character.source), character.feet, self.motion_part(character), self._rows_part(character),
            self._carried_part(character, ride), self.rate,
        )  # fmt: skip
        return Part("contacts", contact_price, inputs)

    def arc_part(
        self, character: Character, node: int, camera: Camera | None, frozen_row: int | None = None
    ) -> Part[ArcFigures]:
        spans = (0,) if camera or frozen_row is not None else self.span_start_rows()
        parent = int(self.rig_of(character.source).parents[node])
        inputs = (self.path_part(camera), self.motion_part(character), node, parent, frozen_row, spans)
        return Part("arc", arc_figures, inputs)

    # --- keys of what is put together from several ---

    @cached_property
    def around_key(self) -> str:
        """Of everything that a camera could depend on beside itself."""
        everything = tuple(self._followed_part(c, ("motion", "shown")).key for c in self.scene.characters)
        pieces = tuple((p.id, p.source) for p in self.scene.set_pieces)
        ids = tuple(c.id for c in self.scene.characters)
        return content_key("around", self.scene.delivery, self.frames, self.rate, ids, everything, pieces)

    def shown_key(self, character: Character) -> str:
        """Of which pose each frame shows, and how it is carried."""
        starts, carried = self._starts_part(character), self._carried_part(character, character.ride)
        return content_key("shown", starts.key, carried.key)

    def strobing_key(self, character: Character) -> str:
        """Of slip and price, as shown and with another ride."""
        rides = (character.ride, Ride(), Ride("rigid", 1.0, character.ride.anchor))
        parts = [(self._strobing_part(character, r).key, self._price_part(character, r).key) for r in rides]
        return content_key("strobing", *parts)

    def subjects_key(self, camera: Camera) -> str:
        """Of the figures of all characters in a camera."""
        motions = [(c.id, c.name, c.front_deg, self.motion_part(c).key) for c in self.scene.characters]
        return content_key("subjects", self.camera_part(camera).key, *motions)

    # --- characters ---

    def world(self, character: Character) -> Floats:
        """The unstepped motion: ``world_from_node`` (frames, nodes, 4, 4)."""
        return self._parts.value(self.motion_part(character))

    def joint_positions(self, character: Character) -> Floats:
        """Places of the joints, unstepped, (frames, joints, 3)."""
        return self._parts.value(self._joints_part(character))

    def front(self, character: Character) -> Floats:
        """Level unit vector that the character faces, (3,)."""
        if character.front_deg is not None:
            return self.followed(character.id).front
        return self._parts.value(self._front_part(character))

    def key_poses(self, character: Character) -> tuple[Fraction, ...]:
        """Key poses as exact frames."""
        return self._parts.value(self._key_poses_part(character))

    def exposure_starts(self, character: Character) -> Ints:
        """The frame whose pose each frame shows, (frames,)."""
        return self._parts.value(self._starts_part(character))

    def comparison(self, character: Character) -> Ints:
        """The frame that each frame should look like, (frames,)."""
        return self._parts.value(self._compared_part(character))

    def holds_poses(self, character: Character) -> bool:
        """Whether any frame shows the pose of an earlier one."""
        key = (character.id, character.stepping)
        if key not in self._holding:
            self._holding[key] = bool((self.comparison(character) != self.frames.frames()).any())
        return self._holding[key]

    def anchor_node(self, character: Character) -> int:
        return shown.anchor_node(self.rig_of(character.source), character.ride.anchor)

    def ride_transforms(self, character: Character, ride: Ride | None = None) -> Floats:
        """T(f), (frames, 4, 4): the shown performance is ``T(f) W(e(f))``."""
        return self._parts.value(self._carried_part(character, ride or character.ride))

    def shown_points(self, character: Character, points: Floats, ride: Ride | None = None) -> Floats:
        """Points of the unstepped motion (frames, points, 3) as they are shown: stepped and ridden."""
        rows = self._parts.value(self._rows_part(character))
        return shown.shown_points(points, rows, self.ride_transforms(character, ride))

    def strobing(self, character: Character, ride: Ride | None = None) -> Strobing:
        """Slip and reversals through the cut, as shown (or with another ride)."""
        return self._parts.value(self._strobing_part(character, ride or character.ride))

    def contact_price(self, character: Character, ride: Ride | None = None) -> ContactPrice | None:
        """What riding costs on the ground; None where the character's feet are not known."""
        if not any(name in self.rig_of(character.source).index_of for name in character.feet):
            return None
        return self._parts.value(self._price_part(character, ride or character.ride))

    def body_blocks(self, character: Character) -> list[Floats]:
        """Points that hold the body over the whole scene, in blocks (frames, points, 3)."""
        rig = self.rig_of(character.source)
        seconds = seconds_at(self.frames.frames(), character.start, self.rate)
        size = max(1, 2_000_000 // max(1, 8 * len(rig.names)))
        return [body_points(rig, seconds[at : at + size]) for at in range(0, len(seconds), size)]

    def set_triangles(self, piece: SetPiece) -> Floats:
        """Corners of a set piece's triangles as it stands, (T, 3, 3)."""
        return self._parts.value(Part("triangles", _triangles, (RigOf(piece.source),)))

    # --- what cameras go by (``Surroundings``) ---

    def followed(self, character_id: str) -> FollowedCharacter:
        return self._parts.value(self._followed_part(self.scene.character(character_id), ("motion", "shown")))

    def object_bounds(self, piece_id: str) -> Bounds:
        """Lowest and highest corner of a set piece, each (3,)."""
        return self._parts.value(self._object_part(self.scene.piece(piece_id)))

    def front_of_character(self, character_id: str) -> Floats:
        return self.front(self.scene.character(character_id))

    # --- cameras, the cut, arcs ---

    def camera(self, camera: Camera) -> CameraFrames:
        """A camera worked out over all frames."""
        return self._parts.value(self.camera_part(camera))

    def camera_path(self, camera: Camera) -> CameraPath:
        return self.camera(camera).path

    def cut_rows(self) -> tuple[Ints, Ints]:
        """Per frame: the index of the cut's entry that rules it, and the frame on which its span begins in this range."""
        return self.scene.cut.entry_rows(self.frames)

    def cut_path(self) -> CameraPath:
        """The camera of the cut at each frame."""
        return self._parts.value(self.path_part(None))

    def span_start_rows(self) -> tuple[int, ...]:
        """Rows on which a span of the cut begins."""
        return tuple(span.first - self.frames.first for span in self.scene.cut.spans(self.frames))

    def arc(self, character: Character, node: int, camera: Camera | None, frozen_row: int | None = None) -> ArcFigures:
        """The track of a node's unstepped motion through a camera (None: the cut), or frozen on one row's camera."""
        return self._parts.value(self.arc_part(character, node, camera, frozen_row))


def _places(world: Floats) -> Floats:
    return world[..., :3, 3]


def _rows(frames_shown: Ints, frames: FrameRange) -> Ints:
    return frames_shown - frames.first


def _compared(starts: Ints, cut: Cut, frames: FrameRange) -> Ints:
    return exposure.comparison_frames(starts, cut.entry_rows(frames)[1])


def _path_of(camera: CameraFrames) -> CameraPath:
    return camera.path


def _path_of_cut(cameras: tuple[CameraFrames, ...], cut: Cut, frames: FrameRange) -> CameraPath:
    return cut_path([camera.path for camera in cameras], cut.entry_rows(frames)[0])


def _strobing_of(
    path: CameraPath, joints: Floats, rows: Ints, carried: Floats, compared: Ints, frames: FrameRange,
    span_starts: tuple[int, ...], rate: Rate,
) -> Strobing:  # fmt: skip
    points = shown.shown_points(joints, rows, carried)
    return strobing(path, points, compared, frames.first, 1.0, span_starts, round(float(rate) / 2))


def _triangles(rig: Rig) -> Floats:
    if rig.mesh is None or rig.skinning is None:
        return np.zeros((0, 3, 3))
    skin = rig.world_matrices(np.zeros(1), rig.skinning.nodes)[0] @ rig.skinning.joint_from_mesh
    blended = np.einsum("vs,vsij->vij", rig.mesh.weights.astype(np.float64), skin[rig.mesh.slots])
    return transforms.apply(blended, rig.mesh.positions.astype(np.float64))[rig.mesh.triangles]
