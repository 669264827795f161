"""What the class table shows: students by assignment, a tiny strip and a state in each place."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass

from flask import url_for

from noema.core.language import gettext
from noema.core.progress.states import WorkState
from noema.core.progress.value_accuracy import accuracy_of
from noema.formats.judgement_json import tally_from_json
from noema.store.assignments import AssignmentRow, assignments_of_class
from noema.store.classes import ClassRow, StudentName, class_of_school, students_found
from noema.store.reviews import attempts_of_class
from noema.store.work import WorkKey, WorkRow, work_of_class
from noema.web.drawings.strip import TinyStrip, make_tiny_strips
from noema.web.frame.leaf import LeafPlace, leaf_place, wanted_leaf
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.frame.weeks import week_words

_MOST_STUDENTS, _MOST_EXERCISES = 40, 6
_TEACHERS_TURN = (WorkState.NOT_PRINTED, WorkState.TO_REVIEW)
_STUDENTS_TURN = (WorkState.WAITING, WorkState.SENT_BACK, WorkState.UNREADABLE)


@dataclass(frozen=True, kw_only=True)
class Place:
    """One student's work on one assignment."""

    state: str
    strip: TinyStrip | None
    desk: str  # address at which to look at it; empty while there is nothing
    holds: str  # such as 7 of 9, once judged


@dataclass(frozen=True, kw_only=True)
class StudentLine:
    """A student's row."""

    row: StudentName
    places: tuple[Place, ...]


@dataclass(frozen=True, kw_only=True)
class Turn:
    """Who waits for what in one assignment."""

    on_students: int
    on_teacher: int
    accepted: int


@dataclass(frozen=True, kw_only=True)
class ClassProgressPage:
    """The class at a glance."""

    frame: Frame
    row: ClassRow
    week: str
    assignments: tuple[AssignmentRow, ...]  # the latest due, or all
    more: int  # exercises that aren't shown
    turns: tuple[Turn, ...]  # one an assignment
    lines: tuple[StudentLine, ...]  # of the students on this leaf
    leaf: LeafPlace


def class_page(class_id: int, *, every: bool = False) -> ClassProgressPage:
    """Collect a class with a fixed number of questions."""
    row = class_of_school(db(), me().school_id, class_id)
    wanted = wanted_leaf(_MOST_STUDENTS)
    leaf = students_found(db(), class_id, wanted)
    given = assignments_of_class(db(), class_id)
    assignments = given if every else given[-_MOST_EXERCISES:]
    work = work_of_class(db(), class_id)
    students = [student.id for student in leaf.shown]
    places = _places(class_id, students, [one.id for one in assignments], work)
    nothing = Place(state=WorkState.NOT_PRINTED.value, strip=None, desk="", holds="")
    lines = tuple(
        StudentLine(
            row=student,
            places=tuple(places.get((student.id, one.id), nothing) for one in assignments),
        )
        for student in leaf.shown
    )
    return ClassProgressPage(
        frame=frame(Stage.PROGRESS),
        row=row,
        week=week_words(row),
        assignments=assignments,
        more=len(given) - len(assignments),
        turns=tuple(_turn(work, one.id, row.students) for one in assignments),
        lines=lines,
        leaf=leaf_place(wanted, leaf),
    )


def _places(
    class_id: int,
    students: Collection[int],
    assignments: Collection[int],
    work: Mapping[WorkKey, WorkRow],
) -> dict[WorkKey, Place]:
    attempts = attempts_of_class(db(), class_id, students, assignments)
    tallies = [tally_from_json(attempt.tally) for attempt in attempts]
    # One address made once: the router is slow enough to matter for hundreds of cells.
    desks = url_for("reviewing.desk", photograph_id=0).removesuffix("0")
    drawn = {}
    for attempt, tally, strip in zip(attempts, tallies, make_tiny_strips(tallies), strict=True):
        accuracy = accuracy_of(tally, attempt.review)
        holds = (
            gettext("%(holds)s of %(counted)s", holds=accuracy.holds, counted=accuracy.counted)
            if accuracy
            else gettext("unsure")
        )
        drawn[(attempt.student_id, attempt.assignment_id)] = (
            strip,
            f"{desks}{attempt.photograph_id}",
            holds,
        )
    places = {}
    for key, stands in work.items():
        shown: tuple[TinyStrip | None, str, str] = drawn.get(key, (None, "", ""))
        places[key] = Place(state=stands.state.value, strip=shown[0], desk=shown[1], holds=shown[2])
    return places


def _turn(work: Mapping[WorkKey, WorkRow], assignment_id: int, students: int) -> Turn:
    states = [one.state for (_, given), one in work.items() if given == assignment_id]
    states += [WorkState.NOT_PRINTED] * (students - len(states))
    return Turn(
        on_students=sum(states.count(state) for state in _STUDENTS_TURN),
        on_teacher=sum(states.count(state) for state in _TEACHERS_TURN),
        accepted=states.count(WorkState.ACCEPTED),
    )
