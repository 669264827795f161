"""Several photographs of one sheet are one attempt"""

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None

_BEFORE = ("reading", "read", "unmatched", "unreadable", "set aside")


def _states(*states: str) -> None:
    allowed = ", ".join(f"'{state}'" for state in states)
    op.drop_constraint(op.f("ck_photograph_state_known"), "photograph", type_="check")
    op.create_check_constraint(
        op.f("ck_photograph_state_known"), "photograph", f"state IN ({allowed})"
    )


def upgrade() -> None:
    op.add_column("photograph", sa.Column("lead_id", sa.Integer(), nullable=True))
    op.create_foreign_key(
        op.f("fk_photograph_lead_id_photograph"),
        "photograph",
        "photograph",
        ["lead_id"],
        ["id"],
        deferrable=True,
        initially="DEFERRED",
    )
    op.create_index("ix_photograph_lead_id", "photograph", ["lead_id"])
    _states(*_BEFORE, "read together")
    op.create_check_constraint(
        op.f("ck_photograph_has_lead"),
        "photograph",
        "state <> 'read together' OR lead_id IS NOT NULL",
    )


def downgrade() -> None:
    op.drop_constraint(op.f("ck_photograph_has_lead"), "photograph", type_="check")
    op.execute("UPDATE photograph SET state = 'set aside' WHERE state = 'read together'")
    _states(*_BEFORE)
    op.drop_index("ix_photograph_lead_id", table_name="photograph")
    op.drop_constraint(op.f("fk_photograph_lead_id_photograph"), "photograph")
    op.drop_column("photograph", "lead_id")
