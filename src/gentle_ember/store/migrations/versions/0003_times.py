"""Times of the bench beside the board's row."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add the column; rows before it hold no times."""
    op.add_column("board", sa.Column("times", sa.JSON, nullable=False, server_default="[]"))
