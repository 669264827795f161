"""What a class's skills page shows: who moves, who is stuck on what, what to give next to whom."""

from collections import Counter
from dataclasses import dataclass

from noema.actions.write_rubric import rubric_of
from noema.core.exercises.catalogue import kind_of
from noema.core.language import gettext, ngettext
from noema.core.progress.course import Trend
from noema.core.progress.next_exercise import next_exercise, stuck_on
from noema.core.progress.skill_courses import SkillCourse, skill_courses
from noema.core.progress.states import WorkState
from noema.store.assignments import assignments_of_class
from noema.store.classes import ClassRow, StudentName, class_of_school, students_of_class
from noema.store.reviews import attempts_in_class
from noema.store.terms import USUAL_TERMS, terms_of_class
from noema.store.work import work_of_class
from noema.web.drawings.curve import Curve, make_curve
from noema.web.frame.clock import today
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.frame.weeks import week_words
from noema.web.progress.tried import tried_of

_OWING = (WorkState.WAITING, WorkState.UNREADABLE)
_MOST_NAMED, _MOST_NEXT = 5, 3  # of students who are stuck, and of exercises to give


@dataclass(frozen=True, kw_only=True)
class StudentSkills:
    """One student among the class."""

    row: StudentName
    overall: SkillCourse | None  # all of colour together
    curve: Curve | None  # of that
    stuck: str  # on which skills
    kind: str  # of exercise to give next
    next: str  # it, in words
    reason: str
    owing: tuple[str, ...]  # due and not handed in


@dataclass(frozen=True, kw_only=True)
class SkillsPage:
    """A class's skills, student by student."""

    frame: Frame
    row: ClassRow
    week: str
    students: tuple[StudentSkills, ...]
    says: tuple[str, ...]  # of the class


@dataclass(frozen=True, kw_only=True)
class NextForSome:
    """A kind of exercise that would help some of a class."""

    kind: str
    label: str
    students: int


@dataclass(frozen=True, kw_only=True)
class GlancePage:
    """A class at a glance."""

    class_id: int
    says: tuple[str, ...]
    stuck: tuple[StudentSkills, ...]  # the first of them
    more_stuck: int
    next: tuple[NextForSome, ...]  # what helps most first


def glance_page(class_id: int) -> GlancePage:
    """Collect what a class shows as a whole."""
    row = class_of_school(db(), me().school_id, class_id)
    students = _students(row)
    stuck = [one for one in students if one.stuck]
    wanted = Counter(one.kind for one in students)
    return GlancePage(
        class_id=class_id,
        says=_says(students),
        stuck=tuple(stuck[:_MOST_NAMED]),
        more_stuck=max(len(stuck) - _MOST_NAMED, 0),
        next=tuple(
            NextForSome(kind=kind, label=gettext(kind_of(kind).label), students=count)
            for kind, count in wanted.most_common(_MOST_NEXT)
        ),
    )


def skills_page(class_id: int) -> SkillsPage:
    """Collect a class's skills with a fixed number of questions."""
    row = class_of_school(db(), me().school_id, class_id)
    students = _students(row)
    return SkillsPage(
        frame=frame(Stage.PROGRESS),
        row=row,
        week=week_words(row),
        students=tuple(students),
        says=_says(students),
    )


def _students(row: ClassRow) -> list[StudentSkills]:
    class_id = row.id
    given = {one.id: one for one in assignments_of_class(db(), class_id)}
    tried = tried_of(attempts_in_class(db(), class_id), given, {class_id: row.unit})
    rubric = rubric_of(db(), me().school_id)
    work = work_of_class(db(), class_id)
    terms = terms_of_class(db(), class_id)
    students = []
    for student in students_of_class(db(), class_id):
        mine = tried.get(student.id, [])
        courses = skill_courses(mine)
        best = next_exercise(mine, courses, rubric)
        owing = [
            one.title
            for one in given.values()
            if not one.withdrawn
            and (terms.get((student.id, one.id), USUAL_TERMS).due_on or one.due_day) < today()
            and (found := work.get((student.id, one.id)))
            and found.state in _OWING
        ]
        students.append(_student(student, courses, best.kind, best.reason, owing, row.unit.weeks))
    return students


def _student(
    student: StudentName,
    courses: tuple[SkillCourse, ...],
    kind: str,
    reason: str,
    owing: list[str],
    weeks: int,
) -> StudentSkills:
    overall = next((one for one in courses if one.skill is None), None)
    return StudentSkills(
        row=student,
        overall=overall,
        curve=None if overall is None else make_curve(overall, weeks),
        stuck=", ".join(one.name for one in stuck_on(courses)),
        kind=kind,
        next=gettext(kind_of(kind).label).lower(),
        reason=reason,
        owing=tuple(owing),
    )


def _says(students: list[StudentSkills]) -> tuple[str, ...]:
    moving = sum(
        one.overall is not None and one.overall.course.way is Trend.RISING for one in students
    )
    stuck = Counter(name for one in students for name in one.stuck.split(", ") if name)
    owing = [one for one in students if one.owing]
    says = []
    if moving:
        says.append(
            ngettext(
                "%(count)s of %(all)s is better than at the start.",
                "%(count)s of %(all)s are better than at the start.",
                moving,
                all=len(students),
            )
        )
    if stuck:
        name, count = stuck.most_common(1)[0]
        says.append(
            ngettext(
                "%(count)s is stuck on %(name)s.",
                "%(count)s are stuck on %(name)s.",
                count,
                name=name,
            )
        )
    if owing:
        says.append(
            ngettext(
                "%(count)s owes a sheet that was due.",
                "%(count)s owe a sheet that was due.",
                len(owing),
            )
        )
    return tuple(says)
