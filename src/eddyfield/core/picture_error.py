"""How far what a picture is about moves in it, when the camera stands a little beside where it should."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .arrays import Bools, Floats
from .bake import Baker
from .cameras.camera import Camera
from .cameras.subjects import place_of
from .optics.camera_path import CameraPath
from .optics.lens import inside_frame
from .rig import transforms
from .shots import face_of

MOST_JOINTS_LOOKED_AT = 24


@dataclass(frozen=True, eq=False)
class WhatIsSeen:
    """Through the ``path`` of a camera over some frames: ``world`` (frames, points, 3) the places that count, and where they are
    in the picture, ``pixels`` (frames, points, 2); not all count on every frame, ``counts`` (frames, points)."""

    path: CameraPath
    world: Floats
    pixels: Floats
    counts: Bools

    def error_px(self, moved: CameraPath) -> Floats:
        """How far, in px, the furthest of them is from there in another path over the same frames, (frames,)."""
        step = self.path.delivery.square(moved.project(self.world).pixels - self.pixels)
        off = np.where(self.counts, np.hypot(step[..., 0], step[..., 1]), 0.0)
        return np.asarray(np.nan_to_num(off, nan=np.inf).max(axis=1))


def what_is_seen(baker: Baker, camera: Camera, rows: slice) -> WhatIsSeen:
    """What the camera goes by, what is in focus, and every character in the frame; and the frame's corners at the depth of the
    nearest of them."""
    found, delivery = baker.camera(camera), baker.scene.delivery
    path = found.path.at_rows(np.arange(rows.start, rows.stop))
    subjects = _subject_points(baker, camera, rows)
    seen = path.project(subjects)
    counts = inside_frame(seen, delivery)
    nearest = np.where(counts, seen.depth, np.inf).min(axis=1, initial=np.inf)
    depth = np.where(np.isfinite(nearest), nearest, np.maximum(found.focus_m[rows], 0.1))
    per_x, per_y = path.lens.pixels_per_metre(depth, delivery)
    corners = np.array([[x, y] for x in (-1, 0, 1) for y in (-1, 0, 1)], dtype=np.float64)
    across = corners[None, :, 0] * (delivery.width / 2 / per_x)[:, None]
    up = corners[None, :, 1] * (delivery.height / 2 / per_y)[:, None]
    local = np.stack([across, up, np.broadcast_to(-depth[:, None], across.shape)], axis=-1)
    world = np.concatenate([transforms.apply(path.world_from_camera[:, None], local), subjects], axis=1)
    counts = np.concatenate([np.ones(across.shape, dtype=bool), counts], axis=1)
    return WhatIsSeen(path, world, path.project(world).pixels, counts)


def _subject_points(baker: Baker, camera: Camera, rows: slice) -> Floats:
    """What the picture is about, (frames, points, 3): the subjects a camera goes by, and faces and joints of the characters."""
    points = [place_of(subject, baker, follows)[rows, None] for subject, follows in camera.followed()]
    for character in baker.scene.characters:
        face = face_of(baker, character)
        joint = baker.joint_frames(character.id, face.joint, "motion")[rows]
        up = face.axes[:, 1] * face.height_m / 2
        local = np.stack([face.centre + up, face.centre, face.centre - up])
        points.append(transforms.apply(transforms.orthonormal(joint)[:, None], local))
        joints = baker.joint_positions(character)[rows]
        points.append(joints[:, :: max(1, joints.shape[1] // MOST_JOINTS_LOOKED_AT)])
    count = rows.stop - rows.start
    return np.concatenate([np.zeros((count, 0, 3)), *points], axis=1)
