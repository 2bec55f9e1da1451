"""A character: who performs, and how its performance is shown."""

from __future__ import annotations

from dataclasses import dataclass, field

from ..time.channel_tables import Channels
from .exposure import Stepping
from .nested import Nested
from .own_exposures import OwnExposures, check_parts
from .performance import Performance
from .placing import AS_IN_FILE
from .ride import Ride
from .showing import ALWAYS, Showing
from .version import Versions


@dataclass(frozen=True)
class Character:
    """Gives one ``performance``, which another may take the place of: everything else stays."""

    id: str
    name: str
    performance: Performance
    stepping: Stepping = Stepping()
    ride: Ride = Ride()
    feet: tuple[str, ...] = ()
    front_deg: float | None = None
    """Which way it faces, where that is set: 0 is +Z, positive turns to its left; None goes by its file or its hips."""
    placing: Channels = AS_IN_FILE
    showing: Showing = ALWAYS
    versions: Versions = field(default=Versions(), repr=False)
    """Of its performance, one of which it gives."""
    parts: tuple[OwnExposures, ...] = ()
    """What shows new poses on frames of its own."""
    nested: Nested | None = None
    """Where it comes with a block; then it is changed in the scene that it is in."""

    def __post_init__(self) -> None:
        check_parts(self.parts)

    @property
    def offered_ride(self) -> Ride:
        """What takes the strobing away: whole, and feet that are known stay where they stand, as hands that hold on do."""
        return Ride("rigid", 1.0, self.ride.anchor, plants=bool(self.feet))
