"""The scene: everything a person decides, as frozen data. Heavy things (rigs) are named, not held."""

from __future__ import annotations

from collections.abc import Container, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property

from .acceptance import Acceptance
from .cameras.camera import Camera
from .cameras.room import Room
from .cut.cut import Cut
from .cut.other_cut import OtherCut
from .cut.sound import Mark, Sound
from .errors import DomainError
from .optics.lens import DeliveryFrame
from .performance.character import Character
from .performance.nested import LEVEL, Ground
from .performance.piece import Piece
from .readings.limits import Strictness
from .time.bending import Bend
from .time.frames import FrameRange, FrameTime, Rate
from .time.timecode import Timecode

LONGEST_SCENE = 20_000


Thing = Character | Piece
"""What is brought in, placed, shown and taken out again."""
MOST_THINGS = 500


def numbered(wanted: str, taken: Container[str]) -> str:
    """A name, with a number behind it where it is taken.

    >>> numbered("Stone", {"Stone", "Stone 2"})
    'Stone 3'
    """
    number, name = 2, wanted
    while name in taken:
        name, number = f"{wanted[:110]} {number}", number + 1
    return name


@dataclass(frozen=True)
class Block:
    """Another scene that plays inside one: what it holds is there from the frame ``start`` on, as long as that scene lasts,
    and stands on ``ground``. Over the ``bends``, counted from ``start``, its time runs otherwise, one after the other."""

    id: str
    name: str
    scene_id: str
    start: FrameTime
    ground: Ground = LEVEL
    bends: tuple[Bend, ...] = ()
    inner: Scene | None = field(default=None, repr=False, compare=False)
    """The other scene as it stands, with all that comes into it; None where nobody has looked for it yet."""


@dataclass(frozen=True)
class Scene:
    """A scene of the production. ``frames`` is its playing range, both ends included."""

    id: str
    name: str
    rate: Rate
    frames: FrameRange
    delivery: DeliveryFrame = DeliveryFrame()
    cameras: tuple[Camera, ...] = ()
    characters: tuple[Character, ...] = ()
    pieces: tuple[Piece, ...] = ()
    cut: Cut = field(kw_only=True)
    """Of cameras that are in the scene."""
    room: Room = Room()
    sounds: tuple[Sound, ...] = ()
    marks: tuple[Mark, ...] = ()
    """In order of time; of a kind one a frame at most."""
    timecode: Timecode = Timecode()
    cut_name: str = ""
    """What the cut is called where there are others; empty as long as it has no name."""
    other_cuts: tuple[OtherCut, ...] = ()
    accepted: tuple[Acceptance, ...] = ()
    """Readings that somebody lets stand, in order; about one matter one a frame at most."""
    strictness: Strictness = "usual"
    """How strictly the limits of the production are taken in it."""
    blocks: tuple[Block, ...] = ()
    """Other scenes that play inside this one. What comes with them is among the characters, pieces and sounds (see
    ``nesting``), each saying so."""

    def __post_init__(self) -> None:
        if self.frames.count > LONGEST_SCENE:
            raise DomainError(
                f"The scene would have {self.frames.count:,} frames.", f"Keep it within {LONGEST_SCENE:,} frames."
            )

        if len(self.characters) + len(self.pieces) > MOST_THINGS:
            raise DomainError(f"The scene would hold more than {MOST_THINGS} things.", "Take some out first.")
        ids = {camera.id for camera in self.cameras}
        if not all(ids.issuperset(cut.camera_ids) for cut in self.cuts):
            raise DomainError("The cut shows a camera that is not in the scene.", "Give its place to another camera.")

    def camera(self, camera_id: str) -> Camera:
        index = self.camera_indices.get(camera_id)
        if index is None:
            raise DomainError("That camera is not in the scene any more.", "Choose another camera.")
        return self.cameras[index]

    @cached_property
    def camera_indices(self) -> Mapping[str, int]:
        """The index of each camera in ``cameras``, by its id."""
        return {camera.id: index for index, camera in enumerate(self.cameras)}

    @property
    def cuts(self) -> tuple[Cut, ...]:
        """The one that is shown, and the others."""
        return self.cut, *(other.cut for other in self.other_cuts)

    @property
    def cameras_of_cut(self) -> tuple[Camera, ...]:
        """Each camera that the cut uses, once."""
        return tuple(map(self.camera, self.cut.camera_ids))

    def frames_of_cut(self, camera: Camera) -> list[tuple[int, int]]:
        """The spans of the cut that are a camera's: first and last frame of each."""
        return [(span.first, span.last) for span in self.cut.spans(self.frames) if span.camera_id == camera.id]

    def is_all_of_cut(self, camera: Camera) -> bool:
        return self.cut.camera_ids == (camera.id,)

    def character(self, character_id: str) -> Character:
        for character in self.characters:
            if character.id == character_id:
                return character
        raise DomainError("That character is not in the scene any more.", "Choose another character.")

    def piece(self, piece_id: str) -> Piece:
        for piece in self.pieces:
            if piece.id == piece_id:
                return piece
        raise DomainError("That prop or set piece is not in the scene any more.", "Choose another one.")

    def sound(self, sound_id: str) -> Sound:
        for sound in self.sounds:
            if sound.id == sound_id:
                return sound
        raise DomainError("That sound is not in the scene any more.", "Choose another one.")

    def block(self, block_id: str) -> Block:
        for block in self.blocks:
            if block.id == block_id:
                return block
        raise DomainError("That block is not in the scene any more.", "Choose another one.")

    @property
    def things(self) -> tuple[Thing, ...]:
        """Characters, props and set pieces."""
        return *self.characters, *self.pieces

    def thing(self, thing_id: str) -> Thing:
        for thing in self.things:
            if thing.id == thing_id:
                return thing
        raise DomainError("That is not in the scene any more.", "Choose something else.")

    def with_camera(self, camera: Camera) -> Scene:
        """The scene with this camera in the place of the one with its id."""
        index = self.camera_indices[camera.id]
        changed = replace(self, cameras=(*self.cameras[:index], camera, *self.cameras[index + 1 :]))
        vars(changed)["camera_indices"] = self.camera_indices  # the same, and not to be looked for again
        return changed

    def going_by(self, thing_id: str) -> tuple[str, ...]:
        """Names of the cameras that go by a thing, and of the props that it holds."""
        cameras = (
            c.name
            for c in self.cameras
            if c.steps_with == thing_id or any(s.owner_id == thing_id for s, _ in c.followed())
        )
        return *cameras, *(p.name for p in self.pieces if any(h.character_id == thing_id for h in p.holds))

    def with_thing(self, thing: Thing) -> Scene:
        """The scene with this character, prop or set piece in the place of the one with its id."""
        if isinstance(thing, Character):
            return self.with_character(thing)
        return replace(self, pieces=tuple(thing if p.id == thing.id else p for p in self.pieces))

    def with_character(self, character: Character) -> Scene:
        return replace(self, characters=tuple(character if c.id == character.id else c for c in self.characters))


def no_other_scenes(scene_id: str) -> Scene:
    """For who bakes one scene and knows of no others."""
    raise DomainError("Other scenes cannot be brought in here.", "Bring them in where they are kept.")
