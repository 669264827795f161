"""A school has a time zone"""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column(
        "school", sa.Column("time_zone", sa.String(64), nullable=False, server_default="UTC")
    )


def downgrade() -> None:
    op.drop_column("school", "time_zone")
