"""A camera of the scene: its channels, lens, mount, aim, focus, framing, locks and saved views, as frozen data."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Literal

from ..content import content_key
from ..errors import DomainError
from ..optics.lens import NEAR_M, Gate, Lens
from ..time.channel_tables import Channels
from ..time.channels import Channel
from .aim import Aim
from .camera_channels import CAMERA_CHANNELS, LOCK_GROUPS, POSE_NAMES, LockGroup
from .focus import Focus
from .framing import Framing
from .lock_correction import CarriedOver
from .mounts import Free, Mount
from .subjects import Follows, Subject, check_numbers

Role = Literal["shot", "face", "review"]
TINTS, PATTERNS = 3, 6
MOST_VIEWS = 200


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
        CAMERA_CHANNELS["focal_mm"].check(self.focal_mm)


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
class Rigging:
    """What a camera is turned towards, what it keeps sharp, and what it holds in its frame."""

    aim: Aim | None = None
    focus: Focus | None = None
    framing: Framing | None = None


@dataclass(frozen=True)
class SavedView:
    """A view of a camera under a name: its channels' values then, and the mount and the rigging they belong to. Views saved
    before their rigging was kept have None: then the camera's own stays."""

    id: str
    name: str
    values: tuple[tuple[str, float], ...]
    mount: Mount
    rigging: Rigging | None = None


@dataclass(frozen=True)
class LeftMount:
    """A mount that a camera was on before, as it was left: with the channels of its place and angles and the mount's own,
    what of them was moved without a key, and what its framing lock had still to make up."""

    mount: Mount
    channels: tuple[tuple[str, Channel], ...]
    unkeyed: tuple[tuple[str, float], ...] = ()
    carried_over: CarriedOver | None = None


@dataclass(frozen=True)
class Camera:
    """A camera of the scene. ``unkeyed`` are channel values that were set without a key; until they are keyed or put back
    they rule on every frame. ``tint`` and ``pattern`` are how its lines are drawn, everywhere. ``left`` holds the mounts that
    it was on before, at most one of a kind, none of the kind that it is on."""

    id: str
    name: str
    role: Role = "shot"
    tint: int = 0
    pattern: int = 0
    locks: tuple[LockGroup, ...] = ()
    back: FilmBack = FilmBack()
    glass: Glass = Glass()
    channels: Channels = CAMERA_CHANNELS.plain
    unkeyed: tuple[tuple[str, float], ...] = ()
    mount: Mount = field(default_factory=Free)
    aim: Aim | None = None
    focus: Focus | None = None
    framing: Framing | None = None
    views: tuple[SavedView, ...] = ()
    left: tuple[LeftMount, ...] = ()
    steps_with: str | None = None
    """The character with whose poses it is held: as long as one is shown, it stands still; None moves on ones."""

    @property
    def rigging(self) -> Rigging:
        return Rigging(self.aim, self.focus, self.framing)

    def rigged(self, rigging: Rigging) -> Camera:
        """The camera as far as its locks let it be turned, focused and held otherwise."""
        aim, framing = (self.aim, self.framing) if "angles" in self.locks else (rigging.aim, rigging.framing)
        return replace(self, aim=aim, framing=framing, focus=self.focus if "lens" in self.locks else rigging.focus)

    def left_mount(self, kind: str) -> LeftMount | None:
        """The mount of a kind that it was on before, if it was."""
        return next((left for left in self.left if left.mount.kind == kind), None)

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
        return any(channel.keys for channel in self.channels.values())

    @property
    def channels_in_play(self) -> tuple[str, ...]:
        """The channels that a key of this camera holds: its pose, its mount's own, and whatever has keys already."""
        in_play = {*POSE_NAMES, *self.mount.channel_names(), *dict(self.unkeyed)}
        return tuple(n for n, channel in self.channels.items() if n in in_play or channel.keys)

    @cached_property
    def looks_by(self) -> str:
        """A name of everything that decides its picture."""
        c = self
        return content_key(
            "view", c.channels.content, c.unkeyed, c.back, c.glass, c.mount, c.aim, c.focus, c.framing, c.steps_with
        )

    @property
    def look(self) -> Camera:
        """The camera without what does not decide its picture."""
        return replace(self, id="", name="", role="shot", tint=0, pattern=0, locks=(), views=(), left=())

    @cached_property
    def shown_by(self) -> str:
        """A name of everything about it; of the mounts that it left, which there are."""
        c, kinds_left = self, tuple(left.mount.kind for left in self.left)
        return content_key("camera", c.id, c.name, c.role, c.tint, c.pattern, c.locks, c.views, kinds_left, c.looks_by)

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
