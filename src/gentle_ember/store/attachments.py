"""Files kept with jobs, beside the database, each under the SHA-256 of its bytes."""

from __future__ import annotations

import hashlib
import os
import re
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

from gentle_ember.store.errors import NotFoundError

LARGEST = 25 * 1024 * 1024
LARGEST_PHOTO = 60 * 1024 * 1024


PART = ".part-"
PARTS = (PART, "tmp")
"""How names of files begin that are being written, now and in earlier versions."""
SETTLED_S = 3600
"""How long after it came a file that belongs to nothing is left alone [s]."""
SYNCS_FOLDERS = os.name == "posix"
"""Where a folder can be opened to be synced; elsewhere the file system sees to names itself."""
WHOLE = re.compile(r"[0-9a-f]{64}")


def write_whole(path: Path, content: bytes) -> None:
    """Write a file whole or not at all, on the disk when this returns, for its owner alone."""
    path.parent.mkdir(parents=True, exist_ok=True)
    number, name = tempfile.mkstemp(dir=path.parent, prefix=PART)
    part = Path(name)
    try:
        with os.fdopen(number, "wb") as handle:
            handle.write(content)
            handle.flush()
            os.fsync(handle.fileno())
        part.replace(path)
        if SYNCS_FOLDERS:
            # The name too, so that a power cut takes no file the database knows.
            folder = os.open(path.parent, os.O_RDONLY)
            try:
                os.fsync(folder)
            finally:
                os.close(folder)
    finally:
        part.unlink(missing_ok=True)


def settled(path: Path) -> bool:
    """Whether a file came so long ago that nobody can still be at work with it."""
    return time.time() - path.stat().st_mtime >= SETTLED_S


class AttachmentStore:
    """A folder of files by hash; the same bytes are kept once."""

    def __init__(self, data: Path) -> None:
        self.folder = data / "attachments"

    def path(self, sha256: str) -> Path:
        """Where a file of this hash lies."""
        return self.folder / sha256[:2] / sha256

    def put(self, content: bytes) -> str:
        """Keep bytes, whole or not at all; returns their SHA-256."""
        digest = hashlib.sha256(content).hexdigest()
        target = self.path(digest)
        if not target.exists():
            write_whole(target, content)
        return digest

    def holds(self, sha256: str) -> bool:
        """Whether a file of this hash is kept."""
        return self.path(sha256).is_file()

    def all(self) -> Iterator[Path]:
        """Every file kept."""
        return (one for one in self.folder.glob("*/*") if WHOLE.fullmatch(one.name))

    def clear_parts(self) -> None:
        """Throw away what a power cut left half written."""
        for one in self.folder.glob("*/*"):
            if one.name.startswith(PARTS) and settled(one):
                one.unlink(missing_ok=True)

    def get(self, sha256: str) -> bytes:
        """The bytes of a hash.

        Raises:
            NotFoundError: no such file is kept.
        """
        path = self.path(sha256)
        if not path.is_file():
            raise NotFoundError("This file is not kept here.")
        return path.read_bytes()
