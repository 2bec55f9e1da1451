"""Sessions that are open: a cookie is good for as long as its own has not been closed, in whichever process."""

from __future__ import annotations

import re
import secrets
import time
from contextlib import suppress
from pathlib import Path

LIFE_S = 31 * 24 * 3600
"""As long as a cookie lasts."""
_ID = re.compile(r"[A-Za-z0-9_-]{16,64}")


class OpenSessions:
    """By their ids; as empty files of a folder that is its owner's alone, or (None) in this process."""

    def __init__(self, folder: Path | None) -> None:
        self._folder = folder
        self._here: set[str] = set()
        if folder is not None:
            folder.mkdir(parents=True, exist_ok=True, mode=0o700)
            too_old = time.time() - LIFE_S
            for file in folder.iterdir():
                with suppress(OSError):
                    if file.stat().st_mtime < too_old:
                        file.unlink()

    def open(self) -> str:
        """The id of a new one."""
        session_id = secrets.token_urlsafe(18)
        if self._folder is None:
            self._here.add(session_id)
        else:
            (self._folder / session_id).touch(mode=0o600)
        return session_id

    def close(self, session_id: str) -> None:
        self._here.discard(session_id)
        if self._folder is not None and _ID.fullmatch(session_id):
            (self._folder / session_id).unlink(missing_ok=True)

    def is_open(self, session_id: str) -> bool:
        if self._folder is None:
            return session_id in self._here
        return bool(_ID.fullmatch(session_id)) and (self._folder / session_id).exists()
