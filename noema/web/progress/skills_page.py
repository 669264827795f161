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
from noema.store.work import work_of_class
from noema.web.drawings.curve import Curve, make_curve
from noema.web.frame.clock import today
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.frame.weeks import week_words
from noema.web.progress.tried import tried_of

_OWING = (WorkState.WAITING, WorkState.UNREADABLE)


@dataclass(frozen=True, kw_only=True)
class StudentSkills:
    """One student among the class."""

    row: StudentName
    overall: SkillCourse | None  # all of colour together
    curve: Curve | None  # of that
    stuck: str  # on which skills
    next: str  # kind of exercise
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


def skills_page(class_id: int) -> SkillsPage:
    """Collect a class's skills with a fixed number of questions."""
    row = class_of_school(db(), me().school_id, class_id)
    given = {one.id: one for one in assignments_of_class(db(), class_id)}
    tried = tried_of(attempts_in_class(db(), class_id), given, {class_id: row.unit})
    rubric = rubric_of(db(), me().school_id)
    work = work_of_class(db(), class_id)
    due = [one for one in given.values() if one.due_week <= row.unit.week_on(today())]
    students = []
    for student in students_of_class(db(), class_id):
        mine = tried.get(student.id, [])
        courses = skill_courses(mine)
        best = next_exercise(mine, courses, rubric)
        owing = [
            one.title
            for one in due
            if (found := work.get((student.id, one.id))) and found.state in _OWING
        ]
        students.append(_student(student, courses, best.kind, best.reason, owing, row.unit.weeks))
    return SkillsPage(
        frame=frame(Stage.PROGRESS),
        row=row,
        week=week_words(row),
        students=tuple(students),
        says=_says(students),
    )


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
