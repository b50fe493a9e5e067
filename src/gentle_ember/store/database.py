"""Open the database: WAL, full sync, foreign keys; migrate it to the newest revision."""

from __future__ import annotations

import sqlite3
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import Connection, Engine, create_engine, event

DATABASE_NAME = "gentle-ember.sqlite3"


def database_path(data: Path) -> Path:
    """The database file within a data folder."""
    return data / DATABASE_NAME


def _alembic(url: str) -> Config:
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    config.set_main_option("sqlalchemy.url", url.replace("%", "%%"))
    return config


def migrate(data: Path) -> bool:
    """Create the database or bring it to the newest revision; whether an older one was there."""
    data.mkdir(parents=True, exist_ok=True)
    before = _revision(data)
    config = _alembic(f"sqlite:///{database_path(data)}")
    command.upgrade(config, "head")
    return before not in (None, ScriptDirectory.from_config(config).get_current_head())


def _revision(data: Path) -> str | None:
    engine = create_engine(f"sqlite:///{database_path(data)}")
    try:
        with engine.connect() as connection:
            return MigrationContext.configure(connection).get_current_revision()
    finally:
        engine.dispose()


def open_engine(data: Path) -> Engine:
    """An engine on the data folder's database.

    Connections with the execution option `write` begin at once with the write lock, so a
    read-then-write transaction can't lose its footing half-way.
    """
    engine = create_engine(f"sqlite:///{database_path(data)}", connect_args={"timeout": 15})

    @event.listens_for(engine, "connect")
    def _on_connect(connection: sqlite3.Connection, _record: Any) -> None:
        connection.isolation_level = None
        for pragma in ("journal_mode=WAL", "synchronous=FULL", "foreign_keys=ON"):
            connection.execute(f"PRAGMA {pragma}")

    @event.listens_for(engine, "begin")
    def _on_begin(connection: Connection) -> None:
        write = connection.get_execution_options().get("write", False)
        connection.exec_driver_sql("BEGIN IMMEDIATE" if write else "BEGIN")

    return engine
