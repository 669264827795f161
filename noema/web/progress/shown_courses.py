"""A student's skills as pages and reports show them: curves, redos, the eye, what to give next."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from noema.actions.write_rubric import rubric_of
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.skills import Skill
from noema.core.judging.rubric import Rubric
from noema.core.language import gettext
from noema.core.progress.next_exercise import next_exercise
from noema.core.progress.skill_courses import (
    SkillCourse,
    Tried,
    by_kind,
    eye_words,
    redone,
    redone_words,
    skill_courses,
    stands,
)
from noema.store.assignments import AssignmentRow
from noema.store.classes import units_of_classes
from noema.store.reviews import AttemptRow
from noema.web.drawings.curve import Curve, make_curve
from noema.web.frame.request import db
from noema.web.progress.tried import seen_by_eye, tried_of


@dataclass(frozen=True, kw_only=True)
class KindLine:
    """How sure a student is in one kind of exercise, skill by skill."""

    kind: str
    words: tuple[str, ...]  # in the order of the skills; empty where a kind doesn't show one


@dataclass(frozen=True, kw_only=True)
class ShownCourses:
    """One student's skills."""

    courses: tuple[SkillCourse, ...]
    curves: tuple[Curve, ...]  # of those that are told
    levels: tuple[str, ...]  # of the others: where they stand
    kinds: tuple[KindLine, ...]
    redone: str
    eye: str
    next: str


def shown_courses(
    school_id: int,
    attempts: Sequence[AttemptRow],
    given: Mapping[int, AssignmentRow],
    weeks: int,
) -> ShownCourses:
    """Collect one student's skills from all their attempts."""
    units = units_of_classes(db(), {one.class_id for one in attempts})
    tried = next(iter(tried_of(attempts, given, units).values()), [])
    courses = skill_courses(tried)
    again = redone(tried)
    return ShownCourses(
        courses=courses,
        curves=tuple(make_curve(one, weeks) for one in courses if one.is_told),
        levels=tuple(one.words for one in courses if not one.is_told),
        kinds=tuple(
            KindLine(
                kind=gettext(kind_of(kind).label),
                words=tuple(stands(found[s]) if s in found else "" for s in Skill),
            )
            for kind, found in by_kind(tried).items()
        ),
        redone=redone_words(again) if again else "",
        eye=eye_words(seen_by_eye(attempts)),
        next=_next_words(tried, courses, rubric_of(db(), school_id)) if tried else "",
    )


def _next_words(tried: Sequence[Tried], courses: Sequence[SkillCourse], rubric: Rubric) -> str:
    best = next_exercise(tried, courses, rubric)
    return gettext(
        "Next: %(label)s, %(reason)s.",
        label=gettext(kind_of(best.kind).label).lower(),
        reason=best.reason,
    )
