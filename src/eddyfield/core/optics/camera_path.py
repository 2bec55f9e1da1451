"""A camera over a range of frames, as everything downstream sees it: where it stands and what its lens does."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ..arrays import Floats
from ..rig import transforms
from .lens import DeliveryFrame, Lens, Projected, project


@dataclass(frozen=True, eq=False)
class CameraPath:
    """``world_from_camera`` (frames, 4, 4) rigid, and a lens whose numbers are one or (frames,)."""

    world_from_camera: Floats
    lens: Lens
    delivery: DeliveryFrame

    @property
    def count(self) -> int:
        return len(self.world_from_camera)

    def at_rows(self, rows: NDArray[np.int64]) -> CameraPath:
        """The same camera with row i standing for the old row ``rows[i]``."""
        return replace(self, world_from_camera=self.world_from_camera[rows], lens=self.lens.at_rows(rows))

    def project(self, world_points: Floats) -> Projected:
        """Project points of shape (frames, ..., 3), each row by the camera of its own frame."""
        camera_from_world = transforms.rigid_inverse(self.world_from_camera)
        between = (1,) * (world_points.ndim - 2)
        camera_points = transforms.apply(camera_from_world.reshape(-1, *between, 4, 4), world_points)
        return project(camera_points, self.lens, self.delivery)


def still_camera(world_from_camera: Floats, lens: Lens, delivery: DeliveryFrame, count: int) -> CameraPath:
    """A camera that does not move for ``count`` frames."""
    return CameraPath(np.broadcast_to(world_from_camera, (count, 4, 4)), lens, delivery)
