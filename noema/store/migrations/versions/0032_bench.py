"""Tasks and practice at the mixing bench"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB, TIMESTAMP

from noema.store.going_back import refuse_loss

revision = "0032"
down_revision = "0031"
branch_labels = None
depends_on = None


def _key(table: str, column: str, of: str) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint([column], [f"{of}.id"], name=op.f(f"fk_{table}_{column}_{of}"))


def upgrade() -> None:
    op.create_table(
        "bench_task",
        sa.Column("id", sa.Integer, nullable=False),
        sa.Column("school_id", sa.Integer, nullable=False),
        sa.Column("class_id", sa.Integer, nullable=False),
        sa.Column("title", sa.String(80), nullable=False),
        sa.Column("task", JSONB, nullable=False),
        sa.Column("paints", JSONB, nullable=False),
        sa.Column("due_on", sa.Date, nullable=True),
        sa.Column(
            "made_at", TIMESTAMP(timezone=True), server_default=sa.func.now(), nullable=False
        ),
        _key("bench_task", "school_id", "school"),
        _key("bench_task", "class_id", "school_class"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_bench_task")),
    )
    op.create_index(op.f("ix_bench_task_class_id"), "bench_task", ["class_id"])
    op.create_table(
        "bench_practice",
        sa.Column("id", sa.Integer, nullable=False),
        sa.Column("school_id", sa.Integer, nullable=False),
        sa.Column("class_id", sa.Integer, nullable=False),
        sa.Column("student_id", sa.Integer, nullable=True),
        sa.Column("teacher_id", sa.Integer, nullable=True),
        sa.Column("task_id", sa.Integer, nullable=True),
        sa.Column("task", JSONB, nullable=False),
        sa.Column("paints", JSONB, nullable=False),
        sa.Column("played", JSONB, nullable=False),
        sa.Column("foreseen", JSONB, nullable=False),
        sa.Column("asked", sa.Integer, server_default="0", nullable=False),
        sa.Column("away", sa.Float, nullable=True),
        sa.Column("touches", sa.Integer, server_default="0", nullable=False),
        sa.Column(
            "begun_at", TIMESTAMP(timezone=True), server_default=sa.func.now(), nullable=False
        ),
        sa.Column("ended_at", TIMESTAMP(timezone=True), nullable=True),
        _key("bench_practice", "school_id", "school"),
        _key("bench_practice", "class_id", "school_class"),
        _key("bench_practice", "student_id", "student"),
        _key("bench_practice", "teacher_id", "teacher"),
        _key("bench_practice", "task_id", "bench_task"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_bench_practice")),
        sa.CheckConstraint(
            "(teacher_id IS NULL) <> (student_id IS NULL)",
            name=op.f("ck_bench_practice_one_person"),
        ),
    )
    for column in ("class_id", "student_id", "teacher_id", "task_id"):
        op.create_index(op.f(f"ix_bench_practice_{column}"), "bench_practice", [column])


def downgrade() -> None:
    refuse_loss("bench_practice", "bench_task")
    op.drop_table("bench_practice")
    op.drop_table("bench_task")
