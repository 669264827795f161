"""The tables of a school's work, with the rules the database itself holds. Times are UTC."""

from datetime import date, datetime

from sqlalchemy import (
    CheckConstraint,
    ForeignKey,
    Index,
    String,
    UniqueConstraint,
    func,
    text,
)
from sqlalchemy.orm import Mapped, mapped_column

from noema.core.coaching.audience import Audience
from noema.core.colour.names import WarmBlue
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.joining.role import StaffRole
from noema.core.judging.review import ReviewState
from noema.core.language import ENGLISH, LANGUAGES
from noema.core.progress.excuse import Excuse
from noema.core.progress.states import PhotoState
from noema.core.sheet.paper import Paper
from noema.store.base import SECRET, Base, Json, made_now, one_of, one_of_codes

RECORDED_VERBS = (
    "accept",
    "send-back",
    "leave-out",
    "count",
    "overrule",
    "undo",
    "match",
    "set-aside",
    "place",
)
RECORD_ONLY = ("match", "set-aside", "place")
"""Verbs of the record that decide nothing about an attempt."""


class School(Base):
    """A school; everything else belongs to one."""

    __tablename__ = "school"
    __table_args__ = (one_of("warm_blue", WarmBlue), one_of_codes("language", LANGUAGES))
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(120), unique=True)
    hue_names: Mapped[Json | None]  # hue100 by name; none: the usual table
    rubric: Mapped[Json | None]  # level names, weights, mark; none: the usual rubric
    warm_blue: Mapped[str] = mapped_column(String(20), server_default=WarmBlue.VIOLET.value)
    keep_months: Mapped[int | None]  # pictures are kept so long; none: until somebody erases them
    time_zone: Mapped[str] = mapped_column(String(64), server_default="UTC")  # its IANA name
    language: Mapped[str] = mapped_column(String(10), server_default=ENGLISH)  # its ISO 639-1 code
    # Pictures are kept with all that cameras wrote beside them, places too.
    keeps_originals: Mapped[bool] = mapped_column(server_default=text("false"))
    record_months: Mapped[int] = mapped_column(server_default=text("12"))  # of what was done
    paint_lead_days: Mapped[int] = mapped_column(server_default=text("14"))  # from order to shelf
    made_at: Mapped[datetime] = made_now()


class Teacher(Base):
    """Somebody who works at a school: an administrator, a teacher or an assistant."""

    __tablename__ = "teacher"
    __table_args__ = (
        CheckConstraint("email = lower(email)", name="email_lower"),
        one_of("role", StaffRole),
        one_of_codes("language", LANGUAGES),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), index=True)
    email: Mapped[str] = mapped_column(String(254), unique=True)
    display_name: Mapped[str] = mapped_column(String(80))
    role: Mapped[str] = mapped_column(String(20), server_default=StaffRole.TEACHER.value)
    disabled_at: Mapped[datetime | None]  # since then they can't come in
    hides_first_week: Mapped[bool] = mapped_column(server_default=text("false"))  # on Today
    language: Mapped[str | None] = mapped_column(String(10))  # none: the school's
    password_hash: Mapped[str] = mapped_column(String(200), info=SECRET)
    # The hash of the private word at which their classes' lessons can be subscribed to.
    feed_token_sha256: Mapped[str | None] = mapped_column(String(64), unique=True, info=SECRET)
    made_at: Mapped[datetime] = made_now()


class SchoolClass(Base):
    """A class and its unit of weeks."""

    __tablename__ = "school_class"
    __table_args__ = (
        UniqueConstraint("school_id", "name"),
        CheckConstraint("unit_weeks BETWEEN 1 AND 52", name="unit_weeks_sane"),
        one_of("audience", Audience),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), index=True)
    name: Mapped[str] = mapped_column(String(80))
    term: Mapped[str] = mapped_column(String(40), server_default="")  # such as Autumn 2026
    # Students begin with it.
    join_code: Mapped[str] = mapped_column(String(8), unique=True, info=SECRET)
    sees_at_once: Mapped[bool] = mapped_column(server_default=text("false"))  # or after review
    names_colours: Mapped[bool] = mapped_column(server_default=text("false"))  # beside them
    archived_at: Mapped[datetime | None]
    unit_starts_on: Mapped[date]
    unit_weeks: Mapped[int]
    audience: Mapped[str] = mapped_column(String(20), server_default=Audience.TEENAGER.value)
    larger_cells: Mapped[bool] = mapped_column(server_default=text("false"))  # on its sheets
    # By set: what its sheets tell of the tubes.
    tubes: Mapped[Json] = mapped_column(server_default=text("'{}'"))
    made_at: Mapped[datetime] = made_now()


