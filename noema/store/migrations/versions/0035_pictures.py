"""Pictures to paint from, their spots, and photographs held against them"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB, TIMESTAMP

from noema.store.going_back import refuse_loss

revision = "0035"
down_revision = "0034"
branch_labels = None
depends_on = None

_ENTRIES = "kind IN ('cell', 'tube', 'mix', 'note')"
_ENTRIES_NOW = "kind IN ('cell', 'tube', 'mix', 'note', 'spot')"
_TABLES = ("held_photograph", "picture_ranking", "picture_spot", "picture")


def upgrade() -> None:
    op.create_table(
        "picture",
        *_owned(),
        sa.Column("title", sa.String(80), nullable=False),
        sa.Column("sha256", sa.String(64), nullable=False),
        sa.Column("shown_sha256", sa.String(64), nullable=False),
        sa.Column("small_sha256", sa.String(64), nullable=False),
        sa.Column("width_px", sa.Integer, nullable=False),
        sa.Column("height_px", sa.Integer, nullable=False),
        sa.Column("by_strip", sa.Boolean, nullable=False),
        _made("made_at"),
        *_owners("picture"),
    )
    op.create_table(
        "picture_spot",
        sa.Column("id", sa.Integer, nullable=False),
        sa.Column("picture_id", sa.Integer, nullable=False),
        sa.Column("name", sa.String(60), nullable=False),
        sa.Column("part", sa.String(10), nullable=False),
        *(sa.Column(name, sa.Float, nullable=False) for name in ("x", "y", "radius")),
        *(sa.Column(name, JSONB, nullable=False) for name in ("lab", "around")),
        sa.CheckConstraint(
            "part IN ('whole', 'light', 'shadow')", name=op.f("ck_picture_spot_part_known")
        ),
        *_to("picture_spot", picture_id="picture"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_picture_spot")),
    )
    op.create_table(
        "picture_ranking",
        sa.Column("id", sa.Integer, nullable=False),
        sa.Column("picture_id", sa.Integer, nullable=False),
        sa.Column("count", sa.Integer, nullable=False),
        sa.Column("paints", JSONB, nullable=False),
        sa.Column("ranked", JSONB, nullable=True),
        _made("made_at"),
        sa.UniqueConstraint("picture_id", "count", name=op.f("uq_picture_ranking_picture_id")),
        *_to("picture_ranking", picture_id="picture"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_picture_ranking")),
    )
    op.create_table(
        "held_photograph",
        *_owned(),
        sa.Column("spot_id", sa.Integer, nullable=True),
        sa.Column("sha256", sa.String(64), nullable=True),
        sa.Column("outline", JSONB, nullable=True),
        sa.Column("reading", JSONB, nullable=True),
        _made("received_at"),
        *_to("held_photograph", spot_id="picture_spot"),
        *_owners("held_photograph"),
    )
    op.add_column("logbook_entry", sa.Column("spot_id", sa.Integer, nullable=True))
    op.create_foreign_key(
        op.f("fk_logbook_entry_spot_id_picture_spot"),
        "logbook_entry",
        "picture_spot",
        ["spot_id"],
        ["id"],
    )
    _know_entries(_ENTRIES_NOW)
    for table, columns in (
        ("picture", ("class_id", "student_id", "sha256", "shown_sha256", "small_sha256")),
        ("picture_spot", ("picture_id",)),
        ("held_photograph", ("class_id", "student_id", "spot_id", "sha256")),
        ("logbook_entry", ("spot_id",)),
    ):
        for column in columns:
            op.create_index(op.f(f"ix_{table}_{column}"), table, [column])


def downgrade() -> None:
    for table in _TABLES:
        refuse_loss(table)
    _know_entries(_ENTRIES)
    op.drop_column("logbook_entry", "spot_id")
    for table in _TABLES:
        op.drop_table(table)


def _know_entries(kinds: str) -> None:
    op.drop_constraint(op.f("ck_logbook_entry_kind_known"), "logbook_entry")
    op.create_check_constraint(op.f("ck_logbook_entry_kind_known"), "logbook_entry", kinds)


def _owned() -> list[sa.Column[int]]:
    return [
        sa.Column("id", sa.Integer, nullable=False),
        sa.Column("school_id", sa.Integer, nullable=False),
        sa.Column("class_id", sa.Integer, nullable=False),
        sa.Column("student_id", sa.Integer, nullable=True),
    ]


def _owners(table: str) -> list[sa.Constraint]:
    keys = _to(table, school_id="school", class_id="school_class", student_id="student")
    return [*keys, sa.PrimaryKeyConstraint("id", name=op.f(f"pk_{table}"))]


def _to(table: str, **columns: str) -> list[sa.Constraint]:
    return [
        sa.ForeignKeyConstraint([name], [f"{of}.id"], name=op.f(f"fk_{table}_{name}_{of}"))
        for name, of in columns.items()
    ]


def _made(name: str) -> sa.Column[object]:
    kind = TIMESTAMP(timezone=True)
    return sa.Column(name, kind, server_default=sa.func.now(), nullable=False)
