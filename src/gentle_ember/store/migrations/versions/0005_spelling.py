"""Stored words in the spelling of the rest of the program."""

from alembic import op
from sqlalchemy import text

from gentle_ember.documents.jobfile import RESPELLED

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

COLUMNS = (
    ("job", "document"),
    ("change", "changes"),
    ("change", "inverse"),
    ("shop_part", "document"),
    ("shop_kit", "document"),
)


def upgrade() -> None:
    """Each word as it is spelled now, where it stands."""
    for table, column in COLUMNS:
        for old, new in RESPELLED:
            op.execute(
                text(f'UPDATE "{table}" SET {column} = replace({column}, :old, :new)').bindparams(
                    old=old, new=new
                )
            )
