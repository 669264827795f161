"""What students' eyes were asked."""

from datetime import datetime

from sqlalchemy import ForeignKey, Index, String, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from noema.core.seeing.series import SeriesKind
from noema.store.base import Base, Json, made_now, one_of


class EyeSeriesRow(Base):
    """A series of questions to a student's eye."""

    __tablename__ = "eye_series"
    __table_args__ = (
        one_of("kind", SeriesKind),
        Index("ix_eye_series_student_id_id", "student_id", "id"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"))
    student_id: Mapped[int] = mapped_column(ForeignKey("student.id"))
    kind: Mapped[str] = mapped_column(String(20))
    screen: Mapped[Json | None]  # what the screen showed; none: on paper
    asked: Mapped[list[Json]]  # questions with their answers
    found: Mapped[Json | None]  # smallest differences, once it is over
    begun_at: Mapped[datetime] = made_now()
    ended_at: Mapped[datetime | None]


class EyePaperRow(Base):
    """A series that was printed, under the code at its top."""

    __tablename__ = "eye_paper"
    __table_args__ = (UniqueConstraint("school_id", "code"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"))
    printer_id: Mapped[int] = mapped_column(ForeignKey("printer.id"))
    code: Mapped[str] = mapped_column(String(12))
    rows: Mapped[list[Json]]  # questions
    made_at: Mapped[datetime] = made_now()
