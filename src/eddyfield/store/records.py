"""Small records that are written as JSON into one column: each with its version, read strictly, and brought forward."""

from __future__ import annotations

from collections.abc import Callable
from collections.abc import Sequence as Steps
from dataclasses import dataclass
from typing import Annotated, Any, Generic, TypeVar

import orjson
from pydantic import BaseModel, ConfigDict, Field, create_model

from eddyfield.core.cameras.aim import Aim
from eddyfield.core.cameras.camera import Rigging
from eddyfield.core.cameras.focus import Focus
from eddyfield.core.cameras.framing import Framing
from eddyfield.core.cameras.lock_correction import CarriedOver
from eddyfield.core.cameras.mounts import Mount
from eddyfield.core.cut.sequence import Sequence
from eddyfield.core.performance.correction import Correction
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.own_exposures import OwnExposures
from eddyfield.core.performance.showing import Showing
from eddyfield.core.performance.timing import Timing
from eddyfield.core.performance.version import Versions
from eddyfield.core.time.bending import Bend
from eddyfield.core.time.channels import Channel

Value = TypeVar("Value")
Step = Callable[[dict[str, Any]], dict[str, Any]]
"""From the fields of one version to those of the next."""


@dataclass(frozen=True)
class Bends:
    """Of the time of a block, one after the other."""

    in_order: tuple[Bend, ...]


@dataclass(frozen=True)
class SteppedParts:
    """Of a character, those with exposures of their own."""

    all: tuple[OwnExposures, ...]


class Record(Generic[Value]):
    """One kind of record. Its version is one more than the ``steps`` that bring older ones forward; what was written before
    there were versions is of the first one. An unknown field is an error: it is never dropped."""

    def __init__(self, model: Any, steps: Steps[Step] = ()) -> None:
        self._steps = tuple(steps)
        config = ConfigDict(extra="forbid", defer_build=True)
        self._model: type[BaseModel] = create_model("Record", __config__=config, value=(model, ...))

    @property
    def version(self) -> int:
        return 1 + len(self._steps)

    def write(self, value: Value | None) -> str | None:
        """As text; None stays None."""
        if value is None:
            return None
        fields = self._model.model_construct(value=value).model_dump(mode="json")["value"]
        return orjson.dumps({"version": self.version, **fields}).decode()

    def read(self, text: str) -> Value:
        """From text of this version or an older one. Raises ``ValueError`` for what is of a later one, or is none."""
        fields = orjson.loads(text)
        version = fields.pop("version", 1)
        if not 1 <= version <= self.version:
            raise ValueError(f"The record is of version {version}: Eddyfield has to be brought up to date.")
        for step in self._steps[version - 1 :]:
            fields = step(fields)
        value: Value = self._model.model_validate({"value": fields}).value  # type: ignore[attr-defined]
        return value


def read_if_any(record: Record[Value], text: str | None) -> Value | None:
    """The same where there may be none."""
    return record.read(text) if text else None


def _shares(mount: dict[str, Any]) -> dict[str, Any]:
    """Movements came along wholly or not at all; now a share of each does."""
    return {**mount, "through": [float(t) for t in mount["through"]]} if "through" in mount else mount


def _cornered(framing: dict[str, Any]) -> dict[str, Any]:
    """The free zone was a rectangle; now it has corners."""
    x, y = (framing.pop(name, 0.0) / 2 for name in ("zone_x", "zone_y"))
    return {**framing, "slack": [[-x, -y], [x, -y], [x, y], [-x, y]] if x or y else []}


MOUNT: Record[Mount] = Record(Annotated[Mount, Field(discriminator="kind")], (_shares,))
AIM: Record[Aim] = Record(Aim)
FOCUS: Record[Focus] = Record(Focus)
FRAMING: Record[Framing] = Record(Framing, (_cornered,))
RIGGING: Record[Rigging] = Record(Rigging)
SHOWING: Record[Showing] = Record(Showing)
TIMING: Record[Timing] = Record(Timing)
SEQUENCE: Record[Sequence] = Record(Sequence)
VERSIONS: Record[Versions] = Record(Versions)
CORRECTION: Record[Correction] = Record(Correction)
RIDE_WEIGHTS: Record[Channel] = Record(Channel)
STEPPING: Record[Stepping] = Record(Stepping)
PARTS: Record[SteppedParts] = Record(SteppedParts)
BENDS: Record[Bends] = Record(Bends)
CARRIED_OVER: Record[CarriedOver] = Record(CarriedOver)
