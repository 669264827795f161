"""Everything of a school or a class as rows, out of the tables and into empty ones."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from datetime import date, datetime
from itertools import islice
from random import SystemRandom
from typing import Any

from sqlalchemy import (
    Column,
    ColumnElement,
    Connection,
    Date,
    DateTime,
    Select,
    Table,
    false,
    func,
    insert,
    or_,
    select,
    text,
    true,
    update,
)
from sqlalchemy.orm import Session

from noema.core.joining.card import draw_code
from noema.store import (
    account_tables,
    bench_tables,
    eye_tables,
    logbook_tables,
    paint_tables,  # noqa: F401  kept too
    picture_tables,
    planning_tables,
    student_tables,
    trial_tables,  # noqa: F401  known too
)
from noema.store import tables as t
from noema.store.base import Base
from noema.store.people import NO_PASSWORD

_ORDER = (
    "school", "teacher", "school_class", "class_teacher", "student", "enrolment", "paint_set",
    "own_tube", "printer", "reference_card", "assignment", "student_terms", "key_revision",
    "sheet", "batch",
    "photograph", "reading", "judgement", "review", "decision", "phrase", "self_check", "upload",
    "sourced", "school_calendar", "class_unit", "lesson_went", "lesson_mark", "unit_pattern",
    "lesson_paint", "paint_container", "record_entry", "thing_laid_out", "bench_task",
    "bench_practice", "eye_series", "eye_paper", "picture", "picture_spot", "picture_ranking",
    "held_photograph", "logbook_entry",
)  # fmt: skip
"""Tables, each after those it speaks of; the photograph that is a key is put in last."""

NOT_KEPT = (
    "code_secret", "guess", "leaving_file", "log_in", "look", "one_use_link", "passkey",
    "recovery_code", "sent_form", "trial_sheet",
    "under_way",
)  # fmt: skip
"""Tables of what goes on just now, which are no part of a school's record."""

_PUT_LAST = ("key_revision", "key_photograph_id")
_AT_ONCE = 50  # a reading of many cells takes a megabyte once it is unpacked

_AnySelect = Select[*tuple[Any, ...]]
Row = dict[str, Any]


def tables_in_order() -> tuple[Table, ...]:
    """Give every table in the order in which rows can come back."""
    known = {table.name: table for table in Base.metadata.tables.values()}
    return tuple(known[name] for name in _ORDER)


def rows_of(
    session: Session, school_id: int, class_id: int | None = None
) -> Iterator[tuple[str, Iterator[Row]]]:
    """Give a school's tables, or what one of its classes rests on, with rows as they come.

    Each table's rows are read before the next table; values are plain.
    """
    scopes = scopes_of(school_id, class_id)
    for name in _ORDER:
        yield name, rows_of_table(session, name, scopes[name])


def rows_of_table(
    session: Session, name: str, which: ColumnElement[bool] | None = None
) -> Iterator[Row]:
    """Give a table's rows, or some of them, as they come; plain values, no secrets."""
    table = Base.metadata.tables[name]
    ids = [*table.primary_key.columns]
    told = select(*told_columns(table)).where(true() if which is None else which).order_by(*ids)
    rows = session.execute(told, execution_options={"yield_per": _AT_ONCE}).mappings()
    return (_plain(dict(row)) for row in rows)


def told_columns(table: Table) -> list[Column[Any]]:
    """Give a table's columns but for secrets, and for what the database works out itself."""
    return [
        column
        for column in table.columns
        if not column.info.get("secret") and column.computed is None
    ]


def schema_version(session: Session) -> str:
    """Which migration are the tables at?"""
    return str(session.scalar(text("SELECT version_num FROM alembic_version")))


def is_empty(session: Session) -> bool:
    """Is there no school yet?"""
    return session.scalar(select(t.School.id).limit(1)) is None


