"""What another version of a performance changed: how far the joint that moved most is from where it was, in the picture."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..arrays import Floats, Ints
from ..optics.camera_path import CameraPath
from ..performance.character import Character
from ..rig.source import RigSource
from ..scene_parts import SceneParts
from .thresholds import SEEN_CHANGE_PX


@dataclass(frozen=True, eq=False)
class ChangedPoses:
    """``px`` (frames,) of the joint that moved most on each frame, NaN where none is in front of the camera, and which that is,
    ``joints`` (frames,), by its place among the joints as they are."""

    px: Floats
    joints: Ints

    @cached_property
    def rows(self) -> Ints:
        """Those on which it can be seen that something changed."""
        return np.flatnonzero(np.nan_to_num(self.px) > SEEN_CHANGE_PX)


def changed_poses(path: CameraPath, now: Floats, before: Floats, pairs: tuple[tuple[int, int], ...]) -> ChangedPoses:
    """Of joints (frames, joints, 3) now and before, on ones, through ``path``; ``pairs`` of joints are the same one in both."""
    if not pairs:
        return ChangedPoses(np.full(len(now), np.nan), np.zeros(len(now), dtype=np.int64))
    own, other = np.array(pairs).T
    seen, was = path.project(now[:, own]), path.project(before[:, other])
    step = path.delivery.square(seen.pixels - was.pixels)
    away = np.where(seen.in_front & was.in_front, np.hypot(step[..., 0], step[..., 1]), -1.0)
    most = away.argmax(axis=1)
    px = away[np.arange(len(away)), most]
    return ChangedPoses(np.where(px < 0, np.nan, px), own[most])


def version_before(character: Character) -> RigSource | None:
    """The source of the version before the one that is performed; None where that is the first."""
    before = character.versions.before(character.performance.source)
    return before.source if before else None


def joint_pairs(parts: SceneParts, character: Character, before: Character) -> tuple[tuple[int, int], ...]:
    """Joints of the same name, by their places in both."""
    names = {name: place for place, name in enumerate(parts.rig(before).joint_names)}
    return tuple((p, names[n]) for p, n in enumerate(parts.rig(character).joint_names) if n in names)
