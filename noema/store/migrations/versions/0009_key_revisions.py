"""Revisions of an assignment's key, in columns of their own; a judgement names its revision"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB, TIMESTAMP

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None

_MOVED = (
    "key", "level", "set_ref", "paints", "asked", "key_photograph_id", "key_labs", "demand",
)  # fmt: skip

# Every pair of a key's name and a level by which something was judged, the newest last: that is
# what the assignment is held against now.
_HELD_BEFORE = """
INSERT INTO key_revision (assignment_id, number, key, level, hue_tolerance, value_tolerance,
    chroma_tolerance, set_ref, paints, asked, key_photograph_id, key_labs, difficulty, named)
SELECT a.id, rank() OVER (PARTITION BY a.id ORDER BY h.newest),
    CASE WHEN h.newest = h.very_newest THEN a.key ELSE split_part(h.key, ' ', 1) END, h.level,
    CASE WHEN h.newest = h.very_newest THEN (a.tolerance->>'hue')::float
         ELSE (h.hue)::float END,
    CASE WHEN h.newest = h.very_newest THEN (a.tolerance->>'value')::float
         ELSE (h.value)::float END,
    CASE WHEN h.newest = h.very_newest THEN (a.tolerance->>'chroma')::float
         ELSE (h.chroma)::float END,
    a.set_ref, a.paints, a.asked, a.key_photograph_id, a.key_labs,
    CASE WHEN h.newest = h.very_newest THEN a.demand END, h.key
FROM assignment a JOIN (
    SELECT s.assignment_id, j.key, j.level, max(j.id) AS newest,
        max(max(j.id)) OVER (PARTITION BY s.assignment_id) AS very_newest,
        max(j.body->'cells'->0->>'tolerance_value') AS value,
        max(j.body->'cells'->0->'hue'->>'tolerance') AS hue,
        max(j.body->'cells'->0->'chroma'->>'tolerance') AS chroma
    FROM judgement j JOIN reading r ON r.id = j.reading_id JOIN sheet s ON s.id = r.sheet_id
    GROUP BY s.assignment_id, j.key, j.level
) h ON h.assignment_id = a.id
"""
_NEVER_JUDGED = """
INSERT INTO key_revision (assignment_id, number, key, level, hue_tolerance, value_tolerance,
    chroma_tolerance, set_ref, paints, asked, key_photograph_id, key_labs, difficulty)
SELECT id, 1, key, level, (tolerance->>'hue')::float, (tolerance->>'value')::float,
    (tolerance->>'chroma')::float, set_ref, paints, asked, key_photograph_id, key_labs, demand
FROM assignment a WHERE NOT EXISTS (SELECT FROM key_revision k WHERE k.assignment_id = a.id)
"""
_JUDGED_BY = """
UPDATE judgement j SET revision_id = k.id
FROM reading r, sheet s, key_revision k
WHERE r.id = j.reading_id AND s.id = r.sheet_id AND k.assignment_id = s.assignment_id
    AND k.named = j.key AND k.level = j.level
"""
_NEWEST = """
UPDATE assignment a SET revision =
    (SELECT max(number) FROM key_revision k WHERE k.assignment_id = a.id)
"""
_BACK = """
UPDATE assignment a SET key = k.key, level = k.level, set_ref = k.set_ref, paints = k.paints,
    asked = k.asked, key_photograph_id = k.key_photograph_id, key_labs = k.key_labs,
    demand = k.difficulty, tolerance = jsonb_build_object('hue', k.hue_tolerance,
        'value', k.value_tolerance, 'chroma', k.chroma_tolerance)
FROM key_revision k WHERE k.assignment_id = a.id AND k.number = a.revision
"""
_JUDGED_BACK = """
UPDATE judgement j SET level = k.level, key = CASE WHEN k.number = a.revision THEN k.key
    ELSE k.key || ' ' || k.number END
