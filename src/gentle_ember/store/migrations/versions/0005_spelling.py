"""Stored words in the spelling of the rest of the program."""

from alembic import op
from sqlalchemy import text

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

# As they stood and stand within stored JSON: keys and values, never what a person typed.
WORDS = (
    ("vapour_hose", "vapor_hose"),
    ('"aluminium"', '"aluminum"'),
    ('"sulphide"', '"sulfide"'),
    (".sulphide", ".sulfide"),
    ('"grey"', '"gray"'),
)
COLUMNS = (
    ("job", "document"),
    ("change", "changes"),
    ("change", "inverse"),
    ("shop_part", "document"),
    ("shop_kit", "document"),
)


def upgrade() -> None:
    """Put each word anew where it stands."""
    for table, column in COLUMNS:
        for old, new in WORDS:
            op.execute(
                text(f'UPDATE "{table}" SET {column} = replace({column}, :old, :new)').bindparams(
                    old=old, new=new
                )
            )
