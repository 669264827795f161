"""A series for the eye is printed, and what somebody saw on paper is kept."""

from collections.abc import Sequence
from datetime import datetime
from random import Random

from numpy.random import Generator
from sqlalchemy.orm import Session

from noema.actions.calibrate_printer import known_printer
from noema.actions.train_eye import found_before
from noema.core.errors import Refused
from noema.core.joining.card import draw_code, plain_code
from noema.core.language import gettext
from noema.core.seeing.paper import paper_rows
from noema.core.seeing.question import EyeQuestion
from noema.core.seeing.series import SeriesKind, found_by
from noema.formats.eye_paper_pdf import eye_paper_pdf
from noema.formats.series_json import (
    AskedOnce,
    answered_of,
    asked_from_json,
    asked_to_json,
    found_to_json,
)
from noema.store.eye import begin_series, keep_asked
from noema.store.eye_papers import add_paper, paper_of_school
from noema.store.printers import printer_of_school
from noema.store.students import StudentRow


def print_eye_paper(
    session: Session, school_id: int, printer_id: int, rng: Generator, codes: Random
) -> bytes:
    """Draw a page for a calibrated printer, keep its rows, and give it as PDF."""
    known = known_printer(printer_of_school(session, school_id, printer_id))
    greys = {} if known is None else known.labs
    rows = paper_rows({r: one.lab for (r, g, b), one in greys.items() if r == g == b}, rng)
    code = draw_code(codes)
    asked = asked_to_json([AskedOnce(question=row) for row in rows])
    add_paper(session, school_id, printer_id, code, asked)
    return eye_paper_pdf(rows, code)


def rows_of_paper(session: Session, school_id: int, code: str) -> tuple[EyeQuestion, ...]:
    """Give the rows of a page by its code, as somebody typed it."""
    kept = asked_from_json(paper_of_school(session, school_id, plain_code(code)))
    return tuple(one.question for one in kept)


def answer_paper(
    session: Session,
    student: StudentRow,
    code: str,
    chosen: Sequence[int | None],
    now: datetime,
) -> int:
    """Keep what a student saw on a page; gives the number of the series."""
    rows = rows_of_paper(session, student.school_id, code)
    if len(chosen) != len(rows) or any(
        one is None or not 0 <= one < row.answers for one, row in zip(chosen, rows, strict=True)
    ):
        raise Refused(gettext("Answer every row: A, B, C or D."))
    number = begin_series(session, student.school_id, student.id, SeriesKind.VALUE, None)
    asked = [AskedOnce(question=row, chosen=one) for row, one in zip(rows, chosen, strict=True)]
    before = found_before(session, student.id, number)
    found = found_by(answered_of(asked), before)
    keep_asked(session, number, asked_to_json(asked), found_to_json(found), now)
    return number
