"""What an edit says that it changes; all else it leaves as it is, between keys as well."""

from __future__ import annotations

from dataclasses import dataclass

from ..time.frames import FrameTime

EXPOSURES, POSES = "exposures", "poses"
"""What of a character changes within a stretch: which poses it shows, or the poses themselves."""


@dataclass(frozen=True)
class Stretch:
    """What of an owner changes, and between which times, both included (None: without an end): ``channels`` of a camera, or
    exposures or poses of a character. What of a camera was moved without a key may be forgotten besides."""

    channels: frozenset[str]
    first: FrameTime | int | None = None
    last: FrameTime | int | None = None


@dataclass(frozen=True)
class Reach:
    """``owners`` are the ids of the cameras, things, sounds and scenes inside that an edit changes, makes or takes out (what
    comes with a scene inside is that one's), and ``of_scene`` the fields of the scene itself: of ``cameras`` their order. Where
    there is a ``stretch``, nothing else of the owners changes. ``all_owners``: any of them. ``makes``: owners that have no ids
    yet as well."""

    owners: frozenset[str] = frozenset()
    of_scene: frozenset[str] = frozenset()
    stretch: Stretch | None = None
    all_owners: bool = False
    makes: bool = False

    def is_apart_from(self, other: Reach) -> bool:
        """Whether two edits have nothing in common that they change: neither undoes what the other has done."""
        if self.all_owners or other.all_owners or (self.makes and other.makes):
            return False
        return not (self.owners & other.owners or self.of_scene & other.of_scene)
