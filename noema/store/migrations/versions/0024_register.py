"""A register: who was away, late, or left early"""

from datetime import datetime

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import TIMESTAMP

from noema.store.going_back import refuse_loss

revision = "0024"
down_revision = "0023"
branch_labels = None
depends_on = None


def upgrade() -> None:
    made: sa.Column[datetime] = sa.Column(
        "made_at", TIMESTAMP(timezone=True), server_default=sa.func.now(), nullable=False
    )
    op.create_table(
        "lesson_mark",
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("lesson", sa.String(16), nullable=False),
        sa.Column("student_id", sa.Integer(), nullable=False),
        sa.Column("mark", sa.String(20), nullable=False),
        made,
        sa.CheckConstraint(
            "mark IN ('away', 'late', 'left early')", name=op.f("ck_lesson_mark_mark_known")
        ),
        sa.ForeignKeyConstraint(
            ["class_id"], ["school_class.id"], name=op.f("fk_lesson_mark_class_id_school_class")
        ),
        sa.ForeignKeyConstraint(
            ["student_id"], ["student.id"], name=op.f("fk_lesson_mark_student_id_student")
        ),
        sa.PrimaryKeyConstraint("class_id", "lesson", "student_id", name=op.f("pk_lesson_mark")),
    )
    op.create_index(op.f("ix_lesson_mark_student_id"), "lesson_mark", ["student_id"])


def downgrade() -> None:
    refuse_loss("lesson_mark")
    op.drop_table("lesson_mark")
