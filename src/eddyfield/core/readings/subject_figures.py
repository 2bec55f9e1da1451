"""Figures of the characters in a camera: how far, how high, from which side, how large, how sharp."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Floats
from ..bake import Baker
from ..cameras.camera import Camera
from ..cameras.dolly_zoom import apparent_sizes_px, subject_depths
from ..cameras.subjects import Subject, group_of
from ..optics.depth_of_field import blur_disc_mm, blur_disc_px, circle_of_confusion_mm
from ..shots import face_of, head_subject


@dataclass(frozen=True, eq=False)
class SubjectFigures:
    """One character, (frames,) each: the camera's distance from its face and height above it in metres; degrees round
    from its front, positive to its left; the height in px of the sphere around it; the blur disc of its face in px."""

    name: str
    distance_m: Floats
    above_m: Floats
    angle_deg: Floats
    size_px: Floats
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
                blur_disc_px(disc, camera.lens(), baker.scene.delivery),
            )
        )
    return out


def circle_px(baker: Baker, camera: Camera) -> float:
    """The circle of confusion in pixels of the delivery frame."""
    delivery = baker.scene.delivery
    circle = circle_of_confusion_mm(camera.lens(), delivery, camera.glass.circle_mm)
    return float(blur_disc_px(np.array(circle), camera.lens(), delivery))
