"""Each board row knows how upkeep stands on its set."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """The column; rows are worked out anew from their jobs when the folder is brought up."""
    op.add_column("board", sa.Column("service", sa.JSON(), nullable=False, server_default="{}"))
