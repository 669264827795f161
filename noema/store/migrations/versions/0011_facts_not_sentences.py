"""Advice and moves are kept as facts; what was said before stays as it was said"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None

_MOVES = """
UPDATE judgement SET advice = jsonb_build_object('told', sentence), moves = coalesce(
    (SELECT jsonb_object_agg(m.key, jsonb_build_object(
        'cell', m.key, 'act', 'add', 'told', m.value #>> '{}'))
     FROM jsonb_each(moves) m), '{}')
"""
_BACK = """
UPDATE judgement SET sentence = left(coalesce(advice->>'told', ''), 400), moves = coalesce(
    (SELECT jsonb_object_agg(m.key, m.value->'told') FROM jsonb_each(moves) m
     WHERE m.value ? 'told'), '{}')
"""


def upgrade() -> None:
    op.add_column("judgement", sa.Column("advice", JSONB()))
    op.execute(_MOVES)
    op.alter_column("judgement", "advice", nullable=False)
    op.drop_column("judgement", "sentence")


def downgrade() -> None:
    op.add_column(
        "judgement", sa.Column("sentence", sa.String(400), nullable=False, server_default="")
    )
    op.execute(_BACK)
    op.alter_column("judgement", "sentence", server_default=None)
    op.drop_column("judgement", "advice")
