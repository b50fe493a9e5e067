"""Back up a running shop into one zip, and restore it."""

from __future__ import annotations

import sqlite3
import tempfile
import zipfile
from contextlib import closing
from pathlib import Path

from sqlalchemy import create_engine, func, select, text
from sqlalchemy.exc import DatabaseError

from gentle_ember.store.attachments import AttachmentStore
from gentle_ember.store.database import DATABASE_NAME, database_path, newest, open_engine
from gentle_ember.store.models import JobRow

LEFT_BEHIND = ("-wal", "-shm", "-journal")
"""Files beside a database that belong to it alone: beside another they damage it."""


class BackupError(ValueError):
    """A file that is not a whole backup, or a place that can't take one."""


def backup(data: Path, target: Path) -> int:
    """Copy database (online, consistent) and attachments into a zip.

    Returns:
        How many jobs it holds.
    """
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / DATABASE_NAME
        jobs = _copied(data, copy)
        partial = target.with_name(target.name + ".part")
        with zipfile.ZipFile(partial, "w", zipfile.ZIP_DEFLATED) as archive:
            archive.write(copy, DATABASE_NAME)
            for path in sorted(AttachmentStore(data).all()):
                archive.write(path, f"attachments/{path.parent.name}/{path.name}")
        partial.replace(target)
    return jobs


def _copied(data: Path, copy: Path) -> int:
    """A copy of the database as it stands, whole in one file; how many jobs it holds."""
    live, fresh = open_engine(data), create_engine(f"sqlite:///{copy}")
    try:
        with closing(live.raw_connection()) as source, closing(fresh.raw_connection()) as sink:
            reading, writing = source.driver_connection, sink.driver_connection
            if not isinstance(reading, sqlite3.Connection) or not isinstance(
                writing, sqlite3.Connection
            ):
                raise BackupError("Only a shop kept in SQLite can be backed up.")
            reading.backup(writing)
        with fresh.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
            connection.execute(text("PRAGMA journal_mode=DELETE"))
            return connection.scalar(select(func.count()).select_from(JobRow)) or 0
    finally:
        live.dispose()
        fresh.dispose()


def restore(source: Path, data: Path) -> int:
    """Unpack a backup into an empty data folder; whole, or nothing is changed.

    Returns:
        How many jobs it holds.

    Raises:
        BackupError: not a whole backup, of a newer version, or the folder is not empty.
    """
    _refuse_over(data)
    try:
        with zipfile.ZipFile(source) as archive:
            if DATABASE_NAME not in archive.namelist() or archive.testzip() is not None:
                raise BackupError("This is not a whole backup; nothing was changed.")
            data.mkdir(parents=True, exist_ok=True)
            with tempfile.TemporaryDirectory(dir=data) as folder:
                archive.extractall(folder)  # zipfile keeps members inside the folder
                fresh = Path(folder) / DATABASE_NAME
                jobs = _judged(fresh)
                attachments = Path(folder) / "attachments"
                if attachments.exists():
                    attachments.replace(data / "attachments")
                fresh.replace(data / DATABASE_NAME)
    except (zipfile.BadZipFile, DatabaseError) as error:
        raise BackupError("This is not a backup, or it is damaged; nothing was changed.") from error
    return jobs


def _refuse_over(data: Path) -> None:
    """Nothing is unpacked over a shop, nor beside what one left behind."""
    path = database_path(data)
    if path.exists():
        raise BackupError(f"{data} already holds a shop; restore into an empty folder.")
    for ending in LEFT_BEHIND:
        beside = path.with_name(path.name + ending)
        if beside.exists():
            raise BackupError(
                f"{beside.name} is left in {data} from another database and would damage this one. "
                "Move it away, then restore again."
            )
    if (data / "attachments").exists() and any((data / "attachments").iterdir()):
        raise BackupError(f"{data} already holds attachments; restore into an empty folder.")


def _judged(path: Path) -> int:
    """How many jobs a database file holds, once it is found whole and not too new."""
    engine = create_engine(f"sqlite:///{path}")
    try:
        with engine.connect() as connection:
            verdict = connection.scalar(text("PRAGMA integrity_check"))
            if verdict != "ok":
                raise BackupError(f"The database in it is damaged: {verdict}.")
            made = str(connection.scalar(text("SELECT version_num FROM alembic_version")))
            if made > newest():
                raise BackupError(
                    f"This backup is of a newer Gentle Ember (database {made}, this one works with "
                    f"{newest()}). Update, then restore again."
                )
            return connection.scalar(select(func.count()).select_from(JobRow)) or 0
    finally:
        engine.dispose()
