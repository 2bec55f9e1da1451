"""Deadlines for the bodies of requests: whoever sends one too slowly is refused, and gives back the thread."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterable, Iterator
from typing import Any

from werkzeug.exceptions import RequestTimeout

STALL_SECONDS = 10.0
"""Without a single byte."""
GRACE_SECONDS, LEAST_BYTES_A_SECOND = 15.0, 32 * 1024
"""A body may take so long, and as long again as its bytes take at this speed."""

Wsgi = Callable[[dict[str, Any], Callable[..., Any]], Iterable[bytes]]


class BodyDeadlines:
    """WSGI middleware."""

    def __init__(self, application: Wsgi) -> None:
        self._application = application

    def __call__(self, environ: dict[str, Any], start_response: Callable[..., Any]) -> Iterable[bytes]:
        connection = environ.get("gunicorn.socket")
        if connection is not None and environ.get("REQUEST_METHOD") not in ("GET", "HEAD"):
            connection.settimeout(STALL_SECONDS)
            environ["wsgi.input"] = _TimedBody(environ["wsgi.input"])
        return self._application(environ, start_response)


class _TimedBody:
    """The body of a request, as WSGI reads it."""

    def __init__(self, body: Any) -> None:
        self._body = body
        self._began = time.monotonic()
        self._read = 0

    def read(self, size: int = -1) -> bytes:
        if size is None or size < 0:
            return b"".join(iter(lambda: self.read(65536), b""))
        return self._timed(lambda: self._body.read(min(size, 65536)))

    def readline(self, size: int = -1) -> bytes:
        return self._timed(lambda: self._body.readline(size))

    def readlines(self, hint: int = -1) -> list[bytes]:
        return list(self)

    def __iter__(self) -> Iterator[bytes]:
        return iter(self.readline, b"")

    def _timed(self, read: Callable[[], bytes]) -> bytes:
        try:
            data: bytes = read()
        except TimeoutError:
            raise RequestTimeout("The request did not arrive in time. Try it again.") from None
        self._read += len(data)
        if time.monotonic() - self._began > GRACE_SECONDS + self._read / LEAST_BYTES_A_SECOND:
            raise RequestTimeout("The request arrives too slowly. Try it again.")
        return data