def put_rows(session: Session, rows: Callable[[str], Iterable[Row]]) -> None:
    """Put rows, given by table, into empty tables under the numbers they had.

    Numbering goes on after them.
    """
    late_table, late_column = _PUT_LAST
    late: list[tuple[int, int]] = []
    for table in tables_in_order():
        values = (typed(table, row) | new_secrets(table) for row in rows(table.name))
        for some in batched(values):
            if table.name == late_table:
                late += [(row["id"], row[late_column]) for row in some if row[late_column]]
                some = [{**row, late_column: None} for row in some]
            session.execute(insert(table), some)
        go_on_numbering(session.connection(), table)
    revisions = Base.metadata.tables[late_table]
    for number, photograph in late:
        session.execute(
            update(revisions).where(revisions.c.id == number).values({late_column: photograph})
        )


def batched(rows: Iterable[Row]) -> Iterator[list[Row]]:
    """Give rows some at a time, as many as one statement takes."""
    left = iter(rows)
    while some := list(islice(left, _AT_ONCE)):
        yield some


def files_of_row(table: str, row: Row) -> frozenset[str]:
    """Which files does a row rest on, by SHA-256? Rows of an older Noema may have fewer columns."""
    wanted: set[str | None] = set()
    if table == "photograph" and row.get("picture_gone_at") is None:
        wanted = {row["sha256"], row.get("scan_sha256"), row.get("shown_sha256")}
    elif table == "reading":
        wanted = {row.get("straight_sha256")}
    elif table == "picture":
        wanted = {row["sha256"], row["shown_sha256"], row["small_sha256"]}
    elif table == "held_photograph":
        wanted = {row["sha256"]}
    elif table == "printer":
        wanted = {look.get("photograph") for look in row["measured"]}
    return frozenset(name for name in wanted if name is not None)


def scopes_of(school_id: int, class_id: int | None = None) -> dict[str, ColumnElement[bool]]:
    """Say which rows are a school's, or what one of its classes rests on, by table."""
    classes = select(t.SchoolClass.id).where(t.SchoolClass.school_id == school_id)
    students: _AnySelect = select(t.Student.id).where(t.Student.school_id == school_id)
    if class_id is not None:
        classes = classes.where(t.SchoolClass.id == class_id)
        painted = (
            select(t.Sheet.student_id)
            .join(t.Assignment, t.Assignment.id == t.Sheet.assignment_id)
            .where(t.Assignment.class_id == class_id, t.Sheet.student_id.is_not(None))
        )
        enrolled = select(t.Enrolment.student_id).where(t.Enrolment.class_id == class_id)
        students = students.where(or_(t.Student.id.in_(enrolled), t.Student.id.in_(painted)))
    given = select(t.Assignment.id).where(t.Assignment.class_id.in_(classes))
    sheets = select(t.Sheet.id).where(t.Sheet.assignment_id.in_(given))
    photos: _AnySelect = select(t.Photograph.id).where(t.Photograph.school_id == school_id)
    batches: _AnySelect = select(t.Batch.id).where(t.Batch.school_id == school_id)
    if class_id is not None:
        photos = photos.where(t.Photograph.sheet_id.in_(sheets))
        batches = select(t.Photograph.batch_id).where(t.Photograph.id.in_(photos))
    readings = select(t.ReadingRow.id).where(
        t.ReadingRow.photograph_id.in_(photos), t.ReadingRow.sheet_id.in_(sheets)
    )
    pictures = _of_class(picture_tables.PictureRow, classes, students)
    of_pictures = select(picture_tables.PictureRow.id).where(pictures)
    whole = {
        table.name: table.c.school_id == school_id
        for table in Base.metadata.tables.values()
        if "school_id" in table.c
    }
    return whole | {
        "school": t.School.id == school_id,
        "school_class": t.SchoolClass.id.in_(classes),
        "student": t.Student.id.in_(students),
        "enrolment": t.Enrolment.class_id.in_(classes) & t.Enrolment.student_id.in_(students),
        "assignment": t.Assignment.id.in_(given),
        "student_terms": t.StudentTerms.assignment_id.in_(given)
        & t.StudentTerms.student_id.in_(students),
        "key_revision": t.KeyRevision.assignment_id.in_(given),
        "sheet": t.Sheet.id.in_(sheets),
        "batch": t.Batch.id.in_(batches),
        "photograph": t.Photograph.id.in_(photos),
        "reading": t.ReadingRow.id.in_(readings),
        "judgement": t.JudgementRow.reading_id.in_(readings),
        "review": t.ReviewRow.photograph_id.in_(photos),
        "decision": t.DecisionRow.photograph_id.in_(photos),
        "self_check": student_tables.SelfCheck.photograph_id.in_(photos),
        "upload": student_tables.Upload.photograph_id.in_(photos),
        "sourced": _sourced(school_id, class_id, classes, students),
        "class_teacher": t.ClassTeacher.class_id.in_(classes),
        # What was done at a school is told with the school alone.
        "record_entry": (account_tables.RecordEntry.school_id == school_id)
        if class_id is None
        else false(),
        "class_unit": planning_tables.ClassUnit.class_id.in_(classes),
        "lesson_mark": planning_tables.LessonMark.class_id.in_(classes)
        & planning_tables.LessonMark.student_id.in_(students),
        "lesson_went": planning_tables.LessonWent.class_id.in_(classes),
        "lesson_paint": planning_tables.LessonPaint.class_id.in_(classes),
        "thing_laid_out": planning_tables.ThingLaidOut.class_id.in_(classes),
        "bench_task": bench_tables.BenchTaskRow.class_id.in_(classes),
        "logbook_entry": logbook_tables.LogbookRow.school_id == school_id
        if class_id is None
        else _of_class(logbook_tables.LogbookRow, classes, students),
        "picture": pictures,
        "picture_spot": picture_tables.PictureSpotRow.picture_id.in_(of_pictures),
        "picture_ranking": picture_tables.PictureRankingRow.picture_id.in_(of_pictures),
        "held_photograph": _of_class(picture_tables.HeldRow, classes, students),
        "eye_series": eye_tables.EyeSeriesRow.student_id.in_(students),
        "bench_practice": _of_class(bench_tables.BenchPracticeRow, classes, students),
    }


