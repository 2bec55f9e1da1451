"""Files by their content: rigs and motion, stored once under their SHA-256, in chunks."""

from __future__ import annotations

import hashlib
from datetime import timedelta

from .database import Database

CHUNK_BYTES = 4 * 2**20
GRACE = timedelta(days=2)
"""How long a file that was brought in may wait for a scene."""


class Blobs:
    """Files in the database, by digest."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def put(self, data: bytes, name: str) -> str:
        """Store a file and return its digest; a file that is there already is not stored again."""
        digest = hashlib.sha256(data).hexdigest()
        with self._database.transaction() as cursor:
            # The same file may be on its way in twice at once: whoever comes second waits here for the first. One that is there
            # may have been about to be cleared: it is as if it had come just now.
            rows = cursor.execute(
                "INSERT INTO blob_file (digest, name, size) VALUES (%s, %s, %s)"
                " ON DUPLICATE KEY UPDATE created_at = CURRENT_TIMESTAMP(3)",
                (digest, name[:255], len(data)),
            )
            if rows != 1:
                return digest
            for number, start in enumerate(range(0, len(data), CHUNK_BYTES)):
                chunk = data[start : start + CHUNK_BYTES]
                cursor.execute(
                    "INSERT INTO blob_chunk (digest, number, data) VALUES (%s, %s, %s)", (digest, number, chunk)
                )
        return digest

    def get(self, digest: str) -> bytes:
        """The bytes of a file. Raises ``KeyError`` when there is none."""
        with self._database.transaction() as cursor:
            cursor.execute("SELECT size FROM blob_file WHERE digest = %s", (digest,))
            row = cursor.fetchone()
            if row is None:
                raise KeyError(digest)
            count = (int(row["size"]) + CHUNK_BYTES - 1) // CHUNK_BYTES
            chunks = []
            for number in range(count):
                cursor.execute("SELECT data FROM blob_chunk WHERE digest = %s AND number = %s", (digest, number))
                chunk = cursor.fetchone()
                if chunk is None:
                    raise KeyError(digest)
                chunks.append(chunk["data"])
        return b"".join(chunks)

    def clear_unused(self, grace: timedelta = GRACE) -> list[str]:
        """Take out the files that no scene has ever named, deleted scenes and undone edits included, once they have been there
        for a while; returns their digests."""
        with self._database.transaction() as cursor:
            cursor.execute(
                "SELECT digest FROM blob_file f WHERE created_at < CURRENT_TIMESTAMP(3) - INTERVAL %s SECOND"
                " AND NOT EXISTS (SELECT 1 FROM scene_file s WHERE s.digest = f.digest) FOR UPDATE",
                (grace.total_seconds(),),
            )
            unused = [row["digest"] for row in cursor.fetchall()]
            for digest in unused:
                cursor.execute("DELETE FROM blob_chunk WHERE digest = %s", (digest,))
                cursor.execute("DELETE FROM blob_file WHERE digest = %s", (digest,))
        return unused
