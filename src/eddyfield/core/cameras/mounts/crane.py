"""A crane: a base, an arm, and a head at its end that stays level unless it follows the arm."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Literal

import numpy as np

from ...arrays import Floats
from ...rig import transforms
from ...time.channel_tables import ChannelKind
from ..subjects import Subject, Surroundings, Vector, check_numbers
from .base import Mount, Values

SHORTEST_ARM_M = 0.2
BEHIND_M, BASE_HEIGHT_M = 3.0, 0.9
"""Where the base of a new one stands: behind the camera, above the ground."""


@dataclass(frozen=True)
class Crane(Mount):
    """``base`` in metres, ``heading`` in degrees (as a camera's pan). Channels: ``arm_pitch`` (positive up) and
    ``arm_yaw`` (positive right) in degrees, ``arm_length`` from the base to the head in metres."""

    kind: Literal["crane"] = "crane"
    base: Vector = (0.0, 0.0, 0.0)
    heading: float = 0.0
    follow_pitch: bool = False
    follow_yaw: bool = False
    channels: ClassVar = (
        ChannelKind("arm_pitch", "arm pitch", "degrees", 20.0, "place"),
        ChannelKind("arm_yaw", "arm yaw", "degrees", 0.0, "place"),
        ChannelKind("arm_length", "arm length", "m", 3.0, "place", SHORTEST_ARM_M, 1e4),
    )

    def __post_init__(self) -> None:
        check_numbers("crane's base", (*self.base, self.heading))

    @classmethod
    def begun(cls, world_from_camera: Floats, subject: Subject | None) -> Crane:
        """Its base behind the camera, the arm towards where the camera looks."""
        pan = float(transforms.angles_from_rotation(world_from_camera[None, :3, :3])[0, 0])
        x, _, z = world_from_camera[:3, 3]
        turn = np.radians(pan)
        base = (float(x - BEHIND_M * np.sin(turn)), BASE_HEIGHT_M, float(z + BEHIND_M * np.cos(turn)))
        return cls(base=base, heading=pan)

    def world_from_mount(self, values: Values, surroundings: Surroundings) -> Floats:
        pitch, yaw, length = values["arm_pitch"], values["arm_yaw"], values["arm_length"]
        arm = transforms.rotation_from_angles(self.heading + yaw, pitch, 0.0)
        end = np.array(self.base) - arm[..., 2] * np.asarray(length)[:, None]
        pan = self.heading + (yaw if self.follow_yaw else 0.0 * yaw)
        head = transforms.rotation_from_angles(pan, pitch if self.follow_pitch else 0.0, 0.0)
        return transforms.rigid(head, end)

    def reaching(self, place: Floats, row: int, values: Values, surroundings: Surroundings) -> dict[str, float]:
        x, y, z = place - np.array(self.base)
        level = float(np.hypot(x, z))
        length = max(SHORTEST_ARM_M, float(np.hypot(level, y)))
        yaw = float(np.degrees(np.arctan2(x, -z))) - self.heading
        before = float(values["arm_yaw"][row])
        yaw += 360.0 * round((before - yaw) / 360.0)
        return {"arm_pitch": float(np.degrees(np.arctan2(y, level))), "arm_yaw": yaw, "arm_length": length}
