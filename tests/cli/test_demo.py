"""The demo school comes out of the real pipeline, with work in every state."""

from dataclasses import replace

import pytest
from sqlalchemy import text

from noema.cli import demo
from noema.stand_ins.processes import own_processes
from noema.stand_ins.saltmarsh import CLASSES, SCHOOL, TEACHERS, WEEK
from noema.store.people import school_by_name, teacher_by_email
from noema.store.under_way import under_way

ENOUGH = 9  # students: the unmatched, the cut off and the unread need some company


@pytest.fixture
def short_story(monkeypatch):
    """One class, its last assignment, small photographs."""
    told = next(one for one in CLASSES if len(one.pictures) == 2)
    current = replace(told.given[-1], week=WEEK, reviewed=0.6, handed_in=0.9)
    small = replace(told, students=told.students[:ENOUGH], given=(current,))
    monkeypatch.setattr(demo, "CLASSES", (small,))
    monkeypatch.setattr(demo, "SIZE_PX", (1300, 975))


def rows_of_photographs(session):
    of_school = text("SELECT id FROM photograph WHERE school_id = :s")
    return session.execute(of_school, {"s": school_by_name(session, SCHOOL)}).all()


def test_the_story_is_told_once_through_the_pipeline(sessions, files, short_story):
    with own_processes() as pool:
        demo.tell(sessions, files, pool, demo.CLASSES)
        with sessions() as session:
            read = len(rows_of_photographs(session))
        demo.tell(sessions, files, pool, demo.CLASSES)  # is there: nothing more
    with sessions() as session:
        assert len(rows_of_photographs(session)) == read
        assert under_way(session, school_by_name(session, SCHOOL)) is None
    with sessions() as session:
        school = school_by_name(session, SCHOOL)
        assert teacher_by_email(session, TEACHERS[1][0]).school_id == school
        states = dict(
            session.execute(
                text("SELECT state, count(*) FROM photograph WHERE school_id = :s GROUP BY 1"),
                {"s": school},
            ).all()
        )
        reviews = session.scalar(
            text(
                "SELECT count(*) FROM review r JOIN photograph p ON p.id = r.photograph_id"
                " WHERE p.school_id = :s"
            ),
            {"s": school},
        )
    assert states["unmatched"] == states["unreadable"] == 1
    assert states["reading"] == 3
    assert states["read"] >= 2
    with sessions() as session:
        of_school = "SELECT count(*) FROM picture WHERE school_id = :s"
        pictures = session.scalar(text(of_school), {"s": school})
    assert reviews == states["read"]
    assert pictures == 2  # of the first class and of one of its students


def test_the_whole_story_has_the_classes_it_should():
    assert [len(school_class.students) for school_class in CLASSES] == [9, 24, 18]
    names = [name for school_class in CLASSES for name in school_class.students]
    assert len(names) == len(set(names))
