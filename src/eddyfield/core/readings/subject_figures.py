"""Figures of the characters in a camera: how far, how high, from which side, how large, how sharp."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Floats
from ..bake import Baker
from ..cameras.camera import Camera
from ..cameras.dolly_zoom import apparent_sizes_px, subject_depths
from ..cameras.subjects import Subject, group_of
from ..optics.camera_path import CameraPath
from ..optics.depth_of_field import blur_disc_mm, blur_disc_px, circle_of_confusion_mm
from ..performance.character import Character
from ..shots import face_of, head_subject
from .body_marks import body_marks


@dataclass(frozen=True, eq=False)
class SubjectFigures:
    """One character, (frames,) each: the camera's distance from its face and height above it in metres; degrees round
    from its front, positive to its left; the height in px of the sphere around it, steady as a size hold has it, and its own
    from crown to soles as it is shown; the blur disc of its face in px."""

    name: str
    distance_m: Floats
    above_m: Floats
    angle_deg: Floats
    size_px: Floats
    height_px: Floats
    blur_px: Floats


def subject_figures(baker: Baker, camera: Camera) -> list[SubjectFigures]:
    """The figures of every character."""
    found = baker.camera(camera)
    eye = found.path.world_from_camera[:, :3, 3]
    out = []
    for character in baker.scene.characters:
        face = group_of((head_subject(face_of(baker, character), character),), baker).place
        away = eye - face
        front = baker.front(character)
        heading = np.degrees(np.arctan2(away[:, 0], away[:, 2]) - np.arctan2(front[0], front[2]))
        disc = blur_disc_mm(subject_depths(found.path, face), found.pose[:, 6], found.aperture, found.focus_m)
        out.append(
            SubjectFigures(
                character.name,
                np.linalg.norm(away, axis=-1),
                away[:, 1],
                (heading + 180) % 360 - 180,
                apparent_sizes_px(found.path, group_of((Subject("body", character.id),), baker)),
                _height_px(baker, found.path, character),
                blur_disc_px(disc, camera.lens(), baker.scene.delivery),
            )
        )
    return out


def _height_px(baker: Baker, path: CameraPath, character: Character) -> Floats:
    """From the highest to the lowest that is seen of it, px (frames,); NaN where nothing of it is in front."""
    marks = body_marks(baker, character)
    soles = baker.shown_points(character, marks.soles, marks.sole_nodes)
    points = [baker.shown_joints(character), baker.shown_points(character, marks.head), soles]
    y = path.project(np.concatenate(points, axis=1)).pixels[..., 1]
    highest, lowest = np.nanmin(y, axis=1, initial=np.inf), np.nanmax(y, axis=1, initial=-np.inf)
    return np.asarray(np.where(lowest >= highest, lowest - highest, np.nan))


def circle_px(baker: Baker, camera: Camera) -> float:
    """The circle of confusion in pixels of the delivery frame."""
    delivery = baker.scene.delivery
    circle = circle_of_confusion_mm(camera.lens(), delivery, camera.glass.circle_mm)
    return float(blur_disc_px(np.array(circle), camera.lens(), delivery))
