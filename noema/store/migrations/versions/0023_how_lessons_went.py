"""How lessons went, from which a class's pace is learned"""

from datetime import datetime

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import TIMESTAMP

from noema.store.going_back import refuse_loss

revision = "0023"
down_revision = "0022"
branch_labels = None
depends_on = None


def upgrade() -> None:
    made: sa.Column[datetime] = sa.Column(
        "made_at", TIMESTAMP(timezone=True), server_default=sa.func.now(), nullable=False
    )
    op.create_table(
        "lesson_went",
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("lesson", sa.String(16), nullable=False),
        sa.Column("wish", sa.String(40), nullable=False),
        sa.Column("kind", sa.String(40), nullable=False),
        sa.Column("medium", sa.String(20), nullable=False),
        sa.Column("planned_min", sa.Float(), nullable=False),
        sa.Column("factor", sa.Float(), nullable=False),
        sa.Column("over_min", sa.Float(), nullable=False),
        sa.Column("unfinished", sa.Float(), nullable=False),
        made,
        sa.CheckConstraint("planned_min > 0", name=op.f("ck_lesson_went_planned_positive")),
        sa.CheckConstraint("factor > 0", name=op.f("ck_lesson_went_factor_positive")),
        sa.CheckConstraint(
            "unfinished BETWEEN 0 AND 1", name=op.f("ck_lesson_went_unfinished_share")
        ),
        sa.ForeignKeyConstraint(
            ["class_id"], ["school_class.id"], name=op.f("fk_lesson_went_class_id_school_class")
        ),
        sa.PrimaryKeyConstraint("class_id", "lesson", "wish", name=op.f("pk_lesson_went")),
    )


def downgrade() -> None:
    refuse_loss("lesson_went")
    op.drop_table("lesson_went")
