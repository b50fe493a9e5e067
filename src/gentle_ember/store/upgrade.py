"""Bring a data folder up to this version: its database, and what is derived from its jobs."""

from __future__ import annotations

from pathlib import Path

from gentle_ember.catalog import load
from gentle_ember.store import board
from gentle_ember.store.database import migrate, open_engine
from gentle_ember.store.jobs import open_jobs


def bring_up(data: Path) -> None:
    """Migrate the database; the board's rows of an older one are worked out anew from its jobs."""
    if migrate(data):
        jobs = open_jobs(open_engine(data), load())
        with jobs.writing.begin() as session:
            board.compare(session, jobs.catalog, rebuild=True)
