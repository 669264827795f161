"""The tables, with the rules the database itself holds. Times are UTC."""

from datetime import date, datetime
from enum import Enum

from sqlalchemy import (
    CheckConstraint,
    ForeignKey,
    MetaData,
    String,
    UniqueConstraint,
    func,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB, TIMESTAMP
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

from noema.core.colour.names import WarmBlue
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.judging.review import ReviewState
from noema.core.pigments.drying import Binder
from noema.core.progress.states import PhotoState
from noema.core.sheet.paper import Paper

Json = dict[str, object]

RECORDED_VERBS = (
    "accept",
    "send-back",
    "leave-out",
    "count",
    "overrule",
    "undo",
    "match",
    "set-aside",
)


class Base(DeclarativeBase):
    """The common ground of all tables."""

    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(column_0_N_label)s",
            "uq": "uq_%(table_name)s_%(column_0_N_name)s",
            "ck": "ck_%(table_name)s_%(constraint_name)s",
            "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
            "pk": "pk_%(table_name)s",
        }
    )
    type_annotation_map = {
        datetime: TIMESTAMP(timezone=True),
        Json: JSONB,
        list[str]: JSONB,
        list[float]: JSONB,
        list[Json]: JSONB,
    }


def _one_of(column: str, members: type[Enum]) -> CheckConstraint:
    allowed = ", ".join(f"'{member.value}'" for member in members)
    return CheckConstraint(f"{column} IN ({allowed})", name=f"{column}_known")


def _now() -> Mapped[datetime]:
    return mapped_column(server_default=func.now())


class School(Base):
    """A school; everything else belongs to one."""

    __tablename__ = "school"
    __table_args__ = (_one_of("warm_blue", WarmBlue),)
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(120), unique=True)
    hue_names: Mapped[Json | None]  # hue100 by name; none: the usual table
    warm_blue: Mapped[str] = mapped_column(String(20), server_default=WarmBlue.VIOLET.value)
    made_at: Mapped[datetime] = _now()


class Teacher(Base):
    """Somebody who may see their school's classes."""

    __tablename__ = "teacher"
    __table_args__ = (CheckConstraint("email = lower(email)", name="email_lower"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), index=True)
    email: Mapped[str] = mapped_column(String(254), unique=True)
    display_name: Mapped[str] = mapped_column(String(80))
    password_hash: Mapped[str] = mapped_column(String(200))
    made_at: Mapped[datetime] = _now()


class SchoolClass(Base):
    """A class and its unit of weeks."""

    __tablename__ = "school_class"
    __table_args__ = (
        UniqueConstraint("school_id", "name"),
        CheckConstraint("unit_weeks BETWEEN 1 AND 52", name="unit_weeks_sane"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), index=True)
    name: Mapped[str] = mapped_column(String(80))
    unit_starts_on: Mapped[date]
    unit_weeks: Mapped[int]
    made_at: Mapped[datetime] = _now()


class Student(Base):
    """A student: a name to be called by and nothing more."""

    __tablename__ = "student"
    __table_args__ = (CheckConstraint("length(display_name) > 0", name="named"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), index=True)
    display_name: Mapped[str] = mapped_column(String(60))
    made_at: Mapped[datetime] = _now()


class Enrolment(Base):
    """A student in a class."""

    __tablename__ = "enrolment"
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id"), primary_key=True)
    student_id: Mapped[int] = mapped_column(ForeignKey("student.id"), primary_key=True, index=True)


class PaintSetRow(Base):
    """A set of tubes a school put together; the built-in sets aren't in the database."""

    __tablename__ = "paint_set"
    __table_args__ = (UniqueConstraint("school_id", "name"), _one_of("binder", Binder))
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), index=True)
    name: Mapped[str] = mapped_column(String(60))
    binder: Mapped[str] = mapped_column(String(20))
    tubes: Mapped[list[str]]  # names, in the order they are laid out
    made_at: Mapped[datetime] = _now()


