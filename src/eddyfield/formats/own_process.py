"""Libraries that read what nobody vouches for run in a process of their own: whatever a file does to them ends with it."""

from __future__ import annotations

import io
import os
import resource
import subprocess
import sys
from typing import Any

import numpy as np
from numpy.typing import NDArray

from .errors import DamagedFile, FileError


def arrays_from(module: str, *words: str, data: bytes = b"", seconds: int, what: str) -> dict[str, NDArray[Any]]:
    """The arrays that a module writes as .npz when it is run with these words and this data on its standard input. Raises
    ``FileError`` where it takes longer than ``seconds``, or ends badly over ``what``."""
    environment = {**os.environ, "PYTHONPATH": os.pathsep.join(sys.path)}
    try:
        done = subprocess.run(
            [sys.executable, "-m", module, *words], input=data, capture_output=True, timeout=seconds, check=False,
            env=environment,
        )  # fmt: skip
    except subprocess.TimeoutExpired:
        raise FileError("The file takes too long to read.", "Bring in a shorter or simpler one.") from None
    if done.returncode:
        raise DamagedFile(what)
    arrays = np.load(io.BytesIO(done.stdout), allow_pickle=False)
    return {name: arrays[name] for name in arrays.files}


def answer(**arrays: NDArray[Any]) -> None:
    """In such a process, write what came of it."""
    out = io.BytesIO()
    np.savez(out, **arrays)  # type: ignore[arg-type]
    sys.stdout.buffer.write(out.getvalue())


def bounded(memory_bytes: int) -> bytes:
    """In such a process, what came on its standard input; from now on it gets no more memory than that, and leaves no core."""
    resource.setrlimit(resource.RLIMIT_AS, (memory_bytes, memory_bytes))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    return sys.stdin.buffer.read()
