"""Students take part: codes, cards, uploads, self-checks; terms; other systems' records"""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB, TIMESTAMP

from noema.store.going_back import refuse_loss

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None

# Withdrawn consent is the one thing that takes lines out of the record.
_MAY_ERASE = """
CREATE OR REPLACE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'DELETE' AND current_setting('noema.erasing', true) = 'on' THEN RETURN NULL; END IF;
  RAISE EXCEPTION 'the record of decisions only grows';
END $$;
"""
_ONLY_GROWS = """
CREATE OR REPLACE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN RAISE EXCEPTION 'the record of decisions only grows'; END $$;
"""
_CODES = """
UPDATE school_class SET join_code =
  translate(upper(substr(md5(id::text || 'class'), 1, 6)), '0123456789ABCDEF', 'BCDFGHJKMNPQRTVW')
"""


def _when(name: str, **options: Any) -> sa.Column[Any]:
    return sa.Column(name, TIMESTAMP(timezone=True), **options)


def _made_at() -> sa.Column[Any]:
    return _when("made_at", nullable=False, server_default=sa.func.now())


def upgrade() -> None:
    op.add_column("school", sa.Column("keep_months", sa.Integer()))
    op.add_column(
        "school_class", sa.Column("term", sa.String(40), nullable=False, server_default="")
    )
    op.add_column("school_class", sa.Column("join_code", sa.String(8)))
    op.execute(_CODES)
    op.alter_column("school_class", "join_code", nullable=False)
    op.create_unique_constraint(op.f("uq_school_class_join_code"), "school_class", ["join_code"])
    op.add_column(
        "school_class",
        sa.Column("sees_at_once", sa.Boolean(), nullable=False, server_default=sa.text("false")),
    )
    op.add_column("school_class", _when("archived_at"))
    op.add_column(
        "student",
        sa.Column("card_serial", sa.Integer(), nullable=False, server_default=sa.text("1")),
    )
    op.alter_column("pile", "teacher_id", nullable=True)
    op.add_column("pile", sa.Column("student_id", sa.Integer(), sa.ForeignKey("student.id")))
    op.add_column("pile", sa.Column("assignment_id", sa.Integer(), sa.ForeignKey("assignment.id")))
    op.create_index(op.f("ix_pile_student_id"), "pile", ["student_id"])
    op.create_check_constraint(
        op.f("ck_pile_from_one"), "pile", "(teacher_id IS NULL) <> (student_id IS NULL)"
    )
    op.create_check_constraint(
        op.f("ck_pile_for_assignment"), "pile", "(student_id IS NULL) = (assignment_id IS NULL)"
    )
    op.add_column("photograph", _when("picture_gone_at"))
    op.add_column("assignment", sa.Column("demand", JSONB()))
    op.create_table(
        "self_check",
        sa.Column("photograph_id", sa.Integer(), sa.ForeignKey("photograph.id"), primary_key=True),
        sa.Column("thinks", JSONB()),
        _made_at(),
    )
    op.create_table(
        "upload",
        sa.Column("id", sa.String(32), primary_key=True),
        sa.Column(
            "student_id", sa.Integer(), sa.ForeignKey("student.id"), nullable=False, index=True
        ),
        sa.Column("assignment_id", sa.Integer(), sa.ForeignKey("assignment.id"), nullable=False),
        sa.Column("name", sa.String(200), nullable=False),
        sa.Column("size_bytes", sa.Integer(), nullable=False),
        sa.Column("photograph_id", sa.Integer(), sa.ForeignKey("photograph.id")),
        _made_at(),
        sa.CheckConstraint("size_bytes > 0", name=op.f("ck_upload_size_positive")),
    )
    op.create_table(
        "sourced",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("school_id", sa.Integer(), sa.ForeignKey("school.id"), nullable=False),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("sourced_id", sa.String(255), nullable=False),
        sa.Column("body", JSONB(), nullable=False),
        sa.Column("class_id", sa.Integer(), sa.ForeignKey("school_class.id"), index=True),
        sa.Column("student_id", sa.Integer(), sa.ForeignKey("student.id"), index=True),
        sa.UniqueConstraint("school_id", "kind", "sourced_id"),
    )
    op.execute(_MAY_ERASE)


def downgrade() -> None:
    refuse_loss("sourced", "upload", "self_check", "pile WHERE teacher_id IS NULL")
    op.execute(_ONLY_GROWS)
    for table in ("sourced", "upload", "self_check"):
        op.drop_table(table)
    op.drop_column("assignment", "demand")
    op.drop_column("photograph", "picture_gone_at")
    for name in ("ck_pile_for_assignment", "ck_pile_from_one"):
        op.drop_constraint(op.f(name), "pile")
    op.drop_column("pile", "assignment_id")
    op.drop_column("pile", "student_id")
    op.alter_column("pile", "teacher_id", nullable=False)
    op.drop_column("student", "card_serial")
    for name in ("archived_at", "sees_at_once", "join_code", "term"):
        op.drop_column("school_class", name)
    op.drop_column("school", "keep_months")
