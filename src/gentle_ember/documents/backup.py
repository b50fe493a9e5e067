"""Back up a running shop into one zip, and restore it."""

from __future__ import annotations

import sqlite3
import tempfile
import zipfile
from contextlib import closing
from pathlib import Path

DATABASE_NAME = "gentle-ember.sqlite3"


class BackupError(ValueError):
    """A file that is not a whole backup, or a place that can't take one."""


def backup(data: Path, target: Path) -> int:
    """Copy database (online, consistent) and attachments into a zip.

    Returns:
        How many jobs it holds.
    """
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / DATABASE_NAME
        with (
            closing(sqlite3.connect(data / DATABASE_NAME)) as source,
            closing(sqlite3.connect(copy)) as sink,
        ):
            source.backup(sink)
            sink.execute("PRAGMA journal_mode=DELETE")
            jobs = int(sink.execute("SELECT count(*) FROM job").fetchone()[0])
        partial = target.with_name(target.name + ".part")
        with zipfile.ZipFile(partial, "w", zipfile.ZIP_DEFLATED) as archive:
            archive.write(copy, DATABASE_NAME)
            for path in sorted((data / "attachments").glob("*/*")):
                archive.write(path, f"attachments/{path.parent.name}/{path.name}")
        partial.replace(target)
    return jobs


def restore(source: Path, data: Path) -> int:
    """Unpack a backup into an empty data folder.

    Returns:
        How many jobs it holds.

    Raises:
        BackupError: not a whole backup, or the folder already holds a shop.
    """
    if (data / DATABASE_NAME).exists():
        raise BackupError(f"{data} already holds a shop; restore into an empty folder.")
    try:
        with zipfile.ZipFile(source) as archive:
            if DATABASE_NAME not in archive.namelist() or archive.testzip() is not None:
                raise BackupError("This is not a whole backup; nothing was changed.")
            data.mkdir(parents=True, exist_ok=True)
            with tempfile.TemporaryDirectory(dir=data) as folder:
                archive.extractall(folder)  # zipfile keeps members inside the folder
                fresh = Path(folder) / DATABASE_NAME
                with closing(sqlite3.connect(fresh)) as connection:
                    verdict = connection.execute("PRAGMA integrity_check").fetchone()[0]
                    if verdict != "ok":
                        raise BackupError(f"The database in it is damaged: {verdict}.")
                    jobs = int(connection.execute("SELECT count(*) FROM job").fetchone()[0])
                attachments = Path(folder) / "attachments"
                if attachments.exists():
                    attachments.replace(data / "attachments")
                fresh.replace(data / DATABASE_NAME)
    except (zipfile.BadZipFile, sqlite3.DatabaseError) as error:
        raise BackupError("This is not a backup, or it is damaged; nothing was changed.") from error
    return jobs
