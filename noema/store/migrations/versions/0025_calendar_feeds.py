"""A private address at which a class's lessons can be subscribed to"""

import sqlalchemy as sa
from alembic import op

revision = "0025"
down_revision = "0024"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("class_unit", sa.Column("feed_token_sha256", sa.String(64), nullable=True))
    op.create_unique_constraint(
        op.f("uq_class_unit_feed_token_sha256"), "class_unit", ["feed_token_sha256"]
    )


def downgrade() -> None:
    op.drop_constraint(op.f("uq_class_unit_feed_token_sha256"), "class_unit", type_="unique")
    op.drop_column("class_unit", "feed_token_sha256")
