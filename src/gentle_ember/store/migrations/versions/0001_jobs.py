"""Jobs, their change log, the board and its search, people."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "job",
        sa.Column("id", sa.String(36), primary_key=True),
        sa.Column("revision", sa.Integer, nullable=False),
        sa.Column("document", sa.JSON, nullable=False),
        sa.Column("created_at", sa.DateTime, nullable=False),
        sa.Column("updated_at", sa.DateTime, nullable=False),
    )
    op.create_table(
        "change",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column(
            "job_id", sa.String(36), sa.ForeignKey("job.id", ondelete="CASCADE"), nullable=False
        ),
        sa.Column("revision", sa.Integer, nullable=False),
        sa.Column("at", sa.DateTime, nullable=False),
        sa.Column("who", sa.String(120), nullable=False),
        sa.Column("kind", sa.String(8), nullable=False),
        sa.Column("target", sa.Integer),
        sa.Column("key", sa.String(64), nullable=False),
        sa.Column("changes", sa.JSON, nullable=False),
        sa.Column("inverse", sa.JSON, nullable=False),
        sa.UniqueConstraint("job_id", "revision"),
        sa.UniqueConstraint("key"),
    )
    op.create_table(
        "board",
        sa.Column("number", sa.Integer, primary_key=True),
        sa.Column(
            "job_id",
            sa.String(36),
            sa.ForeignKey("job.id", ondelete="CASCADE"),
            nullable=False,
            unique=True,
        ),
        sa.Column("title", sa.String, nullable=False),
        sa.Column("owner", sa.String, nullable=False),
        sa.Column("set_label", sa.String, nullable=False),
        sa.Column("site_label", sa.String, nullable=False),
        sa.Column("stage", sa.String, nullable=False),
        sa.Column("waits_for", sa.String, nullable=False),
        sa.Column("archived", sa.Boolean, nullable=False),
        sa.Column("stops", sa.Integer, nullable=False),
        sa.Column("questions", sa.Integer, nullable=False),
        sa.Column("running_w", sa.Float),
        sa.Column("fuels", sa.JSON, nullable=False),
        sa.Column("updated_at", sa.DateTime, nullable=False),
    )
    op.create_index("board_by_wait", "board", ["archived", "waits_for", "updated_at"])
    op.create_table(
        "person",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String(120), nullable=False, unique=True),
        sa.Column("initials", sa.String(4), nullable=False),
        sa.Column("units", sa.String(8), nullable=False, server_default="us"),
    )
    op.execute(
        "CREATE VIRTUAL TABLE board_search USING fts5("
        "text, tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3')"
    )


def downgrade() -> None:
    for table in ("board_search", "person", "board", "change", "job"):
        op.execute(f"DROP TABLE {table}")
