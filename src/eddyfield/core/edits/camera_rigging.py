"""Edits of what a camera is turned towards, what is sharp, and how its framing is held."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

import numpy as np

from ..arrays import Floats
from ..bake import Baker
from ..cameras.aim import Aim
from ..cameras.camera import Camera
from ..cameras.camera_channels import POSE_NAMES
from ..cameras.focus import Focus
from ..cameras.framing import Framing, seen_size_px
from ..cameras.left_mounts import moved_onto
from ..cameras.mounts import Free
from ..cameras.placement import joint_or_stand_in
from ..cameras.subjects import Subject, group_of
from ..errors import DomainError
from ..optics.camera_path import CameraPath
from ..optics.lens import inside_frame
from ..performance.character import Character
from ..picture_error import WhatIsSeen, what_is_seen
from ..rig import transforms
from ..scene import Scene
from ..shots import face_of
from ..time.channels import Channel
from ..time.key_reduction import fewest_keys, keys_on_every_frame
from .camera_moves import placed_values, with_values
from .cameras import refuse_locked
from .edit import Edit


@dataclass(frozen=True, kw_only=True)
class AimCamera(Edit):
    """Turn a camera towards something, or release it: then it stays turned as it is on this frame."""

    edit: Literal["aim camera"] = "aim camera"
    title: ClassVar[str] = "aim of a camera"
    camera_id: str
    aim: Aim | None
    frame: int

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        camera = scene.camera(self.camera_id)
        refuse_locked(camera, {"angles"}, "turned")
        if self.aim is None:
            if camera.aim is None:
                raise DomainError(f"“{camera.name}” aims at nothing.", "There is nothing to release.")
            return checked(scene, baker, _staying(baker, camera, replace(camera, aim=None), self.frame))
        return checked(scene, baker, _at_full(replace(camera, aim=self.aim), "aim_weight", camera.aim is None))


@dataclass(frozen=True, kw_only=True)
class FocusCamera(Edit):
    """Hold the focus on something, or let it go: then its distance stays as it is on this frame."""

    edit: Literal["focus camera"] = "focus camera"
    title: ClassVar[str] = "focus of a camera"
    camera_id: str
    focus: Focus | None
    frame: int

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        camera = scene.camera(self.camera_id)
        refuse_locked(camera, {"lens"}, "focused")
        if self.focus is None:
            distance = float(baker.camera(camera).focus_m[baker.row_of(self.frame)])
            return scene.with_camera(with_values(replace(camera, focus=None), {"focus_m": distance}))
        return checked(scene, baker, replace(camera, focus=self.focus))


@dataclass(frozen=True, kw_only=True)
class FrameCamera(Edit):
    """Hold something in the frame, or let it go: then the picture stays as it is on this frame.

    With ``keep_size`` the size is held that it has on this frame; a joint that is given no reach takes that of its face, or
    the length of its bone. With ``keep_place`` it is held where it is seen on this frame; what is not in the picture then, at
    the framing's own place.
    """

    version: ClassVar[int] = 2  # in the first the free zone was a rectangle
    edit: Literal["hold framing"] = "hold framing"
    title: ClassVar[str] = "hold framing"
    camera_id: str
    framing: Framing | None
    frame: int
    keep_size: bool = False
    keep_place: bool = False

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        camera = scene.camera(self.camera_id)
        refuse_locked(camera, {"angles"}, "held")
        if self.framing is None:
            if camera.framing is None:
                raise DomainError(f"“{camera.name}” holds nothing in its frame.", "There is nothing to let go.")
            return checked(scene, baker, _staying(baker, camera, replace(camera, framing=None), self.frame))
        framing = _at_its_place(baker, camera, self.framing, self.frame) if self.keep_place else self.framing
        framing = _at_its_size(baker, camera, framing, self.frame) if self.keep_size else framing
        if framing.size and framing.size.marks is None:
            radius = group_of(framing.subjects, baker, framing.follows).radius_m
            if not (radius > 0).all():
                raise DomainError("What is held has no size.", "Hold a character, give two marks, or let the size go.")
        return checked(
            scene, baker, _at_full(replace(camera, framing=framing), "framing_weight", camera.framing is None)
        )


def _at_its_place(baker: Baker, camera: Camera, framing: Framing, frame: int) -> Framing:
    """The framing with the place held at which its subjects are seen through the camera on a frame, if they are."""
    delivery, row = baker.scene.delivery, baker.row_of(frame)
    seen = baker.camera_path(camera).project(group_of(framing.subjects, baker, framing.follows).place)
    if not inside_frame(seen, delivery)[row]:
        return framing
    x, y = seen.pixels[row]
    return replace(framing, x=float(x) / delivery.width, y=float(y) / delivery.height)


def _at_its_size(baker: Baker, camera: Camera, framing: Framing, frame: int) -> Framing:
    """The framing with the size held that its subject has through the camera on a frame. Where that cannot be seen, it stays."""
    if framing.size is None:
        return framing
    row = baker.row_of(frame)
    if framing.size.marks is None:
        framing = replace(framing, subjects=tuple(_with_reach(baker, s, row) for s in framing.subjects))
    share = float(seen_size_px(framing, baker.camera_path(camera), baker)[row]) / baker.scene.delivery.height
    if framing.size is None or not share > 0:
        return framing
    return replace(framing, size=replace(framing.size, share=share))


def _with_reach(baker: Baker, subject: Subject, row: int) -> Subject:
    if subject.kind != "joint" or subject.radius_m > 0:
        return subject
    owner = baker.scene.thing(subject.owner_id or "")
    if isinstance(owner, Character):
        face = face_of(baker, owner)
        if face.joint == subject.joint:
            return replace(subject, radius_m=face.height_m / 2)
    rig = baker.rig(owner)
    node = joint_or_stand_in(rig, subject.joint or "")
    places = baker.world(owner)[row, :, :3, 3]
    near = [other for other in range(len(rig.parents)) if rig.parents[other] == node or rig.parents[node] == other]
    bones = [float(np.linalg.norm(places[other] - places[node])) for other in near]
    return replace(subject, radius_m=max(bones, default=0.0))


@dataclass(frozen=True, kw_only=True)
class BakeCamera(Edit):
    """Turn mount, aim and framing lock into keys of a free camera between two frames.

    A key on every frame, or as few as keep the subjects in the picture within ``error_px`` of where they are.
    """

    edit: Literal["bake camera"] = "bake camera"
    title: ClassVar[str] = "bake camera"
    camera_id: str
    first: int
    last: int
    error_px: float | None = None

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        first = self.first
        last = self.last
        camera = scene.camera(self.camera_id)
        refuse_locked(camera, {"place", "angles", "lens"}, "baked")
        first, last = max(first, scene.frames.first), min(last, scene.frames.last)
        if last <= first:
            raise DomainError("There is nothing to bake.", "Give a last frame after the first one, within the scene.")
        if self.error_px is not None and not self.error_px > 0:
            raise DomainError("The error has to be above 0 px.", "Give a part of a pixel, or a key on every frame.")
        if camera.glass.orthographic_height_m is not None and camera.framing and camera.framing.size:
            raise DomainError(
                "The height of a parallel view is no key, so a held size cannot be baked.",
                "Let the held size go first.",
            )
        now = baker.camera(camera)
        rows = slice(first - scene.frames.first, last - scene.frames.first + 1)
        frames = np.arange(first, last + 1, dtype=np.float64)
        values = {name: now.pose[rows, i] for i, name in enumerate(POSE_NAMES)}
        if self.error_px is None:
            channels = keys_on_every_frame(frames, values)
        else:
            channels = fewest_keys(frames, values, _posed(what_is_seen(baker, camera, rows)), self.error_px)
        freed = moved_onto(camera, Free())
        unkeyed = tuple((n, v) for n, v in freed.unkeyed if n not in POSE_NAMES)
        baked = replace(freed, aim=None, framing=None, channels=freed.channels.having(**channels), unkeyed=unkeyed)
        return checked(scene, baker, baked)


def _posed(seen: WhatIsSeen) -> Callable[[Mapping[str, Floats]], Floats]:
    """The error of a free camera that stands by approximate values."""

    def error(values: Mapping[str, Floats]) -> Floats:
        rotation = transforms.rotation_from_angles(values["pan"], values["tilt"], values["roll"])
        place = np.stack([values["x"], values["y"], values["z"]], axis=-1)
        lens = seen.path.lens.with_focal(np.maximum(values["focal_mm"], 1.0))
        return seen.error_px(CameraPath(transforms.rigid(rotation, place), lens, seen.path.delivery))

    return error


def _staying(baker: Baker, camera: Camera, released: Camera, frame: int) -> Camera:
    """A camera that was released from something, put where it stood with it on this frame."""
    pose = baker.camera(camera).pose_at(baker.row_of(frame))
    return with_values(released, placed_values(baker, released, pose, frame))


def _at_full(camera: Camera, weight: str, is_new: bool) -> Camera:
    """A weight that was left at nothing by an earlier use begins at full."""
    channel: Channel = camera.channels[weight]
    if not is_new or channel.keys:
        return camera
    return replace(camera, channels=camera.channels.having(**{weight: Channel(1.0)}))


def checked(scene: Scene, baker: Baker, camera: Camera) -> Scene:
    """The scene with the camera, once it has been worked out: what it goes by has to be there. Raises ``DomainError``, but not
    for joints that a later version of a file has lost, as long as the camera goes by them already."""
    gone_by = {(s.owner_id, s.joint) for c in scene.cameras if c.id == camera.id for s, _ in c.followed()}
    for subject, _ in camera.followed():
        if subject.kind == "joint":
            owner = scene.thing(subject.owner_id or "")
            if (subject.owner_id, subject.joint) not in gone_by:
                baker.rig(owner).find(subject.joint or "")
        elif subject.kind == "body":
            scene.character(subject.owner_id or "")
        elif subject.kind == "object":
            scene.piece(subject.owner_id or "")
    baker.camera(camera)
    return scene.with_camera(camera)
