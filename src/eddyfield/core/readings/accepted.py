"""Which readings somebody lets stand."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ..acceptance import Acceptance
from .reading import Reading


def if_accepted(reading: Reading, acceptances: Sequence[Acceptance]) -> Reading:
    """With what lets it stand, if it still is what that was said of."""
    about = (reading.kind, reading.character_id or "", reading.camera_id or "", reading.joint or "")
    for accepted in acceptances:
        if accepted.holds_for(about, reading.first, reading.last, reading.size):
            return replace(reading, accepted=accepted)
    return reading
