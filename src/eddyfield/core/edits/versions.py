"""The next version of a performance takes the place of the one before; cameras, cut, exposures and Ride stay."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..cameras.placement import feet_of
from ..errors import DomainError
from ..performance.character import Character
from ..performance.version import Version
from ..rig.rig import Rig
from ..rig.source import RigSource
from ..scene import Scene
from .edit import Edit

ALIKE = 0.5
"""Of the joints of both: a file that has so many in common with a character is a version of it."""
MOST_NAMED = 3


@dataclass(frozen=True, kw_only=True)
class BringNextVersion(Edit):
    """Let a character perform what another file holds, or an earlier version held. Raises ``DomainError`` where a camera goes by
    a joint that the file does not have."""

    edit: Literal["bring next version"] = "bring next version"
    title: ClassVar[str] = "next version of a performance"
    character_id: str
    source: RigSource
    name: str = ""
    brought_at: str = ""

    def brings(self, scene: Scene) -> tuple[RigSource, ...]:
        return (self.source,)

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        character = scene.character(self.character_id)
        if self.source == character.performance.source:
            return scene
        rig = baker.rig_of(self.source)
        if not len(rig.joints):
            raise DomainError(
                "The file has no joints: no skin, and nothing is animated.", "Bring in a rigged character."
            )
        missed = list(dict.fromkeys(_missed(scene, character, rig)))
        if missed:
            more = f" and {len(missed) - MOST_NAMED} more" if len(missed) > MOST_NAMED else ""
            raise DomainError(
                f"The new version lacks {', '.join(missed[:MOST_NAMED])}{more}.",
                "Have the cameras go by other joints first, or export the file with them.",
            )
        kept = tuple(name for name in character.feet if name in rig.index_of)
        ride = character.ride if character.ride.anchor in (None, *rig.names) else replace(character.ride, anchor=None)
        performance = replace(character.performance, source=self.source)
        new = Version(self.source, self.name or self.source.digest[:8], self.brought_at)
        versions = character.versions.having(new, character.performance.source)
        return scene.with_character(
            replace(character, performance=performance, feet=kept or feet_of(rig), ride=ride, versions=versions)
        )


@dataclass(frozen=True, kw_only=True)
class NoteVersion(Edit):
    """Write a note on a version of a performance."""

    edit: Literal["note version"] = "note version"
    title: ClassVar[str] = "note on a version"
    character_id: str
    source: RigSource
    note: str

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        character = scene.character(self.character_id)
        return scene.with_character(
            replace(character, versions=character.versions.noted(self.source, self.note.strip()))
        )


def _missed(scene: Scene, character: Character, rig: Rig) -> Iterator[str]:
    """The joints that cameras go by and the rig does not have, each with who goes by it."""
    for camera in scene.cameras:
        for subject, _ in camera.followed():
            if subject.kind == "joint" and subject.owner_id == character.id and subject.joint not in rig.index_of:
                yield f"the joint “{subject.joint}”, which “{camera.name}” goes by"


def version_of(scene: Scene, baker: Baker, rig: Rig) -> Character | None:
    """The character of which a rig is a version: the one that has the most joints in common with it, if that is half of
    what both have together."""
    names = set(rig.joint_names)

    def alike(character: Character) -> float:
        own = set(baker.rig(character).joint_names)
        return len(own & names) / max(1, len(own | names))

    best = max(scene.characters, key=alike, default=None)
    return best if best is not None and alike(best) >= ALIKE else None


def read_alike(own: RigSource, digest: str, format_name: str, usual_scale: float) -> RigSource:
    """How a next file is read: as the one before where it is of the same format, else as is usual for its own."""
    if own.format == format_name:
        return replace(own, digest=digest)
    return RigSource(digest, format_name, usual_scale, None, own.offsets)


def joints_added_and_lost(before: Rig, after: Rig) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Names of the joints that only the one has that is to come, and that only the one has that is there."""
    then, now = set(before.joint_names), set(after.joint_names)
    added = tuple(name for name in after.joint_names if name not in then)
    return added, tuple(name for name in before.joint_names if name not in now)
