"""A threaded worker whose threads are given to requests only once their heads are there.

A client that sends the head of a request slowly, or not at all, waits in the loop and costs no thread; after its deadline the
connection is closed. One that is answered and still sends is waited for in the loop as well, for a moment. Bodies have
deadlines of their own, see ``body_deadlines``.
"""

from __future__ import annotations

import selectors
import socket
import time
from contextlib import suppress
from functools import partial
from typing import Any

from gunicorn import util
from gunicorn.workers.gthread import ThreadWorker

HEAD_SECONDS = 10.0
LARGEST_HEAD_BYTES = 64 * 1024
HEAD_END = b"\r\n\r\n"
DRAIN_SECONDS = 0.2
"""For what an answered request still has to send, before the connection is used again."""
LINGER_SECONDS, LINGER_BYTES = 2.0, 64 * 1024
"""For what comes after the last answer on a connection, so that the answer is not cut off by its end."""


class PatientWorker(ThreadWorker):  # type: ignore[misc]
    """Connections wait in the loop until a whole head can be read from them."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self._waiting: dict[Any, float] = {}
        """Connections without a whole head, with their deadlines."""
        self._partial: set[Any] = set()
        """Those of them that have sent a part: they are looked at again in the next round."""
        self._lingering: dict[socket.socket, float] = {}
        """Connections that are answered for the last time and may still send, with their deadlines."""

    def handle_exit(self, sig: Any, frame: Any) -> None:
        """Streams of events would never end by themselves."""
        super().handle_exit(sig, frame)
        streams = getattr(self.wsgi, "extensions", {}).get("event_streams")
        if streams is not None:
            streams.close()

    def enqueue_req(self, conn: Any) -> None:
        """Give a connection to a thread, now or when its head is there."""
        conn.close = partial(self._end, conn)
        if conn.parser is not None and conn.parser.unreader.buf.getvalue():
            super().enqueue_req(conn)  # it has been read ahead
            return
        found = self._has_head(conn.sock)
        if found:
            conn.data_ready = True
            super().enqueue_req(conn)
        elif found is None:
            self._close(conn)
        else:
            self._waiting[conn] = time.monotonic() + HEAD_SECONDS
            conn.sock.setblocking(False)
            self._look_out(conn)

    def murder_pending(self) -> None:
        """Once a round: close what has waited too long, and look again at what had sent a part."""
        super().murder_pending()
        now = time.monotonic()
        for conn in [c for c, until in self._waiting.items() if until <= now]:
            self._leave(conn)
            self._close(conn)
        for conn in [c for c in self._partial if c in self._waiting]:
            self._look_out(conn)
        self._partial.clear()
        for sock in [s for s, until in self._lingering.items() if until <= now]:
            self._let_go(sock)

    def _end(self, conn: Any, graceful: bool = False) -> None:
        """Close a connection; gracefully is without waiting for it: the loop has others to look after."""
        sock = conn.sock
        if not graceful:
            util.close(sock)
            return
        try:
            sock.shutdown(socket.SHUT_WR)
            sock.setblocking(False)
            self.poller.register(sock, selectors.EVENT_READ, self._drain)
        except (OSError, ValueError):
            util.close(sock)
            return
        self._lingering[sock] = time.monotonic() + LINGER_SECONDS

    def _drain(self, sock: socket.socket) -> None:
        with suppress(OSError):
            if sock.recv(LINGER_BYTES):
                return
        self._let_go(sock)

    def _let_go(self, sock: socket.socket) -> None:
        self._lingering.pop(sock, None)
        with suppress(OSError, KeyError, ValueError):
            self.poller.unregister(sock)
        util.close(sock)

    def _look_out(self, conn: Any) -> None:
        self.poller.register(conn.sock, selectors.EVENT_READ, partial(self._readable, conn))

    def _readable(self, conn: Any, sock: socket.socket) -> None:
        self.poller.unregister(sock)
        found = self._has_head(sock)
        if found:
            del self._waiting[conn]
            conn.data_ready = True
            super().enqueue_req(conn)
        elif found is None:
            self._waiting.pop(conn, None)
            self._close(conn)
        else:
            self._partial.add(conn)

    def _leave(self, conn: Any) -> None:
        del self._waiting[conn]
        self._partial.discard(conn)
        with suppress(OSError, KeyError, ValueError):  # it may not be looked at just now
            self.poller.unregister(conn.sock)

    def _close(self, conn: Any) -> None:
        self.nr_conns -= 1
        conn.close()

    @staticmethod
    def _has_head(sock: socket.socket) -> bool | None:
        """Whether a whole head can be read; None where none will ever be."""
        try:
            sock.setblocking(False)
            data = sock.recv(LARGEST_HEAD_BYTES, socket.MSG_PEEK)
        except (BlockingIOError, InterruptedError):
            return False
        except OSError:
            return None
        if not data or (len(data) >= LARGEST_HEAD_BYTES and HEAD_END not in data):
            return None
        return HEAD_END in data

    def _keepalive_after(self, conn: Any, keepalive: bool) -> bool:
        """As the worker's own, with less patience for a body that nobody wanted."""
        return bool(keepalive and conn.parser.finish_body(deadline=time.monotonic() + DRAIN_SECONDS))
