"""What a student's page shows: attempts in time, how close the values came, what improved."""

from dataclasses import dataclass
from itertools import groupby

from noema.actions.say_to import sentence_of
from noema.core.coaching.audience import Audience
from noema.core.coaching.needs import Needs
from noema.core.judging.judgement import Judgement
from noema.core.language import gettext
from noema.core.progress.value_accuracy import accuracy_of, change_words, gained
from noema.formats.judgement_json import judgement_from_json, tally_from_json
from noema.store.assignments import AssignmentRow, assignments_of_school
from noema.store.classes import ClassRow, StudentName, class_of_school, student_of_class
from noema.store.judgements import judgements_of
from noema.store.reviews import AttemptRow
from noema.store.student_work import attempts_of_student
from noema.store.terms import needs_of_students
from noema.web.classes.settings import AUDIENCES
from noema.web.drawings.curve import Curve
from noema.web.drawings.strip import Strip, TinyStrip, make_strip, make_tiny_strips
from noema.web.eye.how_you_see import HowYouSee, how_you_see
from noema.web.frame.clock import here
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.progress.shown_courses import KindLine, shown_courses
from noema.web.progress.tried import seen_by_eye


@dataclass(frozen=True, kw_only=True)
class AttemptView:
    """One attempt in words and picture."""

    attempt: AttemptRow
    number: int
    is_same_sheet: bool  # as an attempt before
    week: str  # of the unit, in which it was handed in
    strip: TinyStrip
    change: str
    gains: tuple[str, ...]
    state: str
    sentence: str


@dataclass(frozen=True, kw_only=True)
class Work:
    """All attempts at one assignment."""

    row: AssignmentRow
    attempts: tuple[AttemptView, ...]


@dataclass(frozen=True, kw_only=True)
class StudentPage:
    """A student in a class."""

    frame: Frame
    row: ClassRow
    student: StudentName
    works: tuple[Work, ...]
    latest: Strip | None
    curves: tuple[Curve, ...]  # of what a term tells
    levels: tuple[str, ...]  # where the other skills stand
    kinds: tuple[KindLine, ...]
    redone: str  # what redoing did; empty where nothing was
    eye: str  # how the student's own eye agrees; empty where nothing was said
    see: HowYouSee
    needs: Needs
    audiences: tuple[tuple[Audience, str], ...]  # whom sentences may be for, in words
    next: str  # exercise that would help most, with the reason


def student_page(class_id: int, student_id: int) -> StudentPage:
    """Collect a student's attempts."""
    row = class_of_school(db(), me().school_id, class_id)
    student = student_of_class(db(), class_id, student_id)
    attempts = attempts_of_student(db(), student_id)
    bodies = judgements_of(db(), [attempt.photograph_id for attempt in attempts])
    judgements = {photo: judgement_from_json(body) for photo, body in bodies.items()}
    given = assignments_of_school(db(), me().school_id, {a.assignment_id for a in attempts})
    works = tuple(
        Work(row=given[assignment_id], attempts=_attempt_views(row, list(group), judgements))
        for assignment_id, group in groupby(attempts, key=lambda a: a.assignment_id)
    )
    in_time = sorted(attempts, key=lambda a: (a.received_at, a.photograph_id))
    last = in_time[-1] if in_time else None
    shown = shown_courses(me().school_id, attempts, given, row.unit.weeks)
    return StudentPage(
        frame=frame(Stage.PROGRESS),
        row=row,
        student=student,
        works=works,
        latest=make_strip(judgements[last.photograph_id], last.review) if last else None,
        curves=shown.curves,
        levels=shown.levels,
        kinds=shown.kinds,
        redone=shown.redone,
        eye=shown.eye,
        see=how_you_see(student_id, seen_by_eye(attempts), drifted=False),
        needs=needs_of_students(db(), [student_id])[student_id],
        audiences=AUDIENCES,
        next=shown.next,
    )


def _attempt_views(
    row: ClassRow, attempts: list[AttemptRow], judgements: dict[int, Judgement]
) -> tuple[AttemptView, ...]:
    tallies = [tally_from_json(attempt.tally) for attempt in attempts]
    strips = make_tiny_strips(tallies)
    views, before, troubles = [], None, None
    painted: set[int] = set()
    for number, (attempt, strip) in enumerate(zip(attempts, strips, strict=True), start=1):
        judgement = judgements[attempt.photograph_id]
        accuracy = accuracy_of(tallies[number - 1], attempt.review)
        kinds = [finding.kind for finding in judgement.findings]
        views.append(
            AttemptView(
                attempt=attempt,
                number=number,
                is_same_sheet=attempt.sheet_id in painted,
                week=f"week {row.unit.week_on(here(attempt.received_at).date())}",
                strip=strip,
                change=change_words(before, accuracy),
                gains=() if troubles is None else tuple(gained(troubles, kinds)),
                state=gettext(attempt.review.state.value),
                sentence=attempt.review.sentence or sentence_of(attempt),
            )
        )
        before, troubles = accuracy or before, kinds
        painted.add(attempt.sheet_id)
    return tuple(views)
