"""Moves and attention of judgements, audiences, rubrics, phrases, sheets of some cells"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB, TIMESTAMP

from noema.store.going_back import refuse_loss

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None

_AUDIENCES = ("child", "teenager", "adult")


def upgrade() -> None:
    op.add_column("school", sa.Column("rubric", JSONB(), nullable=True))
    op.add_column(
        "school_class",
        sa.Column("audience", sa.String(20), nullable=False, server_default="teenager"),
    )
    known = f"audience IN ({', '.join(map(repr, _AUDIENCES))})"
    op.create_check_constraint(op.f("ck_school_class_audience_known"), "school_class", known)
    op.add_column("sheet", sa.Column("cells", JSONB(), nullable=True))
    op.add_column("judgement", sa.Column("moves", JSONB(), nullable=False, server_default="{}"))
    op.add_column(
        "judgement", sa.Column("attention", sa.Float(), nullable=False, server_default="1")
    )
    op.add_column(
        "judgement",
        sa.Column("holds_plainly", sa.Boolean(), nullable=False, server_default=sa.text("false")),
    )
    op.create_table(
        "phrase",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("school_id", sa.Integer(), sa.ForeignKey("school.id"), nullable=False),
        sa.Column("finding", sa.String(20), nullable=False),
        sa.Column("words", sa.String(400), nullable=False),
        sa.Column(
            "used_at", TIMESTAMP(timezone=True), nullable=False, server_default=sa.func.now()
        ),
        sa.UniqueConstraint("school_id", "finding", "words"),
    )


def downgrade() -> None:
    refuse_loss("phrase")
    op.drop_table("phrase")
    for name in ("holds_plainly", "attention", "moves"):
        op.drop_column("judgement", name)
    op.drop_column("sheet", "cells")
    op.drop_constraint(op.f("ck_school_class_audience_known"), "school_class")
    op.drop_column("school_class", "audience")
    op.drop_column("school", "rubric")
