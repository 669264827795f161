"""Rosters from and to a school's system: previewed, idempotent, no identifier lost."""

from datetime import UTC, date, datetime
from random import Random

import pytest

from noema.actions.give_package import give_package
from noema.actions.take_package import changes_of, take_package
from noema.core.planning.unit import Unit
from noema.formats.oneroster import read_package
from noema.stand_ins.school_system import Mess, made_up_system
from noema.store.classes import classes_of_school, students_of_class
from noema.store.people import teacher_by_id

TODAY = date(2026, 11, 25)


@pytest.fixture
def system():
    return made_up_system(Random(11), classes=2, students=6)


def takes(school, data):
    with school.sessions.begin() as session:
        return take_package(session, school.id, read_package(data), TODAY)


def would_change(school, data):
    with school.sessions() as session:
        return changes_of(session, school.id, read_package(data))


def classes(school):
    with school.sessions() as session:
        rows = [one for one in classes_of_school(session, school.id) if one.name != "Year 8"]
        return {
            one.name: [s.display_name for s in students_of_class(session, one.id)] for one in rows
        }


def test_a_package_is_looked_at_taken_and_then_changes_nothing(school, system):
    looked = would_change(school, system.package())
    assert (len(looked.new_classes), len(looked.new_students), len(looked.joining)) == (2, 12, 12)
    assert classes(school) == {}
    takes(school, system.package())
    assert {name: len(students) for name, students in classes(school).items()} == {
        "Art 1": 6,
        "Art 2": 6,
    }
    before = classes(school)
    assert would_change(school, system.package()).nothing
    assert takes(school, system.package()).nothing
    assert classes(school) == before


def test_units_follow_the_term(school, system):
    takes(school, system.package())
    with school.sessions() as session:
        row = next(one for one in classes_of_school(session, school.id) if one.name == "Art 1")
    assert row.unit == Unit(starts_on=date(2026, 10, 19), weeks=12)
    assert row.term == "Autumn 2026"


def test_a_messy_package_takes_what_makes_sense(school, system):
    found = takes(school, system.package(Mess(repeats=2, lost=3, in_folder=True)))
    assert len(found.new_students) == 12
    assert sum("isn't in the package" in doubt.words for doubt in found.doubts) == 3


def test_names_change_and_students_leave(school, system):
    takes(school, system.package())
    user = system.tables["users"][1]["sourcedId"]
    renamed = system.renames(user, "Nova", "Lind")
    assert [
        now for _, now in would_change(school, renamed.package()).renamed_students.values()
    ] == ["Nova Lind"]
    takes(school, renamed.package())
    assert any("Nova Lind" in students for students in classes(school).values())
    gone = renamed.takes_out(user)
    assert len(would_change(school, gone.package()).leaving) == 1
    takes(school, gone.package())
    assert not any("Nova Lind" in students for students in classes(school).values())
    assert would_change(school, gone.package()).nothing


def test_no_identifier_is_lost_on_the_way_out(school, system):
    takes(school, system.package())
    with school.sessions() as session:
        teacher = teacher_by_id(session, school.teacher_id)
        out = read_package(give_package(session, teacher, datetime.now(UTC)))
    for kind, rows in system.tables.items():
        assert {row["sourcedId"] for row in rows} <= set(out.tables[kind]), kind
    own = [number for number in out.tables["users"] if number.startswith("noema-student-")]
    assert len(own) == 3  # those of the class that began here


def test_another_school_takes_the_same_package_for_itself(school, other_school, system):
    takes(school, system.package())
    takes(other_school, system.package())
    assert classes(school) == classes(other_school)


def test_two_classes_change_names_and_a_gone_one_keeps_its_own(school, system):
    takes(school, system.package())
    one, two = system.tables["classes"]
    swapped = [{**one, "title": two["title"]}, {**two, "title": one["title"]}]
    other = type(system)(tables={**system.tables, "classes": swapped})
    before = classes(school)
    takes(school, other.package())
    after = classes(school)
    assert (after["Art 1"], after["Art 2"]) == (before["Art 2"], before["Art 1"])
    fresh = made_up_system(Random(12), classes=1, students=2)
    takes(school, fresh.package())
    assert set(classes(school)) == {"Art 1", "Art 2", "Art 1 A1"}
