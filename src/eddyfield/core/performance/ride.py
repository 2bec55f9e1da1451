"""Ride: held poses carried along with the camera, so that they stand still on the screen."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..arrays import Floats, Ints
from ..errors import DomainError
from ..optics.camera_path import CameraPath
from ..rig import transforms

RideWay = Literal["off", "rigid", "position", "picture"]
RIDE_WAYS: tuple[RideWay, ...] = ("off", "rigid", "position", "picture")


@dataclass(frozen=True)
class Ride:
    """How held poses ride: the way, the weight 0..1, and the anchor (None: the rig's first animated root)."""

    way: RideWay = "off"
    weight: float = 1.0
    anchor: str | None = None

    def __post_init__(self) -> None:
        if self.way not in RIDE_WAYS:
            raise DomainError(f"Poses cannot ride by “{self.way}”.", f"Choose one of {', '.join(RIDE_WAYS)}.")
        if not 0 <= self.weight <= 1:
            raise DomainError(f"A ride weight of {self.weight} is not usable.", "Give one from 0 to 1.")


def ride_transforms(ride: Ride, camera: CameraPath, anchor: Floats, comparison_rows: Ints) -> Floats:
    """World transforms T(f), shape (frames, 4, 4), that carry the held pose: shown is ``T(f) W(e(f))``.

    ``anchor`` (frames, 3) is the anchor of the pose at e(f), in the world. ``comparison_rows`` are the rows of r(f). With
    ``D = C(f) C(r(f))^-1``: rigid is D; position translates by ``D a - a``; picture translates parallel to the frame of
    camera f, so that the anchor projects by the lens of f to its place at r(f), its depth unchanged. The weight turns
    about the anchor (slerp) and multiplies the translation.
    """
    count = camera.count
    identity = np.broadcast_to(np.eye(4), (count, 4, 4))
    held = comparison_rows != np.arange(count)
    if ride.way == "off" or ride.weight == 0 or not held.any():
        return identity.copy()
    now, then = camera.world_from_camera, camera.world_from_camera[comparison_rows]
    turn = np.broadcast_to(np.eye(3), (count, 3, 3))
    if ride.way == "picture":
        shift = _picture_shift(camera, anchor, comparison_rows)
    else:
        carried = now @ transforms.rigid_inverse(then)
        shift = transforms.apply(carried, anchor) - anchor
        if ride.way == "rigid":
            turn = carried[:, :3, :3]
    if ride.weight < 1:
        quaternions = transforms.quaternion_from_matrix(turn)
        still = np.broadcast_to([0.0, 0.0, 0.0, 1.0], quaternions.shape)
        turn = transforms.matrix_from_quaternion(transforms.slerp(still, quaternions, np.full(count, ride.weight)))
        shift = shift * ride.weight
    # About the anchor: x -> R (x - a) + a + shift.
    moved = transforms.rigid(turn, anchor + shift - np.einsum("fij,fj->fi", turn, anchor))
    return np.where(held[:, None, None], moved, identity)


def _picture_shift(camera: CameraPath, anchor: Floats, comparison_rows: Ints) -> Floats:
    """World shifts that bring the anchor back to its place on the screen at r(f); none where it is not in front."""
    wanted = camera.at_rows(comparison_rows).project(anchor)
    here = camera.project(anchor)
    step = wanted.pixels - here.pixels
    per_x, per_y = camera.lens.pixels_per_metre(here.depth, camera.delivery)
    offset = np.stack([step[:, 0] / per_x, -step[:, 1] / per_y, np.zeros(camera.count)], axis=-1)
    offset = np.where(np.isnan(offset), 0.0, offset)
    return np.asarray(np.einsum("fij,fj->fi", camera.world_from_camera[:, :3, :3], offset))
