"""Edits of cameras as things of the scene: add, copy, delete, order, name, role, lines, locks."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..cameras.camera import PATTERNS, TINTS, Camera, Role
from ..cameras.camera_channels import CAMERA_CHANNELS, LOCK_GROUPS, LockGroup
from ..errors import DomainError
from ..scene import Scene
from .edit import Edit, check_new_id
from .names import usable_name
from .reach import Reach

MOST_CAMERAS = 1000


def add_camera(scene: Scene, camera: Camera) -> Scene:
    """Put a camera at the end of the bench: under a name of its own, with lines that differ from the others'."""
    check_new_id(camera.id)
    if len(scene.cameras) >= MOST_CAMERAS:
        raise DomainError(f"The scene has {MOST_CAMERAS} cameras.", "Delete some that are not in use.")
    if any(c.id == camera.id for c in scene.cameras):
        raise DomainError("That camera is in the scene already.", "Give the new one an id of its own.")
    tint, pattern = _free_lines(scene)
    camera = replace(camera, name=unique_name(scene, camera.name), tint=tint, pattern=pattern)
    return replace(scene, cameras=(*scene.cameras, camera))


@dataclass(frozen=True, kw_only=True)
class CopyCamera(Edit):
    """Add a camera that is the same in all but name and lines; the copy is not locked and stands after the first."""

    edit: Literal["copy camera"] = "copy camera"
    title: ClassVar[str] = "copy camera"
    camera_id: str
    new_id: str

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.camera_id)
        scene = add_camera(scene, replace(camera, id=self.new_id, locks=(), views=()))
        beside = 1 + scene.camera_indices[self.camera_id]
        return OrderCamera(camera_id=self.new_id, index=beside).apply(scene)


@dataclass(frozen=True, kw_only=True)
class DeleteCamera(Edit):
    """Take a camera out. While the cut uses it, another has to take its place there."""

    edit: Literal["delete camera"] = "delete camera"
    title: ClassVar[str] = "delete camera"
    owners_by_scene: ClassVar[bool] = True
    camera_id: str
    replace_by: str | None = None

    def reach(self, scene: Scene) -> Reach:
        shown_to = [t.id for t in scene.things if t.showing.without(self.camera_id) is not t.showing]
        return Reach(frozenset({self.camera_id, *shown_to}), frozenset({"cut", "other_cuts"}))

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.camera_id)
        if len(scene.cameras) == 1:
            raise DomainError(f"“{camera.name}” is the only camera.", "Make another one first.")
        named = [("The cut", scene.cut), *((f"The cut “{o.name}”", o.cut) for o in scene.other_cuts)]
        using = [(name, cut) for name, cut in named if camera.id in cut.camera_ids]
        if using and self.replace_by is None:
            name, cut = using[0]
            frames = ", ".join(str(e.first) for e in cut.entries if e.camera_id == camera.id)
            raise DomainError(
                f"{name} uses “{camera.name}” from frame {frames}.", "Replace it by another camera in the cut."
            )
        if using:
            other = scene.camera(self.replace_by or "")
            if other.id == self.camera_id:
                raise DomainError(f"“{camera.name}” cannot take its own place.", "Choose another camera.")
            others = tuple(
                replace(one, cut=one.cut.with_camera_replaced(camera.id, other.id)) for one in scene.other_cuts
            )
            scene = replace(scene, cut=scene.cut.with_camera_replaced(camera.id, other.id), other_cuts=others)
        for thing in scene.things:
            showing = thing.showing.without(self.camera_id)
            if showing is not thing.showing:
                scene = scene.with_thing(replace(thing, showing=showing))
        return replace(scene, cameras=tuple(c for c in scene.cameras if c.id != self.camera_id))


@dataclass(frozen=True, kw_only=True)
class OrderCamera(Edit):
    """Move a camera along the bench, to an index counted from 0."""

    version: ClassVar[int] = 2  # in the first, ``index`` was called ``place``
    edit: Literal["order camera"] = "order camera"
    title: ClassVar[str] = "order camera"
    of_scene: ClassVar[tuple[str, ...]] = ("cameras",)
    camera_id: str
    index: int

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        index = self.index
        camera = scene.camera(self.camera_id)
        others = [c for c in scene.cameras if c.id != self.camera_id]
        index = max(0, min(index, len(others)))
        return replace(scene, cameras=(*others[:index], camera, *others[index:]))


