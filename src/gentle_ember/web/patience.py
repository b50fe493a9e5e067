"""Bodies that stop coming: a device that left its network holds no worker for ever."""

from __future__ import annotations

import io
import queue
import time
from collections import Counter
from collections.abc import Iterable
from threading import Lock, Thread
from typing import TYPE_CHECKING, Any

from werkzeug.exceptions import RequestTimeout

if TYPE_CHECKING:
    from _typeshed.wsgi import StartResponse, WSGIApplication, WSGIEnvironment

QUIET_S, SLOWEST = 20.0, 4000.0
"""How long a body may be silent [s], and how slowly it may come on the whole [bytes/s]."""
MOST_OF_ONE, MOST_OF_ALL = 8, 64
"""Bodies under way at a time: from one device, and from all of them."""
CHUNK = 65_536
_BUSY = (
    b'{"type": "/problems/busy", "title": "Busy", "status": 503, "errors": [], '
    b'"detail": "This device sends too much at a time; it is tried again."}'
)


class PatientBody(io.RawIOBase):
    """A request's body, read by a thread of its own so that whoever waits can stop waiting."""

    def __init__(self, source: Any, length: int, quiet_s: float = QUIET_S) -> None:
        super().__init__()
        self._source, self._quiet = source, quiet_s
        self._until = time.monotonic() + quiet_s + length / SLOWEST
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
        taken = self._held[: len(out)]
        out[: len(taken)] = taken
        self._held = self._held[len(taken) :]
        return len(taken)

    def drop(self) -> None:
        """Nobody reads any more: the thread ends with what it has in hand."""
        self._dropped = self._ended = True
        while not self._chunks.empty():
            self._chunks.get_nowait()


class Patience:
    """Counts the bodies under way of each device, and gives each a reader that can stop."""

    def __init__(self, app: WSGIApplication) -> None:
        self._app, self._lock = app, Lock()
        self._under_way: Counter[str] = Counter()

    def __call__(self, environ: WSGIEnvironment, start: StartResponse) -> Iterable[bytes]:
        """A request without a body goes on as it is."""
        length = environ.get("CONTENT_LENGTH") or "0"
        chunked = "chunked" in environ.get("HTTP_TRANSFER_ENCODING", "")
        if not chunked and (not length.isdigit() or int(length) == 0):
            return self._app(environ, start)
        who = environ.get("REMOTE_ADDR") or ""
        with self._lock:
            full = self._under_way[who] >= MOST_OF_ONE or self._under_way.total() >= MOST_OF_ALL
            if not full:
                self._under_way[who] += 1
        if full:
            head = [("Content-Type", "application/problem+json"), ("Retry-After", "2")]
            start("503 Service Unavailable", head)
            return [_BUSY]
        body = PatientBody(environ["wsgi.input"], int(length) if length.isdigit() else 0)
        environ["wsgi.input"] = body
        try:
            return self._app(environ, start)
        finally:
            # A view reads all it needs before it answers.
            body.drop()
            with self._lock:
                self._under_way[who] -= 1
                self._under_way += Counter()
