"""Files kept with jobs, beside the database, each under the SHA-256 of its bytes."""

from __future__ import annotations

import hashlib
import os
import tempfile
from pathlib import Path

from gentle_ember.store.errors import NotFoundError

LARGEST = 25 * 1024 * 1024
LARGEST_PHOTO = 60 * 1024 * 1024


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
            target.parent.mkdir(parents=True, exist_ok=True)
            with tempfile.NamedTemporaryFile(dir=target.parent, delete=False) as handle:
                handle.write(content)
                handle.flush()
                os.fsync(handle.fileno())
            Path(handle.name).replace(target)
        return digest

    def get(self, sha256: str) -> bytes:
        """The bytes of a hash.

        Raises:
            NotFoundError: no such file is kept.
        """
        path = self.path(sha256)
        if not path.is_file():
            raise NotFoundError("This file is not kept here.")
        return path.read_bytes()
