"""Other cuts of a scene, kept beside the one that is shown."""

from __future__ import annotations

from dataclasses import dataclass

from .cut import Cut

MOST_OTHER_CUTS = 20


@dataclass(frozen=True)
class OtherCut:
    """A cut of the same cameras under a name; taken up, it changes places with the one that is shown."""

    id: str
    name: str
    cut: Cut
