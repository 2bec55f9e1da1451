"""Versions of a performance: all that were brought in stay known, each with its file, name, time and note."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..errors import DomainError
from ..rig.source import RigSource

MOST_VERSIONS = 500
FIRST = "first version"


@dataclass(frozen=True)
class Version:
    """``name`` is that of its file, ``brought_at`` when it came (ISO 8601; empty where that is not known)."""

    source: RigSource
    name: str
    brought_at: str = ""
    note: str = ""


@dataclass(frozen=True)
class Versions:
    """In the order in which they came; none as long as there has only been one."""

    all: tuple[Version, ...] = ()

    def having(self, new: Version, before: RigSource) -> Versions:
        """With a new one, after the one ``before`` it. One that is known already stays as it is."""
        known = self.all or (Version(before, FIRST),)
        if any(version.source == new.source for version in known):
            return Versions(known)
        return Versions((*known, new)[-MOST_VERSIONS:])

    def before(self, source: RigSource) -> Version | None:
        """The one before that of a source; None for the first, and for one that is not among them."""
        at = self._place(source)
        return self.all[at - 1] if at > 0 else None

    def compared_with(self, source: RigSource) -> Version | None:
        """What that of a source is looked at beside: the one before it, of the first the one after it."""
        at = self._place(source)
        return self.before(source) or next(iter(self.all[at + 1 :]), None)

    def _place(self, source: RigSource) -> int:
        return next((place for place, version in enumerate(self.all) if version.source == source), -1)

    def noted(self, source: RigSource, note: str) -> Versions:
        """With another note on one. Raises ``DomainError`` where there is none of that source."""
        if not any(version.source == source for version in self.all):
            raise DomainError("That version is not known any more.", "Choose another one.")
        return Versions(tuple(replace(v, note=note) if v.source == source else v for v in self.all))
