"""Printers and cards, several sheets in a photograph, readings by what they could go by"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB, TIMESTAMP

from noema.store.going_back import refuse_loss

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    _table("printer", sa.Column("measured", JSONB(), nullable=False))
    _table(
        "reference_card",
        sa.Column("columns", sa.Integer(), nullable=False),
        sa.Column("rows", sa.Integer(), nullable=False),
        sa.Column("labs", JSONB(), nullable=False),
        sa.CheckConstraint(
            "columns BETWEEN 1 AND 40 AND rows BETWEEN 1 AND 40",
            name=op.f("ck_reference_card_grid_sane"),
        ),
    )
    key = sa.ForeignKey("printer.id", name=op.f("fk_assignment_printer_id_printer"))
    op.add_column("assignment", sa.Column("printer_id", sa.Integer(), key, nullable=True))
    op.add_column(
        "photograph",
        sa.Column("part", sa.Integer(), nullable=False, server_default=sa.text("0")),
    )
    op.add_column("photograph", sa.Column("scan_sha256", sa.String(length=64), nullable=True))
    op.create_check_constraint(
        op.f("ck_photograph_part_sane"), "photograph", "part BETWEEN 0 AND 99"
    )
    _unique("photograph", ["school_id", "sha256"], ["school_id", "sha256", "part"])
    op.add_column(
        "reading",
        sa.Column("basis", sa.String(length=80), nullable=False, server_default=""),
    )
    before = ["photograph_id", "sheet_id", "reader"]
    _unique("reading", before, [*before, "basis"])


def downgrade() -> None:
    refuse_loss("reference_card", "printer")
    _unique(
        "reading",
        ["photograph_id", "sheet_id", "reader", "basis"],
        ["photograph_id", "sheet_id", "reader"],
    )
    op.drop_column("reading", "basis")
    _unique("photograph", ["school_id", "sha256", "part"], ["school_id", "sha256"])
    op.drop_constraint(op.f("ck_photograph_part_sane"), "photograph")
    op.drop_column("photograph", "scan_sha256")
    op.drop_column("photograph", "part")
    op.drop_column("assignment", "printer_id")
    op.drop_table("reference_card")
    op.drop_table("printer")


def _table(name: str, *columns: sa.schema.SchemaItem) -> None:
    now = sa.text("now()")
    op.create_table(
        name,
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column(
            "school_id",
            sa.Integer(),
            sa.ForeignKey("school.id", name=op.f(f"fk_{name}_school_id_school")),
            nullable=False,
        ),
        sa.Column("name", sa.String(length=60), nullable=False),
        *columns,
        sa.Column("made_at", TIMESTAMP(timezone=True), server_default=now, nullable=False),
        sa.UniqueConstraint("school_id", "name", name=op.f(f"uq_{name}_school_id_name")),
    )
    op.create_index(op.f(f"ix_{name}_school_id"), name, ["school_id"])


def _unique(table: str, before: list[str], after: list[str]) -> None:
    op.drop_constraint(op.f(f"uq_{table}_{'_'.join(before)}"), table)
    op.create_unique_constraint(op.f(f"uq_{table}_{'_'.join(after)}"), table, after)
