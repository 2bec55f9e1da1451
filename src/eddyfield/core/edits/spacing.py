"""The edit that gives a joint the spacing that was meant, by the time of who performs."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

import numpy as np
from scipy.interpolate import CubicSpline
from scipy.optimize import least_squares

from ..arrays import Floats, Ints
from ..bake import Baker
from ..errors import DomainError
from ..optics.camera_path import CameraPath
from ..performance.timing import MOST_CURVE_KEYS, passing
from ..readings.spacing_chart import gone_px, spacing_chart
from ..rig.mesh_points import followed_on
from ..scene import Scene
from .edit import Edit
from .reach import POSES, Reach, Stretch

MOST_TRIES, SAME_PATH = 60, 1e-9
SLOWEST, FASTEST = 1e-3, 1e3
"""Times the pace of its file."""
EVENLY = 1e-3
"""px: what an uneven pace weighs beside what is off."""


@dataclass(frozen=True, kw_only=True)
class SpaceStretch(Edit):
    """Let a character run so from ``first`` to ``last`` that its joint has come so far along its way on the screen by each frame
    as the ``shares`` say (from 0 to 1, one a frame), as the camera sees it (None: through the cut). The poses at both ends stay
    on their frames."""

    edit: Literal["space stretch"] = "space stretch"
    title: ClassVar[str] = "spacing"
    character_id: str
    joint: str
    camera_id: str | None = None
    first: int
    last: int
    shares: tuple[float, ...]

    def reach(self, scene: Scene) -> Reach:
        return Reach(frozenset({self.character_id}), stretch=Stretch(frozenset({POSES}), self.first, self.last))

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        character = scene.character(self.character_id)
        camera = scene.camera(self.camera_id) if self.camera_id else None
        # Which says what cannot be charted.
        spacing_chart(baker, character, self.joint, camera, self.first, self.last, "even")
        wanted = np.array(self.shares)
        count = self.last - self.first + 1
        if len(wanted) != count or count > MOST_CURVE_KEYS - 10:
            raise DomainError(
                f"{len(wanted)} shares do not space {count} frames.", "Give one for each frame, and up to 190."
            )
        if (wanted[0], wanted[-1]) != (0.0, 1.0) or (np.diff(wanted) < 0).any():
            raise DomainError("A spacing runs from 0 to 1 and never back.", "Move the ticks in order.")
        places = baker.tracked_places(character, followed_on(baker.rig(character), self.joint))
        rows: Ints = np.arange(self.first, self.last + 1) - scene.frames.first
        seen_by = baker.value(baker.path_part(camera)).at_rows(rows)
        moments = _spaced(seen_by, CubicSpline(np.arange(len(places)), places), wanted, float(rows[0]))
        timing = passing(character.performance.timing, self.first, moments + scene.frames.first)
        after = scene.with_thing(replace(character, performance=replace(character.performance, timing=timing)))
        work = baker.of(after)
        then = work.value(work.path_part(camera)).at_rows(rows)
        if not np.allclose(then.world_from_camera, seen_by.world_from_camera, atol=SAME_PATH):
            raise DomainError(
                f"The camera follows {character.name}, and would follow otherwise then.",
                "Look through one that does not, or bake its move to keys first.",
            )
        return after


def _spaced(seen_by: CameraPath, moving: CubicSpline, wanted: Floats, first: float) -> Floats:
    """Moments (frames,), in order, the first and last as they are, at which a joint is as far along its way as is ``wanted``, as
    nearly as can be: under a moving camera another moment is seen from elsewhere, and what the camera moves by itself stays. By
    least squares of what is off on each frame, px, over the logarithms of how fast time runs."""
    count = len(wanted)

    def places_at(moments: Floats) -> Floats:
        return seen_by.delivery.square(seen_by.project(moving(moments)).pixels)

    def moments(paces: Floats) -> Floats:
        steps = np.exp(paces - paces.max())
        return np.asarray(first + np.concatenate([[0.0], np.cumsum(steps)]) * (count - 1) / steps.sum())

    def off(paces: Floats) -> Floats:
        gone = gone_px(places_at(moments(paces)))
        # Paces that would do as well differ: the evenest is meant.
        return np.concatenate([gone - wanted * gone[-1], EVENLY * paces])

    plain = gone_px(places_at(moments(np.zeros(count - 1))))
    inverse = np.interp(wanted, plain / plain[-1] + 1e-9 * np.arange(count), np.arange(count))
    begins = np.log(np.maximum(np.diff(inverse), SLOWEST))
    return moments(least_squares(off, begins, bounds=(np.log(SLOWEST), np.log(FASTEST)), max_nfev=MOST_TRIES).x)
