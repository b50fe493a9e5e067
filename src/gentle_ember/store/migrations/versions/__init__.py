"""Alembic revisions, shipped with the package."""
