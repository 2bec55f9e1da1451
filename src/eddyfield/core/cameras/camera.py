"""A camera of the scene: its channels, lens, mount, aim, focus, framing, locks and saved views, as frozen data."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Literal

from ..content import content_key
from ..errors import DomainError
from ..optics.lens import NEAR_M, Gate, Lens
from ..time.channels import Channel
from .aim import Aim
from .focus import Focus
from .framing import Framing
from .mounts import Free, Mount
from .subjects import Follows, Subject, check_numbers

Role = Literal["shot", "face", "review"]
LockGroup = Literal["place", "angles", "lens"]
LOCK_GROUPS: tuple[LockGroup, ...] = ("place", "angles", "lens")
POSE_NAMES = ("x", "y", "z", "pan", "tilt", "roll", "focal_mm")
CHANNEL_NAMES = (
    *POSE_NAMES, "focus_m", "aperture", "rail", "arm_pitch", "arm_yaw", "arm_length", "azimuth", "elevation",
    "distance", "aim_weight", "framing_weight",
)  # fmt: skip
TINTS, PATTERNS = 3, 6
MOST_VIEWS = 200
_BOUNDS = {
    "focal_mm": (1.0, 5000.0, "mm"),
    "focus_m": (0.01, 1e6, "m"),
    "aperture": (0.5, 128.0, ""),
    "arm_length": (0.2, 1e4, "m"),
    "distance": (0.02, 1e6, "m"),
    "aim_weight": (0.0, 1.0, ""),
    "framing_weight": (0.0, 1.0, ""),
}


def lock_group_of(channel: str) -> LockGroup:
    """Which lock holds a channel."""
    if channel in ("focal_mm", "focus_m", "aperture"):
        return "lens"
    return "angles" if channel in ("pan", "tilt", "roll", "aim_weight", "framing_weight") else "place"


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
        check_numbers("camera's place", (self.x, self.y, self.z, self.pan, self.tilt, self.roll))
        check_channel_value("focal_mm", self.focal_mm)


def check_channel_value(name: str, value: float) -> None:
    """Raise ``DomainError`` where a channel is not known or may not have this value."""
    if name not in CHANNEL_NAMES:
        raise DomainError(f"A camera has no channel “{name}”.", f"Channels are {', '.join(CHANNEL_NAMES)}.")
    low, high, unit = _BOUNDS.get(name, (-1e7, 1e7, ""))
    if not low <= value <= high:
        title = {"focal_mm": "focal length"}.get(name, name.replace("_m", "").replace("_", " "))
        raise DomainError(
            f"{title[0].upper()}{title[1:]} {value:g} {unit}".strip() + " is not usable.",
            f"Give one from {low:g} to {high:g} {unit}".strip() + ".",
        )


@dataclass(frozen=True)
class CameraChannels:
    """The keyed numbers of a camera, one channel each; metres, degrees, mm, shares of 1."""

    x: Channel = Channel(0.0)
    y: Channel = Channel(1.5)
    z: Channel = Channel(5.0)
    pan: Channel = Channel(0.0)
    tilt: Channel = Channel(0.0)
    roll: Channel = Channel(0.0)
    focal_mm: Channel = Channel(35.0)
    focus_m: Channel = Channel(5.0)
    aperture: Channel = Channel(4.0)
    rail: Channel = Channel(0.0)
    arm_pitch: Channel = Channel(20.0)
    arm_yaw: Channel = Channel(0.0)
    arm_length: Channel = Channel(3.0)
    azimuth: Channel = Channel(0.0)
    elevation: Channel = Channel(0.0)
    distance: Channel = Channel(4.0)
    aim_weight: Channel = Channel(1.0)
    framing_weight: Channel = Channel(1.0)

    def by_name(self) -> dict[str, Channel]:
        return {name: getattr(self, name) for name in CHANNEL_NAMES}

    @cached_property
    def content(self) -> str:
        """A name of all keys and defaults, made once."""
        return content_key("channels", self)


@dataclass(frozen=True)
class FilmBack:
    """The back itself, in mm, and how the delivery frame is taken from it."""

    width_mm: float = 36.0
    height_mm: float = 24.0
    gate: Gate = "crop"
    squeeze: float = 1.0


@dataclass(frozen=True)
class Glass:
    """What else the lens does. Shifts are fractions of the frame, positive moves the picture right and up. ``far_m`` None
    shows all; an ``orthographic_height_m`` makes a parallel view of that height; ``circle_mm`` is the circle of confusion,
    None for a 1500th of the used back's diagonal."""

    shift_x: float = 0.0
    shift_y: float = 0.0
    near_m: float = NEAR_M
    far_m: float | None = None
    orthographic_height_m: float | None = None
    circle_mm: float | None = None
    shutter_deg: float = 180.0

    def __post_init__(self) -> None:
        if not (abs(self.shift_x) <= 5 and abs(self.shift_y) <= 5):
            raise DomainError("The lens shift is out of bounds.", "Keep it within 5 frames.")
        if not 1e-4 <= self.near_m <= 1e6:
            raise DomainError(f"A near plane at {self.near_m:g} m is not usable.", "Give one from 0.0001 m.")
        if self.far_m is not None and not self.near_m < self.far_m <= 1e7:
            raise DomainError("The far plane has to lie beyond the near plane.", "Give a greater distance.")
        if self.orthographic_height_m is not None and not 1e-4 <= self.orthographic_height_m <= 1e6:
            raise DomainError("The height of a parallel view has to be above 0.", "Give it in metres.")
        if self.circle_mm is not None and not 1e-5 <= self.circle_mm <= 10:
            raise DomainError("That circle of confusion is not usable.", "Give one from 0.00001 to 10 mm.")
        if not 0 < self.shutter_deg <= 360:
            raise DomainError(f"A shutter of {self.shutter_deg:g}° is not usable.", "Give one up to 360°.")


