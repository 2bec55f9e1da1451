"""Ride: held poses carried along with the camera, so that they stand still on the screen."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..arrays import Floats, Ints
from ..errors import DomainError
from ..optics.camera_path import CameraPath
from ..rig import transforms
from ..time.channels import Channel
from ..time.frames import FrameRange

RideWay = Literal["off", "rigid", "position", "picture", "scaled"]
MOST_KEYS = 2000
RIDE_WAYS: tuple[RideWay, ...] = ("off", "rigid", "position", "picture", "scaled")


@dataclass(frozen=True)
class Ride:
    """How held poses ride: the way, the weight 0..1, and the anchor (None: the rig's first animated root). Where it ``plants``,
    feet that stand on the ground stay there, and their legs bend."""

    way: RideWay = "off"
    weight: float = 1.0
    anchor: str | None = None
    plants: bool = False
    weights: Channel | None = None
    """The weight over time, where it is keyed."""

    def __post_init__(self) -> None:
        if self.way not in RIDE_WAYS:
            raise DomainError(f"Poses cannot ride by “{self.way}”.", f"Choose one of {', '.join(RIDE_WAYS)}.")
        if not 0 <= self.weight <= 1:
            raise DomainError(f"A ride weight of {self.weight} is not usable.", "Give one from 0 to 1.")
        keys = self.weights.keys if self.weights else ()
        if len(keys) > MOST_KEYS:
            raise DomainError(f"{len(keys)} keys of Ride are too many.", f"Keep it within {MOST_KEYS}.")
        if not all(0 <= key.value <= 1 for key in keys):
            raise DomainError("A keyed weight of Ride is not usable.", "Give one from 0 to 1.")

    def weight_on(self, frames: FrameRange) -> Floats:
        """The weight on each frame, (frames,)."""
        if self.weights is None:
            return np.full(frames.count, self.weight)
        return np.clip(self.weights.at(frames.frames().astype(np.float64)), 0.0, 1.0)


def ride_transforms(
    ride: Ride, camera: CameraPath, anchor: Floats, comparison_rows: Ints, weights: Floats | None = None
) -> Floats:
    """World transforms T(f), shape (frames, 4, 4), that carry the held pose: shown is ``T(f) W(e(f))``.

    ``anchor`` (frames, 3) is the anchor of the pose at e(f), in the world. ``comparison_rows`` are the rows of r(f). With
    ``D = C(f) C(r(f))^-1``: rigid is D; position translates by ``D a - a``; picture translates parallel to the frame of
    camera f, so that the anchor projects by the lens of f to its place at r(f), its depth unchanged; scaled is D of the
    pose scaled across the line of sight of camera r(f) by what the lens takes in more or less since, so that it stands still
    through a zoom as well. The weight (or ``weights`` (frames,)) turns about the anchor (slerp), multiplies the translation
    and is the scale's power.
    """
    count = camera.count
    identity = np.broadcast_to(np.eye(4), (count, 4, 4))
    held = comparison_rows != np.arange(count)
    weights = np.full(count, ride.weight) if weights is None else weights
    held &= weights > 0
    if ride.way == "off" or not held.any():
        return identity.copy()
    now, then = camera.world_from_camera, camera.world_from_camera[comparison_rows]
    turn = np.broadcast_to(np.eye(3), (count, 3, 3))
    if ride.way == "picture":
        shift = _picture_shift(camera, anchor, comparison_rows)
    else:
        carried = now @ transforms.rigid_inverse(then)
        shift = transforms.apply(carried, anchor) - anchor
        if ride.way in ("rigid", "scaled"):
            turn = carried[:, :3, :3]
    if (weights < 1).any():
        quaternions = transforms.quaternion_from_matrix(turn)
        still = np.broadcast_to([0.0, 0.0, 0.0, 1.0], quaternions.shape)
        turn = transforms.matrix_from_quaternion(transforms.slerp(still, quaternions, weights))
        shift = shift * weights[:, None]
    # About the anchor: x -> R (x - a) + a + shift.
    moved = transforms.rigid(turn, anchor + shift - np.einsum("fij,fj->fi", turn, anchor))
    if ride.way == "scaled":
        moved = moved @ then @ _across_sight(camera, comparison_rows, weights) @ transforms.rigid_inverse(then)
    return np.where(held[:, None, None], moved, identity)


def _across_sight(camera: CameraPath, comparison_rows: Ints, power: Floats) -> Floats:
    """Scales in the axes of a camera, (frames, 4, 4): as much smaller across its line of sight as the lens of f draws things
    larger than that of r(f)."""
    one = np.ones(camera.count)
    now = camera.lens.pixels_per_metre(one, camera.delivery)
    then = camera.lens.at_rows(comparison_rows).pixels_per_metre(one, camera.delivery)
    out = np.broadcast_to(np.eye(4), (camera.count, 4, 4)).copy()
    out[:, 0, 0], out[:, 1, 1] = ((before / after) ** power for before, after in zip(then, now, strict=True))
    return out


def _picture_shift(camera: CameraPath, anchor: Floats, comparison_rows: Ints) -> Floats:
    """World shifts that bring the anchor back to its place on the screen at r(f); none where it is not in front."""
    wanted = camera.at_rows(comparison_rows).project(anchor)
    here = camera.project(anchor)
    step = wanted.pixels - here.pixels
    per_x, per_y = camera.lens.pixels_per_metre(here.depth, camera.delivery)
    offset = np.stack([step[:, 0] / per_x, -step[:, 1] / per_y, np.zeros(camera.count)], axis=-1)
    offset = np.where(np.isnan(offset), 0.0, offset)
    return np.asarray(np.einsum("fij,fj->fi", camera.world_from_camera[:, :3, :3], offset))
