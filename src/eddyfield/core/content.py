"""Keys by content: the same key for the same content, and for nothing else."""

from __future__ import annotations

from hashlib import sha256


def content_key(kind: str, *content: object) -> str:
    """A short key of what ``content`` holds, by its written form; ``kind`` stands before it for people."""
    return f"{kind} {sha256(repr(content).encode()).hexdigest()[:24]}"
