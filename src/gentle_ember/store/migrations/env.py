"""Alembic environment: one SQLite file, the models' metadata."""

from sqlite3 import Connection as DriverConnection
from typing import Any

from alembic import context
from sqlalchemy import Connection, create_engine, event

from gentle_ember.store.models import Base

url = context.config.get_main_option("sqlalchemy.url")
assert url is not None  # noqa: S101  (set by database.migrate)
engine = create_engine(url)


# All of it is one transaction, tables too: cut off anywhere, the database is as it was before.
# The driver's own handling would commit each table by itself.
@event.listens_for(engine, "connect")
def _by_hand(connection: DriverConnection, _record: Any) -> None:
    connection.isolation_level = None


@event.listens_for(engine, "begin")
def _begin(connection: Connection) -> None:
    connection.exec_driver_sql("BEGIN IMMEDIATE")


with engine.connect() as connection:
    context.configure(
        connection=connection,
        target_metadata=Base.metadata,
        render_as_batch=True,
        transactional_ddl=True,
    )
    with context.begin_transaction():
        context.run_migrations()
engine.dispose()
