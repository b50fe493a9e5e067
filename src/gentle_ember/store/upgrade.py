"""Bring a data folder up to this version: its database, and what is derived from its jobs."""

from __future__ import annotations

import zlib
from pathlib import Path

from sqlalchemy import create_engine, text

from gentle_ember.catalog import load
from gentle_ember.store import board
from gentle_ember.store.board import BoardShown
from gentle_ember.store.database import database_path, migrate, newest, open_engine
from gentle_ember.store.jobs import open_jobs


def bring_up(data: Path) -> None:
    """Migrate the database; the board's rows of an older one are worked out anew from its jobs.

    The database says how its rows were made, so that a start that was cut off before they were is
    made good by the next, and so that a fact more of them is there at the first start with it.

    Raises:
        NewerDatabaseError: it is of a newer version.
    """
    if not migrate(data) and worked_out(data) == rows_as_now():
        return
    jobs = open_jobs(open_engine(data), load())
    with jobs.writing.begin() as session:
        board.compare(session, jobs.catalog, repair=True)
        session.execute(text(f"PRAGMA user_version = {rows_as_now()}"))
    jobs.engine.dispose()


def rows_as_now() -> int:
    """A number that tells how this version makes the board's rows: by which columns, and by what
    only is shown in one of them, for which there is no migration."""
    held = ",".join((newest(), *sorted(BoardShown.model_fields)))
    return zlib.crc32(held.encode()) & 0x7FFFFFFF


def worked_out(data: Path) -> int:
    """How the board's rows were made that a folder has; 0 where that is unsaid."""
    engine = create_engine(f"sqlite:///{database_path(data)}")
    try:
        with engine.connect() as connection:
            return int(connection.scalar(text("PRAGMA user_version")) or 0)
    finally:
        engine.dispose()
