"""Rules the database itself holds."""

import pytest
from sqlalchemy import inspect, text
from sqlalchemy.exc import DBAPIError, IntegrityError

from noema.store.base import Base
from noema.store.engine import open_engine


def test_the_migrations_make_the_tables_of_the_models(database_url):
    engine = open_engine(database_url)
    inspector = inspect(engine)
    for table in Base.metadata.tables.values():
        columns = {c["name"]: c["nullable"] for c in inspector.get_columns(table.name)}
        assert columns == {c.name: c.nullable for c in table.columns}
    engine.dispose()


@pytest.mark.parametrize(
    "change",
    ["UPDATE decision SET verb = 'accept'", "DELETE FROM decision", "TRUNCATE decision"],
)
def test_the_record_only_grows(sessions, change):
    with sessions() as session, pytest.raises(DBAPIError, match="only grows"):
        session.execute(text(change))


BROKEN = [
    "INSERT INTO teacher (school_id, email, display_name, password_hash)"
    " VALUES (:school, 'Capital@School.example', 'x', 'x')",
    "INSERT INTO school_class (school_id, name, unit_starts_on, unit_weeks)"
    " VALUES (:school, 'x', now(), 0)",
    "INSERT INTO student (school_id, display_name) VALUES (:school, '')",
    "INSERT INTO student (school_id, display_name) VALUES (0, 'Nobody')",
    "INSERT INTO school_class (school_id, name, unit_starts_on, unit_weeks)"
    " VALUES (:school, 'Year 8', now(), 3)",
    "UPDATE sheet SET attempt = 0",
    "UPDATE photograph SET state = 'lost'",
]


@pytest.mark.parametrize("statement", BROKEN)
def test_what_makes_no_sense_is_refused(sessions, school, statement):
    if "photograph" in statement:
        school.hands_in(school.photo_of(school.sheets()[0]), read=False)
    with sessions() as session, pytest.raises(IntegrityError):
        session.execute(text(statement), {"school": school.id})


def test_times_are_utc(sessions):
    with sessions() as session:
        assert session.scalar(text("SELECT now()")).utcoffset().total_seconds() == 0
