"""How people who work at a school come in, and the record of what they did."""

from datetime import datetime

from sqlalchemy import BigInteger, ForeignKey, Index, String
from sqlalchemy.orm import Mapped, mapped_column

from noema.core.joining.deeds import Deed
from noema.core.joining.one_use import LinkPurpose
from noema.store.base import SECRET, Base, made_now, one_of


class OneUseLink(Base):
    """A word that opens one page once: a new password, an invitation, a new e-mail."""

    __tablename__ = "one_use_link"
    __table_args__ = (one_of("purpose", LinkPurpose),)
    token_sha256: Mapped[str] = mapped_column(String(64), primary_key=True, info=SECRET)
    teacher_id: Mapped[int] = mapped_column(ForeignKey("teacher.id"), index=True)
    purpose: Mapped[str] = mapped_column(String(20))
    email: Mapped[str | None] = mapped_column(String(254))  # the new one
    ends_at: Mapped[datetime]
    made_at: Mapped[datetime] = made_now()


class CodeSecret(Base):
    """What somebody's time-based codes are worked out from (RFC 6238)."""

    __tablename__ = "code_secret"
    teacher_id: Mapped[int] = mapped_column(ForeignKey("teacher.id"), primary_key=True)
    token: Mapped[str] = mapped_column(String(64), info=SECRET)
    confirmed_at: Mapped[datetime | None]  # codes are asked for since then
    last_step: Mapped[int] = mapped_column(BigInteger, default=0)  # no code is taken twice


class RecoveryCode(Base):
    """A code that lets somebody in once who lost what makes their codes."""

    __tablename__ = "recovery_code"
    token_sha256: Mapped[str] = mapped_column(String(64), primary_key=True, info=SECRET)
    teacher_id: Mapped[int] = mapped_column(ForeignKey("teacher.id"), index=True)
    made_at: Mapped[datetime] = made_now()


class Passkey(Base):
    """A public key by which somebody comes in (W3C Web Authentication)."""

    __tablename__ = "passkey"
    id: Mapped[int] = mapped_column(primary_key=True)
    teacher_id: Mapped[int] = mapped_column(ForeignKey("teacher.id"), index=True)
    credential: Mapped[bytes] = mapped_column(unique=True)
    public_key: Mapped[bytes]
    uses: Mapped[int] = mapped_column(BigInteger)
    device: Mapped[str] = mapped_column(String(120))
    made_at: Mapped[datetime] = made_now()


class RecordEntry(Base):
    """Something that was done; the database refuses to change or remove a line but by its age."""

    __tablename__ = "record_entry"
    __table_args__ = (one_of("deed", Deed), Index(None, "school_id", "id"))
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"))
    deed: Mapped[str] = mapped_column(String(40))
    by_id: Mapped[int | None] = mapped_column(ForeignKey("teacher.id"))  # none: nobody known
    by_name: Mapped[str] = mapped_column(String(120))  # as they were called then
    about: Mapped[str] = mapped_column(String(200))  # whom or what
    address: Mapped[str] = mapped_column(String(64))  # from where
    made_at: Mapped[datetime] = made_now()
