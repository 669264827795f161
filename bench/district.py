"""A made-up district: one school's class, copied inside the database. For counting and timing only.

Each copy has numbers of its own; what is unique is numbered too. Nothing is checked on the way in,
so half a million photographs are there in minutes.
"""

from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy import Column, Connection, Table, func, select, text

from bench.full_class import SCALE, WHEEL, fill_class
from noema.actions.create_school import create_school
from noema.core.judging.review import ReviewState
from noema.store.base import Base
from noema.store.engine import Sessions
from noema.store.people import teacher_by_email

PASSWORD = "a password of some length"
_OF_SCHOOLS = ("school", "teacher", "printer")  # copied with each school; all else with each class
_NOT_COPIED = ("log_in", "guess", "sent_form", "leaving_file", "upload")
_UNIQUE = {
    ("school", "name"): "'School ' || {n}",
    ("teacher", "email"): "'teacher' || {n} || '@district.example'",
    ("school_class", "name"): "'Class ' || lpad({n}::text, 4, '0')",
    (
        "school_class",
        "join_code",
    ): "'RR' || translate(lpad({n}::text, 6, '0'), '0123456789', 'BCDFGHJKMN')",
    ("assignment", "stem"): "lpad(upper(to_hex({id})), 4, '0')",
    ("sheet", "code"): "{sheet_stem} || '-' || lpad(r.number::text, 3, '0')",
    ("photograph", "sha256"): "lpad({id}::text, 64, '0')",
}


@dataclass(frozen=True, kw_only=True)
class District:
    """How large it is."""

    schools: int
    classes: int  # a school's
    students: int  # a class's
    exercises: int  # given to each class, all handed in

    @property
    def copies(self) -> int:
        """Classes beside the first."""
        return self.schools * self.classes - 1


LARGE = District(schools=60, classes=20, students=25, exercises=17)
"""30,000 students with 510,000 photographs."""


def email_of(school: int) -> str:
    """Give a school's teacher, schools counted from 0."""
    return f"teacher{school}@district.example"


def fill_district(sessions: Sessions, district: District) -> None:
    """Fill an empty, migrated database; in the first school every sheet waits for its teacher."""
    with sessions.begin() as session:
        school_id = create_school(session, "School 0", email_of(0), "Teacher", PASSWORD)
        teacher = teacher_by_email(session, email_of(0))
    assert teacher is not None  # just made
    fill_class(
        sessions,
        school_id,
        teacher.id,
        students=district.students,
        assignments=district.exercises,
        chosen=(SCALE, WHEEL),
    )
    with sessions.begin() as session:
        connection = session.connection()
        connection.execute(text("SET LOCAL session_replication_role = replica"))
        _copy(connection, district)
        _decide(connection)
    with sessions() as session:
        session.connection(execution_options={"isolation_level": "AUTOCOMMIT"}).execute(
            text("VACUUM ANALYZE")
        )


def _copy(connection: Connection, district: District) -> None:
    spans = {table.name: _span(connection, table) for table in _tables()}
    for table in _tables():
        if spans[table.name] is None and "id" in table.c:
            continue
        own = table.name in _OF_SCHOOLS
        last = district.schools - 1 if own else district.copies
        kept = [column for column in table.columns if column.computed is None]
        columns = ", ".join(f'"{column.name}"' for column in kept)
        values = ", ".join(_value(column, spans, own, district) for column in kept)
        connection.execute(
            text(
                f"INSERT INTO {table.name} ({columns}) SELECT {values}"
                f" FROM generate_series(1, {last}) AS copies(n), {table.name} AS r"
            )
        )
        if "id" in table.c:
            connection.execute(
                text(f"SELECT setval('{table.name}_id_seq', (SELECT max(id) FROM {table.name}))")
            )


def _tables() -> list[Table]:
    return [one for one in Base.metadata.tables.values() if one.name not in _NOT_COPIED]


def _span(connection: Connection, table: Table) -> int | None:
    """How far apart copies of a table's rows are numbered; None where it has none."""
    if "id" not in table.c:
        return None
    least, most = connection.execute(select(func.min(table.c.id), func.max(table.c.id))).one()
    return None if least is None else int(most - least + 1)


def _value(
    column: Column[object], spans: dict[str, int | None], of_school: bool, district: District
) -> str:
    """Give the SQL of a column's value in copy `n` of the row `r`."""
    school = "copies.n" if of_school else f"(copies.n / {district.classes})"

    def moved(name: str, table: str) -> str:
        which = school if table in _OF_SCHOOLS else "copies.n"
        return f"(r.{name} + {which} * {spans[table] or 0})"

    table = column.table.name
    unique = _UNIQUE.get((table, column.name))
    if unique is not None:
        stem = f"lpad(upper(to_hex({moved('assignment_id', 'assignment')})), 4, '0')"
        return unique.format(n="copies.n", id=moved("id", table), sheet_stem=stem)
    if column.name == "id":
        return moved("id", table)
    referred = next((key.column.table.name for key in column.foreign_keys), None)
    return f'r."{column.name}"' if referred is None else moved(column.name, referred)


_DECIDED = """
UPDATE review SET state = CASE WHEN photograph_id % 6 = 0 THEN :back ELSE :well END
FROM photograph, sheet, assignment
WHERE review.photograph_id = photograph.id AND photograph.sheet_id = sheet.id
  AND assignment.id = sheet.assignment_id AND EXISTS (
    SELECT FROM assignment AS newer
    WHERE newer.class_id = assignment.class_id AND newer.id > assignment.id)
  AND photograph.school_id <> (SELECT min(id) FROM school)
"""
_RECORDED = """
INSERT INTO decision (photograph_id, teacher_id, verb, made_at)
SELECT review.photograph_id, batch.teacher_id,
       CASE WHEN review.state = :back THEN 'send-back' ELSE 'accept' END, :now
FROM review JOIN photograph ON photograph.id = review.photograph_id
JOIN batch ON batch.id = photograph.batch_id WHERE review.state <> :open
"""


def _decide(connection: Connection) -> None:
    """Let teachers have decided all but the newest exercise; in the first school nothing."""
    states = {"back": ReviewState.SENT_BACK.value, "well": ReviewState.ACCEPTED.value}
    connection.execute(text(_DECIDED), states)
    recorded = {"back": states["back"], "open": ReviewState.OPEN.value, "now": datetime.now(UTC)}
    connection.execute(text(_RECORDED), recorded)