class ClassTeacher(Base):
    """Who teaches or helps in a class."""

    __tablename__ = "class_teacher"
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id"), primary_key=True)
    teacher_id: Mapped[int] = mapped_column(ForeignKey("teacher.id"), primary_key=True, index=True)
    made_at: Mapped[datetime] = made_now()


class Student(Base):
    """A student: a name to be called by and nothing more."""

    __tablename__ = "student"
    __table_args__ = (
        CheckConstraint("length(display_name) > 0", name="named"),
        one_of("audience", Audience),
        one_of_codes("language", LANGUAGES),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), index=True)
    display_name: Mapped[str] = mapped_column(String(60))
    language: Mapped[str | None] = mapped_column(String(10))  # none: their school's
    card_serial: Mapped[int] = mapped_column(server_default=text("1"))  # of the card that counts
    # What helps them, for all they are given.
    larger_cells: Mapped[bool] = mapped_column(server_default=text("false"))
    fewer_steps: Mapped[bool] = mapped_column(server_default=text("false"))
    gentler: Mapped[bool] = mapped_column(server_default=text("false"))
    audience: Mapped[str | None] = mapped_column(String(20))  # none: as their class
    made_at: Mapped[datetime] = made_now()


class Enrolment(Base):
    """A student in a class."""

    __tablename__ = "enrolment"
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id"), primary_key=True)
    student_id: Mapped[int] = mapped_column(ForeignKey("student.id"), primary_key=True, index=True)


