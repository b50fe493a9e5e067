"""What was taken for granted is not known until somebody looks."""

import json

from alembic import op
from sqlalchemy import text

from gentle_ember.documents.jobfile import from_version_2

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None

COLUMNS = (
    ("job", "document"),
    ("change", "changes"),
    ("change", "inverse"),
    ("shop_part", "document"),
)


def upgrade() -> None:
    """Each stored document as version 3 of a job has it."""
    connection = op.get_bind()
    for table, column in COLUMNS:
        rows = connection.execute(text(f'SELECT rowid, {column} FROM "{table}"')).all()
        for rowid, stored in rows:
            held = json.loads(stored)
            brought = from_version_2(held)
            if brought != held:
                connection.execute(
                    text(f'UPDATE "{table}" SET {column} = :new WHERE rowid = :at'),
                    {"new": json.dumps(brought), "at": rowid},
                )
