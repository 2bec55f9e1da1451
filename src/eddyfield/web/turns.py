"""Turns at what computes: a few at a time, in order of arrival, so that nobody waits for whoever came later."""

from __future__ import annotations

import threading
from collections import deque
from types import TracebackType


class Turns:
    """Of one process; ``with`` waits for a turn and has it until the block ends."""

    def __init__(self, at_once: int) -> None:
        self._free = at_once
        self._waiting: deque[threading.Event] = deque()
        self._lock = threading.Lock()

    def __enter__(self) -> None:
        with self._lock:
            if self._free:
                self._free -= 1
                return
            turn = threading.Event()
            self._waiting.append(turn)
        turn.wait()

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        with self._lock:
            if self._waiting:
                self._waiting.popleft().set()  # straight to whoever waits longest: nobody comes in between
            else:
                self._free += 1
