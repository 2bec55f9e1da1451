"""Room on the disk that the database lies on."""

from __future__ import annotations

import shutil
from pathlib import Path

from .database import DiskFull

LEAST_MB, LOW_MB = 64, 1024
MB = 2**20


class Disk:
    """The disk of a folder. ``folder`` None is a database that lies elsewhere: nothing is known of its disk."""

    def __init__(self, folder: Path | None, least_mb: int = LEAST_MB, low_mb: int = LOW_MB) -> None:
        self._folder, self._least_mb, self._low_mb = folder, least_mb, low_mb

    def free_mb(self) -> int | None:
        """Room that is left; None where it is not known."""
        if self._folder is None:
            return None
        try:
            return shutil.disk_usage(self._folder).free // MB
        except OSError:
            return None

    def check(self, bytes_to_come: int = 0) -> None:
        """Raise ``DiskFull`` where what is to come would leave less than the database needs to go on by itself."""
        free = self.free_mb()
        if free is not None and free - bytes_to_come // MB < self._least_mb:
            raise DiskFull(f"{free} MB are left")

    def warning(self) -> str:
        """What to tell people before the disk is full; nothing while there is room."""
        free = self.free_mb()
        if free is None or free >= self._low_mb:
            return ""
        if free < self._least_mb:
            return f"The disk is full ({free} MB are left): nothing can be changed until there is room again."
        return f"The disk is nearly full: {free} MB are left. Make room before work cannot be saved."
