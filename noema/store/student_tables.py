"""What students do themselves, and what other systems call things."""

from datetime import datetime

from sqlalchemy import CheckConstraint, ForeignKey, String, UniqueConstraint, false, func
from sqlalchemy.orm import Mapped, mapped_column

from noema.store.base import SECRET, Base, Json, made_now


class SelfCheck(Base):
    """Which cells a student thought would hold, said before the reading was shown."""

    __tablename__ = "self_check"
    photograph_id: Mapped[int] = mapped_column(ForeignKey("photograph.id"), primary_key=True)
    thinks: Mapped[list[str] | None]  # cells; none: they chose not to say
    made_at: Mapped[datetime] = made_now()


class Upload(Base):
    """A photograph on its way from a student's device, piece by piece."""

    __tablename__ = "upload"
    __table_args__ = (CheckConstraint("size_bytes > 0", name="size_positive"),)
    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    student_id: Mapped[int] = mapped_column(ForeignKey("student.id"), index=True)
    assignment_id: Mapped[int] = mapped_column(ForeignKey("assignment.id"))
    name: Mapped[str] = mapped_column(String(200))
    size_bytes: Mapped[int]
    photograph_id: Mapped[int | None] = mapped_column(ForeignKey("photograph.id"))  # once whole
    another_of_id: Mapped[int | None] = mapped_column(
        ForeignKey("photograph.id", ondelete="SET NULL", deferrable=True, initially="DEFERRED")
    )
    made_at: Mapped[datetime] = made_now()


class Sourced(Base):
    """A record as another system of the school sent it, under that system's own identifier."""

    __tablename__ = "sourced"
    __table_args__ = (UniqueConstraint("school_id", "kind", "sourced_id"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"))
    kind: Mapped[str] = mapped_column(String(20))  # users, classes, enrollments, …
    sourced_id: Mapped[str] = mapped_column(String(255))
    body: Mapped[Json]  # the line, column by column
    class_id: Mapped[int | None] = mapped_column(ForeignKey("school_class.id"), index=True)
    student_id: Mapped[int | None] = mapped_column(ForeignKey("student.id"), index=True)


class LeavingFile(Base):
    """A file whose rows are gone, until it has left the file store."""

    __tablename__ = "leaving_file"
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), primary_key=True)
    sha256: Mapped[str] = mapped_column(String(64), primary_key=True)
    made_at: Mapped[datetime] = made_now()


class LogIn(Base):
    """Somebody who came in on one device, until they leave, are shown out, or time is up."""

    __tablename__ = "log_in"
    __table_args__ = (
        CheckConstraint("(teacher_id IS NULL) <> (student_id IS NULL)", name="one_person"),
    )
    token_sha256: Mapped[str] = mapped_column(String(64), primary_key=True, info=SECRET)
    teacher_id: Mapped[int | None] = mapped_column(ForeignKey("teacher.id"), index=True)
    student_id: Mapped[int | None] = mapped_column(ForeignKey("student.id"), index=True)
    made_at: Mapped[datetime] = made_now()
    seen_at: Mapped[datetime] = made_now()
    ends_at: Mapped[datetime] = mapped_column(index=True)
    device: Mapped[str] = mapped_column(String(120), server_default="")  # as its browser says


class Guess(Base):
    """Wrong tries to come in as somebody, or from somewhere."""

    __tablename__ = "guess"
    of_sha256: Mapped[str] = mapped_column(String(64), primary_key=True)
    wrong: Mapped[float]
    noted_at: Mapped[datetime] = mapped_column(index=True)


class KeptLook(Base):
    """A look at what a camera sees, and what it saw."""

    __tablename__ = "look"
    name: Mapped[str] = mapped_column(String(32), primary_key=True)
    is_over: Mapped[bool] = mapped_column(server_default=false())
    saw: Mapped[Json | None]
    made_at: Mapped[datetime] = mapped_column(server_default=func.now(), index=True)


class SentForm(Base):
    """A form that was sent and done."""

    __tablename__ = "sent_form"
    once: Mapped[str] = mapped_column(String(32), primary_key=True)
    made_at: Mapped[datetime] = mapped_column(server_default=func.now(), index=True)


class UnderWayRow(Base):
    """Something long that fills a school just now."""

    __tablename__ = "under_way"
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), primary_key=True)
    name: Mapped[str] = mapped_column(String(80))
    done: Mapped[int]
    total: Mapped[int]
    changed_at: Mapped[datetime]
