"""Names by content: the same name for the same content, and for nothing else."""

from __future__ import annotations

from functools import lru_cache
from hashlib import sha256

MOST_JOINED = 16_384


def content_name(kind: str, *content: object) -> str:
    """A short name of what ``content`` holds, by its written form; ``kind`` stands before it for people."""
    return f"{kind} {sha256(repr(content).encode()).hexdigest()[:24]}"


@lru_cache(MOST_JOINED)
def joined_name(kind: str, *names: str) -> str:
    """The name of several names together, remembered: a scene of hundreds of cameras asks for the same ones each time."""
    return content_name(kind, *names)
