"""Events for the windows that are open (server-sent): which scenes were changed or limits set, by whom, in whichever process.

One thread a process asks the database for what is new, as long as anybody listens. Streams have places of their own, so that
they never take one from a request.
"""

from __future__ import annotations

import logging
import queue
import threading
import time
from collections.abc import Callable, Iterator, Sequence
from typing import Protocol

from flask import Flask, Response

from eddyfield.core.edits import title_of
from eddyfield.store.changes import Change
from eddyfield.store.limits import LimitsSet

from .answers import SceneChanged
from .reading_answers import LimitsChanged
from .refusals import refuse

ASK_SECONDS = 0.12
AFTER_A_FAULT_SECONDS = 1.0
STILL_THERE_SECONDS = 5.0
"""A word is sent that often, by which a window that is gone is noticed."""
LIFE_SECONDS = 120.0
"""Then the window has to come again, and through the gate."""
MOST_WAITING = 256
RETRY_MS = 300
Happening = Change | LimitsSet
Listener = queue.Queue[Happening | None]


class Source(Protocol):
    """What has happened since it was asked last; the first time, nothing."""

    def new(self) -> Sequence[Happening]: ...


class TooManyStreams(Exception):
    """As many windows listen as there are places."""


class Stream:
    """What one window is sent. It gives its place back when it is closed, even if nobody has read from it."""

    def __init__(self, events: Iterator[bytes], leave: Callable[[], None]) -> None:
        self._events, self.close = events, leave

    def __iter__(self) -> Iterator[bytes]:
        return self

    def __next__(self) -> bytes:
        try:
            return next(self._events)
        except StopIteration:
            self.close()
            raise


class EventStreams:
    """The streams of one process. Ends them all with ``close``."""

    def __init__(self, sources: Sequence[Source], most: int) -> None:
        self._sources = sources
        self._most = most
        self._listeners: set[Listener] = set()
        self._lock = threading.Lock()
        self._asking: threading.Thread | None = None
        self._closed = threading.Event()

    def listen(self) -> Stream:
        """A stream from now on; its ``close`` gives its place back. Raises ``TooManyStreams`` and ``Unavailable``."""
        listener: Listener = queue.Queue(MOST_WAITING)
        with self._lock:
            if len(self._listeners) >= self._most:
                raise TooManyStreams
            if self._asking is None:
                for source in self._sources:
                    source.new()  # from now on, and not from when the thread comes to it
            self._listeners.add(listener)
            if self._asking is None:
                self._asking = threading.Thread(target=self._ask, name="changes", daemon=True)
                self._asking.start()
        return Stream(self._stream(listener), lambda: self._leave(listener))

    def _leave(self, listener: Listener) -> None:
        with self._lock:
            self._listeners.discard(listener)

    def close(self) -> None:
        """End all streams; there will be no others."""
        self._closed.set()
        for listener in list(self._listeners):
            _put(listener, None)

    def _stream(self, listener: Listener) -> Iterator[bytes]:
        until = time.monotonic() + LIFE_SECONDS
        yield f"retry: {RETRY_MS}\nevent: listening\ndata:\n\n".encode()
        while time.monotonic() < until and not self._closed.is_set():
            try:
                happening = listener.get(timeout=STILL_THERE_SECONDS)
            except queue.Empty:
                yield b": still there\n\n"
                continue
            if happening is None:
                return
            yield _event(happening)

    def _ask(self) -> None:
        """Until nobody listens any more."""
        while True:
            with self._lock:
                if not self._listeners or self._closed.is_set():
                    self._asking = None
                    return
            try:
                for source in self._sources:
                    happened = source.new()
                    with self._lock:  # only now: whoever has come meanwhile is told as well
                        listeners = list(self._listeners)
                    for happening in happened:
                        for listener in listeners:
                            _put(listener, happening)
                self._closed.wait(ASK_SECONDS)
            except Exception as error:  # whatever it is: without this thread nobody would be told of anything any more
                logging.getLogger("eddyfield").warning("changes cannot be asked for: %r", error)
                self._closed.wait(AFTER_A_FAULT_SECONDS)


def _put(listener: Listener, happening: Happening | None) -> None:
    try:
        listener.put_nowait(happening)
    except queue.Full:  # nobody takes them any more: the stream ends, and the window comes again
        while not listener.empty():
            listener.get_nowait()
        listener.put_nowait(None)


def _event(happening: Happening) -> bytes:
    event: SceneChanged | LimitsChanged
    if isinstance(happening, LimitsSet):
        name, event = "limits", LimitsChanged(who=happening.who, window_id=happening.window_id)
    else:
        name, event = "changed", SceneChanged(
            scene_id=happening.scene_id, revision=happening.revision, way=happening.way, edit=title_of(happening.edit),
            who=happening.who, window_id=happening.window_id, remark=happening.remark,
        )  # fmt: skip
    return f"event: {name}\ndata: {event.model_dump_json()}\n\n".encode()


def install_event_stream(app: Flask, streams: EventStreams) -> None:
    """The route of the stream."""
    app.extensions["event_streams"] = streams

    @app.get("/api/events")
    def events() -> Response:
        try:
            return Response(streams.listen(), content_type="text/event-stream")
        except TooManyStreams:
            return refuse(503, "Too many windows are open.", "Close some; the scene is as it is after a reload.")
