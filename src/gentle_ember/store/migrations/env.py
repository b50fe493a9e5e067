"""Alembic environment: one SQLite file, the models' metadata."""

from alembic import context
from sqlalchemy import create_engine

from gentle_ember.store.models import Base

url = context.config.get_main_option("sqlalchemy.url")
assert url is not None  # noqa: S101  (set by database.migrate)
engine = create_engine(url)
with engine.connect() as connection:
    context.configure(connection=connection, target_metadata=Base.metadata, render_as_batch=True)
    with context.begin_transaction():
        context.run_migrations()
engine.dispose()