@dataclass(frozen=True)
class SavedView:
    """A view of a camera under a name: its channels' values then, and the mount they belong to."""

    id: str
    name: str
    values: tuple[tuple[str, float], ...]
    mount: Mount


@dataclass(frozen=True)
class Camera:
    """A camera of the scene. ``unkeyed`` are channel values that were set without a key; until they are keyed or put back
    they rule on every frame. ``tint`` and ``pattern`` are how its lines are drawn, everywhere."""

    id: str
    name: str
    role: Role = "shot"
    tint: int = 0
    pattern: int = 0
    locks: tuple[LockGroup, ...] = ()
    back: FilmBack = FilmBack()
    glass: Glass = Glass()
    channels: CameraChannels = CameraChannels()
    unkeyed: tuple[tuple[str, float], ...] = ()
    mount: Mount = field(default_factory=Free)
    aim: Aim | None = None
    focus: Focus | None = None
    framing: Framing | None = None
    views: tuple[SavedView, ...] = ()

    def lens(self) -> Lens:
        """The lens without its focal length, which is a channel."""
        back, glass = self.back, self.glass
        return Lens(
            35.0, back.width_mm, back.height_mm, back.gate, back.squeeze, glass.shift_x, glass.shift_y,
            glass.near_m, glass.orthographic_height_m,
        )  # fmt: skip

    @property
    def locked(self) -> bool:
        """Whether nothing of it can be moved."""
        return set(self.locks) == set(LOCK_GROUPS)

    @property
    def keyed(self) -> bool:
        return any(channel.keys for channel in self.channels.by_name().values())

    @property
    def channels_in_play(self) -> tuple[str, ...]:
        """The channels that a key of this camera holds: its pose, its mount's own, and whatever has keys already."""
        own = self.channels.by_name()
        unkeyed = dict(self.unkeyed)
        return tuple(
            n for n in CHANNEL_NAMES if n in POSE_NAMES or n in self.mount.channels or own[n].keys or n in unkeyed
        )

    @cached_property
    def looks_by(self) -> str:
        """A name of everything that decides its picture."""
        c = self
        return content_key("view", c.channels.content, c.unkeyed, c.back, c.glass, c.mount, c.aim, c.focus, c.framing)

    @property
    def look(self) -> Camera:
        """The camera without what does not decide its picture."""
        return replace(self, id="", name="", role="shot", tint=0, pattern=0, locks=(), views=())

    @cached_property
    def shown_by(self) -> str:
        """A name of everything about it."""
        c = self
        return content_key("camera", c.id, c.name, c.role, c.tint, c.pattern, c.locks, c.views, c.looks_by)

    def followed(self) -> Iterator[tuple[Subject, Follows]]:
        """All subjects that it goes by, each with which pose of it."""
        for subject in self.mount.subjects:
            yield subject, getattr(self.mount, "follows", "motion")
        for part in (self.aim, self.focus):
            for target in part.targets if part else ():
                for subject in target.subjects:
                    yield subject, part.follows if part else "motion"
        if self.framing:
            for subject in self.framing.all_subjects:
                yield subject, self.framing.follows
