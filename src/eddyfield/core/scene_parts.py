"""Which parts a scene has, each by exactly what it depends on. What computes them stands beside what it is about.

Frames are those of ``scene.frames``; row i is frame ``first + i``.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from fractions import Fraction
from functools import cached_property, wraps
from typing import Any, Concatenate, ParamSpec, Self, TypeVar, cast

from . import between
from .arrays import Floats, Ints
from .cameras.camera import Camera
from .cameras.camera_frames import CameraFrames, camera_frames, held_on
from .cameras.placement import front_of, joint_or_stand_in
from .cameras.subjects import Follows
from .cameras.surroundings import FollowedCharacter, FollowedPiece, FollowedSurroundings
from .content import content_key
from .cut.shots import Shot, shots_of
from .optics.camera_path import CameraPath
from .parts import LookOf, Memory, Part, Resolver, RigOf
from .performance import exposure, shown
from .performance.carried import Carried
from .performance.character import Character
from .performance.contact_price import ContactPrice, contact_price
from .performance.holding import Hand
from .performance.nested import Ground, ground_of
from .performance.own_exposures import apart
from .performance.piece import Piece
from .performance.piece_frames import (
    ShownPiece,
    ShownRows,
    piece_carrier,
    piece_in_file,
    piece_world,
    shown_piece,
    shown_rows,
)
from .performance.placing import AS_IN_FILE, turn_at_first
from .performance.ride import Ride
from .readings.arc_figures import ArcTrack, JudgedArc, arc_track, judged_arc
from .readings.limits import USUAL, Limits
from .readings.strobing import Strobing, nothing_slips
from .readings.window import Window
from .rig.mesh_points import MeshPoint, mesh_point_world
from .rig.rig import Rig
from .rig.source import RigSource
from .scene import Scene, Thing, no_other_scenes
from .time.frames import FrameRange, Rate

Value = TypeVar("Value")
More = ParamSpec("More")


def _made_once(
    make: Callable[Concatenate[SceneParts, More], Part[Value]],
) -> Callable[Concatenate[SceneParts, More], Part[Value]]:
    """A part of the same objects is the same part, with the key that it has worked out."""

    @wraps(make)
    def made(self: SceneParts, *args: More.args, **more: More.kwargs) -> Part[Value]:
        name = (make.__name__, *map(id, args))
        kept = self._made.get(name)
        if kept is None or more:
            kept = self._made[name] = (make(self, *args, **more), args)  # kept with them, so that no id comes again
        return cast(Part[Value], kept[0])

    return cast("Callable[Concatenate[SceneParts, More], Part[Value]]", made)


class SceneParts:
    """Which parts one scene has, and what each is made from; ``memory`` is shared between scenes and may forget at any time.
    ``limits`` are the production's."""

    def __init__(
        self,
        scene: Scene,
        rig_of: Callable[[RigSource], Rig],
        memory: Memory,
        scene_of: Callable[[str], Scene] = no_other_scenes,
        limits: Limits = USUAL,
    ) -> None:
        self.scene = scene
        self.production = limits
        self.limits = limits.at(scene.strictness)
        self.rig_of = rig_of
        self.scene_of = scene_of
        """Other scenes, by their ids, which may come into this one. Raises ``DomainError``."""
        own = type(self)
        # Nothing that refers back to this: what it has worked out is let go with it, and not when garbage is collected.
        self._parts = Resolver(rig_of, memory, lambda other: own(other.scene, rig_of, memory, scene_of, other.limits))
        self._made: dict[tuple[object, ...], tuple[Part[Any], tuple[object, ...]]] = {}
        self._cameras: dict[str, Part[CameraFrames]] = {}
        self._holding: dict[tuple[str, exposure.Stepping], bool] = {}

    def value(self, part: Part[Value]) -> Value:
        """The value of any part."""
        return self._parts.value(part)

    def of(self, scene: Scene) -> Self:
        """What bakes another scene, with the same files and memory."""
        return type(self)(scene, self.rig_of, self._parts.memory, self.scene_of, self.production)

    @property
    def frames(self) -> FrameRange:
        return self.scene.frames

    @property
    def rate(self) -> Rate:
        return self.scene.rate

    def row_of(self, frame: int) -> int:
        """The row of a frame, the nearest one where it is outside the scene."""
        return max(0, min(frame, self.frames.last) - self.frames.first)

    def rig(self, thing: Thing) -> Rig:
        return self.rig_of(thing.performance.source)

    @cached_property
    def shots(self) -> tuple[Shot, ...]:
        return shots_of(self.scene.cut, self.frames)

    @cached_property
    def span_starts_part(self) -> Part[tuple[int, ...]]:
        """Rows on which something else begins to be seen through the cut."""
        return Part("span starts", between.span_starts, (self.scene.cut, self.frames), kept=False)

    def holds_poses(self, character: Character) -> bool:
        """Whether any frame shows the pose of an earlier one."""
        key = (character.id, character.stepping)
        if key not in self._holding:
            self._holding[key] = bool((self.value(self.compared_part(character)) != self.frames.frames()).any())
        return self._holding[key]

    # --- parts, and what each is made from ---

    @_made_once
    def motion_part(self, thing: Thing) -> Part[Floats]:
        """The unstepped motion of a character, prop or set piece."""
        inputs = (_rig_of(thing), thing.performance.timing, self.frames, self.rate)
        if isinstance(thing, Piece):
            return Part("motion", piece_world, (*inputs, self.carrier_part(thing)))
        placed = () if thing.placing == AS_IN_FILE and not thing.nested else (thing.placing, *_ground(thing))
        return Part("motion", shown.performed, (*inputs, thing.performance.corrections, *placed))

    @_made_once
    def carrier_part(self, piece: Piece) -> Part[Floats]:
        """What carries a piece out of the axes of its file, on ones."""
        hands = tuple(
            self._hand_part(hold.character_id, hold.joint) if hold.character_id and hold.joint else None
            for hold in piece.holds
        )
        return Part("carrier", piece_carrier, (piece.placing, piece.holds, hands, self.frames, *_ground(piece)))

    def _hand_part(self, character_id: str, joint: str) -> Part[Hand]:
        character = self.scene.character(character_id)
        inputs = (self.motion_part(character), joint_or_stand_in(self.rig(character), joint), self.rows_part(character))
        return Part("hand", between.hand, inputs, kept=False)

    @_made_once
    def shown_piece_part(self, piece: Piece) -> Part[ShownPiece]:
        """How a piece is shown: where somebody holds it, as the hand is."""
        rides = tuple(who and self.carried_whole_part(who) for who in self._holders(piece))
        inputs = (self.carrier_part(piece), piece.holds, self.shown_rows_part(piece), rides, self.frames)
        return Part("shown piece", shown_piece, inputs)

    @_made_once
    def shown_rows_part(self, piece: Piece) -> Part[ShownRows]:
        """Which rows of it are shown."""
        rows = tuple(who and self.rows_part(who) for who in self._holders(piece))
        own = self._own_rows_part(piece.stepping, piece) if piece.stepping else None
        return Part("shown rows", shown_rows, (piece.holds, rows, own, self.frames), kept=False)

    def _own_rows_part(self, stepping: exposure.Stepping, thing: Thing) -> Part[Ints]:
        """The rows that something stepped by itself shows."""
        begins = thing.nested.begins if thing.nested else None
        timing = thing.performance.timing if stepping.in_file_time else None
        starts = Part("exposures", exposure.exposure_starts, (stepping, self.frames, (), begins, timing))
        return Part("rows", between.rows, (starts, self.frames), kept=False)

    def _holders(self, piece: Piece) -> tuple[Character | None, ...]:
        return tuple(self.scene.character(hold.character_id) if hold.character_id else None for hold in piece.holds)

    @_made_once
    def piece_in_file_part(self, piece: Piece) -> Part[Floats]:
        """What its own file moves of a piece, in the axes of that file; one row where that is nothing."""
        inputs = (_rig_of(piece), piece.performance.timing, self.frames, self.rate)
        return Part("piece in file", piece_in_file, inputs)

    @_made_once
    def joints_part(self, character: Character) -> Part[Floats]:
        return Part("joints", shown.joint_places, (_rig_of(character), self.motion_part(character)))

    @_made_once
    def front_part(self, character: Character) -> Part[Floats]:
        return Part("front", front_of, (_rig_of(character), self._places_part(character), self._turn(character)))

    @_made_once
    def _places_part(self, character: Character) -> Part[Floats]:
        return Part("places", between.places, (self.motion_part(character),), kept=False)

    @_made_once
    def key_poses_part(self, character: Character) -> Part[tuple[Fraction, ...]]:
        return Part(
            "key poses", shown.key_poses, (_rig_of(character), character.performance.timing, self.frames, self.rate)
        )

    @_made_once
    def starts_part(self, character: Character) -> Part[Ints]:
        begins = character.nested.begins if character.nested else None
        timing = character.performance.timing if character.stepping.in_file_time else None
        inputs = (character.stepping, self.frames, self.key_poses_part(character), begins, timing)
        return Part("exposures", exposure.exposure_starts, inputs)

    @_made_once
    def rows_part(self, character: Character) -> Part[Ints]:
        return Part("rows", between.rows, (self.starts_part(character), self.frames), kept=False)

    @_made_once
    def compared_part(self, character: Character) -> Part[Ints]:
        return Part("compared", between.compared, (self.starts_part(character), self.scene.cut, self.frames))

    def followed_part(self, character: Character, follows: Iterable[Follows]) -> Part[FollowedCharacter]:
        rows = self.rows_part(character) if "shown" in follows else None
        inputs = (_rig_of(character), self.motion_part(character), rows, character.front_deg, self._turn(character))
        return Part("followed", FollowedCharacter, inputs, kept=False)

    def _turn(self, character: Character) -> float:
        return turn_at_first(character.placing, self.frames) + ground_of(character.nested).turn

    @_made_once
    def followed_piece_part(self, piece: Piece) -> Part[FollowedPiece]:
        inputs = (_rig_of(piece), piece.performance.timing, self.frames, self.rate, self.carrier_part(piece))
        return Part("followed piece", FollowedPiece, inputs, kept=False)

    def _surroundings_part(self, camera: Camera) -> Part[FollowedSurroundings]:
        """Of what a camera follows, and nothing beside."""
        followed: dict[str, set[Follows]] = {}
        for subject, follows in camera.followed():
            if subject.owner_id:
                followed.setdefault(subject.owner_id, set()).add(follows)
        characters = tuple(
            (c.id, self.followed_part(c, followed[c.id])) for c in self.scene.characters if c.id in followed
        )
        pieces = tuple((p.id, self.followed_piece_part(p)) for p in self.scene.pieces if p.id in followed)
        return Part("surroundings", FollowedSurroundings, (self.frames, self.rate, characters, pieces), kept=False)

    def camera_part(self, camera: Camera) -> Part[CameraFrames]:
        """By what decides its picture, and by the motion of what it follows."""
        part = self._cameras.get(camera.looks_by)
        if part is None:
            inputs = (LookOf(camera), self._surroundings_part(camera), self.scene.delivery)
            part = Part("camera", camera_frames, inputs)
            held_with = next((c for c in self.scene.characters if c.id == camera.steps_with), None)
            if held_with is not None:
                part = Part("held camera", held_on, (part, self.rows_part(held_with)))
            self._cameras[camera.looks_by] = part
        return part

    @_made_once
    def path_part(self, camera: Camera | None) -> Part[CameraPath]:
        """Of a camera, or of the cut. With one camera in the cut it is that camera's own path."""
        cameras = [camera] if camera else list(self.scene.cameras_of_cut)
        if len(cameras) == 1:
            return Part("path", between.path_of, (self.camera_part(cameras[0]),), kept=False)
        return Part("cut", between.path_of_cut, (tuple(map(self.camera_part, cameras)), self.scene.cut, self.frames))

    @_made_once
    def carried_part(self, character: Character, ride: Ride) -> Part[Carried]:
        rides = ride.way != "off" and self.holds_poses(character)
        inputs = (
            ride if rides else Ride(), _rig_of(character), character.feet if rides and ride.plants else (),
            self.motion_part(character), self.rows_part(character),
            Part("compared rows", between.rows, (self.compared_part(character), self.frames), False),
            self.path_part(None) if rides else None, self.rate, self.frames,
        )  # fmt: skip
        part = Part("ride", shown.carried, inputs)
        if not character.parts:
            return part
        names = tuple(own.joint for own in character.parts)
        rows = tuple(self._own_rows_part(own.stepping, character) for own in character.parts)
        return Part("apart", apart, (*inputs[1:2], *inputs[3:5], part, names, rows))

    @_made_once
    def carried_whole_part(self, character: Character) -> Part[Floats]:
        """What carries the body of a character as it rides, whatever its feet do."""
        return Part("whole ride", between.whole, (self.carried_part(character, character.ride),), kept=False)

    @_made_once
    def strobing_part(self, character: Character, ride: Ride) -> Part[Strobing]:
        if not self.holds_poses(character):  # then nothing slips, whatever the camera does
            return Part("strobing", nothing_slips, (self.frames.count,))
        inputs = (
            self.path_part(None), _rig_of(character), self.joints_part(character), self.rows_part(character),
            self.carried_part(character, ride), self.compared_part(character), self.frames,
            self.span_starts_part, self.rate, self.limits.slip_permille,
        )  # fmt: skip
        return Part("strobing", between.strobing_of, inputs)

    @_made_once
    def price_part(self, character: Character, ride: Ride) -> Part[ContactPrice]:
        inputs = (
            _rig_of(character), character.feet, self.motion_part(character), self.rows_part(character),
            self.carried_part(character, ride), self.rate,
            self.path_part(None) if self.holds_poses(character) else None,
        )  # fmt: skip
        return Part("contacts", contact_price, inputs)

    def arc_part(
        self, thing: Thing, node: int | MeshPoint, camera: Camera | None, frozen_row: int | None = None
    ) -> Part[ArcTrack]:
        spans, (world, row, _) = self._arc_spans(camera, frozen_row), self._tracked(thing, node)
        return Part("arc", arc_track, (self.path_part(camera), world, row, frozen_row, spans))

    def arc_judgement_part(
        self, thing: Thing, node: int | MeshPoint, camera: Camera | None, frozen_row: int | None = None
    ) -> Part[JudgedArc]:
        world, row, parent = self._tracked(thing, node)
        inputs = (
            self.arc_part(thing, node, camera, frozen_row), self.path_part(camera), world,
            row, parent, frozen_row, self._arc_spans(camera, frozen_row), self.limits.arc_permille,
            Window.at(self.rate),
        )  # fmt: skip
        return Part("arc judgement", judged_arc, inputs)

    def _tracked(self, thing: Thing, node: int | MeshPoint) -> tuple[Part[Floats], int, int]:
        """Matrices of the unstepped motion, and which of them is tracked and which it hangs on (-1: none)."""
        motion = self.motion_part(thing)
        if not isinstance(node, MeshPoint):
            return motion, node, int(self.rig(thing).parents[node])
        rig = _rig_of(thing)
        weights = Part("shape weights", between.shape_weights, (rig, thing.performance.timing, self.frames, self.rate))
        return Part("mesh point", mesh_point_world, (rig, motion, weights, node.vertex)), 0, 1

    def _arc_spans(self, camera: Camera | None, frozen_row: int | None) -> tuple[int, ...] | Part[tuple[int, ...]]:
        return (0,) if camera or frozen_row is not None else self.span_starts_part

    # --- keys of what is put together from several ---

    @cached_property
    def surroundings_key(self) -> str:
        """Of everything that a camera could depend on beside itself."""
        everything = tuple(self.followed_part(c, ("motion", "shown")).key for c in self.scene.characters)
        pieces = tuple((p.id, self.followed_piece_part(p).key) for p in self.scene.pieces)
        ids = tuple(c.id for c in self.scene.characters)
        return content_key("surroundings", self.scene.delivery, self.frames, self.rate, ids, everything, pieces)

    def shown_key(self, character: Character) -> str:
        """Of which pose each frame shows, and how it is carried."""
        starts, carried = self.starts_part(character), self.carried_part(character, character.ride)
        return content_key("shown", starts.key, carried.key)

    @staticmethod
    def other_rides(character: Character) -> tuple[Ride, Ride]:
        """What its own ride is compared with: none, and the one that is offered."""
        return Ride(), character.offered_ride

    def strobing_key(self, character: Character) -> str:
        """Of slip and price, as shown and with another ride."""
        rides = (character.ride, *self.other_rides(character))
        parts = [(self.strobing_part(character, r).key, self.price_part(character, r).key) for r in rides]
        return content_key("strobing", *parts)

    def subjects_key(self, camera: Camera) -> str:
        """Of the figures of all characters in a camera."""
        motions = [(c.id, c.name, c.front_deg, self.motion_part(c).key) for c in self.scene.characters]
        return content_key("subjects", self.camera_part(camera).key, *motions)


def _rig_of(thing: Thing) -> RigOf:
    return RigOf(thing.performance.source)


def _ground(thing: Thing) -> tuple[Ground, ...]:
    return (thing.nested.ground,) if thing.nested else ()
