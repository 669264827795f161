"""A school's calendar, and its classes' units in time"""

from datetime import datetime

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB, TIMESTAMP

from noema.store.going_back import refuse_loss

revision = "0022"
down_revision = "0021"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "school_calendar",
        sa.Column("school_id", sa.Integer(), nullable=False),
        sa.Column("begins_on", sa.Date(), nullable=False),
        sa.Column("ends_on", sa.Date(), nullable=False),
        sa.Column("holidays", JSONB(), nullable=False),
        sa.Column("rack", sa.Integer(), nullable=False),
        sa.CheckConstraint("ends_on >= begins_on", name=op.f("ck_school_calendar_ends_later")),
        sa.CheckConstraint("rack BETWEEN 1 AND 1000", name=op.f("ck_school_calendar_rack_sane")),
        sa.ForeignKeyConstraint(
            ["school_id"], ["school.id"], name=op.f("fk_school_calendar_school_id_school")
        ),
        sa.PrimaryKeyConstraint("school_id", name=op.f("pk_school_calendar")),
    )
    changed: sa.Column[datetime] = sa.Column(
        "changed_at", TIMESTAMP(timezone=True), server_default=sa.func.now(), nullable=False
    )
    op.create_table(
        "class_unit",
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("frame", JSONB(), nullable=False),
        sa.Column("before", JSONB(), nullable=True),
        sa.Column("asked", sa.Integer(), server_default=sa.text("1"), nullable=False),
        sa.Column("planned", sa.Integer(), server_default=sa.text("0"), nullable=False),
        sa.Column("plan", JSONB(), nullable=True),
        changed,
        sa.ForeignKeyConstraint(
            ["class_id"], ["school_class.id"], name=op.f("fk_class_unit_class_id_school_class")
        ),
        sa.PrimaryKeyConstraint("class_id", name=op.f("pk_class_unit")),
    )


def downgrade() -> None:
    refuse_loss("class_unit", "school_calendar")
    op.drop_table("class_unit")
    op.drop_table("school_calendar")
