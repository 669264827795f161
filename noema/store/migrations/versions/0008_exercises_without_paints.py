"""Exercises of no set of paints keep what they expect, as the others do"""

from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

_NAME = "ck_assignment_asked_of_paints"


def upgrade() -> None:
    op.execute(f'ALTER TABLE assignment DROP CONSTRAINT IF EXISTS "{_NAME}"')
    op.execute(
        f'ALTER TABLE assignment ADD CONSTRAINT "{_NAME}" '
        "CHECK (paints IS NULL OR asked IS NOT NULL)"
    )


def downgrade() -> None:
    op.execute(f'ALTER TABLE assignment DROP CONSTRAINT "{_NAME}"')
    op.execute("UPDATE assignment SET asked = NULL WHERE paints IS NULL")
    op.execute(
        f'ALTER TABLE assignment ADD CONSTRAINT "{_NAME}" '
        "CHECK ((asked IS NULL) = (paints IS NULL))"
    )
