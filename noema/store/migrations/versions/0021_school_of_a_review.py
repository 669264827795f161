"""A review knows its school, so that what waits there is found without looking at other schools"""

import sqlalchemy as sa
from alembic import op

revision = "0021"
down_revision = "0020"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("review", sa.Column("school_id", sa.Integer(), nullable=True))
    op.execute(
        "UPDATE review SET school_id = photograph.school_id FROM photograph"
        " WHERE photograph.id = review.photograph_id"
    )
    op.alter_column("review", "school_id", nullable=False)
    op.create_foreign_key(
        op.f("fk_review_school_id_school"), "review", "school", ["school_id"], ["id"]
    )
    op.create_index(op.f("ix_review_school_id_state"), "review", ["school_id", "state"])
    op.drop_index(op.f("ix_review_state"), "review")


def downgrade() -> None:
    op.create_index(op.f("ix_review_state"), "review", ["state"])
    op.drop_index(op.f("ix_review_school_id_state"), "review")
    op.drop_constraint(op.f("fk_review_school_id_school"), "review", type_="foreignkey")
    op.drop_column("review", "school_id")
