"""Passkeys"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import TIMESTAMP

from noema.store.going_back import refuse_loss

revision = "0031"
down_revision = "0030"
branch_labels = None
depends_on = None

_DEEDS = (
    "came in", "turned away", "password set", "password forgotten", "e-mail changed",
    "codes asked for", "codes not asked for", "log-ins ended", "invited", "role changed",
    "disabled", "enabled", "removed", "class shared", "class not shared", "exported", "erased",
    "card replaced", "mailed", "key changed",
)  # fmt: skip
_NEW = ("passkey added", "passkey removed")


def _know(*deeds: str) -> None:
    name = op.f("ck_record_entry_deed_known")
    op.drop_constraint(name, "record_entry")
    known = ", ".join(f"'{deed}'" for deed in deeds)
    op.create_check_constraint(name, "record_entry", f"deed IN ({known})")


def upgrade() -> None:
    op.create_table(
        "passkey",
        sa.Column("id", sa.Integer, nullable=False),
        sa.Column("teacher_id", sa.Integer, nullable=False),
        sa.Column("credential", sa.LargeBinary, nullable=False),
        sa.Column("public_key", sa.LargeBinary, nullable=False),
        sa.Column("uses", sa.BigInteger, nullable=False),
        sa.Column("device", sa.String(120), nullable=False),
        sa.Column(
            "made_at", TIMESTAMP(timezone=True), server_default=sa.func.now(), nullable=False
        ),
        sa.ForeignKeyConstraint(
            ["teacher_id"], ["teacher.id"], name=op.f("fk_passkey_teacher_id_teacher")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_passkey")),
        sa.UniqueConstraint("credential", name=op.f("uq_passkey_credential")),
    )
    op.create_index(op.f("ix_passkey_teacher_id"), "passkey", ["teacher_id"])
    _know(*_DEEDS, *_NEW)


def downgrade() -> None:
    new = ", ".join(f"'{deed}'" for deed in _NEW)
    refuse_loss("passkey", f"record_entry WHERE deed IN ({new})")
    _know(*_DEEDS)
    op.drop_table("passkey")
