"""An orbit: around a pivot, looking at it."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import ClassVar, Literal

import numpy as np

from ...arrays import Floats
from ...rig import transforms
from ...time.channel_tables import ChannelKind
from ..subjects import Follows, Subject, Surroundings, place_of
from .base import Mount, Values

NEAREST_M = 0.02
AHEAD_M = 3.0
"""How far before the camera the pivot of a new one is where there is no subject."""


@dataclass(frozen=True)
class Orbit(Mount):
    """Around ``pivot``. Channels: ``azimuth`` in degrees (0 in front of the character, positive to its left; in front of a
    point is its +Z), ``elevation`` in degrees (positive above), ``distance`` in metres."""

    kind: Literal["orbit"] = "orbit"
    pivot: Subject = field(default_factory=Subject)
    follows: Follows = "motion"
    channels: ClassVar = (
        ChannelKind("azimuth", "azimuth", "degrees", 0.0, "place"),
        ChannelKind("elevation", "elevation", "degrees", 0.0, "place"),
        ChannelKind("distance", "distance", "m", 4.0, "place", NEAREST_M, 1e6),
    )

    @classmethod
    def begun(cls, world_from_camera: Floats, subject: Subject | None) -> Orbit:
        """Around its subject, or a place before the camera."""
        x, y, z = (float(v) for v in world_from_camera[:3, 3] - AHEAD_M * world_from_camera[:3, 2])
        return cls(pivot=subject or Subject(offset=(x, y, z)))

    @property
    def subjects(self) -> tuple[Subject, ...]:
        return (self.pivot,)

    def _front_deg(self, surroundings: Surroundings) -> float:
        if self.pivot.kind not in ("joint", "body"):
            return 0.0
        front = surroundings.front_of_character(self.pivot.owner_id or "")
        return float(np.degrees(np.arctan2(front[0], front[2])))

    def world_from_mount(self, values: Values, surroundings: Surroundings) -> Floats:
        pan = -(self._front_deg(surroundings) + values["azimuth"])
        head = transforms.rotation_from_angles(pan, -values["elevation"], 0.0)
        # The head looks along its -Z at the pivot, so it stands out along its +Z.
        pivot = place_of(self.pivot, surroundings, self.follows)
        return transforms.rigid(head, pivot + head[..., 2] * np.asarray(values["distance"])[:, None])

    def reaching(self, place: Floats, row: int, values: Values, surroundings: Surroundings) -> dict[str, float]:
        x, y, z = place - place_of(self.pivot, surroundings, self.follows)[row]
        level = float(np.hypot(x, z))
        azimuth = float(np.degrees(np.arctan2(x, z))) - self._front_deg(surroundings) if level > 1e-9 else 0.0
        before = float(values["azimuth"][row])
        azimuth += 360.0 * round((before - azimuth) / 360.0)
        distance = max(NEAREST_M, float(np.hypot(level, y)))
        return {"azimuth": azimuth, "elevation": float(np.degrees(np.arctan2(y, level))), "distance": distance}
