"""A school's calendar and what its classes are to do in time."""

from datetime import date, datetime

from sqlalchemy import CheckConstraint, ForeignKey, String, UniqueConstraint, text
from sqlalchemy.orm import Mapped, mapped_column

from noema.core.planning.lay_out import ThingState
from noema.core.planning.register import RegisterMark
from noema.store.base import SECRET, Base, Json, made_now, one_of


class SchoolCalendar(Base):
    """The days a school plans in, its periods and its rooms."""

    __tablename__ = "school_calendar"
    __table_args__ = (CheckConstraint("ends_on >= begins_on", name="ends_later"),)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), primary_key=True)
    begins_on: Mapped[date]
    ends_on: Mapped[date]
    holidays: Mapped[list[Json]]  # first, last and name
    rooms: Mapped[list[Json]]  # as in a noema-frame/1
    periods: Mapped[list[Json]] = mapped_column(server_default=text("'[]'"))  # name, start, minutes


class ClassUnit(Base):
    """A class's lessons in the week, what it is to do, and when that was planned."""

    __tablename__ = "class_unit"
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id"), primary_key=True)
    frame: Mapped[Json]  # the class's part of a noema-frame/1
    before: Mapped[Json | None]  # frame and plan before
    asked: Mapped[int] = mapped_column(server_default=text("1"))  # counts changes of the frame
    planned: Mapped[int] = mapped_column(server_default=text("0"))  # the change planned last
    plan: Mapped[Json | None]  # steps by wish, what's unmet
    # The hash of the private word at which its lessons can be subscribed to.
    feed_token_sha256: Mapped[str | None] = mapped_column(String(64), unique=True, info=SECRET)
    changed_at: Mapped[datetime] = made_now()


class LessonWent(Base):
    """How the painting of one exercise went in a lesson, as its teacher said."""

    __tablename__ = "lesson_went"
    __table_args__ = (
        CheckConstraint("planned_min > 0", name="planned_positive"),
        CheckConstraint("factor > 0", name="factor_positive"),
        CheckConstraint("unfinished BETWEEN 0 AND 1", name="unfinished_share"),
    )
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id"), primary_key=True)
    lesson: Mapped[str] = mapped_column(String(16), primary_key=True)  # at the school's clock
    wish: Mapped[str] = mapped_column(String(40), primary_key=True)
    kind: Mapped[str] = mapped_column(String(40))
    medium: Mapped[str] = mapped_column(String(20))
    planned_min: Mapped[float]
    factor: Mapped[float]  # on usual minutes, that it was planned with
    over_min: Mapped[float]
    unfinished: Mapped[float]  # share of sheets
    made_at: Mapped[datetime] = made_now()


class LessonMark(Base):
    """A student who wasn't there for all of a lesson."""

    __tablename__ = "lesson_mark"
    __table_args__ = (one_of("mark", RegisterMark),)
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id"), primary_key=True)
    lesson: Mapped[str] = mapped_column(String(16), primary_key=True)  # at the school's clock
    student_id: Mapped[int] = mapped_column(ForeignKey("student.id"), primary_key=True, index=True)
    mark: Mapped[str] = mapped_column(String(20))
    made_at: Mapped[datetime] = made_now()


class UnitPattern(Base):
    """A unit kept to be given to other classes."""

    __tablename__ = "unit_pattern"
    __table_args__ = (UniqueConstraint("school_id", "name"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), index=True)
    name: Mapped[str] = mapped_column(String(80))
    wishes: Mapped[list[Json]]  # as in a noema-frame/1
    made_at: Mapped[datetime] = made_now()


class LessonPaint(Base):
    """What a lesson that is past took of a paint."""

    __tablename__ = "lesson_paint"
    __table_args__ = (
        CheckConstraint("expected_ml > 0", name="expected_positive"),
        CheckConstraint("used_ml >= 0", name="used_not_negative"),
    )
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id"), primary_key=True)
    lesson: Mapped[str] = mapped_column(String(16), primary_key=True)  # at the school's clock
    tube: Mapped[str] = mapped_column(String(60), primary_key=True)
    medium: Mapped[str] = mapped_column(String(20), primary_key=True)
    label: Mapped[str] = mapped_column(String(80))
    expected_ml: Mapped[float]  # as is usual
    used_ml: Mapped[float | None]  # as somebody said
    made_at: Mapped[datetime] = made_now()


class PaintContainer(Base):
    """A tube or bottle in a school's cupboard."""

    __tablename__ = "paint_container"
    __table_args__ = (
        CheckConstraint("size_ml > 0 AND size_ml <= 10000", name="size_sane"),
        CheckConstraint("left_ml >= 0 AND left_ml <= size_ml", name="left_within"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), index=True)
    tube: Mapped[str] = mapped_column(String(60))
    medium: Mapped[str] = mapped_column(String(20))
    label: Mapped[str] = mapped_column(String(80))
    size_ml: Mapped[float]
    left_ml: Mapped[float]  # when it was counted
    counted_at: Mapped[datetime] = made_now()
    opened_on: Mapped[date | None]


class ThingLaidOut(Base):
    """A line of what is laid out for a class, that was added, left out or done."""

    __tablename__ = "thing_laid_out"
    __table_args__ = (one_of("state", ThingState),)
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id"), primary_key=True)
    # At the school's clock; none: every lesson of the class.
    lesson: Mapped[str] = mapped_column(String(16), primary_key=True)
    thing: Mapped[str] = mapped_column(String(80), primary_key=True)
    state: Mapped[str] = mapped_column(String(20), primary_key=True)
    made_at: Mapped[datetime] = made_now()
