"""How the last picture before a cut and the first one after it go together: where each subject is in both, and how fast it and
the background move on either side."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Floats
from ..bake import Baker
from ..cut.shots import either_side
from ..optics.camera_path import CameraPath
from ..optics.camera_speed import USUAL_DISTANCE_M, background_px
from ..optics.two_sights import in_picture_px
from ..shots import moving_face, shown_face


@dataclass(frozen=True)
class MatchedSubject:
    """The middle of a character's face, as shown, px: in the last picture before the cut and in the first after it (None where
    it is not in that picture), how far apart these are, and how fast it moves on the screen there, on ones, px a frame (None in
    a shot of one frame)."""

    character_id: str
    name: str
    before: tuple[float, float] | None
    after: tuple[float, float] | None
    jump_px: float | None
    speed_before_px: float | None
    speed_after_px: float | None


@dataclass(frozen=True)
class Match:
    """Of the cut on which the shot that begins on ``first`` comes in; the shots show frames ``out_first`` to ``in_last``. The
    background is what stands still at the distance of the nearest subject, px a frame."""

    first: int
    out_first: int
    in_last: int
    subjects: tuple[MatchedSubject, ...]
    background_before_px: float | None
    background_after_px: float | None


def match_at(baker: Baker, first: int) -> Match:
    """Raises ``DomainError`` where no shot begins on a frame, but for the first."""
    before, after = either_side(baker.shots, first)
    row = first - baker.frames.first
    outgoing = baker.camera_path(baker.scene.camera(before.camera_id))
    incoming = baker.camera_path(baker.scene.camera(after.camera_id))
    moves_out, moves_in = before.count > 1, after.count > 1
    subjects, distances = [], []
    for character in baker.scene.characters:
        face, moving = shown_face(baker, character), moving_face(baker, character)
        seen = _seen(outgoing, face, row - 1), _seen(incoming, face, row)
        subjects.append(
            MatchedSubject(
                character.id, character.name, *seen,
                _apart(incoming, *seen),
                _speed(outgoing, moving, row - 2) if moves_out else None,
                _speed(incoming, moving, row) if moves_in else None,
            )
        )  # fmt: skip
        distances.append(np.linalg.norm(face[row] - incoming.world_from_camera[row, :3, 3]))
    near = np.array([min(distances, default=USUAL_DISTANCE_M)])
    return Match(
        first, before.first, after.last, tuple(subjects),
        float(background_px(outgoing, np.array([row - 2]), near)[0]) if moves_out else None,
        float(background_px(incoming, np.array([row]), near)[0]) if moves_in else None,
    )  # fmt: skip


def _seen(path: CameraPath, points: Floats, row: int) -> tuple[float, float] | None:
    """Where a point (frames, 3) is in the picture of a row, px; None where it is not in it."""
    x, y = in_picture_px(path.at_rows(np.array([row])), points[row][None])[0].tolist()
    return None if np.isnan(x) else (x, y)


def _apart(path: CameraPath, one: tuple[float, float] | None, other: tuple[float, float] | None) -> float | None:
    if one is None or other is None:
        return None
    return float(np.linalg.norm(path.delivery.square(np.subtract(other, one))))


def _speed(path: CameraPath, points: Floats, row: int) -> float | None:
    """How far a point goes on the screen from a row to the next, px; None where it is behind the camera."""
    rows = np.array([row, row + 1])
    pixels = path.at_rows(rows).project(points[rows][:, None]).pixels[:, 0]
    step = float(np.linalg.norm(path.delivery.square(pixels[1] - pixels[0])))
    return step if np.isfinite(step) else None