class Assignment(Base):
    """An exercise given to a class."""

    __tablename__ = "assignment"
    __table_args__ = (
        one_of("medium", Medium),
        one_of("paper", Paper),
        CheckConstraint("due_week BETWEEN 1 AND 52", name="due_week_sane"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id"), index=True)
    stem: Mapped[str] = mapped_column(String(4), unique=True)  # of its sheets' codes
    kind: Mapped[str] = mapped_column(String(40))
    title: Mapped[str] = mapped_column(String(120))
    title_source: Mapped[Json | None]  # what it says by itself; none: somebody called it so
    options: Mapped[Json]  # what was chosen of the kind, such as {"steps": 9}
    revision: Mapped[int] = mapped_column(server_default=text("1"))  # of its key, held now
    grey_only: Mapped[bool] = mapped_column(server_default=text("false"))
    shows_parts: Mapped[bool] = mapped_column(server_default=text("false"))
    own_tubes: Mapped[bool] = mapped_column(server_default=text("false"))
    printer_id: Mapped[int | None] = mapped_column(ForeignKey("printer.id"))  # that lays its sheets
    medium: Mapped[str] = mapped_column(String(20))
    paper: Mapped[str] = mapped_column(String(20))
    due_week: Mapped[int]
    due_on: Mapped[date | None]  # a day in that week; none: its Friday, or as the unit plans
    withdrawn_at: Mapped[datetime | None]  # since then nobody owes it
    wish: Mapped[str | None] = mapped_column(String(40))  # of the class's unit, that it is
    assigned_by: Mapped[int] = mapped_column(ForeignKey("teacher.id"))
    assigned_at: Mapped[datetime] = made_now()


class StudentTerms(Base):
    """What holds for one student of an assignment, and not for the class."""

    __tablename__ = "student_terms"
    __table_args__ = (one_of("excuse", Excuse),)
    assignment_id: Mapped[int] = mapped_column(ForeignKey("assignment.id"), primary_key=True)
    student_id: Mapped[int] = mapped_column(ForeignKey("student.id"), primary_key=True, index=True)
    due_on: Mapped[date | None]
    excuse: Mapped[str | None] = mapped_column(String(20))
    made_at: Mapped[datetime] = made_now()


class KeyRevision(Base):
    """What an assignment is held against from some time on; none is ever changed."""

    __tablename__ = "key_revision"
    __table_args__ = (
        UniqueConstraint("assignment_id", "number"),
        one_of("level", Level),
        one_of("key", Key),
        # Kept without either at first: a plain value scale, worked out from its steps and medium.
        CheckConstraint("paints IS NULL OR asked IS NOT NULL", name="asked_of_paints"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    assignment_id: Mapped[int] = mapped_column(ForeignKey("assignment.id"))
    number: Mapped[int]  # 1, 2, …
    key: Mapped[str] = mapped_column(String(20))
    key_photograph_id: Mapped[int | None] = mapped_column(ForeignKey("photograph.id"))
    key_labs: Mapped[Json | None]  # Lab by cell of the teacher's sheet, once approved
    level: Mapped[str] = mapped_column(String(20))
    hue_tolerance: Mapped[float | None]  # steps of the hundred-step circle
    value_tolerance: Mapped[float]
    chroma_tolerance: Mapped[float | None]
    set_ref: Mapped[str | None] = mapped_column(String(60))  # the set it was chosen from
    paints: Mapped[Json | None]  # format noema-set/1, as the set was then
    asked: Mapped[Json | None]  # what is expected of every cell, as it was worked out then
    # As the class's sheets showed them, where the key follows them.
    tubes: Mapped[Json | None]
    # What the whole class painted alike, and what its teacher says of it.
    question: Mapped[Json | None]
    difficulty: Mapped[Json | None]  # what hands of known care miss by, by skill and cell
    made_by: Mapped[int | None] = mapped_column(ForeignKey("teacher.id"))  # none: not known
    made_at: Mapped[datetime] = made_now()


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
    cells: Mapped[list[str] | None]  # the only ones on it; none: all of the exercise
    larger_cells: Mapped[bool] = mapped_column(server_default=text("false"))
    printed_at: Mapped[datetime] = made_now()


class Batch(Base):
    """Photographs handed in together, by a teacher or by a student for one assignment."""

    __tablename__ = "batch"
    __table_args__ = (
        CheckConstraint("(teacher_id IS NULL) <> (student_id IS NULL)", name="from_one"),
        CheckConstraint("(student_id IS NULL) = (assignment_id IS NULL)", name="for_assignment"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"), index=True)
    teacher_id: Mapped[int | None] = mapped_column(ForeignKey("teacher.id"))
    student_id: Mapped[int | None] = mapped_column(ForeignKey("student.id"), index=True)
    assignment_id: Mapped[int | None] = mapped_column(ForeignKey("assignment.id"))
    card_id: Mapped[int | None] = mapped_column(ForeignKey("reference_card.id"))  # beside them
    # The photograph whose sheet is pictured once more; deferred, as an archive may hold the two in
    # any order.
    another_of_id: Mapped[int | None] = mapped_column(
        ForeignKey("photograph.id", ondelete="SET NULL", deferrable=True, initially="DEFERRED")
    )
    made_at: Mapped[datetime] = made_now()


class Photograph(Base):
    """A photograph as received; its bytes lie in the file store under their SHA-256."""

    __tablename__ = "photograph"
    __table_args__ = (
        UniqueConstraint("school_id", "sha256", "part"),
        one_of("state", PhotoState),
        CheckConstraint("part BETWEEN 0 AND 99", name="part_sane"),
        CheckConstraint("length(sha256) = 64", name="sha256_whole"),
        CheckConstraint("state <> 'read' OR sheet_id IS NOT NULL", name="read_has_sheet"),
        CheckConstraint("state <> 'read together' OR lead_id IS NOT NULL", name="has_lead"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"))
    batch_id: Mapped[int] = mapped_column(ForeignKey("batch.id"), index=True)
    sheet_id: Mapped[int | None] = mapped_column(ForeignKey("sheet.id"), index=True)
    sha256: Mapped[str] = mapped_column(String(64))
    part: Mapped[int] = mapped_column(server_default=text("0"))  # which of several sheets in it
    scan_sha256: Mapped[str | None] = mapped_column(String(64))  # the PDF it is a page of
    shown_sha256: Mapped[str | None] = mapped_column(String(64))  # a JPEG, where browsers need one
    size_bytes: Mapped[int]
    megapixels: Mapped[float]
    original_name: Mapped[str] = mapped_column(String(200))
    state: Mapped[str] = mapped_column(String(20), default=PhotoState.READING.value)
    reason: Mapped[str | None] = mapped_column(String(300))  # why it isn't read, for people
    code_seen: Mapped[str | None] = mapped_column(String(40))  # a code that is none of ours
    camera: Mapped[str | None] = mapped_column(String(80))  # make and model, as the file says
    outline: Mapped[Json | None]  # where a teacher placed the cells
    # The photograph this one is read together with; deferred, for an archive may hold the two in
    # any order.
    lead_id: Mapped[int | None] = mapped_column(
        ForeignKey("photograph.id", deferrable=True, initially="DEFERRED"), index=True
    )
    picture_gone_at: Mapped[datetime | None]  # when its bytes were removed for good
    tries: Mapped[int] = mapped_column(server_default=text("0"))  # of reading, begun and not ended
    received_at: Mapped[datetime] = made_now()


class ReadingRow(Base):
    """What one version of the reader made of a photograph."""

    __tablename__ = "reading"
    __table_args__ = (UniqueConstraint("photograph_id", "sheet_id", "reader", "basis"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    photograph_id: Mapped[int] = mapped_column(ForeignKey("photograph.id"))
    sheet_id: Mapped[int] = mapped_column(ForeignKey("sheet.id"), index=True)
    reader: Mapped[str] = mapped_column(String(40))
    basis: Mapped[str] = mapped_column(String(80), server_default="")  # what it could go by
    body: Mapped[Json]  # the contract's reading JSON
    straight_sha256: Mapped[str | None] = mapped_column(String(64))  # the sheet seen squarely
    made_at: Mapped[datetime] = made_now()


class JudgementRow(Base):
    """One reading judged by one revision of the key and one version of the judge."""

    __tablename__ = "judgement"
    __table_args__ = (UniqueConstraint("reading_id", "judge", "revision_id", "gentler"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    reading_id: Mapped[int] = mapped_column(ForeignKey("reading.id"))
    judge: Mapped[str] = mapped_column(String(40))
    revision_id: Mapped[int] = mapped_column(ForeignKey("key_revision.id"), index=True)
    gentler: Mapped[bool] = mapped_column(server_default=text("false"))  # than the class
    body: Mapped[Json]
    tally: Mapped[Json]  # the body boiled down, for tables that show hundreds
    advice: Mapped[Json]  # what one sentence says of it, as facts
    moves: Mapped[Json] = mapped_column(server_default=text("'{}'"))  # the next by cell, as facts
    attention: Mapped[float] = mapped_column(server_default=text("1"))  # how much it needs a look
    holds_plainly: Mapped[bool] = mapped_column(server_default=text("false"))
    made_at: Mapped[datetime] = made_now()


class ReviewRow(Base):
    """The teacher's word on an attempt: the record of decisions, folded for searching."""

    __tablename__ = "review"
    __table_args__ = (one_of("state", ReviewState), Index(None, "school_id", "state"))
    photograph_id: Mapped[int] = mapped_column(ForeignKey("photograph.id"), primary_key=True)
    # Of the photograph, so that what waits in one school is found without looking at others.
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"))
    judgement_id: Mapped[int] = mapped_column(ForeignKey("judgement.id"))  # the current one
    state: Mapped[str] = mapped_column(String(20), default=ReviewState.OPEN.value)
    sentence: Mapped[str | None] = mapped_column(String(400))
    left_out: Mapped[list[str]] = mapped_column(default=list)
    overruled: Mapped[Json] = mapped_column(default=dict)
    standing: Mapped[int] = mapped_column(default=0)
    # What one sentence says where the teacher's word changes it.
    advice: Mapped[Json | None]
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


class Phrase(Base):
    """A sentence a school's teachers wrote where something was found, to be offered again."""

    __tablename__ = "phrase"
    __table_args__ = (UniqueConstraint("school_id", "finding", "words"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"))
    finding: Mapped[str] = mapped_column(String(20))  # its kind; "strays" where there was none
    words: Mapped[str] = mapped_column(String(400))
    used_at: Mapped[datetime] = made_now()
