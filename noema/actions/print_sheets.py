"""Worksheets are made for students, and drawn."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date

from sqlalchemy.orm import Session

from noema.actions.say_to import sent_back
from noema.actions.work_out_exercise import Exercise, exercise_of, for_sheet
from noema.core.coaching.needs import NO_NEEDS
from noema.core.coaching.redo import cells_to_redo
from noema.core.errors import Refused
from noema.core.exercises.media import cautions
from noema.core.exercises.part import fewer_steps, part_of, with_ends
from noema.core.judging.review import ReviewState
from noema.core.language import gettext, speaking
from noema.core.pigments.cautions import cautions_of
from noema.core.sheet.code import code_of
from noema.core.sheet.drawing import Drawing
from noema.core.sheet.drawn_worksheet import Printed, draw_worksheet
from noema.core.sheet.layout import Layout
from noema.core.sheet.worksheet import fits, worksheet_layout
from noema.formats.days import day_of_year
from noema.formats.judgement_json import judgement_from_json
from noema.formats.layout_json import layout_from_json, layout_to_json
from noema.store.assignments import AssignmentRow, assignment_of_school, lock_assignment
from noema.store.classes import students_of_class
from noema.store.judgements import judgements_of
from noema.store.languages import language_of_assignment, languages_of_students
from noema.store.reviews import AttemptRow, decided, sent_back_of_assignment
from noema.store.sheets import (
    NewSheet,
    SheetRow,
    add_sheets,
    layouts_of_sheets,
    sheets_of_assignment,
)
from noema.store.terms import USUAL_TERMS, needs_of_students, terms_of_assignment
from noema.store.waiting import sent_back_without_sheet


@dataclass(frozen=True, kw_only=True)
class Wanted:
    """A sheet about to be made."""

    student_id: int | None  # None: the teacher's own
    attempt: int
    cells: frozenset[str] | None = None  # the only ones on it


def print_sheets(session: Session, school_id: int, assignment_id: int) -> int:
    """Make a first sheet for every student who has none; gives how many were made.

    Who is excused gets none.
    """
    assignment = assignment_of_school(session, school_id, assignment_id)
    if assignment.withdrawn:
        raise Refused(gettext("This exercise is withdrawn: give it after all before you print it."))
    lock_assignment(session, assignment_id)
    printed = sheets_of_assignment(session, assignment_id)
    have = {sheet.student_id for sheet in printed}
    students = students_of_class(session, assignment.class_id)
    if not students:
        raise Refused(gettext("The class has no students yet: bring in the roster first."))
    terms = terms_of_assignment(session, assignment_id)
    have |= {student_id for student_id, own in terms.items() if own.excuse is not None}
    missing = [student.id for student in students if student.id not in have]
    _add(session, assignment, printed, [Wanted(student_id=one, attempt=1) for one in missing])
    return len(missing)


def print_again(
    session: Session,
    school_id: int,
    assignment_id: int,
    student_ids: Sequence[int],
    cells: Mapping[int, frozenset[str]] | None = None,
) -> tuple[SheetRow, ...]:
    """Make another sheet for some students of an assignment; gives those sheets.

    `cells` gives, by student, the only cells to be painted again; without, all of them.
    """
    assignment = assignment_of_school(session, school_id, assignment_id)
    lock_assignment(session, assignment_id)
    printed = sheets_of_assignment(session, assignment_id)
    attempts = {s.student_id: s.attempt for s in printed if s.student_id is not None}
    only = cells or {}
    wanted = [
        Wanted(student_id=one, attempt=attempts[one] + 1, cells=only.get(one))
        for one in dict.fromkeys(student_ids)
        if one in attempts
    ]
    if not wanted:
        raise Refused(gettext("None of these students has a sheet of this assignment to do again."))
    _add(session, assignment, printed, wanted)
    return tuple(
        sheet
        for sheet in sheets_of_assignment(session, assignment_id)
        if (sheet.student_id, sheet.attempt) in {(one.student_id, one.attempt) for one in wanted}
    )


def print_for_sent_back(
    session: Session, school_id: int, assignment_id: int, *, only_needed: bool = False
) -> tuple[SheetRow, ...]:
    """Make another sheet for everybody whose work went back and who has none yet.

    With only the cells that need it, each row's ends with them, or with all.
    """
    assignment = assignment_of_school(session, school_id, assignment_id)
    lock_assignment(session, assignment_id)
    needing = set(sent_back_without_sheet(session, school_id, [assignment_id]))
    attempts = [
        attempt
        for attempt in decided(session, school_id, ReviewState.SENT_BACK, [assignment_id])
        if attempt.photograph_id in needing
    ]
    if not attempts:
        raise Refused(
            gettext("Everybody whose work went back has a new sheet: open the PDF under Print.")
        )
    students = [attempt.student_id for attempt in attempts]
    cells = needing_cells(session, assignment, attempts) if only_needed else None
    return print_again(session, school_id, assignment_id, students, cells)


def needing_cells(
    session: Session, assignment: AssignmentRow, attempts: Sequence[AttemptRow]
) -> dict[int, frozenset[str]]:
    """Give, by student, the cells to be painted again; not those who would paint all anyway."""
    asked = exercise_of(session, assignment).asked
    bodies = judgements_of(session, [attempt.photograph_id for attempt in attempts])
    needing = {}
    for attempt in attempts:
        judgement = judgement_from_json(bodies[attempt.photograph_id])
        cells = cells_to_redo(judgement, attempt.review)
        if cells:
            cells = with_ends(asked, cells)
        if (
            cells
            and len(cells) < len(asked.cells)
            and fits(part_of(asked, cells), assignment.paper)
        ):
            needing[attempt.student_id] = cells
    return needing


def newest_sheets(sheets: Sequence[SheetRow]) -> tuple[SheetRow, ...]:
    """Keep each student's newest sheet, by name."""
    newest = {
        sheet.student_id: sheet
        for sheet in sorted(sheets, key=lambda s: s.attempt)
        if sheet.student_id is not None
    }
    return tuple(sorted(newest.values(), key=lambda sheet: sheet.student.casefold()))


