"""The grade book as a spreadsheet: lines as long as their header, marks where they are wanted."""

import csv
from datetime import UTC, date, datetime
from io import StringIO

import pytest

from noema.formats.grade_book import GradeBook, GradeCell, GradeColumn, grade_book_csv

GIVEN = GradeColumn(
    number=1, title="Value scale", given_on=date(2026, 10, 5), due_on=date(2026, 10, 16)
)


def book(out_of, mark):
    cell = GradeCell(
        state="accepted",
        skills={"hue": 3.0},
        mark=mark,
        handed_in=datetime(2026, 10, 14, 9, 30, tzinfo=UTC),
    )
    return GradeBook(
        class_name="Year 8",
        out_of=out_of,
        columns=(GIVEN,),
        students=((1, "Ada"), (2, "Ben")),
        cells={(1, 1): cell},
    )


@pytest.mark.parametrize(("out_of", "mark"), [(None, None), (10, 7)])
def test_a_column_of_marks_stands_where_a_school_wants_them(out_of, mark):
    head, ada, ben = csv.reader(StringIO(grade_book_csv(book(out_of, mark)).decode("utf-8-sig")))
    assert len(head) == len(ada) == len(ben)
    marks = [name for name in head if name.startswith("mark")]
    assert marks == ([] if out_of is None else ["mark (of 10)"])
    told = dict(zip(head, ada, strict=True))
    assert told.get("mark (of 10)") == (None if mark is None else "7")
    assert told["hue (0 to 4)"] == "3.00"
