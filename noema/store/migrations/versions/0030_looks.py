"""Looks, where every process of the pages finds them"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB, TIMESTAMP

from noema.store.going_back import refuse_loss

revision = "0030"
down_revision = "0029"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "look",
        sa.Column("name", sa.String(32), nullable=False),
        sa.Column("is_over", sa.Boolean, nullable=False, server_default=sa.false()),
        sa.Column("saw", JSONB(none_as_null=True), nullable=True),
        sa.Column(
            "made_at", TIMESTAMP(timezone=True), server_default=sa.func.now(), nullable=False
        ),
        sa.PrimaryKeyConstraint("name", name=op.f("pk_look")),
    )
    op.create_index(op.f("ix_look_made_at"), "look", ["made_at"])


def downgrade() -> None:
    refuse_loss("look")
    op.drop_table("look")
