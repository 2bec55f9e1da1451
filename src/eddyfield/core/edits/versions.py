"""The next version of a performance takes the place of the one before; cameras, cut, exposures and Ride stay."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..cameras.placement import feet_of
from ..cameras.subjects import Subject, with_subjects
from ..errors import DomainError
from ..performance.character import Character
from ..performance.version import Version
from ..rig.joint_matching import renamed_joints
from ..rig.rig import Rig
from ..rig.source import RigSource
from ..scene import Scene
from .edit import Edit

ALIKE = 0.5
"""Of the joints of both: a file that has so many in common with a character is a version of it."""


@dataclass(frozen=True, kw_only=True)
class BringNextVersion(Edit):
    """Let a character perform what another file holds, or an earlier version held. What goes by joints that are ``renamed``
    (before, after; None: by the shape of the hierarchy) goes by them under their new names; what goes by one that is lost keeps
    it, and the body stands in."""

    edit: Literal["bring next version"] = "bring next version"
    title: ClassVar[str] = "next version of a performance"
    character_id: str
    source: RigSource
    name: str = ""
    brought_at: str = ""
    renamed: tuple[tuple[str, str], ...] | None = None

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
        names = renamed_joints(baker.rig(character), rig) if self.renamed is None else self.renamed
        scene = _with_new_names(scene, character.id, dict(names))
        character = scene.character(self.character_id)
        new = Version(self.source, self.name or self.source.digest[:8], self.brought_at)
        versions = character.versions.having(new, character.performance.source)
        return scene.with_character(replace(performing(character, self.source, rig), versions=versions))


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


def performing(character: Character, source: RigSource, rig: Rig) -> Character:
    """The character as it performs what the ``rig`` of another ``source`` holds, in its own place and time."""
    kept = tuple(name for name in character.feet if name in rig.index_of)
    ride = character.ride if character.ride.anchor in (None, *rig.names) else replace(character.ride, anchor=None)
    performance = replace(character.performance, source=source)
    return replace(character, performance=performance, feet=kept or feet_of(rig), ride=ride)


def _with_new_names(scene: Scene, character_id: str, names: dict[str, str]) -> Scene:
    """All that goes by joints of a character goes by them under other names: cameras, their saved views and mounts that were
    left, feet, the anchor of Ride, corrections, parts with exposures of their own, and what is held."""
    if not names:
        return scene

    def renamed(subject: Subject) -> Subject:
        new = names.get(subject.joint or "") if subject.owner_id == character_id else None
        return replace(subject, joint=new) if new else subject

    for camera in scene.cameras:
        now = {name: getattr(camera, name) for name in ("mount", "aim", "focus", "framing", "views", "left")}
        changed = {name: with_subjects(part, renamed) for name, part in now.items()}
        if any(changed[name] is not part for name, part in now.items()):
            scene = scene.with_camera(replace(camera, **changed))
    for piece in scene.pieces:
        holds = tuple(
            replace(hold, joint=names.get(hold.joint or "", hold.joint)) if hold.character_id == character_id else hold
            for hold in piece.holds
        )
        if holds != piece.holds:
            scene = scene.with_thing(replace(piece, holds=holds))
    character = scene.character(character_id)
    feet = tuple(names.get(foot, foot) for foot in character.feet)
    anchor = character.ride.anchor and names.get(character.ride.anchor, character.ride.anchor)
    corrections = tuple(correction.renamed(names) for correction in character.performance.corrections)
    performance = replace(character.performance, corrections=corrections)
    ride = replace(character.ride, anchor=anchor)
    parts = tuple(replace(part, joint=names.get(part.joint, part.joint)) for part in character.parts)
    return scene.with_character(replace(character, performance=performance, feet=feet, ride=ride, parts=parts))


def going_by_lost_joints(scene: Scene, thing_id: str, rig: Rig) -> tuple[tuple[str, str], ...]:
    """Who goes by a joint that a thing's ``rig`` does not have, and which joint that is: cameras and props by their names."""
    out = [
        (camera.name, subject.joint or "")
        for camera in scene.cameras
        for subject, _ in camera.followed()
        if subject.kind == "joint" and subject.owner_id == thing_id and subject.joint not in rig.index_of
    ]
    out += [
        (piece.name, hold.joint)
        for piece in scene.pieces
        for hold in piece.holds
        if hold.character_id == thing_id and hold.joint and hold.joint not in rig.index_of
    ]
    return tuple(dict.fromkeys(out))


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
