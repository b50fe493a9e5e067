"""Open the database: WAL, full sync, foreign keys; migrate it to the newest revision."""

from __future__ import annotations

import sqlite3
from functools import cached_property
from pathlib import Path
from typing import Any

from pydantic_core import from_json, to_json
from sqlalchemy import Connection, Engine, create_engine, event, inspect, text

DATABASE_NAME = "gentle-ember.sqlite3"


class NewerDatabaseError(ValueError):
    """A database that a newer version of the program has migrated."""


def database_path(data: Path) -> Path:
    """The database file within a data folder."""
    return data / DATABASE_NAME


MIGRATIONS = Path(__file__).parent / "migrations"


def newest() -> str:
    """The revision this version of the program works with, by the name of its last migration."""
    return max(one.name.split("_")[0] for one in MIGRATIONS.glob("versions/[0-9]*.py"))


def migrate(data: Path) -> bool:
    """Create the database or bring it to the newest revision; whether an older one was there.

    Raises:
        NewerDatabaseError: it is of a newer version.
    """
    data.mkdir(parents=True, exist_ok=True)
    before = revision(data)
    if before == newest():
        return False
    if before is not None and before > newest():
        raise NewerDatabaseError(
            f"The shop in {data} is of a newer Gentle Ember (database {before}, this one works "
            f"with {newest()}). Update, then start again; nothing was changed."
        )
    # A start that has nothing to migrate does without it: it takes longer than all the rest.
    from alembic import command
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    url = f"sqlite:///{database_path(data)}"
    config.set_main_option("sqlalchemy.url", url.replace("%", "%%"))
    command.upgrade(config, "head")
    return before is not None


def revision(data: Path) -> str | None:
    """The revision a data folder's database is at; None where there is none yet."""
    engine = create_engine(f"sqlite:///{database_path(data)}")
    try:
        with engine.connect() as connection:
            if not inspect(connection).has_table("alembic_version"):
                return None
            found = connection.scalar(text("SELECT version_num FROM alembic_version"))
            return None if found is None else str(found)
    finally:
        engine.dispose()


def _json(value: Any) -> str:
    return to_json(value).decode()


class Document(dict[str, Any]):
    """A document that is never changed, with its JSON: written to the database and sent to the
    page as the same text."""

    @cached_property
    def text(self) -> str:
        """As JSON."""
        return _json(self)


def open_engine(data: Path) -> Engine:
    """An engine on the data folder's database.

    Connections with the execution option `write` begin at once with the write lock, so a
    read-then-write transaction can't lose its footing half-way.
    """
    # Documents are long and written at every change: the standard library's own takes five times
    # as long over them.
    engine = create_engine(
        f"sqlite:///{database_path(data)}",
        connect_args={"timeout": 15},
        json_serializer=lambda value: value.text if isinstance(value, Document) else _json(value),
        json_deserializer=from_json,
    )

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
