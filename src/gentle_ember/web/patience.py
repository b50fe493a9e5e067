"""Bodies that stop coming: a device that left its network holds no worker for ever."""

from __future__ import annotations

import io
import queue
import threading
import time
from collections import Counter
from collections.abc import Callable, Iterable
from threading import BoundedSemaphore, Lock, Thread
from typing import TYPE_CHECKING, Any

from werkzeug.exceptions import RequestTimeout

if TYPE_CHECKING:
    from _typeshed.wsgi import StartResponse, WSGIApplication, WSGIEnvironment

QUIET_S, SLOWEST = 20.0, 4000.0
"""How long a body may be silent [s], and how slowly it may come on the whole [bytes/s]."""
MOST_OF_ONE, MOST_OF_ALL = 24, 96
"""Bodies that are still coming at a time: from one device, and from all of them."""
CHUNK, SMALL = 65_536, 1_000_000
AT_ONCE = 3
"""Answers worked out at a time, looks and writes each: more would only take turns at one
interpreter, each the slower."""
_STOPPED = (
    b'{"type": "/problems/http", "title": "Request Timeout", "status": 408, "errors": [], '
    b'"detail": "What was sent stopped coming; send it again."}'
)
_BUSY = (
    b'{"type": "/problems/busy", "title": "Busy", "status": 503, "errors": [], '
    b'"detail": "This device sends too much at a time; it is tried again."}'
)


class PatientBody(io.RawIOBase):
    """A request's body, read by a thread of its own so that whoever waits can stop waiting."""

    def __init__(
        self, source: Any, length: int, quiet_s: float | None = None,
        whole: Callable[[], None] = lambda: None,
    ) -> None:  # fmt: skip
        super().__init__()
        quiet = QUIET_S if quiet_s is None else quiet_s
        self._source, self._quiet, self._left, self._whole = source, quiet, length, whole
        self._until = time.monotonic() + quiet + length / SLOWEST
        self._chunks: queue.Queue[bytes] = queue.Queue(maxsize=4)
        self._held, self._ended, self._begun, self._dropped = b"", False, False, False

    def readable(self) -> bool:
        """A body is read."""
        return True

    def _pump(self) -> None:
        try:
            while not self._dropped and (chunk := self._source.read(CHUNK)):
                self._chunks.put(chunk)
        except (OSError, ValueError, RuntimeError):
            pass  # the device is gone: what came is what there is
        self._chunks.put(b"")

    def readinto(self, out: Any) -> int:
        """As much as came; waits for it no longer than a body may be silent."""
        if not self._begun:
            self._begun = True
            Thread(target=self._pump, daemon=True, name="body").start()
        if not self._held and not self._ended:
            wait = min(self._quiet, self._until - time.monotonic())
            try:
                self._held = self._chunks.get(timeout=max(wait, 0.001))
            except queue.Empty:
                self.drop()
                raise RequestTimeout("What was sent stopped coming; send it again.") from None
            self._ended = not self._held
            self._left -= len(self._held)
            if self._ended or self._left <= 0:
                self._whole()  # what is done with it takes no place among those that come
        taken = self._held[: len(out)]
        out[: len(taken)] = taken
        self._held = self._held[len(taken) :]
        return len(taken)

    def drop(self) -> None:
        """Nobody reads any more: the thread ends with what it has in hand."""
        self._dropped = self._ended = True
        self._whole()
        while not self._chunks.empty():
            self._chunks.get_nowait()


class Patience:
    """Counts the bodies under way of each device, and gives each a reader that can stop."""

    def __init__(self, app: WSGIApplication) -> None:
        self._app, self._lock = app, Lock()
        # Apart, so that writes which wait for a database somebody else has hold up no look at it.
        self._looks, self._writes = BoundedSemaphore(AT_ONCE), BoundedSemaphore(AT_ONCE)
        self._under_way: Counter[str] = Counter()

    def __call__(self, environ: WSGIEnvironment, start: StartResponse) -> Iterable[bytes]:
        """A request without a body goes on as it is."""
        length = environ.get("CONTENT_LENGTH") or "0"
        chunked = "chunked" in environ.get("HTTP_TRANSFER_ENCODING", "")
        if not chunked and (not length.isdigit() or int(length) == 0):
            return self._turn(environ, start)
        who = environ.get("REMOTE_ADDR") or ""
        with self._lock:
            full = self._under_way[who] >= MOST_OF_ONE or self._under_way.total() >= MOST_OF_ALL
            if not full:
                self._under_way[who] += 1
        if full:
            head = [("Content-Type", "application/problem+json"), ("Retry-After", "2")]
            start("503 Service Unavailable", head)
            return [_BUSY]
        left = threading.Event()

        def leave() -> None:
            with self._lock:
                if not left.is_set():
                    left.set()
                    self._under_way[who] -= 1
                    self._under_way += Counter()

        size = int(length) if length.isdigit() else 0
        body = PatientBody(environ["wsgi.input"], size, whole=leave)
        environ["wsgi.input"] = body
        try:
            if size > SMALL or chunked:
                return self._app(environ, start)
            # Come whole before it takes a turn: who waits for a body holds up nobody else.
            environ["wsgi.input"] = io.BytesIO(body.read())
            return self._turn(environ, start)
        except RequestTimeout:
            start("408 Request Timeout", [("Content-Type", "application/problem+json")])
            return [_STOPPED]
        finally:
            body.drop()  # a view reads all it needs before it answers

    def _turn(self, environ: WSGIEnvironment, start: StartResponse) -> Iterable[bytes]:
        looks = environ.get("REQUEST_METHOD", "GET") in ("GET", "HEAD", "OPTIONS")
        with self._looks if looks else self._writes:
            return self._app(environ, start)
