"""Names by content: the same name for the same content, and for nothing else."""

from __future__ import annotations

from hashlib import sha256


def content_name(kind: str, *content: object) -> str:
    """A short name of what ``content`` holds, by its written form; ``kind`` stands before it for people."""
    return f"{kind} {sha256(repr(content).encode()).hexdigest()[:24]}"
