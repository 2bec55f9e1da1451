"""What requests have in common: ids, frames, times, and a camera that is meant."""

from __future__ import annotations

from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from eddyfield.core.cameras.camera import CameraPose
from eddyfield.core.cameras.mounts import Mount

Id = Annotated[str, Field(pattern=r"^[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}$"), AfterValidator(str.lower)]
"""Small letters, however it is written: the database does not tell them apart."""
LONGEST_TEXT = 2000
Frame = Annotated[int, Field(ge=-10_000_000, le=10_000_000)]
Time = Annotated[str, Field(pattern=r"^-?\d{1,12}(/\d{1,9})?$")]
Digest = Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
ChannelValues = Annotated[dict[str, float], Field(min_length=1, max_length=32)]
AnyMount = Annotated[Mount, Field(discriminator="kind")]


class Request(BaseModel):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False, str_max_length=LONGEST_TEXT)


class Pose(Request):
    x: float
    y: float
    z: float
    pan: float
    tilt: float
    roll: float
    focal_mm: float

    def value(self) -> CameraPose:
        return CameraPose(**self.model_dump())


class OfCamera(Request):
    camera_id: Id
