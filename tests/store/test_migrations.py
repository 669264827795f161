"""A school of the first release comes through every migration; no way back loses a row."""

import re

import pytest
from alembic import command
from sqlalchemy import event, text
from sqlalchemy.orm import Session

from noema.core.errors import Refused
from noema.core.joining.role import StaffRole
from noema.store.engine import bring_up_to_date, migrations_of, newest_version, open_engine
from noema.store.reach import reach_of_teacher
from noema.store.tables import Photograph, SchoolClass, Sheet, Student, Teacher
from tests.store.first_release import FIRST_RELEASE

ENTRY = """
INSERT INTO record_entry (school_id, deed, by_name, about, address)
    VALUES (1, 'came in', 'Ms Old', '', '');
"""


@pytest.fixture
def old(empty_url):
    engine = open_engine(empty_url)
    with engine.begin() as connection:
        command.upgrade(migrations_of(connection), "0001")
    yield engine
    engine.dispose()


def version(engine):
    with engine.connect() as connection:
        return connection.scalar(text("SELECT version_num FROM alembic_version"))


def go_back(engine, to):
    with engine.begin() as connection:
        command.downgrade(migrations_of(connection), to)


def test_a_school_of_the_first_release_comes_through_whole(old):
    with old.begin() as connection:
        connection.execute(text(FIRST_RELEASE))
    bring_up_to_date(old)
    assert version(old) == newest_version()
    with Session(old) as session:
        roles = {one.id: one.role for one in session.query(Teacher)}
        assert roles == {1: StaffRole.ADMINISTRATOR.value, 2: StaffRole.TEACHER.value}
        assert reach_of_teacher(session, 2).class_ids == (1,)  # they saw every class before
        assert [one.name for one in session.query(SchoolClass)] == ["Year 8"]
        assert {one.display_name for one in session.query(Student)} == {"Ada", "Ben"}
        assert {one.code for one in session.query(Sheet)} == {"AAAA-01", "AAAA-02"}
        kept = session.query(Photograph).one()
        assert (kept.sheet_id, kept.sha256, kept.state) == (1, "a" * 64, "read")


def test_every_table_is_looked_into_before_a_way_back_drops_it(old):
    """Rows of key_revision aren't lost: they go back to where they were kept before."""
    said = []
    bring_up_to_date(old)
    event.listen(old, "before_cursor_execute", lambda *given: said.append(given[2]))
    go_back(old, "0001")
    assert version(old) == "0001"
    asked = set()
    for statement in said:
        asked.update(re.findall(r"EXISTS \(SELECT FROM (\w+)", statement))
        dropped = set(re.findall(r"DROP TABLE (\w+)", statement))
        assert dropped <= asked | {"key_revision"}, statement
        assert "DELETE FROM" not in statement or "alembic_version" in statement
    assert {"record_entry", "class_unit", "own_tube"} <= asked


def test_a_way_back_that_would_lose_a_row_is_refused_and_changes_nothing(old):
    bring_up_to_date(old)
    with old.begin() as connection:
        connection.execute(text("INSERT INTO school (id, name) VALUES (1, 'A school')"))
        connection.execute(text(ENTRY))
    with pytest.raises(Refused, match="lose what is in record_entry: restore a backup"):
        go_back(old, "0028")
    assert version(old) == newest_version()
    with old.connect() as connection:
        assert connection.scalar(text("SELECT count(*) FROM record_entry")) == 1
