"""Subjects: what a mount, an aim, a focus or a framing lock goes by, and where that is on every frame."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, fields, is_dataclass, replace
from itertools import pairwise
from typing import Any, Literal, NamedTuple, Protocol

import numpy as np

from ..arrays import Floats
from ..errors import DomainError
from ..rig import transforms
from ..time.ease import Ease, check_ease
from ..time.frames import FrameRange, Rate

Vector = tuple[float, float, float]
SubjectKind = Literal["point", "joint", "body", "object"]
Follows = Literal["motion", "shown"]
"""``motion``: on ones, as performed. ``shown``: the stepped pose of the frame. Never a ridden one."""
FOLLOWS: tuple[Follows, ...] = ("motion", "shown")
Use = Literal["mount", "aim", "focus", "framing"]
FARTHEST_M = 1e7


def check_numbers(of_what: str, numbers: Iterable[float]) -> None:
    """Raise ``DomainError`` where a number is not finite or beyond all bounds."""
    if not all(abs(n) < FARTHEST_M for n in numbers):
        raise DomainError(f"The {of_what} is out of bounds.", "Keep every number within 10,000,000.")


@dataclass(frozen=True)
class Subject:
    """One thing that is followed.

    A ``point`` stands at ``offset``. A ``joint`` of the character or prop ``owner_id`` is taken with an offset in world or joint
    axes. A ``body`` is the whole character, a steady sphere that goes with its hips; an ``object`` is a prop or set piece: the
    middle of its bounds. Both may have an offset.
    ``weight`` counts in a group; ``radius_m`` is how far the thing reaches around its place (a body knows its own).
    """

    kind: SubjectKind = "point"
    owner_id: str | None = None
    joint: str | None = None
    offset: Vector = (0.0, 0.0, 0.0)
    axes: Literal["world", "joint"] = "world"
    weight: float = 1.0
    radius_m: float = 0.0

    def __post_init__(self) -> None:
        check_numbers("subject's place", (*self.offset, self.radius_m))
        if self.kind != "point" and self.owner_id is None:
            raise DomainError("The subject does not say whose it is.", "Name the character, prop or set piece.")
        if self.kind == "joint" and self.joint is None:
            raise DomainError("The subject does not name its joint.", "Choose a joint.")
        if not 0 < self.weight <= 1000:
            raise DomainError(f"A weight of {self.weight:g} is not usable.", "Give one above 0, up to 1000.")
        if self.radius_m < 0:
            raise DomainError("A radius cannot be below 0.", "Give 0 or more metres.")


def with_subjects(part: Any, change: Callable[[Subject], Subject]) -> Any:
    """Whatever holds subjects (a mount, an aim, a framing, a saved view, or tuples of them), each of them changed; the very same
    where none is."""
    if isinstance(part, Subject):
        return change(part)
    if isinstance(part, tuple):
        items = tuple(with_subjects(item, change) for item in part)
        return part if all(a is b for a, b in zip(items, part, strict=True)) else items
    if is_dataclass(part) and not isinstance(part, type):
        now = {field.name: getattr(part, field.name) for field in fields(part) if field.init}
        changed = {name: with_subjects(value, change) for name, value in now.items()}
        changed = {name: value for name, value in changed.items() if value is not now[name]}
        return replace(part, **changed) if changed else part
    return part


@dataclass(frozen=True)
class Target:
    """A group of subjects that rules until the next target takes over, between two frames and with an ease.

    The first target of a row has no ``first`` and ``last``: it rules from the beginning.
    """

    subjects: tuple[Subject, ...]
    first: int | None = None
    last: int | None = None
    ease: Ease = "slow in and out"

    def __post_init__(self) -> None:
        check_ease(self.ease)
        if not self.subjects:
            raise DomainError("There is nothing to go by.", "Choose a joint, a point or a character.")
        if len(self.subjects) > 64:
            raise DomainError("A group of more than 64 subjects is not usable.", "Choose the ones that matter.")
        if self.first is not None and self.last is not None and self.last < self.first:
            raise DomainError("The hand-over ends before it begins.", "Give its frames in order.")


def check_targets(targets: tuple[Target, ...]) -> None:
    """Hand-overs have to come one after the other. Raises ``DomainError``."""
    for earlier, later in pairwise(targets):
        if later.first is None or later.last is None:
            raise DomainError("A hand-over does not say when.", "Give its first and last frame.")
        if earlier.last is not None and later.first < earlier.last:
            raise DomainError("Two hand-overs overlap.", f"Let the later one begin at {earlier.last} or after.")


class Surroundings(Protocol):
    """What cameras go by: the scene's frames, and where its characters and objects are on each."""

    @property
    def frames(self) -> FrameRange: ...

    @property
    def rate(self) -> Rate: ...

    def joint_frames(self, character_id: str, joint: str, follows: Follows) -> Floats:
        """``world_from_joint`` (frames, 4, 4)."""
        ...

    def body_bounds(self, character_id: str, follows: Follows) -> tuple[Floats, Floats]:
        """Lowest and highest corner of a character's joints, each (frames, 3)."""
        ...

    def body_sphere(self, character_id: str, follows: Follows) -> tuple[Floats, float]:
        """A steady sphere around a character: its middle (frames, 3), and one radius that holds every joint on every frame."""
        ...

    def object_frames(self, piece_id: str) -> tuple[Floats, float]:
        """The middle of a prop or set piece and how it is turned, (frames, 4, 4), and how far it reaches around its middle."""
        ...

    def front_of_character(self, owner_id: str) -> Floats:
        """Level unit vector that a character (or a prop, by +Z of its file) faces, (3,)."""
        ...