def print_own_sheet(session: Session, school_id: int, assignment_id: int) -> SheetRow:
    """Give the sheet a teacher paints as key, made once for an assignment."""
    assignment = assignment_of_school(session, school_id, assignment_id)
    lock_assignment(session, assignment_id)
    printed = sheets_of_assignment(session, assignment_id)
    if not any(sheet.student_id is None for sheet in printed):
        _add(session, assignment, printed, [Wanted(student_id=None, attempt=1)])
        printed = sheets_of_assignment(session, assignment_id)
    return next(sheet for sheet in printed if sheet.student_id is None)


def drawings(
    session: Session, assignment: AssignmentRow, sheets: Sequence[SheetRow]
) -> tuple[Drawing, ...]:
    """Draw sheets as they were laid out when they were made."""
    layouts = layouts_of_sheets(session, [sheet.id for sheet in sheets])
    back: dict[int | None, AttemptRow] = {}
    if any(sheet.attempt > 1 for sheet in sheets):
        back = {one.student_id: one for one in sent_back_of_assignment(session, assignment.id)}
    terms = terms_of_assignment(session, assignment.id)
    at_school = language_of_assignment(session, assignment.id)
    own = languages_of_students(
        session, [sheet.student_id for sheet in sheets if sheet.student_id is not None]
    )
    exercises: dict[str, Exercise] = {}
    drawn = []
    for sheet in sheets:
        # A sheet is for its student to read, whoever prints it.
        code = own.get(sheet.student_id or 0, at_school)
        with speaking(code):
            if code not in exercises:
                exercises[code] = exercise_of(session, assignment)
            again = back.get(sheet.student_id) if sheet.attempt > 1 else None
            drawn.append(
                _drawn(
                    assignment,
                    for_sheet(exercises[code], sheet.cells),
                    sheet,
                    layout_from_json(layouts[sheet.id]),
                    "" if again is None else sent_back(again)[1],
                    terms.get(sheet.student_id or 0, USUAL_TERMS).due_on,
                )
            )
    return tuple(drawn)


def _drawn(
    assignment: AssignmentRow,
    exercise: Exercise,
    sheet: SheetRow,
    layout: Layout,
    said: str,
    due_on: date | None,
) -> Drawing:
    due = gettext(
        "Due by %(day)s, week %(week)s",
        day=day_of_year(due_on or assignment.due_day),
        week=assignment.due_week,
    )
    asked = exercise.asked
    if sheet.attempt > 1:
        due = gettext("%(due)s · sheet %(number)s", due=due, number=sheet.attempt)
        if sheet.cells is not None:
            asked = replace(asked, title=gettext("%(title)s, again", title=asked.title))
    paints = exercise.paints
    printed = Printed(
        student=sheet.student if sheet.student_id is not None else gettext(sheet.student),
        school_class=assignment.class_name,
        due=due,
        cautions=cautions_of(paints.tubes, paints.binder, to_student=True)
        if paints
        else cautions(assignment.medium, to_student=True),
        shows_parts=assignment.shows_parts,
        last_time=said,
        larger=sheet.larger_cells,
    )
    return draw_worksheet(layout, asked, assignment.paper, printed)


def _add(
    session: Session,
    assignment: AssignmentRow,
    printed: Sequence[SheetRow],
    wanted: Sequence[Wanted],
) -> None:
    first = max((sheet.number for sheet in printed), default=0) + 1
    exercise = exercise_of(session, assignment)
    students = [one.student_id for one in wanted if one.student_id is not None]
    helps = needs_of_students(session, students)
    shorter = fewer_steps(exercise.asked)
    new = []
    for number, one in enumerate(wanted, start=first):
        code = code_of(assignment.stem, number)
        needs = helps.get(one.student_id or 0, NO_NEEDS)
        cells = one.cells
        if cells is None and needs.fewer_steps and len(shorter) < len(exercise.asked.cells):
            cells = shorter
        larger = one.student_id is not None and (assignment.larger_cells or needs.larger_cells)
        layout = _layout(assignment, for_sheet(exercise, cells), code, larger=larger)
        new.append(
            NewSheet(
                student_id=one.student_id,
                attempt=one.attempt,
                number=number,
                code=code,
                layout=layout_to_json(layout),
                cells=None if cells is None else sorted(cells),
                larger_cells=larger,
            )
        )
    add_sheets(session, assignment.id, new)


def _layout(assignment: AssignmentRow, exercise: Exercise, code: str, *, larger: bool) -> Layout:
    grey_only = assignment.grey_only or exercise.paints is None
    return worksheet_layout(
        exercise.asked,
        assignment.paper,
        code,
        grey_only=grey_only,
        larger=larger,
        volumes=assignment.shows_parts,
    )
