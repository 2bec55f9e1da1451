"""Who may bring in files at once: many may be sending, however slowly; few are read at a time."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import AbstractContextManager, contextmanager

from eddyfield.store.turns import Turns

MOST_ARRIVING = 8
WAITS_S = 20.0


class TooManyUploads(Exception):
    """All places are taken."""


class UploadPlaces:
    """The places of one process, of which ``reading`` are for files that have arrived. Either raises ``TooManyUploads``."""

    def __init__(self, reading: int) -> None:
        self._arriving, self._reading = Turns(MOST_ARRIVING), Turns(reading)

    def arriving(self) -> AbstractContextManager[None]:
        """At once, or not at all."""
        return _one_of(self._arriving, 0.0)

    def reading(self) -> AbstractContextManager[None]:
        """In order of arrival."""
        return _one_of(self._reading, WAITS_S)


@contextmanager
def _one_of(places: Turns, longest_s: float) -> Iterator[None]:
    if not places.take(longest_s):
        raise TooManyUploads
    try:
        yield
    finally:
        places.give_back()
