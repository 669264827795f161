"""A school has a language, anybody may have one of their own, and titles are said in it"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from noema.store.going_back import refuse_loss

revision = "0037"
down_revision = "0036"
branch_labels = None
depends_on = None

_KNOWN = "language IN ('en', 'de', 'es', 'fr')"
_PEOPLE = ("teacher", "student")


def upgrade() -> None:
    op.add_column(
        "school", sa.Column("language", sa.String(10), server_default="en", nullable=False)
    )
    for table in _PEOPLE:
        op.add_column(table, sa.Column("language", sa.String(10), nullable=True))
    op.add_column("assignment", sa.Column("title_source", JSONB, nullable=True))
    for table in ("school", *_PEOPLE):
        op.create_check_constraint(op.f(f"ck_{table}_language_known"), table, _KNOWN)


def downgrade() -> None:
    refuse_loss(
        "school WHERE language <> 'en'",
        *(f"{table} WHERE language IS NOT NULL" for table in _PEOPLE),
    )
    op.drop_column("assignment", "title_source")
    for table in ("school", *_PEOPLE):
        op.drop_column(table, "language")
