"""The logbook"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB, TIMESTAMP

from noema.store.going_back import refuse_loss
from noema.store.logbook_tables import Cube

revision = "0034"
down_revision = "0033"
branch_labels = None
depends_on = None

_OF = {
    "school_id": "school",
    "class_id": "school_class",
    "student_id": "student",
    "photograph_id": "photograph",
    "practice_id": "bench_practice",
}


def upgrade() -> None:
    # Both come with PostgreSQL, and who owns the database may add them.
    op.execute("CREATE EXTENSION IF NOT EXISTS cube")
    op.execute("CREATE EXTENSION IF NOT EXISTS btree_gist")
    op.create_table(
        "logbook_entry",
        sa.Column("id", sa.Integer, nullable=False),
        *(sa.Column(name, sa.Integer, nullable=name != "school_id") for name in _OF),
        sa.Column("kind", sa.String(10), nullable=False),
        sa.Column("title", sa.String(200), nullable=False),
        sa.Column("words", sa.String(400), nullable=False),
        sa.Column("parts", JSONB, nullable=False),
        sa.Column("lightness", sa.Float, nullable=False),
        sa.Column("a", sa.Float, nullable=False),
        sa.Column("b", sa.Float, nullable=False),
        sa.Column("asked", JSONB, nullable=True),
        sa.Column(
            "place",
            Cube,
            sa.Computed("cube(ARRAY[lightness, a, b])", persisted=True),
            nullable=False,
        ),
        sa.Column(
            "made_at", TIMESTAMP(timezone=True), server_default=sa.func.now(), nullable=False
        ),
        sa.CheckConstraint(
            "kind IN ('cell', 'tube', 'mix', 'note')", name=op.f("ck_logbook_entry_kind_known")
        ),
        *(
            sa.ForeignKeyConstraint(
                [name], [f"{of}.id"], name=op.f(f"fk_logbook_entry_{name}_{of}")
            )
            for name, of in _OF.items()
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_logbook_entry")),
    )
    for name in _OF:
        if name != "school_id":
            op.create_index(op.f(f"ix_logbook_entry_{name}"), "logbook_entry", [name])
    op.create_index(
        "ix_logbook_entry_school_place",
        "logbook_entry",
        ["school_id", "place"],
        postgresql_using="gist",
    )


def downgrade() -> None:
    refuse_loss("logbook_entry WHERE kind = 'note'")
    op.drop_table("logbook_entry")
