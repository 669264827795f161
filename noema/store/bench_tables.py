"""What is practised at the mixing bench."""

from datetime import date, datetime

from sqlalchemy import CheckConstraint, ForeignKey, String
from sqlalchemy.orm import Mapped, mapped_column

from noema.store.base import Base, Json, made_now


class BenchTaskRow(Base):
    """A task a teacher gave a class to practise."""

    __tablename__ = "bench_task"
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"))
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id"), index=True)
    title: Mapped[str] = mapped_column(String(80))  # the teacher's own; empty: the task's
    task: Mapped[Json]
    paints: Mapped[Json]  # format noema-set/1
    due_on: Mapped[date | None]
    made_at: Mapped[datetime] = made_now()


class BenchPracticeRow(Base):
    """One go at a task, by a student or a teacher; what was done is its acts."""

    __tablename__ = "bench_practice"
    __table_args__ = (
        CheckConstraint("(teacher_id IS NULL) <> (student_id IS NULL)", name="one_person"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"))
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id"), index=True)
    student_id: Mapped[int | None] = mapped_column(ForeignKey("student.id"), index=True)
    teacher_id: Mapped[int | None] = mapped_column(ForeignKey("teacher.id"), index=True)
    task_id: Mapped[int | None] = mapped_column(ForeignKey("bench_task.id"), index=True)
    task: Mapped[Json]
    paints: Mapped[Json]  # format noema-set/1
    played: Mapped[Json]  # format noema-bench/1
    foreseen: Mapped[list[Json]]  # what was said of a touch before it, and what came true
    asked: Mapped[int] = mapped_column(server_default="0")  # answers that were asked for
    away: Mapped[float | None]  # CIEDE2000 to go, at the end
    touches: Mapped[int] = mapped_column(server_default="0")
    begun_at: Mapped[datetime] = made_now()
    ended_at: Mapped[datetime | None]
