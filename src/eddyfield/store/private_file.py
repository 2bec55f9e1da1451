"""Files with secrets in them."""

from __future__ import annotations

import os
from pathlib import Path


def write_private(path: Path, data: bytes) -> None:
    """Write a file whole or not at all, readable by its owner only."""
    beside = path.with_name(f"{path.name}.{os.getpid()}.new")
    beside.unlink(missing_ok=True)
    handle = os.open(beside, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    with os.fdopen(handle, "wb") as out:
        out.write(data)
        out.flush()
        os.fsync(out.fileno())
    beside.rename(path)
