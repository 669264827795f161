"""Series of questions to students' eyes, and names beside colours"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB, TIMESTAMP

from noema.store.going_back import refuse_loss

revision = "0033"
down_revision = "0032"
branch_labels = None
depends_on = None

_KINDS = ("value", "hue", "chroma", "rows", "places")


def upgrade() -> None:
    known = ", ".join(f"'{kind}'" for kind in _KINDS)
    op.create_table(
        "eye_series",
        sa.Column("id", sa.Integer, nullable=False),
        sa.Column("school_id", sa.Integer, nullable=False),
        sa.Column("student_id", sa.Integer, nullable=False),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("screen", JSONB, nullable=True),
        sa.Column("asked", JSONB, nullable=False),
        sa.Column("found", JSONB, nullable=True),
        sa.Column(
            "begun_at", TIMESTAMP(timezone=True), server_default=sa.func.now(), nullable=False
        ),
        sa.Column("ended_at", TIMESTAMP(timezone=True), nullable=True),
        sa.CheckConstraint(f"kind IN ({known})", name=op.f("ck_eye_series_kind_known")),
        sa.ForeignKeyConstraint(
            ["school_id"], ["school.id"], name=op.f("fk_eye_series_school_id_school")
        ),
        sa.ForeignKeyConstraint(
            ["student_id"], ["student.id"], name=op.f("fk_eye_series_student_id_student")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_eye_series")),
    )
    op.create_index("ix_eye_series_student_id_id", "eye_series", ["student_id", "id"])
    op.create_table(
        "eye_paper",
        sa.Column("id", sa.Integer, nullable=False),
        sa.Column("school_id", sa.Integer, nullable=False),
        sa.Column("printer_id", sa.Integer, nullable=False),
        sa.Column("code", sa.String(12), nullable=False),
        sa.Column("rows", JSONB, nullable=False),
        sa.Column(
            "made_at", TIMESTAMP(timezone=True), server_default=sa.func.now(), nullable=False
        ),
        sa.ForeignKeyConstraint(
            ["school_id"], ["school.id"], name=op.f("fk_eye_paper_school_id_school")
        ),
        sa.ForeignKeyConstraint(
            ["printer_id"], ["printer.id"], name=op.f("fk_eye_paper_printer_id_printer")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_eye_paper")),
        sa.UniqueConstraint("school_id", "code", name=op.f("uq_eye_paper_school_id")),
    )
    op.add_column(
        "school_class",
        sa.Column("names_colours", sa.Boolean, server_default=sa.false(), nullable=False),
    )


def downgrade() -> None:
    refuse_loss("eye_series", "eye_paper", "school_class WHERE names_colours")
    op.drop_column("school_class", "names_colours")
    op.drop_table("eye_paper")
    op.drop_table("eye_series")
