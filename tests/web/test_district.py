"""A district in small: every page is there, and none must read a whole table to show itself."""

import pytest
from sqlalchemy import text

from bench.district import District, fill_district
from bench.district_pages import SECRET, Asked, scans, visited
from noema.assemble_pages import web_application_of
from noema.settings import Settings
from noema.store.engine import bring_up_to_date, open_engine, open_sessions

SMALL = District(schools=3, classes=3, students=6, exercises=3)
ROWS = 50  # a table of so many counts as large
WHOLE_SCHOOL = ("archive", "/rosters.zip", "/keeping")  # take all of a class or a school by name


@pytest.fixture(scope="module")
def district(database_url, tmp_path_factory):
    """A database of its own, filled."""
    owner = open_engine(database_url).execution_options(isolation_level="AUTOCOMMIT")
    with owner.connect() as connection:
        connection.execute(text("DROP DATABASE IF EXISTS noema_district WITH (FORCE)"))
        connection.execute(text("CREATE DATABASE noema_district"))
    owner.dispose()
    url = database_url.replace("/noema_test", "/noema_district")
    engine = open_engine(url)
    bring_up_to_date(engine)
    sessions = open_sessions(engine)
    fill_district(sessions, SMALL)
    settings = Settings(
        database_url=url,
        files=str(tmp_path_factory.mktemp("files")),
        secret_key=SECRET,
        slows_guessing=0,
    )
    app = web_application_of(settings, sessions)
    app.config["WTF_CSRF_ENABLED"] = False
    yield app, sessions, engine
    engine.dispose()


def counted(engine, table):
    with engine.connect() as connection:
        return connection.scalar(text(f"SELECT count(*) FROM {table}"))


def test_copies_are_schools_of_their_own(district):
    _, _, engine = district
    classes = SMALL.schools * SMALL.classes
    assert counted(engine, "school") == SMALL.schools
    assert counted(engine, "school_class") == classes
    assert counted(engine, "student") == classes * SMALL.students
    for table in ("sheet", "photograph", "reading", "review"):
        assert counted(engine, table) == classes * SMALL.students * SMALL.exercises
    with engine.connect() as connection:
        astray = connection.scalar(
            text(
                "SELECT count(*) FROM photograph JOIN sheet ON sheet.id = photograph.sheet_id"
                " JOIN assignment ON assignment.id = sheet.assignment_id"
                " JOIN school_class ON school_class.id = assignment.class_id"
                " WHERE school_class.school_id <> photograph.school_id"
            )
        )
    assert astray == 0


def test_no_page_must_read_a_whole_table(district):
    app, sessions, engine = district
    visits, statements = visited(app, sessions, [0, 1], 1)
    pages = {one.rule for one in visits if one.is_page}
    assert len(pages) > 50
    assert "/me/progress" in pages
    shown = {
        key: one
        for key, one in statements.items()
        if not any(part in key[0] for part in WHOLE_SCHOOL)
    }
    assert scans(engine, shown, ROWS, where_none_else=True) == []


def test_a_read_of_a_whole_table_is_found(district):
    _, _, engine = district
    asked = Asked(
        rule="/x", statement="SELECT photograph_id FROM review WHERE standing = 3", parameters={}
    )
    (found,) = scans(engine, {("/x", 0): asked}, ROWS, where_none_else=True)
    assert "reads all of review" in found
