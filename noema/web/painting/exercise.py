"""What a student's list, exercise and photograph pages show."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date

from noema.actions.due_days import due_days_of_student
from noema.actions.work_out_exercise import exercise_of
from noema.core.language import N_, gettext
from noema.core.progress.states import WorkState
from noema.formats.days import day, short_day
from noema.store.assignments import AssignmentRow
from noema.store.paints import hue_words
from noema.store.photographs import photo_of_student
from noema.store.sheets import SheetRow
from noema.store.student_work import (
    ClassOfStudent,
    attempts_of_student,
    classes_of_student,
    given_again,
    given_one_to_student,
    given_to_student,
    sheets_of_student,
    work_of_student,
)
from noema.store.work import WorkRow
from noema.web.exercises.showing import Shown, show
from noema.web.frame.clock import today
from noema.web.frame.request import db, the_student
from noema.web.painting.attempts import AttemptLine, attempt_lines, may_see

_SAID = {
    WorkState.NOT_PRINTED: N_("your teacher prints it first"),
    WorkState.WAITING: N_("paint it, then photograph it"),
    WorkState.READING: N_("being read"),
    WorkState.UNREADABLE: N_("needs another photograph"),
    WorkState.TO_REVIEW: N_("with your teacher"),
    WorkState.SENT_BACK: N_("try again"),
    WorkState.ACCEPTED: N_("it holds"),
    WorkState.EXCUSED: N_("you needn’t paint this one"),
}
_OPEN = (WorkState.SENT_BACK, WorkState.UNREADABLE, WorkState.WAITING, WorkState.NOT_PRINTED)


@dataclass(frozen=True, kw_only=True)
class Task:
    """One exercise on the list."""

    row: AssignmentRow
    state: str
    due: str
    open: bool  # the student's turn
    seen: bool  # there is something read to look at
    photograph_id: int | None  # the latest


@dataclass(frozen=True, kw_only=True)
class DuePage:
    """Everything a student has to paint or has painted."""

    frame: None = None
    name: str
    todo: tuple[Task, ...]
    done: tuple[Task, ...]


@dataclass(frozen=True, kw_only=True)
class ExercisePage:
    """One exercise: what is expected and how to paint it."""

    frame: None = None
    name: str
    row: AssignmentRow
    due: str
    shown: Shown
    sheet: SheetRow | None  # the newest
    attempts: tuple[AttemptLine, ...]
    cells: tuple[tuple[str, str], ...]  # as the bench names them, and what they are called


@dataclass(frozen=True, kw_only=True)
class OwnPhotographPage:
    """Where the photograph of one sheet is asked for."""

    frame: None = None
    name: str
    row: AssignmentRow
    sheet: SheetRow | None
    another_of: int | None  # the photograph whose sheet is photographed once more


def due_page() -> DuePage:
    """Collect what is due, what waits longest first."""
    me = the_student()
    classes = {one.id: one for one in classes_of_student(db(), me.id)}
    work = work_of_student(db(), me.id)
    given = given_to_student(db(), me.id)
    days = due_days_of_student(db(), me.school_id, me.id, given)
    again = given_again(db(), me.id)
    tasks = [_task(row, classes, work, days.get(row.id), again=row.id in again) for row in given]
    return DuePage(
        name=me.display_name,
        todo=tuple(task for task in tasks if task.open),
        done=tuple(task for task in tasks if not task.open),
    )


def exercise_page(assignment_id: int) -> ExercisePage:
    """Collect one exercise."""
    me = the_student()
    row = given_one_to_student(db(), me.id, assignment_id)
    classes = {one.id: one for one in classes_of_student(db(), me.id)}
    exercise = exercise_of(db(), row)
    table = hue_words(db(), me.school_id).table
    sheets = sheets_of_student(db(), me.id, assignment_id)
    attempts = attempts_of_student(db(), me.id, assignment_id)
    days = due_days_of_student(db(), me.school_id, me.id, (row,))
    of_class = classes.get(row.class_id)  # None: they moved, or its unit is over
    visible = may_see(attempts, sees_at_once=of_class is not None and of_class.sees_at_once)
    return ExercisePage(
        name=me.display_name,
        row=row,
        due=gettext("its class is over")
        if of_class is None
        else due_words(row, of_class, days.get(row.id)),
        shown=show(
            exercise.expected, exercise.paints, row.medium, row.paper, table, "", to_student=True
        ),
        sheet=sheets[-1] if sheets else None,
        attempts=attempt_lines(visible),
        cells=()
        if exercise.paints is None
        else tuple((f"cell:{row.id}:{one.id}", one.label) for one in exercise.expected.cells),
    )


def photograph_page(assignment_id: int, another_of: int | None) -> OwnPhotographPage:
    """Collect what the photograph is asked for: the first of a sheet, or another one."""
    if another_of is not None:
        photo_of_student(db(), the_student().id, another_of)
    row = given_one_to_student(db(), the_student().id, assignment_id)
    sheets = sheets_of_student(db(), the_student().id, assignment_id)
    return OwnPhotographPage(
        name=the_student().display_name,
        row=row,
        sheet=sheets[-1] if sheets else None,
        another_of=another_of,
    )


def due_words(row: AssignmentRow, of_class: ClassOfStudent, on: date | None) -> str:
    """Say when something is due, from today; on a day, where it is in its class's unit."""
    if on is not None:
        return (
            gettext("due on %(day)s", day=day(on))
            if on >= today()
            else gettext("was due on %(day)s", day=day(on))
        )
    week = of_class.unit.week_on(today())
    left, by = row.due_week - week, short_day(of_class.unit.friday_of(row.due_week))
    if left == 0:
        return gettext("due this week, by %(day)s", day=by)
    if left == 1:
        return gettext("due next week, by %(day)s", day=by)
    return (
        gettext("due in %(left)s weeks, by %(day)s", left=left, day=by)
        if left > 0
        else gettext("was due in week %(week)s, by %(day)s", week=row.due_week, day=by)
    )


def _task(
    row: AssignmentRow,
    classes: Mapping[int, ClassOfStudent],
    work: Mapping[int, WorkRow],
    on: date | None,
    *,
    again: bool,
) -> Task:
    mine = work.get(row.id)
    state = WorkState.NOT_PRINTED if mine is None else mine.state
    decided = state in (WorkState.ACCEPTED, WorkState.SENT_BACK)
    at_once = classes[row.class_id].sees_at_once and state is WorkState.TO_REVIEW
    said = gettext("look at it") if at_once else gettext(_SAID[state])
    if again:
        said = gettext("paint your new sheet, then photograph it")
    return Task(
        row=row,
        state=said,
        due=due_words(row, classes[row.class_id], on),
        open=again or state in _OPEN,
        seen=decided or at_once,
        photograph_id=None if mine is None else mine.photograph_id,
    )