class Group(NamedTuple):
    """Where a weighted group is, (frames, 3), and how far it reaches around that, (frames,) metres."""

    place: Floats
    radius_m: Floats


def place_of(subject: Subject, surroundings: Surroundings, follows: Follows = "motion") -> Floats:
    """Place of one subject on every frame, (frames, 3)."""
    return _placed(subject, surroundings, follows)[0]


def _placed(subject: Subject, surroundings: Surroundings, follows: Follows) -> tuple[Floats, Floats]:
    count = surroundings.frames.count
    offset, own = np.array(subject.offset), np.full(count, subject.radius_m)
    if subject.kind == "point":
        return np.broadcast_to(offset, (count, 3)), own
    owner = subject.owner_id or ""
    if subject.kind == "joint":
        return transforms.apply(frame_of(subject, surroundings, follows), np.zeros(3)), own
    if subject.kind == "body":
        middle, radius = surroundings.body_sphere(owner, follows)
        return middle + offset, np.maximum(own, radius)
    rigid, radius = surroundings.object_frames(owner)
    return rigid[:, :3, 3] + offset, np.maximum(own, radius)


def frame_of(subject: Subject, surroundings: Surroundings, follows: Follows = "motion") -> Floats:
    """Place and turn of one subject, rigid, (frames, 4, 4); only joints and objects turn."""
    if subject.kind == "object":
        moved = surroundings.object_frames(subject.owner_id or "")[0].copy()
        moved[:, :3, 3] += np.array(subject.offset)
        return moved
    if subject.kind != "joint":
        return transforms.rigid(np.eye(3), place_of(subject, surroundings, follows))
    joint = surroundings.joint_frames(subject.owner_id or "", subject.joint or "", follows)
    offset = np.array(subject.offset)
    rigid = transforms.orthonormal(joint)
    if subject.axes == "joint":
        rigid[:, :3, 3] = transforms.apply(joint, offset)
    else:
        rigid[:, :3, 3] += offset
    return rigid


def group_of(subjects: tuple[Subject, ...], surroundings: Surroundings, follows: Follows = "motion") -> Group:
    """The weighted middle of some subjects, and the radius around it that holds them all."""
    placed = [_placed(s, surroundings, follows) for s in subjects]
    weights = np.array([s.weight for s in subjects])
    places = np.stack([p for p, _ in placed])
    middle = np.einsum("s,sfi->fi", weights / weights.sum(), places)
    reach = np.linalg.norm(places - middle, axis=-1) + np.stack([r for _, r in placed])
    return Group(middle, reach.max(axis=0))
