"""Tubes as a class's sheets show them, and the keys that follow them"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column(
        "school_class", sa.Column("tubes", JSONB(), nullable=False, server_default=sa.text("'{}'"))
    )
    op.add_column("key_revision", sa.Column("tubes", JSONB(), nullable=True))


def downgrade() -> None:
    op.drop_column("key_revision", "tubes")
    op.drop_column("school_class", "tubes")
