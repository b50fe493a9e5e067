"""What the board only shows of a job is one column: a fact more of it is no migration."""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None

SHOWN = (
    "title", "owner", "set_label", "site_label", "stage", "stops", "questions", "running_w", "fuels",
)  # fmt: skip


def upgrade() -> None:
    """The column; rows are worked out anew from their jobs when the folder is brought up."""
    op.add_column("board", sa.Column("shown", sa.JSON(), nullable=False, server_default="{}"))
    for name in SHOWN:
        op.drop_column("board", name)
