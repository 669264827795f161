"""Tries are counted: of reading a photograph, and of guessing one's way in"""

from datetime import datetime

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import TIMESTAMP

from noema.store.going_back import refuse_loss

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column(
        "photograph",
        sa.Column("tries", sa.Integer(), nullable=False, server_default=sa.text("0")),
    )
    noted: sa.Column[datetime] = sa.Column("noted_at", TIMESTAMP(timezone=True), nullable=False)
    op.create_table(
        "guess",
        sa.Column("of_sha256", sa.String(64), nullable=False),
        sa.Column("wrong", sa.Float(), nullable=False),
        noted,
        sa.PrimaryKeyConstraint("of_sha256", name=op.f("pk_guess")),
    )
    op.create_index(op.f("ix_guess_noted_at"), "guess", ["noted_at"])


def downgrade() -> None:
    refuse_loss("guess")
    op.drop_table("guess")
    op.drop_column("photograph", "tries")
