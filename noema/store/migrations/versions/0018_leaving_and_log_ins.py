"""Files on their way out, log-ins that can be ended, and what cameras write beside a picture"""

from datetime import datetime

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import TIMESTAMP

from noema.store.going_back import refuse_loss

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None


def _now(name: str) -> sa.Column[datetime]:
    return sa.Column(name, TIMESTAMP(timezone=True), nullable=False, server_default=sa.func.now())


def upgrade() -> None:
    op.create_table(
        "leaving_file",
        sa.Column("school_id", sa.Integer(), nullable=False),
        sa.Column("sha256", sa.String(64), nullable=False),
        _now("made_at"),
        sa.ForeignKeyConstraint(
            ["school_id"], ["school.id"], name=op.f("fk_leaving_file_school_id_school")
        ),
        sa.PrimaryKeyConstraint("school_id", "sha256", name=op.f("pk_leaving_file")),
    )
    op.create_table(
        "log_in",
        sa.Column("token_sha256", sa.String(64), nullable=False),
        sa.Column("teacher_id", sa.Integer(), nullable=True),
        sa.Column("student_id", sa.Integer(), nullable=True),
        _now("made_at"),
        _now("seen_at"),
        sa.Column("ends_at", TIMESTAMP(timezone=True), nullable=False),
        sa.CheckConstraint(
            "(teacher_id IS NULL) <> (student_id IS NULL)", name=op.f("ck_log_in_one_person")
        ),
        sa.ForeignKeyConstraint(
            ["teacher_id"], ["teacher.id"], name=op.f("fk_log_in_teacher_id_teacher")
        ),
        sa.ForeignKeyConstraint(
            ["student_id"], ["student.id"], name=op.f("fk_log_in_student_id_student")
        ),
        sa.PrimaryKeyConstraint("token_sha256", name=op.f("pk_log_in")),
    )
    for name in ("teacher_id", "student_id", "ends_at"):
        op.create_index(op.f(f"ix_log_in_{name}"), "log_in", [name])
    op.add_column(
        "school",
        sa.Column("keeps_originals", sa.Boolean(), nullable=False, server_default=sa.text("false")),
    )


def downgrade() -> None:
    refuse_loss("log_in", "leaving_file")
    op.drop_column("school", "keeps_originals")
    op.drop_table("log_in")
    op.drop_table("leaving_file")
