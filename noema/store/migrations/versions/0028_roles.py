"""Roles, and who teaches which class; nobody loses what they could see"""

from datetime import datetime

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import TIMESTAMP

from noema.store.going_back import refuse_loss

revision = "0028"
down_revision = "0027"
branch_labels = None
depends_on = None


def upgrade() -> None:
    role = sa.Column("role", sa.String(20), nullable=False, server_default="teacher")
    op.add_column("teacher", role)
    disabled: sa.Column[datetime] = sa.Column("disabled_at", TIMESTAMP(timezone=True))
    op.add_column("teacher", disabled)
    op.create_check_constraint(
        op.f("ck_teacher_role_known"),
        "teacher",
        "role IN ('administrator', 'teacher', 'assistant')",
    )
    made: sa.Column[datetime] = sa.Column(
        "made_at", TIMESTAMP(timezone=True), server_default=sa.func.now(), nullable=False
    )
    op.create_table(
        "class_teacher",
        sa.Column("class_id", sa.Integer, nullable=False),
        sa.Column("teacher_id", sa.Integer, nullable=False),
        made,
        sa.ForeignKeyConstraint(
            ["class_id"], ["school_class.id"], name=op.f("fk_class_teacher_class_id_school_class")
        ),
        sa.ForeignKeyConstraint(
            ["teacher_id"], ["teacher.id"], name=op.f("fk_class_teacher_teacher_id_teacher")
        ),
        sa.PrimaryKeyConstraint("class_id", "teacher_id", name=op.f("pk_class_teacher")),
    )
    op.create_index(op.f("ix_class_teacher_teacher_id"), "class_teacher", ["teacher_id"])
    op.execute(
        "UPDATE teacher SET role = 'administrator' WHERE id IN"
        " (SELECT min(id) FROM teacher GROUP BY school_id)"
    )
    op.execute(
        "INSERT INTO class_teacher (class_id, teacher_id) SELECT school_class.id, teacher.id"
        " FROM school_class JOIN teacher USING (school_id)"
    )


def downgrade() -> None:
    refuse_loss("class_teacher")
    op.drop_table("class_teacher")
    op.drop_constraint(op.f("ck_teacher_role_known"), "teacher", type_="check")
    op.drop_column("teacher", "disabled_at")
    op.drop_column("teacher", "role")
