"""Bring a data folder up to this version: its database, and what is derived from its jobs."""

from __future__ import annotations

from pathlib import Path

from sqlalchemy import create_engine, text

from gentle_ember.catalog import load
from gentle_ember.store import board
from gentle_ember.store.database import database_path, migrate, newest, open_engine
from gentle_ember.store.jobs import open_jobs


def bring_up(data: Path) -> None:
    """Migrate the database; the board's rows of an older one are worked out anew from its jobs.

    The database says by which revision its rows were worked out, so that a start that was cut off
    before they were is made good by the next.

    Raises:
        NewerDatabaseError: it is of a newer version.
    """
    if not migrate(data) and worked_out(data) == int(newest()):
        return
    jobs = open_jobs(open_engine(data), load())
    with jobs.writing.begin() as session:
        board.compare(session, jobs.catalog, repair=True)
        session.execute(text(f"PRAGMA user_version = {int(newest())}"))
    jobs.engine.dispose()


def worked_out(data: Path) -> int:
    """By which revision of the program the board's rows were worked out; 0 where that is unsaid."""
    engine = create_engine(f"sqlite:///{database_path(data)}")
    try:
        with engine.connect() as connection:
            return int(connection.scalar(text("PRAGMA user_version")) or 0)
    finally:
        engine.dispose()