FROM key_revision k JOIN assignment a ON a.id = k.assignment_id WHERE k.id = j.revision_id
"""


def upgrade() -> None:
    op.add_column(
        "assignment", sa.Column("revision", sa.Integer(), nullable=False, server_default="1")
    )
    op.create_table(
        "key_revision",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("assignment_id", sa.Integer(), sa.ForeignKey("assignment.id"), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("key", sa.String(20), nullable=False),
        sa.Column("key_photograph_id", sa.Integer(), sa.ForeignKey("photograph.id")),
        sa.Column("key_labs", JSONB()),
        sa.Column("level", sa.String(20), nullable=False),
        sa.Column("hue_tolerance", sa.Float()),
        sa.Column("value_tolerance", sa.Float(), nullable=False),
        sa.Column("chroma_tolerance", sa.Float()),
        sa.Column("set_ref", sa.String(60)),
        sa.Column("paints", JSONB()),
        sa.Column("asked", JSONB()),
        sa.Column("difficulty", JSONB()),
        sa.Column("made_by", sa.Integer(), sa.ForeignKey("teacher.id")),
        sa.Column(
            "made_at", TIMESTAMP(timezone=True), nullable=False, server_default=sa.func.now()
        ),
        sa.Column("named", sa.String(20)),
        sa.UniqueConstraint("assignment_id", "number"),
        sa.CheckConstraint("paints IS NULL OR asked IS NOT NULL", name="asked_of_paints"),
        sa.CheckConstraint("level IN ('beginner', 'intermediate', 'advanced')", name="level_known"),
        sa.CheckConstraint("key IN ('paints', 'own-ends', 'teacher', 'named')", name="key_known"),
    )
    op.execute(_HELD_BEFORE)
    op.execute(_NEVER_JUDGED)
    op.execute(_NEWEST)
    op.add_column(
        "judgement", sa.Column("revision_id", sa.Integer(), sa.ForeignKey("key_revision.id"))
    )
    op.execute(_JUDGED_BY)
    op.alter_column("judgement", "revision_id", nullable=False)
    op.create_index(op.f("ix_judgement_revision_id"), "judgement", ["revision_id"])
    op.drop_column("key_revision", "named")
    op.execute(
        "ALTER TABLE judgement DROP COLUMN key, DROP COLUMN level, "
        'ADD CONSTRAINT "uq_judgement_reading_id" UNIQUE (reading_id, judge, revision_id)'
    )
    for name in (*_MOVED, "tolerance"):
        op.drop_column("assignment", name)


def downgrade() -> None:
    for name, kind in (
        ("key", sa.String(20)),
        ("level", sa.String(20)),
        ("set_ref", sa.String(60)),
        ("paints", JSONB()),
        ("asked", JSONB()),
        ("key_labs", JSONB()),
        ("demand", JSONB()),
        ("tolerance", JSONB()),
    ):
        op.add_column("assignment", sa.Column(name, kind))
    photograph = sa.Column("key_photograph_id", sa.Integer(), sa.ForeignKey("photograph.id"))
    op.add_column("assignment", photograph)
    op.execute(_BACK)
    for name in ("key", "level", "tolerance"):
        op.alter_column("assignment", name, nullable=False)
    op.execute(
        'ALTER TABLE assignment ADD CONSTRAINT "ck_assignment_asked_of_paints" '
        "CHECK (paints IS NULL OR asked IS NOT NULL)"
    )
    for column, words in (
        ("level", ("beginner", "intermediate", "advanced")),
        ("key", ("paints", "own-ends", "teacher", "named")),
    ):
        known = f"{column} IN ({', '.join(map(repr, words))})"
        op.create_check_constraint(op.f(f"ck_assignment_{column}_known"), "assignment", known)
    op.add_column("judgement", sa.Column("key", sa.String(20)))
    op.add_column("judgement", sa.Column("level", sa.String(20)))
    op.execute(_JUDGED_BACK)
    op.execute(
        'ALTER TABLE judgement DROP CONSTRAINT "uq_judgement_reading_id", '
        "DROP COLUMN revision_id, ALTER COLUMN key SET NOT NULL, "
        'ALTER COLUMN level SET NOT NULL, ADD CONSTRAINT "uq_judgement_reading_id" '
        "UNIQUE (reading_id, judge, key, level)"
    )
    op.drop_table("key_revision")
    op.drop_column("assignment", "revision")
