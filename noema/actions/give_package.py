"""A school's rosters as a OneRoster package; whatever came from elsewhere keeps its identifier."""

from datetime import datetime

from sqlalchemy.orm import Session

from noema.formats.oneroster import READ, Row, write_package
from noema.store.classes import class_of_school, classes_of_school
from noema.store.people import TeacherRow
from noema.store.sourced import (
    SourcedRow,
    enrolled_of_school,
    names_of_students,
    sourced_of_school,
)

_STUDENT, _CLASS, _SCHOOL, _PLACE = (
    "noema-student-", "noema-class-", "noema-school-", "noema-enrollment-",
)  # fmt: skip


def give_package(session: Session, teacher: TeacherRow, now: datetime) -> bytes:
    """Give every record as it came, and records for what began in Noema."""
    school_id = teacher.school_id
    rows = sourced_of_school(session, school_id)
    changed = now.strftime("%Y-%m-%dT%H:%M:%S.000Z")
    tables: dict[str, list[Row]] = {kind: [] for kind in READ}
    for row in rows:
        tables[row.kind].append({**row.body, "sourcedId": row.sourced_id})
    fresh = {"status": "active", "dateLastModified": changed}
    if not tables["orgs"]:
        tables["orgs"].append(
            {**fresh, "sourcedId": f"{_SCHOOL}{school_id}", "name": teacher.school_name,
             "type": "school"}
        )  # fmt: skip
    school = tables["orgs"][0]["sourcedId"]
    classes, students = class_numbers(rows), student_numbers(rows)
    for one in classes_of_school(session, school_id):
        if one.id not in classes:
            classes[one.id] = f"{_CLASS}{one.id}"
            tables["classes"].append(
                {**fresh, "sourcedId": classes[one.id], "title": one.name,
                 "classType": "scheduled", "schoolSourcedId": school}
            )  # fmt: skip
    for number, name in names_of_students(session, school_id).items():
        if number not in students:
            students[number] = f"{_STUDENT}{number}"
            given, _, family = name.rpartition(" ")
            tables["users"].append(
                {**fresh, "sourcedId": students[number], "enabledUser": "true",
                 "orgSourcedIds": school, "role": "student", "username": students[number],
                 "givenName": given or family, "familyName": family if given else ""}
            )  # fmt: skip
    # Rows are kept as they came: some may lack a column.
    places = tables["enrollments"]
    there = {(row.get("classSourcedId"), row.get("userSourcedId")) for row in places}
    for class_id, student_id in sorted(enrolled_of_school(session, school_id)):
        pair = (classes.get(class_id, f"{_CLASS}{class_id}"), students[student_id])
        if pair not in there and class_id in classes:
            tables["enrollments"].append(
                {**fresh, "sourcedId": f"{_PLACE}{class_id}-{student_id}",
                 "classSourcedId": pair[0], "schoolSourcedId": school,
                 "userSourcedId": pair[1], "role": "student", "primary": "false"}
            )  # fmt: skip
    return write_package(tables)


def sourced_numbers(session: Session, school_id: int, class_id: int) -> tuple[str, dict[int, str]]:
    """Give a class's identifier and its students', theirs where one is known and ours else."""
    class_of_school(session, school_id, class_id)
    rows = sourced_of_school(session, school_id)
    students = {n: f"{_STUDENT}{n}" for n in names_of_students(session, school_id)}
    return class_numbers(rows).get(class_id, f"{_CLASS}{class_id}"), students | student_numbers(
        rows
    )


def class_numbers(rows: tuple[SourcedRow, ...]) -> dict[int, str]:
    """Give the identifiers of classes by our numbers."""
    return {row.class_id: row.sourced_id for row in rows if row.class_id is not None}


def student_numbers(rows: tuple[SourcedRow, ...]) -> dict[int, str]:
    """Give the identifiers of students by our numbers; the first of a merged student."""
    found: dict[int, str] = {}
    for row in rows:
        if row.student_id is not None:
            found.setdefault(row.student_id, row.sourced_id)
    return found
