"""The shop as its papers name it: one row."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """The table; empty until somebody fills in the settings."""
    op.create_table(
        "shop_front",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("document", sa.JSON, nullable=False),
        sa.Column("updated_at", sa.DateTime, nullable=False),
    )
