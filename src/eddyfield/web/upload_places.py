"""Who may bring in files at once: many may be sending, however slowly; few are read at a time."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager

MOST_ARRIVING = 8
WAITS_S = 20.0


class TooManyUploads(Exception):
    """All places are taken."""


class UploadPlaces:
    """The places of one process, of which ``reading`` are for files that have arrived."""

    def __init__(self, reading: int) -> None:
        self._arriving = threading.BoundedSemaphore(MOST_ARRIVING)
        self._reading = threading.BoundedSemaphore(reading)

    @contextmanager
    def arriving(self) -> Iterator[None]:
        if not self._arriving.acquire(blocking=False):
            raise TooManyUploads
        try:
            yield
        finally:
            self._arriving.release()

    @contextmanager
    def reading(self) -> Iterator[None]:
        if not self._reading.acquire(timeout=WAITS_S):
            raise TooManyUploads
        try:
            yield
        finally:
            self._reading.release()
