"""Assignments of every kind, with their paints, tolerances and keys"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from noema.store.going_back import refuse_loss

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None

_STEPS = {5: "five", 6: "six", 7: "seven", 8: "eight", 9: "nine", 10: "ten", 11: "eleven"}
_ROOMS = {"beginner": 0.7, "intermediate": 0.5, "advanced": 0.3}


def upgrade() -> None:
    _add_columns()
    _describe_old_scales()
    for column in ("title", "tolerance"):
        op.alter_column("assignment", column, nullable=False)
    _know_all("key", "even", "named", ("paints", "own-ends", "teacher", "named"))
    _allow("medium", ("acrylic", "gouache", "watercolour", "oil", "pencil", "charcoal"))
    op.create_check_constraint(
        op.f("ck_assignment_asked_of_paints"), "assignment", "(asked IS NULL) = (paints IS NULL)"
    )
    op.alter_column("sheet", "student_id", nullable=True)


def downgrade() -> None:
    refuse_loss("sheet WHERE student_id IS NULL")
    op.alter_column("sheet", "student_id", nullable=False)
    op.drop_constraint(op.f("ck_assignment_asked_of_paints"), "assignment")
    _allow("medium", ("acrylic", "gouache", "pencil", "charcoal"))
    _know_all("key", "named", "even", ("even", "own-ends"))
    for column in _NEW:
        op.drop_column("assignment", column)


_NEW = (
    "title",
    "set_ref",
    "paints",
    "asked",
    "tolerance",
    "grey_only",
    "shows_parts",
    "key_photograph_id",
    "key_labs",
)


def _add_columns() -> None:
    false = sa.text("false")
    op.add_column("assignment", sa.Column("title", sa.String(length=120), nullable=True))
    op.add_column("assignment", sa.Column("set_ref", sa.String(length=60), nullable=True))
    op.add_column("assignment", sa.Column("paints", JSONB(), nullable=True))
    op.add_column("assignment", sa.Column("asked", JSONB(), nullable=True))
    op.add_column("assignment", sa.Column("tolerance", JSONB(), nullable=True))
    for name in ("grey_only", "shows_parts"):
        op.add_column(
            "assignment", sa.Column(name, sa.Boolean(), nullable=False, server_default=false)
        )
    op.add_column(
        "assignment",
        sa.Column(
            "key_photograph_id",
            sa.Integer(),
            sa.ForeignKey("photograph.id", name=op.f("fk_assignment_key_photograph_id_photograph")),
            nullable=True,
        ),
    )
    op.add_column("assignment", sa.Column("key_labs", JSONB(), nullable=True))


def _describe_old_scales() -> None:
    for steps, word in _STEPS.items():
        op.execute(
            f"UPDATE assignment SET title = 'Value scale, {word} steps' "
            f"WHERE (options->>'steps')::int = {steps}"
        )
    for level, room in _ROOMS.items():
        op.execute(
            "UPDATE assignment SET tolerance = "
            f"""'{{"hue": null, "value": {room}, "chroma": null}}' WHERE level = '{level}'"""
        )
    op.execute(
        """UPDATE judgement SET body = jsonb_set(body, '{cells}', (
        SELECT jsonb_agg(cell || jsonb_build_object('hue', NULL, 'chroma', NULL, 'tolerance_value',
        CASE level WHEN 'beginner' THEN 0.7 WHEN 'intermediate' THEN 0.5 ELSE 0.3 END))
        FROM jsonb_array_elements(body->'cells') cell)) || '{"exercise": "value-scale"}'"""
    )


def _know_all(column: str, old: str, new: str, known: tuple[str, ...]) -> None:
    op.drop_constraint(op.f(f"ck_assignment_{column}_known"), "assignment")
    op.execute(f"UPDATE assignment SET {column} = '{new}' WHERE {column} = '{old}'")
    op.execute(
        f"UPDATE judgement SET {column} = '{new}', "
        f"body = jsonb_set(body, '{{{column}}}', '\"{new}\"') WHERE {column} = '{old}'"
    )
    _constrain(column, known)


def _allow(column: str, known: tuple[str, ...]) -> None:
    op.drop_constraint(op.f(f"ck_assignment_{column}_known"), "assignment")
    _constrain(column, known)


def _constrain(column: str, known: tuple[str, ...]) -> None:
    listed = ", ".join(f"'{one}'" for one in known)
    op.create_check_constraint(
        op.f(f"ck_assignment_{column}_known"), "assignment", f"{column} IN ({listed})"
    )
