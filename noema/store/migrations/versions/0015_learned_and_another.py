"""Learned printers, another picture of a sheet, and advice that follows a teacher's word"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None

_WITH_ANOTHER = ("batch", "upload")


def upgrade() -> None:
    op.add_column("photograph", sa.Column("camera", sa.String(80), nullable=True))
    op.add_column("review", sa.Column("advice", JSONB(), nullable=True))
    op.add_column("printer", sa.Column("learned", JSONB(), nullable=True))
    op.add_column("printer", sa.Column("learns_from", sa.TIMESTAMP(timezone=True), nullable=True))
    for table in _WITH_ANOTHER:
        op.add_column(table, sa.Column("another_of_id", sa.Integer(), nullable=True))
        op.create_foreign_key(
            op.f(f"fk_{table}_another_of_id_photograph"),
            table,
            "photograph",
            ["another_of_id"],
            ["id"],
            ondelete="SET NULL",
            deferrable=True,
            initially="DEFERRED",
        )


def downgrade() -> None:
    for table in _WITH_ANOTHER:
        op.drop_constraint(op.f(f"fk_{table}_another_of_id_photograph"), table)
        op.drop_column(table, "another_of_id")
    op.drop_column("printer", "learns_from")
    op.drop_column("printer", "learned")
    op.drop_column("review", "advice")
    op.drop_column("photograph", "camera")
