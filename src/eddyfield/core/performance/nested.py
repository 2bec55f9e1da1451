"""What comes into a scene with a block: another scene that plays inside it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Floats
from ..rig import transforms


@dataclass(frozen=True)
class Ground:
    """What things are placed on, where that is not the scene itself: turned by ``turn`` degrees about +Y (positive to the
    left), then moved, metres."""

    x: float = 0.0
    y: float = 0.0
    z: float = 0.0
    turn: float = 0.0

    def world_from_ground(self) -> Floats:
        """(4, 4)"""
        turned = transforms.rotation_from_angles(np.array(-self.turn), np.array(0.0), np.array(0.0))
        return transforms.rigid(turned, np.array([self.x, self.y, self.z]))

    def under(self, upper: Ground) -> Ground:
        """One ground for what stands on ``upper``, which stands on this one.

        >>> Ground(x=1.0, turn=90.0).under(Ground(z=2.0, turn=15.0))
        Ground(x=3.0, y=0.0, z=0.0, turn=105.0)
        """
        x, y, z = (self.world_from_ground() @ np.array([upper.x, upper.y, upper.z, 1.0]))[:3].round(12) + 0.0
        return Ground(float(x), float(y), float(z), self.turn + upper.turn)

    def inverse(self) -> Ground:
        """The ground on which the world stands, seen from this one.

        >>> Ground(x=1.0, turn=90.0).inverse().under(Ground(x=1.0, turn=90.0))
        Ground(x=0.0, y=0.0, z=0.0, turn=0.0)
        """
        turned_back = Ground(turn=-self.turn)
        return turned_back.under(Ground(-self.x, -self.y, -self.z))


LEVEL = Ground()


@dataclass(frozen=True)
class Nested:
    """With which block something comes, the ground that it stands on, and the frame on which its exposures begin."""

    block_id: str
    ground: Ground
    begins: int


def ground_of(nested: Nested | None) -> Ground:
    return nested.ground if nested else LEVEL


def block_id_of(nested: Nested | None) -> str | None:
    return nested.block_id if nested else None
