"""Turns at what only a few can have at once, in order of arrival: nobody waits for whoever came later."""

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

    def take(self, longest_s: float | None = None) -> bool:
        """Wait for a turn; whether there was one within that time."""
        with self._lock:
            if self._free:
                self._free -= 1
                return True
            turn = threading.Event()
            self._waiting.append(turn)
        if turn.wait(longest_s):
            return True
        with self._lock:
            if turn.is_set():  # just now
                return True
            self._waiting.remove(turn)
        return False

    def give_back(self) -> None:
        """Straight to whoever waits longest: nobody comes in between."""
        with self._lock:
            if self._waiting:
                self._waiting.popleft().set()
            else:
                self._free += 1

    def __enter__(self) -> None:
        self.take()

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.give_back()
