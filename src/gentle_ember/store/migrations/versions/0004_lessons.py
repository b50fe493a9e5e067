"""What each job measured against its estimates beside the board's row."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add the column; rows before it taught nothing yet."""
    op.add_column("board", sa.Column("lessons", sa.JSON, nullable=False, server_default="[]"))
