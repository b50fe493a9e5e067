"""People may sign in: role, secrets as hashes, invitation, and where somebody is signed in."""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Nobody has a secret yet; whoever is the shop's only person leads it."""
    for name, kind, default in (
        ("role", sa.String(12), "technician"),
        ("passphrase", sa.String(200), ""),
        ("code", sa.String(200), ""),
        ("wrong_codes", sa.Integer, "0"),
        ("invited", sa.String(64), ""),
        ("left", sa.Boolean, "0"),
        ("sets", sa.JSON, "[]"),
    ):
        op.add_column("person", sa.Column(name, kind, nullable=False, server_default=default))
    op.add_column("person", sa.Column("invited_until", sa.DateTime, nullable=True))
    op.execute(
        "UPDATE person SET role = 'lead' WHERE (SELECT count(*) FROM person) = 1"
    )
    op.create_table(
        "sign_in",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("digest", sa.String(64), nullable=False, unique=True),
        sa.Column(
            "person_id", sa.Integer, sa.ForeignKey("person.id", ondelete="CASCADE"), nullable=False
        ),
        sa.Column("device", sa.String(40), nullable=False),
        sa.Column("address", sa.String(60), nullable=False),
        sa.Column("since", sa.DateTime, nullable=False),
        sa.Column("seen", sa.DateTime, nullable=False),
        sa.Column("code_at", sa.DateTime, nullable=True),
    )
