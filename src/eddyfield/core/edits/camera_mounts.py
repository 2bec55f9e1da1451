"""Edits of how a camera is carried: another mount, or other settings of the one it has."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..arrays import Floats
from ..bake import Baker
from ..cameras.camera import Camera
from ..cameras.camera_frames import CameraFrames, camera_frames, channels_standing_at
from ..cameras.left_mounts import moved_onto, put_back_onto
from ..cameras.lock_correction import carried_over
from ..cameras.mounts import MOUNTS, Carried, Mount, Trailing, attached
from ..cameras.subjects import Subject
from ..errors import DomainError
from ..scene import Scene
from ..time.channels import Channel
from .camera_rigging import checked
from .cameras import refuse_locked
from .edit import Edit


@dataclass(frozen=True, kw_only=True)
class MountCamera(Edit):
    """Change how a camera is carried.

    With ``keep`` the picture on this frame stays as it is: what was keyed for the old mount goes, and the camera stands still
    on its new one. Without, the settings of the mount it has are changed and its channels stay. A camera that is newly carried
    is attached as its subject is on this frame.
    """

    version: ClassVar[int] = 2  # in the first a movement came along wholly or not at all
    edit: Literal["mount camera"] = "mount camera"
    title: ClassVar[str] = "mount of a camera"
    camera_id: str
    mount: Mount
    frame: int
    keep: bool = True

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        if self.keep:
            return standing_on(scene, baker, self.camera_id, self.mount, self.frame)
        camera, mount = _mountable(scene, baker, self.camera_id, self.mount, self.frame)
        if mount.kind != camera.mount.kind:
            raise DomainError("Another kind of mount keeps the picture.", "Change the mount with the picture kept.")
        return checked(scene, baker, replace(camera, mount=mount))


@dataclass(frozen=True, kw_only=True)
class CarryCamera(Edit):
    """Have a camera carried by another kind of mount.

    One that it was on before comes back as it was left, with its points, arm and keys. One that it never was on, or with
    ``afresh``, begins where the camera stands on this frame, the picture kept. ``subject`` is what it is to go by where it
    goes by something; a camera that goes from one thing that is carried to another keeps it, as does one that begins afresh
    without any.
    """

    edit: Literal["carry camera"] = "carry camera"
    title: ClassVar[str] = "another mount"
    camera_id: str
    mount: str
    frame: int
    subject: Subject | None = None
    afresh: bool = False

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        camera = scene.camera(self.camera_id)
        if self.mount not in MOUNTS:
            raise DomainError(f"There is no mount “{self.mount}”.", f"Mounts are {', '.join(MOUNTS)}.")
        left = camera.left_mount(self.mount)
        if left is not None and not self.afresh:
            refuse_locked(camera, {"place", "angles"}, f"put back on its mount “{self.mount}”")
            return checked(scene, baker, put_back_onto(camera, left))
        standing = baker.camera(camera).mounted[baker.row_of(self.frame)]
        kind = MOUNTS[self.mount]
        taken_over = None if self.afresh and self.subject else kind.after(camera.mount)
        mount = taken_over or kind.begun(standing, self.subject or next(iter(camera.mount.subjects), None))
        return standing_on(scene, baker, self.camera_id, mount, self.frame)


def standing_on(
    scene: Scene, baker: Baker, camera_id: str, mount: Mount, frame: int, world_from_camera: Floats | None = None
) -> Scene:
    """The scene with a camera that stands still on another mount: where it is on this frame, or at ``world_from_camera``
    (4, 4)."""
    camera, mount = _mountable(scene, baker, camera_id, mount, frame)
    row, now = baker.row_of(frame), baker.camera(camera)
    carried = moved_onto(camera, mount)
    wanted = now.mounted[row] if world_from_camera is None else world_from_camera
    values = channels_standing_at(carried, wanted, row, now.values, baker, keep_offset=False)
    carried = replace(carried, channels=carried.channels.having(**{n: Channel(v) for n, v in values.items()}))
    if world_from_camera is None:
        carried = _with_state_of_lock(baker, carried, now, row)
    return checked(scene, baker, carried)


def _mountable(scene: Scene, baker: Baker, camera_id: str, mount: Mount, frame: int) -> tuple[Camera, Mount]:
    """The camera, free to be carried otherwise, and the mount attached to its subject."""
    camera = scene.camera(camera_id)
    refuse_locked(camera, {"place"}, "carried otherwise")
    if isinstance(mount, (Carried, Trailing)):
        before = camera.mount
        carrier = (mount.subject, mount.follows)
        if isinstance(before, (Carried, Trailing)) and (before.subject, before.follows) == carrier:
            source: Carried | Trailing = before
        else:
            source = attached(mount.subject, baker.row_of(frame), baker, mount.follows)
        mount = replace(mount, place=source.place, turn=source.turn, heading=source.heading)
    return camera, mount


def _with_state_of_lock(baker: Baker, camera: Camera, before: CameraFrames, row: int) -> Camera:
    """The camera with its soft framing lock going on, on a row, with the correction that it had there ``before``."""
    framing = camera.framing
    if framing is None or framing.half_life_s == 0 or before.correction is None:
        return camera
    camera = replace(camera, framing=replace(framing, carried_over=None))
    after = camera_frames(camera, baker, baker.scene.delivery)
    if after.correction is None:
        return camera
    is_whole = float(before.values["framing_weight"][row]) == 1.0
    over = carried_over(before.correction[row], after.correction[row], baker.scene.frames.first + row, is_whole)
    return replace(camera, framing=replace(framing, carried_over=over))
