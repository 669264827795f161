"""Which exercise to give next to whom, with the reason.

The skill that stands lowest, as far as its doubt lets one say, is trained by the kind that counts
it most and was painted least; who is sure everywhere goes on to what they haven't painted.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from noema.core.exercises.catalogue import TRAINING
from noema.core.exercises.skills import Skill
from noema.core.judging.rubric import Rubric
from noema.core.language import N_, gettext
from noema.core.progress.course import Trend
from noema.core.progress.skill_courses import SkillCourse, Tried, stands

_TRAINED = {
    Skill.HUE: N_("hues"),
    Skill.VALUE: N_("values"),
    Skill.INTENSITY: N_("strong colours"),
    Skill.EVENNESS: N_("even steps"),
    Skill.NEUTRAL: N_("neutrals"),
}
"""What an exercise is given for; craft gets none of its own."""

_SECURE = 2.5  # points from which a skill needs no exercise of its own
_STUCK_SHEETS = 3


@dataclass(frozen=True, kw_only=True)
class NextExercise:
    """What one student could paint next."""

    kind: str
    reason: str


def next_exercise(
    attempts: Sequence[Tried], courses: Sequence[SkillCourse], rubric: Rubric
) -> NextExercise:
    """Choose the next kind of exercise for a student."""
    painted = [one.kind for one in attempts]
    if not painted:
        return NextExercise(kind=TRAINING[0], reason=gettext("because nothing is read yet"))
    open_skills = [
        one
        for one in courses
        if one.skill not in (None, Skill.CRAFT) and one.course.level < _SECURE
    ]
    if not open_skills:
        fresh = next((kind for kind in TRAINING if kind not in painted), TRAINING[-1])
        return NextExercise(
            kind=fresh, reason=gettext("because it is new, and all the others are secure")
        )
    weakest = min(open_skills, key=lambda one: one.course.high[-1])
    assert weakest.skill is not None  # left out above
    return NextExercise(
        kind=_training(weakest.skill, painted, rubric),
        reason=gettext(
            _reason(weakest),
            name=gettext(_TRAINED[weakest.skill]),
            stands=stands(weakest.course.level),
        ),
    )


def stuck_on(courses: Sequence[SkillCourse]) -> tuple[SkillCourse, ...]:
    """Name the skills that stay low over several sheets."""
    return tuple(
        one
        for one in courses
        if one.skill is not None
        and one.skill is not Skill.CRAFT
        and len(one.points) >= _STUCK_SHEETS
        and one.course.way is not Trend.RISING
        and one.course.high[-1] < _SECURE
    )


def _training(skill: Skill, painted: Sequence[str], rubric: Rubric) -> str:
    weights: Mapping[str, float] = {
        kind: rubric.of_kind(kind).get(skill, 0.0) - 0.8 * painted.count(kind) for kind in TRAINING
    }
    return max(TRAINING, key=lambda kind: weights[kind])


def _reason(one: SkillCourse) -> str:
    if one.course.way is Trend.FALLING:
        return N_("because %(name)s are %(stands)s, further out than before")
    if len(one.points) >= _STUCK_SHEETS:
        return N_("because %(name)s are %(stands)s over several sheets")
    return N_("because %(name)s are %(stands)s")