@dataclass(frozen=True, kw_only=True)
class RenameCamera(Edit):
    """Give a camera a name that no other has. Raises ``DomainError`` where another has it, or it is not usable."""

    edit: Literal["rename camera"] = "rename camera"
    title: ClassVar[str] = "rename camera"
    camera_id: str
    name: str

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        name = self.name
        name = usable_name(name, "camera")
        if any(c.name == name and c.id != self.camera_id for c in scene.cameras):
            raise DomainError(f"Another camera is called “{name}”.", "Choose a name of its own.")
        return scene.with_camera(replace(scene.camera(self.camera_id), name=name))


@dataclass(frozen=True, kw_only=True)
class SetCameraRole(Edit):
    """Say what a camera is for: the shot, the face, or review."""

    edit: Literal["set camera role"] = "set camera role"
    title: ClassVar[str] = "role of a camera"
    camera_id: str
    role: Role

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        return scene.with_camera(replace(scene.camera(self.camera_id), role=self.role))


@dataclass(frozen=True, kw_only=True)
class SetCameraLines(Edit):
    """Choose the tint and the line pattern by which it is known everywhere."""

    edit: Literal["set camera lines"] = "set camera lines"
    title: ClassVar[str] = "tint and line of a camera"
    camera_id: str
    tint: int
    pattern: int

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        if not (0 <= self.tint < TINTS and 0 <= self.pattern < PATTERNS):
            raise DomainError("There is no such line.", f"Tints are 0 to {TINTS - 1}, patterns 0 to {PATTERNS - 1}.")
        return scene.with_camera(replace(scene.camera(self.camera_id), tint=self.tint, pattern=self.pattern))


@dataclass(frozen=True, kw_only=True)
class LockCamera(Edit):
    """Lock groups of channels (place, angles, lens), so that nothing moves them, and let the others go."""

    edit: Literal["lock camera"] = "lock camera"
    title: ClassVar[str] = "lock camera"
    camera_id: str
    locks: tuple[LockGroup, ...]

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        kept = tuple(group for group in LOCK_GROUPS if group in self.locks)
        return scene.with_camera(replace(scene.camera(self.camera_id), locks=kept))


def unique_name(scene: Scene, wanted: str) -> str:
    """The name itself where it is free, else with the next free number behind it."""
    wanted = usable_name(wanted, "camera")
    taken = {c.name for c in scene.cameras}
    if wanted not in taken:
        return wanted
    stem = re.sub(r" \(\d+\)$", "", wanted)[:110]
    number = 2
    while f"{stem} ({number})" in taken:
        number += 1
    return f"{stem} ({number})"


def refuse_locked(camera: Camera, groups: set[str], doing: str) -> None:
    """Raise ``DomainError`` where one of the groups is locked."""
    locked = [g for g in LOCK_GROUPS if g in groups and g in camera.locks]
    if camera.locked:
        raise DomainError(f"“{camera.name}” is locked and cannot be {doing}.", "Unlock it first (L).")
    if locked:
        what = " and ".join(locked)
        verb = "are" if len(locked) > 1 or locked == ["angles"] else "is"
        raise DomainError(f"The {what} of “{camera.name}” {verb} locked, so it cannot be {doing}.", "Unlock it first.")


def refuse_locked_channels(camera: Camera, names: set[str], doing: str) -> None:
    """Raises ``DomainError`` where a channel is in a locked group; ``doing`` tells what was tried: "moved"."""
    refuse_locked(camera, {CAMERA_CHANNELS[name].lock_group for name in names}, doing)


def _free_lines(scene: Scene) -> tuple[int, int]:
    """The first tint and pattern that no camera has; later cameras share."""
    taken = {(c.tint, c.pattern) for c in scene.cameras}
    for number in range(TINTS * PATTERNS):
        lines = number // PATTERNS, number % PATTERNS
        if lines not in taken:
            return lines
    number = len(scene.cameras) % (TINTS * PATTERNS)
    return number // PATTERNS, number % PATTERNS
