"""Why something that is stored cannot be changed or found."""

from __future__ import annotations


class Conflict(Exception):
    """What is stored has moved on since the revision an edit was made on; tells what changed since."""

    def __init__(self, revision: int, edits_since: tuple[str, ...], what: str = "scene") -> None:
        super().__init__(f"the {what} is at revision {revision}")
        self.revision = revision
        self.edits_since = edits_since
        self.what = what


class NotFound(Exception):
    """There is no such scene or sequence, or it was deleted."""

    def __init__(self, wanted: str = "", what: str = "scene") -> None:
        super().__init__(wanted)
        self.what = what
