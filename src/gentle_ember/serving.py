"""One server a data folder and a port, and its end: nothing is left behind, nothing is shared."""

from __future__ import annotations

import ipaddress
import os
import signal
import socket
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from filelock import FileLock, Timeout

LOCK, WHERE = "serving.lock", "serving.txt"
END_S = 2
"""How long pages that are still open may hold an ending server up [s]."""
LOOK_S = 1.0


class ServedError(ValueError):
    """A data folder or a port that another server has."""


@contextmanager
def claimed(data: Path, url: str = "") -> Iterator[None]:
    """A data folder for this process alone, as long as the block runs.

    The lock goes with the process that holds it, however that ends.

    Args:
        data: the folder; made when missing.
        url: where it is served, told to whoever is refused; empty while it is only worked on.

    Raises:
        ServedError: another process has it.
    """
    data.mkdir(parents=True, exist_ok=True)
    lock = FileLock(data / LOCK, blocking=False)
    try:
        lock.acquire()
    except Timeout:
        told = (data / WHERE).read_text("utf-8") if (data / WHERE).is_file() else ""
        raise ServedError(
            f"{data} is served already{f', at {told}' if told else ''}: one server a data folder. "
            "Stop that one first, or give another folder with --data."
        ) from None
    try:
        (data / WHERE).write_text(url, "utf-8")
        yield
    finally:
        (data / WHERE).unlink(missing_ok=True)
        lock.release()


def check_free(host: str, port: int) -> None:
    """Refuse a port on which something answers: two servers would answer by turns.

    Raises:
        ServedError: it is taken.
    """
    here = "127.0.0.1" if host in ("0.0.0.0", "") else host  # noqa: S104
    try:
        with socket.create_connection((here, port), timeout=0.5):
            pass
    except OSError:
        return
    raise ServedError(f"Port {port} is taken by another program. Give another with --port.")


def is_loopback(host: str) -> bool:
    """Whether an address is this machine's own and nobody else's.

    >>> is_loopback("127.0.0.1"), is_loopback("localhost"), is_loopback("0.0.0.0")
    (True, True, False)
    """
    try:
        return host == "localhost" or ipaddress.ip_address(host).is_loopback
    except ValueError:
        return False


def end_with_parent() -> None:
    """End this worker when the process that began it is gone, even where it was killed."""
    parent = os.getppid()

    def watch() -> None:
        while os.getppid() == parent:
            time.sleep(LOOK_S)
        os.kill(os.getpid(), signal.SIGTERM)
        time.sleep(END_S)
        os._exit(1)

    threading.Thread(target=watch, name="end-with-parent", daemon=True).start()