class OwnTubeRow(Base):
    """A tube of the school's own, fitted to its measured swatches."""

    __tablename__ = "own_tube"
    __table_args__ = (
        UniqueConstraint("school_id", "name"),
        CheckConstraint("name LIKE 'own-%'", name="named_own"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), index=True)
    name: Mapped[str] = mapped_column(String(60))
    label: Mapped[str] = mapped_column(String(60))
    base: Mapped[str] = mapped_column(String(40))  # the built-in tube it was bent from
    absorption: Mapped[list[float]]  # K, 31 bands
    scattering: Mapped[list[float]]  # S, 31 bands
    swatches: Mapped[list[Json]]  # label, mixed_with, lab
    misses: Mapped[list[float]]  # CIEDE2000, a swatch each
    made_at: Mapped[datetime] = _now()


class Assignment(Base):
    """An exercise given to a class."""

    __tablename__ = "assignment"
    __table_args__ = (
        _one_of("medium", Medium),
        _one_of("level", Level),
        _one_of("key", Key),
        _one_of("paper", Paper),
        CheckConstraint("due_week BETWEEN 1 AND 52", name="due_week_sane"),
        # Only the plain value scale needs no paints; it is worked out from its steps and medium.
        CheckConstraint("(asked IS NULL) = (paints IS NULL)", name="asked_of_paints"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id"), index=True)
    stem: Mapped[str] = mapped_column(String(4), unique=True)  # of its sheets' codes
    kind: Mapped[str] = mapped_column(String(40))
    title: Mapped[str] = mapped_column(String(120))
    options: Mapped[Json]  # what was chosen of the kind, such as {"steps": 9}
    set_ref: Mapped[str | None] = mapped_column(String(60))  # the set it was chosen from
    paints: Mapped[Json | None]  # format noema-set/1, as the set was then
    asked: Mapped[Json | None]  # what is expected of every cell, as it was worked out then
    tolerance: Mapped[Json]  # hue, value, chroma
    grey_only: Mapped[bool] = mapped_column(server_default=text("false"))
    shows_parts: Mapped[bool] = mapped_column(server_default=text("false"))
    key_photograph_id: Mapped[int | None] = mapped_column(ForeignKey("photograph.id"))
    key_labs: Mapped[Json | None]  # Lab by cell of the teacher's sheet, once approved
    medium: Mapped[str] = mapped_column(String(20))
    level: Mapped[str] = mapped_column(String(20))
    key: Mapped[str] = mapped_column(String(20))
    paper: Mapped[str] = mapped_column(String(20))
    due_week: Mapped[int]
    assigned_by: Mapped[int] = mapped_column(ForeignKey("teacher.id"))
    assigned_at: Mapped[datetime] = _now()


class Sheet(Base):
    """One printed worksheet; a student gets another for a redo. Without one it is the teacher's."""

    __tablename__ = "sheet"
    __table_args__ = (
        UniqueConstraint("assignment_id", "student_id", "attempt"),
        UniqueConstraint("assignment_id", "number"),
        CheckConstraint("attempt >= 1", name="attempt_positive"),
        CheckConstraint("number BETWEEN 1 AND 999", name="number_sane"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    assignment_id: Mapped[int] = mapped_column(ForeignKey("assignment.id"))
    student_id: Mapped[int | None] = mapped_column(ForeignKey("student.id"), index=True)
    attempt: Mapped[int]
    number: Mapped[int]
    code: Mapped[str] = mapped_column(String(8), unique=True)
    layout: Mapped[Json]  # format noema-sheet/1, as printed
    printed_at: Mapped[datetime] = _now()


class Pile(Base):
    """Photographs handed in together."""

    __tablename__ = "pile"
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), index=True)
    teacher_id: Mapped[int] = mapped_column(ForeignKey("teacher.id"))
    made_at: Mapped[datetime] = _now()


class Photograph(Base):
    """A photograph as received; its bytes lie in the file store under their SHA-256."""

    __tablename__ = "photograph"
    __table_args__ = (
        UniqueConstraint("school_id", "sha256"),
        _one_of("state", PhotoState),
        CheckConstraint("length(sha256) = 64", name="sha256_whole"),
        CheckConstraint("state <> 'read' OR sheet_id IS NOT NULL", name="read_has_sheet"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"))
    pile_id: Mapped[int] = mapped_column(ForeignKey("pile.id"), index=True)
    sheet_id: Mapped[int | None] = mapped_column(ForeignKey("sheet.id"), index=True)
    sha256: Mapped[str] = mapped_column(String(64))
    size_bytes: Mapped[int]
    megapixels: Mapped[float]
    original_name: Mapped[str] = mapped_column(String(200))
    state: Mapped[str] = mapped_column(String(20), default=PhotoState.READING.value)
    reason: Mapped[str | None] = mapped_column(String(300))  # why it isn't read, for people
    code_seen: Mapped[str | None] = mapped_column(String(40))  # a code that is none of ours
    received_at: Mapped[datetime] = _now()


class ReadingRow(Base):
    """What one version of the reader made of a photograph."""

    __tablename__ = "reading"
    __table_args__ = (UniqueConstraint("photograph_id", "sheet_id", "reader"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    photograph_id: Mapped[int] = mapped_column(ForeignKey("photograph.id"))
    sheet_id: Mapped[int] = mapped_column(ForeignKey("sheet.id"), index=True)
    reader: Mapped[str] = mapped_column(String(40))
    body: Mapped[Json]  # the contract's reading JSON
    straight_sha256: Mapped[str | None] = mapped_column(String(64))  # the sheet seen squarely
    made_at: Mapped[datetime] = _now()


class JudgementRow(Base):
    """One reading judged under one key, level and version of the judge."""

    __tablename__ = "judgement"
    __table_args__ = (UniqueConstraint("reading_id", "judge", "key", "level"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    reading_id: Mapped[int] = mapped_column(ForeignKey("reading.id"))
    judge: Mapped[str] = mapped_column(String(40))
    key: Mapped[str] = mapped_column(String(20))
    level: Mapped[str] = mapped_column(String(20))
    body: Mapped[Json]
    tally: Mapped[Json]  # the body boiled down, for tables that show hundreds
    sentence: Mapped[str] = mapped_column(String(400))
    made_at: Mapped[datetime] = _now()


class ReviewRow(Base):
    """The teacher's word on an attempt: the record of decisions, folded for searching."""

    __tablename__ = "review"
    __table_args__ = (_one_of("state", ReviewState),)
    photograph_id: Mapped[int] = mapped_column(ForeignKey("photograph.id"), primary_key=True)
    judgement_id: Mapped[int] = mapped_column(ForeignKey("judgement.id"))  # the current one
    state: Mapped[str] = mapped_column(String(20), default=ReviewState.OPEN.value, index=True)
    sentence: Mapped[str | None] = mapped_column(String(400))
    left_out: Mapped[list[str]] = mapped_column(default=list)
    overruled: Mapped[Json] = mapped_column(default=dict)
    standing: Mapped[int] = mapped_column(default=0)
    changed_at: Mapped[datetime] = mapped_column(server_default=func.now(), onupdate=func.now())


class DecisionRow(Base):
    """Who decided what and when; the database refuses to change or remove a line."""

    __tablename__ = "decision"
    __table_args__ = (
        CheckConstraint(
            f"verb IN ({', '.join(repr(verb) for verb in RECORDED_VERBS)})", name="verb_known"
        ),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    photograph_id: Mapped[int] = mapped_column(ForeignKey("photograph.id"), index=True)
    teacher_id: Mapped[int] = mapped_column(ForeignKey("teacher.id"))
    verb: Mapped[str] = mapped_column(String(20))
    cell: Mapped[str | None] = mapped_column(String(20))
    verdict: Mapped[str | None] = mapped_column(String(20))
    sentence: Mapped[str | None] = mapped_column(String(400))
    made_at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())