def _of_class(table: Any, classes: Any, students: Any) -> ColumnElement[bool]:
    """Say which rows are some classes' own, or their students'."""
    nobodys = table.student_id.is_(None)
    mine: ColumnElement[bool] = table.class_id.in_(classes) & or_(
        nobodys, table.student_id.in_(students)
    )
    return mine


def _sourced(school_id: int, class_id: int | None, classes: Any, students: Any) -> Any:
    table = student_tables.Sourced
    mine = table.school_id == school_id
    if class_id is None:
        return mine
    return mine & or_(table.class_id.in_(classes), table.student_id.in_(students))


def _plain(row: Mapping[str, Any]) -> Row:
    return {
        name: value.isoformat() if isinstance(value, (date, datetime)) else value
        for name, value in row.items()
    }


def typed(table: Table, row: Row) -> Row:
    """Give a row with its days and times; a column the table hasn't is a KeyError."""
    typed = {}
    for name, value in row.items():
        kind = table.c[name].type
        if value is not None and isinstance(kind, DateTime):
            value = datetime.fromisoformat(value)
        elif value is not None and isinstance(kind, Date):
            value = date.fromisoformat(value)
        typed[name] = value
    return typed


def new_secrets(table: Table) -> dict[str, str]:
    """Give what opens doors anew: no password fits yet, and classes get other codes."""
    drawn = {
        "teacher": {"password_hash": NO_PASSWORD},
        "school_class": {"join_code": draw_code(SystemRandom())},
    }
    return drawn.get(table.name, {})


def go_on_numbering(connection: Connection, table: Table) -> None:
    """Let new rows get the numbers after those that are there."""
    if "id" not in table.c or table.c.id.type.python_type is not int:
        return
    sequence = func.pg_get_serial_sequence(table.name, "id")
    highest = select(func.coalesce(func.max(table.c.id), 0) + 1).scalar_subquery()
    connection.execute(select(func.setval(sequence, highest, False)))
