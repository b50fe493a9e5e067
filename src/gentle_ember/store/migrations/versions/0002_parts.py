"""The shop's own parts and kits, laid over what ships."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    for table in ("shop_part", "shop_kit"):
        op.create_table(
            table,
            sa.Column("key", sa.String(40), primary_key=True),
            sa.Column("document", sa.JSON, nullable=False),
            sa.Column("updated_at", sa.DateTime, nullable=False),
        )


def downgrade() -> None:
    for table in ("shop_kit", "shop_part"):
        op.drop_table(table)
