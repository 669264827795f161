"""Links, codes, and the record of what was done"""

from datetime import datetime

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import TIMESTAMP

from noema.store.going_back import refuse_loss

revision = "0029"
down_revision = "0028"
branch_labels = None
depends_on = None

_DEEDS = (
    "came in", "turned away", "password set", "password forgotten", "e-mail changed",
    "codes asked for", "codes not asked for", "log-ins ended", "invited", "role changed",
    "disabled", "enabled", "removed", "class shared", "class not shared", "exported", "erased",
    "card replaced", "mailed", "key changed",
)  # fmt: skip


def _when(name: str, *, now: bool = False, empty: bool = False) -> sa.Column[datetime]:
    stamp: sa.Column[datetime] = sa.Column(
        name,
        TIMESTAMP(timezone=True),
        server_default=sa.func.now() if now else None,
        nullable=empty,
    )
    return stamp


def _of_teacher(table: str, column: str = "teacher_id") -> sa.ForeignKeyConstraint:
    name = op.f(f"fk_{table}_{column}_teacher")
    return sa.ForeignKeyConstraint([column], ["teacher.id"], name=name)


def upgrade() -> None:
    months = sa.Column("record_months", sa.Integer, nullable=False, server_default=sa.text("12"))
    op.add_column("school", months)
    op.add_column("log_in", sa.Column("device", sa.String(120), nullable=False, server_default=""))
    op.create_table(
        "one_use_link",
        sa.Column("token_sha256", sa.String(64), nullable=False),
        sa.Column("teacher_id", sa.Integer, nullable=False),
        sa.Column("purpose", sa.String(20), nullable=False),
        sa.Column("email", sa.String(254), nullable=True),
        _when("ends_at"),
        _when("made_at", now=True),
        _of_teacher("one_use_link"),
        sa.PrimaryKeyConstraint("token_sha256", name=op.f("pk_one_use_link")),
        sa.CheckConstraint(
            "purpose IN ('invitation', 'new password', 'new e-mail')",
            name=op.f("ck_one_use_link_purpose_known"),
        ),
    )
    op.create_index(op.f("ix_one_use_link_teacher_id"), "one_use_link", ["teacher_id"])
    op.create_table(
        "code_secret",
        sa.Column("teacher_id", sa.Integer, nullable=False),
        sa.Column("token", sa.String(64), nullable=False),
        _when("confirmed_at", empty=True),
        sa.Column("last_step", sa.BigInteger, nullable=False),
        _of_teacher("code_secret"),
        sa.PrimaryKeyConstraint("teacher_id", name=op.f("pk_code_secret")),
    )
    op.create_table(
        "recovery_code",
        sa.Column("token_sha256", sa.String(64), nullable=False),
        sa.Column("teacher_id", sa.Integer, nullable=False),
        _when("made_at", now=True),
        _of_teacher("recovery_code"),
        sa.PrimaryKeyConstraint("token_sha256", name=op.f("pk_recovery_code")),
    )
    op.create_index(op.f("ix_recovery_code_teacher_id"), "recovery_code", ["teacher_id"])
    op.create_table(
        "record_entry",
        sa.Column("id", sa.BigInteger, nullable=False),
        sa.Column("school_id", sa.Integer, nullable=False),
        sa.Column("deed", sa.String(40), nullable=False),
        sa.Column("by_id", sa.Integer, nullable=True),
        sa.Column("by_name", sa.String(120), nullable=False),
        sa.Column("about", sa.String(200), nullable=False),
        sa.Column("address", sa.String(64), nullable=False),
        _when("made_at", now=True),
        sa.ForeignKeyConstraint(
            ["school_id"], ["school.id"], name=op.f("fk_record_entry_school_id_school")
        ),
        _of_teacher("record_entry", "by_id"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_record_entry")),
        sa.CheckConstraint(
            "deed IN ({})".format(", ".join(f"'{deed}'" for deed in _DEEDS)),
            name=op.f("ck_record_entry_deed_known"),
        ),
    )
    op.create_index(op.f("ix_record_entry_school_id_id"), "record_entry", ["school_id", "id"])
    op.execute(
        """
        CREATE FUNCTION keep_record() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
            IF TG_OP = 'DELETE' AND current_setting('noema.forgetting', true) = 'on' THEN
                RETURN OLD;
            END IF;
            RAISE EXCEPTION 'a line of the record is never changed or removed';
        END $$
        """
    )
    op.execute(
        "CREATE TRIGGER record_is_kept BEFORE UPDATE OR DELETE ON record_entry"
        " FOR EACH ROW EXECUTE FUNCTION keep_record()"
    )


def downgrade() -> None:
    refuse_loss("record_entry", "recovery_code", "code_secret", "one_use_link")
    op.drop_table("record_entry")
    op.execute("DROP FUNCTION keep_record()")
    op.drop_table("recovery_code")
    op.drop_table("code_secret")
    op.drop_table("one_use_link")
    op.drop_column("log_in", "device")
    op.drop_column("school", "record_months")
