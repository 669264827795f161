"""A picture browsers can't show is kept as a JPEG, too"""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("photograph", sa.Column("shown_sha256", sa.String(64)))


def downgrade() -> None:
    op.drop_column("photograph", "shown_sha256")
