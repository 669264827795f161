"""Forms that were sent, so that none is done twice"""

from datetime import datetime

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import TIMESTAMP

from noema.store.going_back import refuse_loss

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None


def upgrade() -> None:
    made: sa.Column[datetime] = sa.Column(
        "made_at", TIMESTAMP(timezone=True), nullable=False, server_default=sa.func.now()
    )
    op.create_table(
        "sent_form",
        sa.Column("once", sa.String(32), nullable=False),
        made,
        sa.PrimaryKeyConstraint("once", name=op.f("pk_sent_form")),
    )
    op.create_index(op.f("ix_sent_form_made_at"), "sent_form", ["made_at"])


def downgrade() -> None:
    refuse_loss("sent_form")
    op.drop_table("sent_form")
