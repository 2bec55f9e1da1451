"""Cameras and props let go of a thing that is to leave the scene, and stay where they were."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..bake import Baker
from ..cameras.aim import Aim
from ..cameras.camera import Camera, Rigging, SavedView
from ..cameras.focus import Focus
from ..cameras.framing import Framing
from ..cameras.mounts import Free, Mount
from ..cameras.subjects import Subject
from ..performance.holding import Hold
from ..performance.piece import Piece
from ..performance.placing import is_keyed
from ..rig import transforms
from ..scene import Scene
from ..time.channels import Channel
from .camera_mounts import standing_on
from .camera_rigging import AimCamera, FocusCamera, FrameCamera


def let_go(scene: Scene, baker: Baker, thing_id: str, frame: int) -> Scene:
    """The scene in which nothing goes by a thing any more. Cameras stay as they are on ``frame``, whether locked or not; saved
    views and mounts that were left lose what went by it; what it held stays where it was put into its hands."""
    for camera in scene.cameras:
        locks = camera.locks
        kept = replace(_with_less(camera, thing_id), locks=())
        if kept != replace(camera, locks=()):
            scene = scene.with_camera(replace(kept, locks=locks))
        if any(subject.owner_id == thing_id for subject, _ in camera.followed()):
            scene = _released(scene.with_camera(kept), baker, camera.id, thing_id, frame)
            scene = scene.with_camera(replace(scene.camera(camera.id), locks=locks))
    for piece in scene.pieces:
        if any(hold.character_id == thing_id for hold in piece.holds):
            scene = scene.with_thing(_put_down(piece, baker.of(scene), thing_id))
    return scene


def going_by(scene: Scene, thing_id: str) -> set[str]:
    """The ids of all that ``let_go`` changes for a thing."""
    found = {
        camera.id
        for camera in scene.cameras
        if _with_less(camera, thing_id) != camera or any(s.owner_id == thing_id for s, _ in camera.followed())
    }
    return found | {piece.id for piece in scene.pieces if any(hold.character_id == thing_id for hold in piece.holds)}


def _with_less(camera: Camera, thing_id: str) -> Camera:
    """The camera without what of it went by a thing some time, or steps with it."""
    return replace(
        camera,
        left=tuple(left for left in camera.left if not _goes_by(left.mount, thing_id)),
        views=tuple(_without(view, thing_id) for view in camera.views),
        steps_with=None if camera.steps_with == thing_id else camera.steps_with,
    )


def _released(scene: Scene, baker: Baker, camera_id: str, thing_id: str, frame: int) -> Scene:
    camera = scene.camera(camera_id)
    if _goes_by(camera.framing, thing_id):
        scene = FrameCamera(camera_id=camera_id, framing=None, frame=frame).apply(scene, baker.of(scene))
    if _goes_by(camera.aim, thing_id):
        scene = AimCamera(camera_id=camera_id, aim=None, frame=frame).apply(scene, baker.of(scene))
    if _goes_by(camera.focus, thing_id):
        scene = FocusCamera(camera_id=camera_id, focus=None, frame=frame).apply(scene, baker.of(scene))
    if _goes_by(camera.mount, thing_id):
        scene = standing_on(scene, baker.of(scene), camera_id, Free(), frame)
        camera = scene.camera(camera_id)  # the mount that it has just left went by it as well
        left = tuple(kept for kept in camera.left if not _goes_by(kept.mount, thing_id))
        scene = scene.with_camera(replace(camera, left=left))
    return scene


def _goes_by(part: Aim | Focus | Framing | Mount | None, thing_id: str) -> bool:
    if part is None:
        return False
    subjects: tuple[Subject, ...]
    if isinstance(part, (Aim, Focus)):
        subjects = tuple(subject for target in part.targets for subject in target.subjects)
    else:
        subjects = tuple(part.all_subjects if isinstance(part, Framing) else part.subjects)
    return any(subject.owner_id == thing_id for subject in subjects)


def _without(view: SavedView, thing_id: str) -> SavedView:
    """The view without what goes by a thing."""
    mount = Free() if _goes_by(view.mount, thing_id) else view.mount
    rigging = view.rigging
    if rigging is not None:
        rigging = Rigging(
            None if _goes_by(rigging.aim, thing_id) else rigging.aim,
            None if _goes_by(rigging.focus, thing_id) else rigging.focus,
            None if _goes_by(rigging.framing, thing_id) else rigging.framing,
        )
    return replace(view, mount=mount, rigging=rigging)


def _put_down(piece: Piece, baker: Baker, thing_id: str) -> Piece:
    """The prop without the holds of a character: from then on it lies where it was taken."""
    holds = tuple(Hold(h.first) if h.character_id == thing_id else h for h in piece.holds)
    if any(hold.character_id for hold in holds):
        return replace(piece, holds=holds)
    if is_keyed(piece.placing):
        return replace(piece, holds=())
    at = np.asarray(baker.value(baker.carrier_part(piece)))[0]
    pan = float(transforms.angles_from_rotation(at[:3, :3])[0])
    values = {"x": at[0, 3], "y": at[1, 3], "z": at[2, 3], "turn": -pan}
    return replace(piece, holds=(), placing=piece.placing.having(**{n: Channel(float(v)) for n, v in values.items()}))
