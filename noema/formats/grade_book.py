"""Grade books out: a CSV for spreadsheets and OneRoster results for school systems."""

import csv
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date, datetime
from io import StringIO

from noema.formats.oneroster import Row, write_package
from noema.formats.spreadsheet import plain_text

CATEGORY = "noema-exercises"


@dataclass(frozen=True, kw_only=True)
class GradeColumn:
    """An exercise, as a column of the grade book."""

    number: int
    title: str
    given_on: date
    due_on: date


@dataclass(frozen=True, kw_only=True)
class GradeCell:
    """What came of one student's newest attempt at one exercise."""

    state: str  # accepted, sent back, …
    skills: Mapping[str, float]  # 0 to 4, by name
    mark: float | None  # where the school wants one
    handed_in: datetime
    attempts: int = 1  # photographed and read, one after the other
    sheets: int = 1  # that these were of; fewer than attempts where one sheet was painted on


@dataclass(frozen=True, kw_only=True)
class GradeBook:
    """A class's grade book."""

    class_name: str
    out_of: int | None  # None: the school wants no marks
    columns: tuple[GradeColumn, ...]
    students: tuple[tuple[int, str], ...]  # number and name
    cells: Mapping[tuple[int, int], GradeCell]  # by student and exercise
    excuses: Mapping[tuple[int, int], str] = field(default_factory=dict)  # who owes nothing, why


def grade_book_csv(book: GradeBook) -> bytes:
    """Give a line a student and exercise; the header says each column's unit.

    A school that wants no marks gets no column of them.

    Text that a spreadsheet would take for a formula gets an apostrophe before it.
    """
    skills = sorted({name for cell in book.cells.values() for name in cell.skills})
    out = StringIO(newline="")
    writer = csv.writer(out, lineterminator="\r\n")
    marks = [f"mark (of {book.out_of})"] if book.out_of else []
    head = ["class", "student", "exercise", "due (ISO 8601 date)", "state"]
    handed = "handed in (ISO 8601, UTC)"
    tries = ["attempts", "sheets"]
    writer.writerow([*head, handed, *marks, *(f"{name} (0 to 4)" for name in skills), *tries])
    for number, name in book.students:
        for column in book.columns:
            cell = book.cells.get((number, column.number))
            start = [
                plain_text(book.class_name),
                plain_text(name),
                plain_text(column.title),
                column.due_on,
            ]
            if cell is None:
                empty = [""] * (1 + len(marks) + len(skills) + len(tries))
                excuse = book.excuses.get((number, column.number), "nothing read")
                writer.writerow([*start, excuse, *empty])
                continue
            points = [f"{cell.skills[s]:.2f}" if s in cell.skills else "" for s in skills]
            given = ["" if cell.mark is None else cell.mark] if marks else []
            handed_in = cell.handed_in.strftime("%Y-%m-%dT%H:%M:%SZ")
            made = [cell.attempts, cell.sheets]
            writer.writerow([*start, cell.state, handed_in, *given, *points, *made])
    return out.getvalue().encode("utf-8-sig")


def results_package(
    book: GradeBook,
    class_sourced_id: str,
    student_sourced_ids: Mapping[int, str],
    now: datetime,
) -> bytes:
    """Give OneRoster 1.1 categories, line items and results (bulk).

    The score is the mark, or the mean of the skills (0 to 4) where a school wants no marks.
    """
    changed = now.strftime("%Y-%m-%dT%H:%M:%S.000Z")
    category = {
        "sourcedId": CATEGORY,
        "status": "active",
        "dateLastModified": changed,
        "title": "Colour exercises",
    }
    top = book.out_of or 4
    items = [
        {
            "sourcedId": f"noema-exercise-{one.number}",
            "status": "active",
            "dateLastModified": changed,
            "title": one.title,
            "description": "Mark" if book.out_of else "Mean of the skills, 0 to 4",
            "assignDate": one.given_on.isoformat(),
            "dueDate": one.due_on.isoformat(),
            "classSourcedId": class_sourced_id,
            "categorySourcedId": CATEGORY,
            "resultValueMin": "0",
            "resultValueMax": str(top),
        }
        for one in book.columns
    ]
    results = [
        _result(student, exercise, cell, student_sourced_ids[student], changed)
        for (student, exercise), cell in sorted(book.cells.items())
        if student in student_sourced_ids
    ]
    return write_package({"categories": [category], "lineItems": items, "results": results})


def _result(student: int, exercise: int, cell: GradeCell, sourced_id: str, changed: str) -> Row:
    score = cell.mark
    if score is None and cell.skills:
        score = round(sum(cell.skills.values()) / len(cell.skills), 2)
    return {
        "sourcedId": f"noema-result-{student}-{exercise}",
        "status": "active",
        "dateLastModified": changed,
        "lineItemSourcedId": f"noema-exercise-{exercise}",
        "studentSourcedId": sourced_id,
        "scoreStatus": "fully graded" if cell.state == "accepted" else "partially graded",
        "score": "" if score is None else f"{score:g}",
        "scoreDate": cell.handed_in.date().isoformat(),
        "comment": cell.state,
    }
