"""Outlines placed by hand, and cards beside a pile's sheets"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

_BEFORE = ("accept", "send-back", "leave-out", "count", "overrule", "undo", "match", "set-aside")


def upgrade() -> None:
    op.add_column("photograph", sa.Column("outline", JSONB(), nullable=True))
    key = sa.ForeignKey("reference_card.id", name=op.f("fk_pile_card_id_reference_card"))
    op.add_column("pile", sa.Column("card_id", sa.Integer(), key, nullable=True))
    _verbs((*_BEFORE, "place"))


def downgrade() -> None:
    op.drop_column("pile", "card_id")
    op.drop_column("photograph", "outline")
    _verbs(_BEFORE)


def _verbs(known: tuple[str, ...]) -> None:
    name = op.f("ck_decision_verb_known")
    op.drop_constraint(name, "decision")
    op.create_check_constraint(name, "decision", f"verb IN ({', '.join(map(repr, known))})")
