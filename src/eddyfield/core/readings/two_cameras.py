"""Two cameras over the same motion: what the picture of the other makes of each subject, frame by frame."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..arrays import Floats
from ..bake import Baker
from ..optics.camera_path import CameraPath
from ..optics.camera_speed import USUAL_DISTANCE_M, background_px
from ..optics.two_sights import degrees_aside, in_picture_px, times_as_large
from ..performance.character import Character
from ..shots import shown_face
from .cut_readings import hops


@dataclass(frozen=True, eq=False)
class SubjectInTwo:
    """A character as shown, (frames, ...) each: the middle of its face in the picture of the one camera and of the other, px,
    NaN where it is not in it; how far apart these are, px; from how far aside the other sees its body, degrees, and how many
    times as large, NaN where it is not in both; and whether a cut from the one to the other would hop. ``nearest_frame`` is
    where its two places are least apart, None where it is never in both pictures."""

    character_id: str
    name: str
    one_px: Floats
    other_px: Floats
    apart_px: Floats
    aside_deg: Floats
    times_as_large: Floats
    hops: NDArray[np.bool_]
    nearest_frame: int | None


@dataclass(frozen=True, eq=False)
class TwoCameras:
    """What stands still, at the distance of the subject that is nearest to the camera, goes over the screen of each by so many
    px from a frame to the next, (frames,), the last row as the one before it."""

    subjects: tuple[SubjectInTwo, ...]
    background_one_px: Floats
    background_other_px: Floats


def two_cameras(baker: Baker, one: CameraPath, other: CameraPath) -> TwoCameras:
    """The picture of one camera against that of another on every frame."""
    subjects = tuple(_subject(baker, character, one, other) for character in baker.scene.characters)
    faces = [shown_face(baker, character) for character in baker.scene.characters]
    return TwoCameras(subjects, _background(one, faces), _background(other, faces))


def _subject(baker: Baker, character: Character, one: CameraPath, other: CameraPath) -> SubjectInTwo:
    face, body = shown_face(baker, character), baker.shown_joints(character).mean(axis=1)
    places = [in_picture_px(path, face) for path in (one, other)]
    apart = np.linalg.norm(one.delivery.square(places[1] - places[0]), axis=-1)
    in_both = np.isfinite(apart)
    nearest = int(np.argmin(np.where(in_both, apart, np.inf))) + baker.frames.first if in_both.any() else None
    aside = degrees_aside((one, body), (other, body))
    larger = np.where(in_both, times_as_large((one, body), (other, body)), np.nan)
    return SubjectInTwo(
        character.id, character.name, places[0], places[1], apart, aside, larger,
        in_both & hops(aside, larger, baker.limits.jump_cut_deg), nearest,
    )  # fmt: skip


def _background(path: CameraPath, faces: list[Floats]) -> Floats:
    if path.count < 2:
        return np.zeros(path.count)
    away = [np.linalg.norm(face - path.world_from_camera[:, :3, 3], axis=-1) for face in faces]
    near = np.min(away, axis=0) if away else np.full(path.count, USUAL_DISTANCE_M)
    steps = background_px(path, np.arange(path.count - 1), near[:-1])
    return np.append(steps, steps[-1])
