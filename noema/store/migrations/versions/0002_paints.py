"""Paint sets, own tubes and words for hues"""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from noema.store.going_back import refuse_loss

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def _made_at() -> sa.Column[Any]:
    return sa.Column(
        "made_at",
        postgresql.TIMESTAMP(timezone=True),
        server_default=sa.text("now()"),
        nullable=False,
    )


def _of_school() -> tuple[sa.Column[Any], sa.Column[Any]]:
    return (
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("school_id", sa.Integer(), nullable=False),
    )


def upgrade() -> None:
    op.add_column("school", sa.Column("hue_names", postgresql.JSONB(), nullable=True))
    op.add_column(
        "school",
        sa.Column("warm_blue", sa.String(length=20), server_default="violet", nullable=False),
    )
    op.create_check_constraint(
        op.f("ck_school_warm_blue_known"), "school", "warm_blue IN ('violet', 'green')"
    )
    op.create_table(
        "paint_set",
        *_of_school(),
        sa.Column("name", sa.String(length=60), nullable=False),
        sa.Column("binder", sa.String(length=20), nullable=False),
        sa.Column("tubes", postgresql.JSONB(), nullable=False),
        _made_at(),
        sa.CheckConstraint(
            "binder IN ('acrylic', 'gouache', 'watercolour', 'oil')",
            name=op.f("ck_paint_set_binder_known"),
        ),
        sa.ForeignKeyConstraint(
            ["school_id"], ["school.id"], name=op.f("fk_paint_set_school_id_school")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_paint_set")),
        sa.UniqueConstraint("school_id", "name", name=op.f("uq_paint_set_school_id")),
    )
    op.create_index(op.f("ix_paint_set_school_id"), "paint_set", ["school_id"])
    op.create_table(
        "own_tube",
        *_of_school(),
        sa.Column("name", sa.String(length=60), nullable=False),
        sa.Column("label", sa.String(length=60), nullable=False),
        sa.Column("base", sa.String(length=40), nullable=False),
        sa.Column("absorption", postgresql.JSONB(), nullable=False),
        sa.Column("scattering", postgresql.JSONB(), nullable=False),
        sa.Column("swatches", postgresql.JSONB(), nullable=False),
        sa.Column("misses", postgresql.JSONB(), nullable=False),
        _made_at(),
        sa.CheckConstraint("name LIKE 'own-%'", name=op.f("ck_own_tube_named_own")),
        sa.ForeignKeyConstraint(
            ["school_id"], ["school.id"], name=op.f("fk_own_tube_school_id_school")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_own_tube")),
        sa.UniqueConstraint("school_id", "name", name=op.f("uq_own_tube_school_id")),
    )
    op.create_index(op.f("ix_own_tube_school_id"), "own_tube", ["school_id"])


def downgrade() -> None:
    refuse_loss("own_tube", "paint_set")
    op.drop_table("own_tube")
    op.drop_table("paint_set")
    op.drop_constraint(op.f("ck_school_warm_blue_known"), "school")
    op.drop_column("school", "warm_blue")
    op.drop_column("school", "hue_names")
