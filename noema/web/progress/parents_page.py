"""A page for parents: where a student stands, in plain words, and what they can do at home."""

from dataclasses import dataclass

from noema.core.exercises.skills import Skill
from noema.core.language import N_, gettext
from noema.core.progress.skill_courses import LEVELS, SkillCourse, level_of
from noema.store.assignments import assignments_of_school
from noema.store.classes import ClassRow, StudentName, class_of_school, student_of_class
from noema.store.student_work import attempts_of_student
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.frame.weeks import week_words
from noema.web.progress.shown_courses import shown_courses

_MEANS = {
    Skill.HUE: N_("mixing the right colour: not too yellow, not too blue"),
    Skill.VALUE: N_("seeing how light or dark a colour is"),
    Skill.INTENSITY: N_("keeping colours strong, or making them quieter on purpose"),
    Skill.EVENNESS: N_("going from one colour to another in equal steps"),
    Skill.NEUTRAL: N_("mixing a grey that leans to no colour"),
    Skill.CRAFT: N_("painting evenly and within the lines"),
}
_AT_HOME = (
    N_("Look together for the lightest and the darkest place in a room; squint, and look again."),
    N_("Ask which of two reds on the table is nearer to orange."),
    N_("Let them show you a sheet, and what they would change next time."),
)


@dataclass(frozen=True, kw_only=True)
class ParentsLine:
    """One skill in plain words."""

    name: str
    means: str
    level: int  # 0 to 4
    word: str
    sheets: int  # it was seen on


@dataclass(frozen=True, kw_only=True)
class ParentsPage:
    """A student for their parents."""

    frame: Frame
    row: ClassRow
    student: StudentName
    week: str
    lines: tuple[ParentsLine, ...]
    sheets: int
    levels: tuple[str, ...]  # from the lowest
    next: str
    at_home: tuple[str, ...]


def parents_page(class_id: int, student_id: int) -> ParentsPage:
    """Collect what parents are told."""
    row = class_of_school(db(), me().school_id, class_id)
    student = student_of_class(db(), class_id, student_id)
    attempts = attempts_of_student(db(), student_id)
    given = assignments_of_school(db(), me().school_id, {a.assignment_id for a in attempts})
    shown = shown_courses(me().school_id, attempts, given, row.unit.weeks)
    return ParentsPage(
        frame=frame(Stage.PROGRESS),
        row=row,
        student=student,
        week=week_words(row),
        lines=tuple(_line(one) for one in shown.courses if one.skill is not None),
        sheets=len(attempts),
        levels=tuple(gettext(words) for words in LEVELS),
        next=shown.next,
        at_home=tuple(gettext(words) for words in _AT_HOME),
    )


def _line(one: SkillCourse) -> ParentsLine:
    assert one.skill is not None  # all of colour together is left out
    level = level_of(one.course.level)
    return ParentsLine(
        name=one.name,
        means=gettext(_MEANS[one.skill]),
        level=level,
        word=gettext(LEVELS[level]),
        sheets=len(one.points),
    )
