"""Focus: the distance along the optical axis at which the picture is sharp, keyed or held on subjects."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Floats
from ..errors import DomainError
from ..rig import transforms
from ..time.ease import share_between
from .subjects import Follows, Surroundings, Target, check_targets, group_of

NEAREST_M = 0.01


@dataclass(frozen=True)
class Focus:
    """Held on one target after another; a hand-over is a focus pull."""

    targets: tuple[Target, ...]
    follows: Follows = "motion"

    def __post_init__(self) -> None:
        if not self.targets:
            raise DomainError("The focus has no subject.", "Choose one, or give a distance.")
        check_targets(self.targets)


def focus_distances(focus: Focus, world_from_camera: Floats, surroundings: Surroundings) -> Floats:
    """Distance along the axis to what is held sharp, metres, (frames,); a pull blends distances. Never below 1 cm."""
    frames = surroundings.frames.frames().astype(np.float64)
    camera_from_world = transforms.rigid_inverse(world_from_camera)
    out: Floats | None = None
    for target in focus.targets:
        place = group_of(target.subjects, surroundings, focus.follows).place
        depth = -transforms.apply(camera_from_world, place)[:, 2]
        if out is None or target.first is None or target.last is None:
            out = depth
        else:
            share = share_between(frames, target.first, target.last, target.ease)
            out = out + (depth - out) * share
    return np.asarray(np.maximum(np.asarray(out), NEAREST_M))
