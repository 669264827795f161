"""What printers lay is learned from photographs of their sheets"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("photograph", sa.Column("camera", sa.String(80), nullable=True))
    op.add_column("printer", sa.Column("learned", JSONB(), nullable=True))
    op.add_column("printer", sa.Column("learns_from", sa.TIMESTAMP(timezone=True), nullable=True))


def downgrade() -> None:
    op.drop_column("printer", "learns_from")
    op.drop_column("printer", "learned")
    op.drop_column("photograph", "camera")
