"""Terms and needs of single students, assignments put off or withdrawn, what fills a school"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB, TIMESTAMP

from noema.store.going_back import refuse_loss

revision = "0036"
down_revision = "0035"
branch_labels = None
depends_on = None

_AUDIENCES = "audience IN ('child', 'teenager', 'adult')"
_FLAGS = {
    "school_class": ("larger_cells",),
    "student": ("larger_cells", "fewer_steps", "gentler"),
    "sheet": ("larger_cells",),
    "judgement": ("gentler",),
    "teacher": ("hides_first_week",),
}
_ONE_JUDGEMENT = "uq_judgement_reading_id"
_ONE_EACH_WAY = "uq_judgement_reading_id_judge_revision_id_gentler"


def upgrade() -> None:
    for table, columns in _FLAGS.items():
        for name in columns:
            said = sa.Column(name, sa.Boolean, server_default=sa.text("false"), nullable=False)
            op.add_column(table, said)
    op.add_column("student", sa.Column("audience", sa.String(20), nullable=True))
    op.create_check_constraint(op.f("ck_student_audience_known"), "student", _AUDIENCES)
    op.add_column("assignment", sa.Column("due_on", sa.Date, nullable=True))
    op.add_column("assignment", sa.Column("withdrawn_at", TIMESTAMP(timezone=True), nullable=True))
    op.drop_constraint(op.f(_ONE_JUDGEMENT), "judgement")
    op.create_unique_constraint(
        op.f(_ONE_EACH_WAY),
        "judgement",
        ["reading_id", "judge", "revision_id", "gentler"],
    )
    op.create_table(
        "student_terms",
        sa.Column("assignment_id", sa.Integer, nullable=False),
        sa.Column("student_id", sa.Integer, nullable=False),
        sa.Column("due_on", sa.Date, nullable=True),
        sa.Column("excuse", sa.String(20), nullable=True),
        sa.Column(
            "made_at", TIMESTAMP(timezone=True), server_default=sa.func.now(), nullable=False
        ),
        sa.CheckConstraint(
            "excuse IN ('excused', 'was away')", name=op.f("ck_student_terms_excuse_known")
        ),
        sa.ForeignKeyConstraint(
            ["assignment_id"],
            ["assignment.id"],
            name=op.f("fk_student_terms_assignment_id_assignment"),
        ),
        sa.ForeignKeyConstraint(
            ["student_id"], ["student.id"], name=op.f("fk_student_terms_student_id_student")
        ),
        sa.PrimaryKeyConstraint("assignment_id", "student_id", name=op.f("pk_student_terms")),
    )
    op.create_table(
        "under_way",
        sa.Column("school_id", sa.Integer, nullable=False),
        sa.Column("name", sa.String(80), nullable=False),
        sa.Column("done", sa.Integer, nullable=False),
        sa.Column("total", sa.Integer, nullable=False),
        sa.Column("changed_at", TIMESTAMP(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["school_id"], ["school.id"], name=op.f("fk_under_way_school_id_school")
        ),
        sa.PrimaryKeyConstraint("school_id", name=op.f("pk_under_way")),
    )
    op.create_table(
        "trial_sheet",
        sa.Column("id", sa.Integer, nullable=False),
        sa.Column("school_id", sa.Integer, nullable=False),
        sa.Column("teacher_id", sa.Integer, nullable=False),
        sa.Column("sha256", sa.String(64), nullable=False),
        sa.Column("reading", JSONB, nullable=True),
        sa.Column(
            "received_at", TIMESTAMP(timezone=True), server_default=sa.func.now(), nullable=False
        ),
        sa.ForeignKeyConstraint(
            ["school_id"], ["school.id"], name=op.f("fk_trial_sheet_school_id_school")
        ),
        sa.ForeignKeyConstraint(
            ["teacher_id"], ["teacher.id"], name=op.f("fk_trial_sheet_teacher_id_teacher")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_trial_sheet")),
    )
    for name in ("school_id", "teacher_id", "sha256"):
        op.create_index(op.f(f"ix_trial_sheet_{name}"), "trial_sheet", [name])
    op.create_index(op.f("ix_student_terms_student_id"), "student_terms", ["student_id"])


def downgrade() -> None:
    refuse_loss(
        "student_terms",
        "under_way",
        "trial_sheet",
        "assignment WHERE due_on IS NOT NULL OR withdrawn_at IS NOT NULL",
        "sheet WHERE larger_cells",
        "student WHERE larger_cells OR fewer_steps OR gentler OR audience IS NOT NULL",
        "school_class WHERE larger_cells",
        "judgement WHERE gentler",
    )
    op.drop_table("trial_sheet")
    op.drop_table("under_way")
    op.drop_table("student_terms")
    op.drop_constraint(op.f(_ONE_EACH_WAY), "judgement")
    op.create_unique_constraint(
        op.f(_ONE_JUDGEMENT), "judgement", ["reading_id", "judge", "revision_id"]
    )
    op.drop_column("assignment", "withdrawn_at")
    op.drop_column("assignment", "due_on")
    op.drop_column("student", "audience")
    for table, columns in _FLAGS.items():
        for name in columns:
            op.drop_column(table, name)
