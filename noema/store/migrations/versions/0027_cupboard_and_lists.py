"""The cupboard, what lessons took of it, lists of things, kept units, a teacher's calendar"""

from datetime import datetime

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB, TIMESTAMP

from noema.store.going_back import refuse_loss

revision = "0027"
down_revision = "0026"
branch_labels = None
depends_on = None

_STATES = ("added", "left out", "done")


def _now(name: str) -> sa.Column[datetime]:
    stamp: sa.Column[datetime] = sa.Column(
        name, TIMESTAMP(timezone=True), server_default=sa.func.now(), nullable=False
    )
    return stamp


def _class_id() -> sa.Column[int]:
    return sa.Column("class_id", sa.Integer, nullable=False)


def _of_class(table: str) -> sa.ForeignKeyConstraint:
    name = op.f(f"fk_{table}_class_id_school_class")
    return sa.ForeignKeyConstraint(["class_id"], ["school_class.id"], name=name)


def _of_school(table: str) -> sa.ForeignKeyConstraint:
    name = op.f(f"fk_{table}_school_id_school")
    return sa.ForeignKeyConstraint(["school_id"], ["school.id"], name=name)


def upgrade() -> None:
    lead = sa.Column("paint_lead_days", sa.Integer, nullable=False, server_default=sa.text("14"))
    op.add_column("school", lead)
    op.add_column("teacher", sa.Column("feed_token_sha256", sa.String(64), nullable=True))
    op.create_unique_constraint(
        op.f("uq_teacher_feed_token_sha256"), "teacher", ["feed_token_sha256"]
    )
    op.add_column("assignment", sa.Column("wish", sa.String(40), nullable=True))
    op.create_table(
        "unit_pattern",
        sa.Column("id", sa.Integer, nullable=False),
        sa.Column("school_id", sa.Integer, nullable=False),
        sa.Column("name", sa.String(80), nullable=False),
        sa.Column("wishes", JSONB, nullable=False),
        _now("made_at"),
        _of_school("unit_pattern"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_unit_pattern")),
        sa.UniqueConstraint("school_id", "name", name=op.f("uq_unit_pattern_school_id_name")),
    )
    op.create_index(op.f("ix_unit_pattern_school_id"), "unit_pattern", ["school_id"])
    op.create_table(
        "lesson_paint",
        _class_id(),
        sa.Column("lesson", sa.String(16), nullable=False),
        sa.Column("tube", sa.String(60), nullable=False),
        sa.Column("medium", sa.String(20), nullable=False),
        sa.Column("label", sa.String(80), nullable=False),
        sa.Column("expected_ml", sa.Float, nullable=False),
        sa.Column("used_ml", sa.Float, nullable=True),
        _now("made_at"),
        _of_class("lesson_paint"),
        sa.PrimaryKeyConstraint(
            "class_id", "lesson", "tube", "medium", name=op.f("pk_lesson_paint")
        ),
        sa.CheckConstraint("expected_ml > 0", name=op.f("ck_lesson_paint_expected_positive")),
        sa.CheckConstraint("used_ml >= 0", name=op.f("ck_lesson_paint_used_not_negative")),
    )
    op.create_table(
        "paint_container",
        sa.Column("id", sa.Integer, nullable=False),
        sa.Column("school_id", sa.Integer, nullable=False),
        sa.Column("tube", sa.String(60), nullable=False),
        sa.Column("medium", sa.String(20), nullable=False),
        sa.Column("label", sa.String(80), nullable=False),
        sa.Column("size_ml", sa.Float, nullable=False),
        sa.Column("left_ml", sa.Float, nullable=False),
        _now("counted_at"),
        sa.Column("opened_on", sa.Date, nullable=True),
        _of_school("paint_container"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_paint_container")),
        sa.CheckConstraint(
            "size_ml > 0 AND size_ml <= 10000", name=op.f("ck_paint_container_size_sane")
        ),
        sa.CheckConstraint(
            "left_ml >= 0 AND left_ml <= size_ml", name=op.f("ck_paint_container_left_within")
        ),
    )
    op.create_index(op.f("ix_paint_container_school_id"), "paint_container", ["school_id"])
    op.create_table(
        "thing_laid_out",
        _class_id(),
        sa.Column("lesson", sa.String(16), nullable=False),
        sa.Column("thing", sa.String(80), nullable=False),
        sa.Column("state", sa.String(20), nullable=False),
        _now("made_at"),
        _of_class("thing_laid_out"),
        sa.PrimaryKeyConstraint(
            "class_id", "lesson", "thing", "state", name=op.f("pk_thing_laid_out")
        ),
        sa.CheckConstraint(f"state IN {_STATES!r}", name=op.f("ck_thing_laid_out_state_known")),
    )


def downgrade() -> None:
    refuse_loss("thing_laid_out", "paint_container", "lesson_paint", "unit_pattern")
    op.drop_table("thing_laid_out")
    op.drop_table("paint_container")
    op.drop_table("lesson_paint")
    op.drop_table("unit_pattern")
    op.drop_column("assignment", "wish")
    op.drop_constraint(op.f("uq_teacher_feed_token_sha256"), "teacher", type_="unique")
    op.drop_column("teacher", "feed_token_sha256")
    op.drop_column("school", "paint_lead_days")
