"""The first tables"""

from typing import Any

import sqlalchemy as sa
from alembic import op
from procrastinate.schema import SchemaManager
from sqlalchemy.dialects import postgresql

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


_APPEND_ONLY = """
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN RAISE EXCEPTION 'the record of decisions only grows'; END $$;
CREATE TRIGGER decision_append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON decision
FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
"""


def upgrade() -> None:
    # The job queue's own tables; the driver must not read its percent signs as parameters.
    driver: Any = op.get_bind().connection.driver_connection
    driver.execute(SchemaManager.get_schema())
    op.create_table(
        "school",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column(
            "made_at",
            postgresql.TIMESTAMP(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_school")),
        sa.UniqueConstraint("name", name=op.f("uq_school_name")),
    )
    op.create_table(
        "school_class",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("school_id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(length=80), nullable=False),
        sa.Column("unit_starts_on", sa.Date(), nullable=False),
        sa.Column("unit_weeks", sa.Integer(), nullable=False),
        sa.Column(
            "made_at",
            postgresql.TIMESTAMP(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.CheckConstraint(
            "unit_weeks BETWEEN 1 AND 52", name=op.f("ck_school_class_unit_weeks_sane")
        ),
        sa.ForeignKeyConstraint(
            ["school_id"], ["school.id"], name=op.f("fk_school_class_school_id_school")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_school_class")),
        sa.UniqueConstraint("school_id", "name", name=op.f("uq_school_class_school_id_name")),
    )
    op.create_index(op.f("ix_school_class_school_id"), "school_class", ["school_id"], unique=False)
    op.create_table(
        "student",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("school_id", sa.Integer(), nullable=False),
        sa.Column("display_name", sa.String(length=60), nullable=False),
        sa.Column(
            "made_at",
            postgresql.TIMESTAMP(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.CheckConstraint("length(display_name) > 0", name=op.f("ck_student_named")),
        sa.ForeignKeyConstraint(
            ["school_id"], ["school.id"], name=op.f("fk_student_school_id_school")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_student")),
    )
    op.create_index(op.f("ix_student_school_id"), "student", ["school_id"], unique=False)
    op.create_table(
        "teacher",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("school_id", sa.Integer(), nullable=False),
        sa.Column("email", sa.String(length=254), nullable=False),
        sa.Column("display_name", sa.String(length=80), nullable=False),
        sa.Column("password_hash", sa.String(length=200), nullable=False),
        sa.Column(
            "made_at",
            postgresql.TIMESTAMP(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.CheckConstraint("email = lower(email)", name=op.f("ck_teacher_email_lower")),
        sa.ForeignKeyConstraint(
            ["school_id"], ["school.id"], name=op.f("fk_teacher_school_id_school")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_teacher")),
        sa.UniqueConstraint("email", name=op.f("uq_teacher_email")),
    )
    op.create_index(op.f("ix_teacher_school_id"), "teacher", ["school_id"], unique=False)
    op.create_table(
        "assignment",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("stem", sa.String(length=4), nullable=False),
        sa.Column("kind", sa.String(length=40), nullable=False),
        sa.Column("options", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("medium", sa.String(length=20), nullable=False),
        sa.Column("level", sa.String(length=20), nullable=False),
        sa.Column("key", sa.String(length=20), nullable=False),
        sa.Column("paper", sa.String(length=20), nullable=False),
        sa.Column("due_week", sa.Integer(), nullable=False),
        sa.Column("assigned_by", sa.Integer(), nullable=False),
        sa.Column(
            "assigned_at",
            postgresql.TIMESTAMP(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.CheckConstraint("key IN ('even', 'own-ends')", name=op.f("ck_assignment_key_known")),
        sa.CheckConstraint(
            "level IN ('beginner', 'intermediate', 'advanced')",
            name=op.f("ck_assignment_level_known"),
        ),
        sa.CheckConstraint(
            "medium IN ('acrylic', 'gouache', 'pencil', 'charcoal')",
            name=op.f("ck_assignment_medium_known"),
        ),
        sa.CheckConstraint("paper IN ('a4', 'letter')", name=op.f("ck_assignment_paper_known")),
        sa.CheckConstraint("due_week BETWEEN 1 AND 52", name=op.f("ck_assignment_due_week_sane")),
        sa.ForeignKeyConstraint(
            ["assigned_by"], ["teacher.id"], name=op.f("fk_assignment_assigned_by_teacher")
        ),
        sa.ForeignKeyConstraint(
            ["class_id"], ["school_class.id"], name=op.f("fk_assignment_class_id_school_class")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_assignment")),
        sa.UniqueConstraint("stem", name=op.f("uq_assignment_stem")),
    )
    op.create_index(op.f("ix_assignment_class_id"), "assignment", ["class_id"], unique=False)
    op.create_table(
        "enrolment",
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("student_id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["class_id"], ["school_class.id"], name=op.f("fk_enrolment_class_id_school_class")
        ),
        sa.ForeignKeyConstraint(
            ["student_id"], ["student.id"], name=op.f("fk_enrolment_student_id_student")
        ),
        sa.PrimaryKeyConstraint("class_id", "student_id", name=op.f("pk_enrolment")),
    )
    op.create_index(op.f("ix_enrolment_student_id"), "enrolment", ["student_id"], unique=False)
    op.create_table(
        "pile",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("school_id", sa.Integer(), nullable=False),
        sa.Column("teacher_id", sa.Integer(), nullable=False),
        sa.Column(
            "made_at",
            postgresql.TIMESTAMP(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.ForeignKeyConstraint(
            ["school_id"], ["school.id"], name=op.f("fk_pile_school_id_school")
        ),
        sa.ForeignKeyConstraint(
            ["teacher_id"], ["teacher.id"], name=op.f("fk_pile_teacher_id_teacher")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_pile")),
    )
    op.create_index(op.f("ix_pile_school_id"), "pile", ["school_id"], unique=False)
    op.create_table(
        "sheet",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("assignment_id", sa.Integer(), nullable=False),
        sa.Column("student_id", sa.Integer(), nullable=False),
        sa.Column("attempt", sa.Integer(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("code", sa.String(length=8), nullable=False),
        sa.Column("layout", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column(
            "printed_at",
            postgresql.TIMESTAMP(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.CheckConstraint("attempt >= 1", name=op.f("ck_sheet_attempt_positive")),
        sa.CheckConstraint("number BETWEEN 1 AND 999", name=op.f("ck_sheet_number_sane")),
        sa.ForeignKeyConstraint(
            ["assignment_id"], ["assignment.id"], name=op.f("fk_sheet_assignment_id_assignment")
        ),
        sa.ForeignKeyConstraint(
            ["student_id"], ["student.id"], name=op.f("fk_sheet_student_id_student")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_sheet")),
        sa.UniqueConstraint("assignment_id", "number", name=op.f("uq_sheet_assignment_id_number")),
        sa.UniqueConstraint(
            "assignment_id",
            "student_id",
            "attempt",
            name=op.f("uq_sheet_assignment_id_student_id_attempt"),
        ),
        sa.UniqueConstraint("code", name=op.f("uq_sheet_code")),
    )
    op.create_index(op.f("ix_sheet_student_id"), "sheet", ["student_id"], unique=False)
    op.create_table(
        "photograph",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("school_id", sa.Integer(), nullable=False),
        sa.Column("pile_id", sa.Integer(), nullable=False),
        sa.Column("sheet_id", sa.Integer(), nullable=True),
        sa.Column("sha256", sa.String(length=64), nullable=False),
        sa.Column("size_bytes", sa.Integer(), nullable=False),
        sa.Column("megapixels", sa.Double(), nullable=False),
        sa.Column("original_name", sa.String(length=200), nullable=False),
        sa.Column("state", sa.String(length=20), nullable=False),
        sa.Column("reason", sa.String(length=300), nullable=True),
        sa.Column("code_seen", sa.String(length=40), nullable=True),
        sa.Column(
            "received_at",
            postgresql.TIMESTAMP(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.CheckConstraint(
            "state <> 'read' OR sheet_id IS NOT NULL", name=op.f("ck_photograph_read_has_sheet")
        ),
        sa.CheckConstraint(
            "state IN ('reading', 'read', 'unmatched', 'unreadable', 'set aside')",
            name=op.f("ck_photograph_state_known"),
        ),
        sa.CheckConstraint("length(sha256) = 64", name=op.f("ck_photograph_sha256_whole")),
        sa.ForeignKeyConstraint(["pile_id"], ["pile.id"], name=op.f("fk_photograph_pile_id_pile")),
        sa.ForeignKeyConstraint(
            ["school_id"], ["school.id"], name=op.f("fk_photograph_school_id_school")
        ),
        sa.ForeignKeyConstraint(
            ["sheet_id"], ["sheet.id"], name=op.f("fk_photograph_sheet_id_sheet")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_photograph")),
        sa.UniqueConstraint("school_id", "sha256", name=op.f("uq_photograph_school_id_sha256")),
    )
    op.create_index(op.f("ix_photograph_pile_id"), "photograph", ["pile_id"], unique=False)
    op.create_index(op.f("ix_photograph_sheet_id"), "photograph", ["sheet_id"], unique=False)
    op.create_table(
        "decision",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("photograph_id", sa.Integer(), nullable=False),
        sa.Column("teacher_id", sa.Integer(), nullable=False),
        sa.Column("verb", sa.String(length=20), nullable=False),
        sa.Column("cell", sa.String(length=20), nullable=True),
        sa.Column("verdict", sa.String(length=20), nullable=True),
        sa.Column("sentence", sa.String(length=400), nullable=True),
        sa.Column(
            "made_at",
            postgresql.TIMESTAMP(timezone=True),
            server_default=sa.text("clock_timestamp()"),
            nullable=False,
        ),
        sa.CheckConstraint(
            "verb IN ('accept', 'send-back', 'leave-out', 'count', 'overrule', 'undo', "
            "'match', 'set-aside')",
            name=op.f("ck_decision_verb_known"),
        ),
        sa.ForeignKeyConstraint(
            ["photograph_id"], ["photograph.id"], name=op.f("fk_decision_photograph_id_photograph")
        ),
        sa.ForeignKeyConstraint(
            ["teacher_id"], ["teacher.id"], name=op.f("fk_decision_teacher_id_teacher")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_decision")),
    )
    op.create_index(op.f("ix_decision_photograph_id"), "decision", ["photograph_id"], unique=False)
    op.create_table(
        "reading",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("photograph_id", sa.Integer(), nullable=False),
        sa.Column("sheet_id", sa.Integer(), nullable=False),
        sa.Column("reader", sa.String(length=40), nullable=False),
        sa.Column("body", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("straight_sha256", sa.String(length=64), nullable=True),
        sa.Column(
            "made_at",
            postgresql.TIMESTAMP(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.ForeignKeyConstraint(
            ["photograph_id"], ["photograph.id"], name=op.f("fk_reading_photograph_id_photograph")
        ),
        sa.ForeignKeyConstraint(["sheet_id"], ["sheet.id"], name=op.f("fk_reading_sheet_id_sheet")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_reading")),
        sa.UniqueConstraint(
            "photograph_id",
            "sheet_id",
            "reader",
            name=op.f("uq_reading_photograph_id_sheet_id_reader"),
        ),
    )
    op.create_index(op.f("ix_reading_sheet_id"), "reading", ["sheet_id"], unique=False)
    op.create_table(
        "judgement",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("reading_id", sa.Integer(), nullable=False),
        sa.Column("judge", sa.String(length=40), nullable=False),
        sa.Column("key", sa.String(length=20), nullable=False),
        sa.Column("level", sa.String(length=20), nullable=False),
        sa.Column("body", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("tally", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("sentence", sa.String(length=400), nullable=False),
        sa.Column(
            "made_at",
            postgresql.TIMESTAMP(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.ForeignKeyConstraint(
            ["reading_id"], ["reading.id"], name=op.f("fk_judgement_reading_id_reading")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_judgement")),
        sa.UniqueConstraint(
            "reading_id",
            "judge",
            "key",
            "level",
            name=op.f("uq_judgement_reading_id_judge_key_level"),
        ),
    )
    op.create_table(
        "review",
        sa.Column("photograph_id", sa.Integer(), nullable=False),
        sa.Column("judgement_id", sa.Integer(), nullable=False),
        sa.Column("state", sa.String(length=20), nullable=False),
        sa.Column("sentence", sa.String(length=400), nullable=True),
        sa.Column("left_out", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("overruled", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("standing", sa.Integer(), nullable=False),
        sa.Column(
            "changed_at",
            postgresql.TIMESTAMP(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.CheckConstraint(
            "state IN ('to review', 'accepted', 'sent back')", name=op.f("ck_review_state_known")
        ),
        sa.ForeignKeyConstraint(
            ["judgement_id"], ["judgement.id"], name=op.f("fk_review_judgement_id_judgement")
        ),
        sa.ForeignKeyConstraint(
            ["photograph_id"], ["photograph.id"], name=op.f("fk_review_photograph_id_photograph")
        ),
        sa.PrimaryKeyConstraint("photograph_id", name=op.f("pk_review")),
    )
    op.create_index(op.f("ix_review_state"), "review", ["state"], unique=False)
    op.execute(_APPEND_ONLY)


def downgrade() -> None:
    raise NotImplementedError("There is nothing before the first tables: restore a backup.")
