"""A school's rooms, each with its rack, and the periods of its day"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0026"
down_revision = "0025"
branch_labels = None
depends_on = None


def upgrade() -> None:
    for name in ("rooms", "periods"):
        empty = sa.Column(name, JSONB, nullable=False, server_default=sa.text("'[]'"))
        op.add_column("school_calendar", empty)
    op.execute(
        "UPDATE school_calendar SET rooms = jsonb_build_array(jsonb_build_object('rack', rack))"
    )
    op.alter_column("school_calendar", "rooms", server_default=None)
    op.drop_constraint(op.f("ck_school_calendar_rack_sane"), "school_calendar", type_="check")
    op.drop_column("school_calendar", "rack")


def downgrade() -> None:
    op.add_column("school_calendar", sa.Column("rack", sa.Integer, nullable=True))
    op.execute("UPDATE school_calendar SET rack = coalesce((rooms->0->>'rack')::integer, 40)")
    op.alter_column("school_calendar", "rack", nullable=False)
    op.create_check_constraint(
        op.f("ck_school_calendar_rack_sane"), "school_calendar", "rack BETWEEN 1 AND 1000"
    )
    op.drop_column("school_calendar", "periods")
    op.drop_column("school_calendar", "rooms")
