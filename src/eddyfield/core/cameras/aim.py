"""Aim: turning a camera so that a target comes onto its optical axis, or onto any wanted line of its sight."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ..arrays import Floats
from ..errors import DomainError
from ..rig import transforms
from ..time.channel_tables import ChannelKind
from ..time.ease import share_between
from .subjects import Follows, Surroundings, Target, check_targets, group_of

UPRIGHT = 1e-8
"""How far from the vertical a unit direction has to be for its heading to mean something."""


AIM_WEIGHT = ChannelKind("aim_weight", "weight of the aim", "share", 1.0, "angles", 0.0, 1.0)


@dataclass(frozen=True)
class Aim:
    """What the camera is turned towards, one target after another. How much it is, is the channel ``aim_weight``."""

    targets: tuple[Target, ...]
    follows: Follows = "motion"

    def __post_init__(self) -> None:
        if not self.targets:
            raise DomainError("The aim has no target.", "Choose one, or release the aim.")
        check_targets(self.targets)


class Turned(NamedTuple):
    """Pan and tilt in degrees, (frames,), and whether the target could be brought there."""

    pan: Floats
    tilt: Floats
    reached: NDArray[np.bool_]


def aim_directions(aim: Aim, place: Floats, surroundings: Surroundings) -> Floats:
    """Unit vectors from the camera's places (frames, 3) to what it aims at; hand-overs blend directions."""
    frames = surroundings.frames.frames().astype(np.float64)
    directions: Floats | None = None
    for target in aim.targets:
        toward = transforms.normalized(
            group_of(target.subjects, surroundings, aim.follows).place - place, (0.0, 0.0, -1.0)
        )
        if directions is None or target.first is None or target.last is None:
            directions = toward
        else:
            share = share_between(frames, target.first, target.last, target.ease)
            directions = transforms.direction_between(directions, toward, share)
    return np.asarray(directions)


def target_places(targets: tuple[Target, ...], follows: Follows, surroundings: Surroundings) -> Floats:
    """Where a row of targets is on every frame, (frames, 3); a hand-over moves from one to the next."""
    frames = surroundings.frames.frames().astype(np.float64)
    out: Floats | None = None
    for target in targets:
        place = group_of(target.subjects, surroundings, follows).place
        if out is None or target.first is None or target.last is None:
            out = place
        else:
            out = out + (place - out) * share_between(frames, target.first, target.last, target.ease)[:, None]
    return np.asarray(out)


def turn_towards(world: Floats, sight: Floats, roll: Floats, near_pan: Floats) -> Turned:
    """Pan and tilt that bring world directions onto lines of sight, in closed form.

    ``world`` (frames, 3) unit vectors; ``sight`` (frames, 3) unit vectors in camera axes, (0, 0, -1) for the optical
    axis; ``roll`` in degrees. With ``e = Rz(-roll) sight`` and ``m = hypot(e_y, e_z)`` the height of the world direction
    fixes the tilt, ``tilt = asin(w_y / m) - atan2(e_y, -e_z)``; what is left is a turn about the vertical. Where
    ``|w_y| > m`` no tilt does it: the nearest is taken and told. Straight up or down the pan is the frame's before,
    ``near_pan`` on the first frame; it is unwrapped from there.
    """
    angle = np.radians(roll)
    cr, sr = np.cos(angle), np.sin(angle)
    ex, ey, ez = cr * sight[:, 0] + sr * sight[:, 1], -sr * sight[:, 0] + cr * sight[:, 1], sight[:, 2]
    m = np.hypot(ey, ez)
    rise = world[:, 1] / np.where(m > 0, m, 1.0)
    reached = np.abs(rise) <= 1.0 + 1e-12
    tilt = np.arcsin(np.clip(rise, -1, 1)) - np.arctan2(ey, -ez)
    ahead = ey * np.sin(tilt) + ez * np.cos(tilt)
    level = np.hypot(world[:, 0], world[:, 2])
    pan = np.degrees(np.arctan2(world[:, 0], -world[:, 2]) - np.arctan2(ex, -ahead))
    pan[:1] = np.where(level[:1] > UPRIGHT, pan[:1], near_pan[:1])
    known = np.maximum.accumulate(np.where(level > UPRIGHT, np.arange(len(pan)), 0))
    pan = pan[known]
    pan = np.unwrap(np.concatenate([near_pan[:1], pan]), period=360.0)[1:]
    return Turned(pan, np.degrees(tilt), reached)


def aimed(aim: Aim, weight: Floats, place: Floats, angles: Floats, surroundings: Surroundings) -> Turned:
    """Turn a camera at ``place`` (frames, 3) with own ``angles`` (frames, 3: pan, tilt, roll) by its aim."""
    toward = aim_directions(aim, place, surroundings)
    if (weight < 1).any():
        own = -transforms.rotation_from_angles(angles[:, 0], angles[:, 1], 0.0)[..., 2]
        toward = transforms.direction_between(own, toward, weight)
    axis = np.broadcast_to([0.0, 0.0, -1.0], toward.shape)
    return turn_towards(toward, axis, angles[:, 2], angles[:, 0])
