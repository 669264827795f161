"""Photographs handed in together are a batch"""

from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None

_CONSTRAINTS = (
    "pk_{}",
    "ck_{}_from_one",
    "ck_{}_for_assignment",
    "fk_{}_school_id_school",
    "fk_{}_teacher_id_teacher",
    "fk_{}_card_id_reference_card",
)
_INDEXES = ("ix_{}_school_id", "ix_{}_student_id")


def _rename(before: str, after: str) -> None:
    op.rename_table(before, after)
    op.alter_column("photograph", f"{before}_id", new_column_name=f"{after}_id")
    for name in _CONSTRAINTS:
        op.execute(
            f'ALTER TABLE {after} RENAME CONSTRAINT "{name.format(before)}" '
            f'TO "{name.format(after)}"'
        )
    for name in (*_INDEXES, "ix_photograph_{}_id"):
        op.execute(f'ALTER INDEX "{name.format(before)}" RENAME TO "{name.format(after)}"')
    op.execute(f"ALTER SEQUENCE {before}_id_seq RENAME TO {after}_id_seq")


def upgrade() -> None:
    _rename("pile", "batch")


def downgrade() -> None:
    _rename("batch", "pile")
