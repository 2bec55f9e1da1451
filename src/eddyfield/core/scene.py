"""The scene: everything a person decides, as frozen data. Heavy things (rigs) are named, not held."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Literal

from .channels import Channel
from .content import content_name
from .errors import DomainError
from .exposure import Stepping
from .lens import DeliveryFrame, Gate, Lens
from .ride import Ride
from .time import FrameRange, Rate

Role = Literal["shot", "face", "review"]
OffsetReading = Literal["auto", "add", "replace"]
CHANNEL_NAMES = ("x", "y", "z", "pan", "tilt", "roll", "focal_mm")
LONGEST_SCENE = 20_000


@dataclass(frozen=True)
class RigSource:
    """Which file a rig comes from and how it is read. ``digest`` names the file's bytes in the store."""

    digest: str
    format: str
    scale: float = 1.0
    animation: str | None = None
    offsets: OffsetReading = "auto"

    def __post_init__(self) -> None:
        if not 1e-6 <= self.scale <= 1e6:
            raise DomainError(f"A scale of {self.scale} is not usable.", "Give one above 0, up to 1,000,000.")


@dataclass(frozen=True)
class CameraPose:
    """Where a camera stands (metres), how it is turned (degrees), and its focal length (mm)."""

    x: float
    y: float
    z: float
    pan: float
    tilt: float
    roll: float
    focal_mm: float

    def __post_init__(self) -> None:
        numbers = (self.x, self.y, self.z, self.pan, self.tilt, self.roll)
        if not all(abs(n) < 1e7 for n in numbers):
            raise DomainError(
                "The camera's place or angles are out of bounds.", "Keep them within 10,000 km and turns."
            )
        if not 1 <= self.focal_mm <= 5000:
            raise DomainError(f"A focal length of {self.focal_mm:g} mm is not usable.", "Give one from 1 to 5000 mm.")


@dataclass(frozen=True)
class CameraChannels:
    """The keyed numbers of a camera, one channel each; metres, degrees, mm."""

    x: Channel = Channel(0.0)
    y: Channel = Channel(1.5)
    z: Channel = Channel(5.0)
    pan: Channel = Channel(0.0)
    tilt: Channel = Channel(0.0)
    roll: Channel = Channel(0.0)
    focal_mm: Channel = Channel(35.0)

    def by_name(self) -> dict[str, Channel]:
        return {name: getattr(self, name) for name in CHANNEL_NAMES}

    @cached_property
    def content(self) -> str:
        """A name of all keys and defaults, made once."""
        return content_name("channels", self)


@dataclass(frozen=True)
class FilmBack:
    """The back itself, in mm, and how the delivery frame is taken from it."""

    width_mm: float = 36.0
    height_mm: float = 24.0
    gate: Gate = "crop"
    squeeze: float = 1.0


@dataclass(frozen=True)
class Camera:
    """A camera of the scene. ``unkeyed`` is where it was moved to without setting a key; until it is keyed or put back,
    it stands there on every frame."""

    id: str
    name: str
    role: Role = "shot"
    locked: bool = False
    back: FilmBack = FilmBack()
    near_m: float = 0.01
    channels: CameraChannels = CameraChannels()
    unkeyed: CameraPose | None = None

    def lens(self) -> Lens:
        """The lens without its focal length, which is a channel."""
        back = self.back
        return Lens(35.0, back.width_mm, back.height_mm, back.gate, back.squeeze, near_m=self.near_m)

    @property
    def keyed(self) -> bool:
        return any(channel.keys for channel in self.channels.by_name().values())


@dataclass(frozen=True)
class Character:
    """A rigged, moving character. ``start`` is the frame of its motion's time 0."""

    id: str
    name: str
    source: RigSource
    start: int = 1
    stepping: Stepping = Stepping()
    ride: Ride = Ride()
    feet: tuple[str, ...] = ()


@dataclass(frozen=True)
class SetPiece:
    """Something of the set that stands still and is drawn."""

    id: str
    name: str
    source: RigSource


@dataclass(frozen=True)
class CutEntry:
    """From ``first`` on, the picture is this camera's, until the next entry."""

    first: int
    camera_id: str


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
    set_pieces: tuple[SetPiece, ...] = ()
    cut: tuple[CutEntry, ...] = field(default=())

    def __post_init__(self) -> None:
        if self.frames.count > LONGEST_SCENE:
            raise DomainError(
                f"The scene would have {self.frames.count:,} frames.", f"Keep it within {LONGEST_SCENE:,} frames."
            )

    def camera(self, camera_id: str) -> Camera:
        for camera in self.cameras:
            if camera.id == camera_id:
                return camera
        raise DomainError("That camera is not in the scene any more.", "Choose another camera.")

    def character(self, character_id: str) -> Character:
        for character in self.characters:
            if character.id == character_id:
                return character
        raise DomainError("That character is not in the scene any more.", "Choose another character.")

    def with_camera(self, camera: Camera) -> Scene:
        return replace(self, cameras=tuple(camera if c.id == camera.id else c for c in self.cameras))

    def with_character(self, character: Character) -> Scene:
        return replace(self, characters=tuple(character if c.id == character.id else c for c in self.characters))
