"""Questions about whole classes, and sheets with tubes as they come"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("key_revision", sa.Column("question", JSONB(), nullable=True))
    op.add_column(
        "assignment",
        sa.Column("own_tubes", sa.Boolean(), nullable=False, server_default=sa.text("false")),
    )


def downgrade() -> None:
    op.drop_column("assignment", "own_tubes")
    op.drop_column("key_revision", "question")
