"""A student's skills over weeks, in curves and words, and what their redos and their eye show."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from math import hypot

from noema.core.exercises.skills import Skill
from noema.core.judging.closeness import Closeness, together
from noema.core.language import N_, gettext, ngettext
from noema.core.progress.course import CHANCE, CHANCE_OF_ONE, Course, Point, Trend, course
from noema.core.progress.seeing import Seen

CLEAR = 1.64
"""Sigmas from which two attempts are told apart: nineteen in twenty, one-sided."""

_TOLD = (None, Skill.VALUE)
"""Of what a term of sheets tells whether it rises or falls (docs/measurements.md); None: of all."""

OVERALL = N_("all together")
_NAMED = {
    Skill.HUE: N_("hues"),
    Skill.VALUE: N_("values"),
    Skill.INTENSITY: N_("intensity"),
    Skill.EVENNESS: N_("even steps"),
    Skill.NEUTRAL: N_("neutrals"),
    Skill.CRAFT: N_("craft"),
}
_HELD = (
    (3.2, N_("strong")),
    (2.5, N_("secure")),
    (1.7, N_("getting there")),
    (0.9, N_("just beginning")),
    (0.0, N_("not yet")),
)


LEVELS = tuple(words for _, words in reversed(_HELD))
"""The levels' names, from the lowest."""


@dataclass(frozen=True, kw_only=True)
class Tried:
    """One attempt, summed up."""

    assignment: int
    kind: str
    week: int  # of the unit
    close: Mapping[Skill, Closeness]


@dataclass(frozen=True, kw_only=True)
class SkillCourse:
    """One skill over time."""

    name: str  # as people call it
    skill: Skill | None  # None: all of colour together
    points: tuple[Point, ...]
    course: Course
    words: str

    @property
    def is_told(self) -> bool:
        """Whether it can be shown as a course; else only where it stands."""
        return self.skill in _TOLD


@dataclass(frozen=True, kw_only=True)
class Redone:
    """What redoing did, over all exercises done more than once."""

    exercises: int
    nearer: int  # whose best attempt is clearly nearer than the first
    gained: float  # points on average


def skill_courses(attempts: Sequence[Tried]) -> tuple[SkillCourse, ...]:
    """Give all of colour together, then every skill that was seen; attempts oldest first."""
    shown: tuple[Skill | None, ...] = (None, *Skill)
    series: dict[Skill | None, list[Point]] = {skill: [] for skill in shown}
    for one in attempts:
        for skill in shown:
            close = together(one.close) if skill is None else one.close.get(skill)
            if close is not None:
                point = Point(week=one.week, points=close.points, sigma=close.sigma)
                series[skill].append(point)
    return tuple(_course(skill, points) for skill, points in series.items() if points)


def by_kind(attempts: Sequence[Tried]) -> dict[str, dict[Skill, float]]:
    """Give mean points by kind of exercise and skill, kinds in the order they were painted."""
    seen: dict[str, dict[Skill, list[float]]] = {}
    for one in attempts:
        for skill, close in one.close.items():
            seen.setdefault(one.kind, {}).setdefault(skill, []).append(close.points)
    return {
        kind: {skill: sum(points) / len(points) for skill, points in by_skill.items()}
        for kind, by_skill in seen.items()
    }


def redone(attempts: Sequence[Tried]) -> Redone | None:
    """Hold the first attempt at each exercise against the best; None where nothing was redone."""
    tries: dict[int, list[Closeness]] = {}
    for one in attempts:
        if (close := together(one.close)) is not None:
            tries.setdefault(one.assignment, []).append(close)
    again = [found for found in tries.values() if len(found) > 1]
    if not again:
        return None
    pairs = [(found[0], max(found[1:], key=lambda close: close.points)) for found in again]
    return Redone(
        exercises=len(again),
        nearer=sum(b.points - a.points > CLEAR * hypot(a.sigma, b.sigma) for a, b in pairs),
        gained=sum(b.points - a.points for a, b in pairs) / len(pairs),
    )


def redone_words(found: Redone) -> str:
    """Say what redoing did."""
    if not found.nearer:
        return ngettext(
            "Did %(count)s exercise again; about as close as the first time.",
            "Did %(count)s exercises again; about as close as the first time.",
            found.exercises,
        )
    return ngettext(
        "Did %(count)s exercise again, and came clearly nearer in %(nearer)s.",
        "Did %(count)s exercises again, and came clearly nearer in %(nearer)s.",
        found.exercises,
        nearer=found.nearer,
    )


def eye_words(sheets: Sequence[Seen]) -> str:
    """Say how well a student's own eye agrees with the readings, lately against before."""
    known = [one for one in sheets if one.share is not None]
    if not known:
        return ""
    agreed = sum(len(one.agreed) for one in known)
    cells = sum(one.cells for one in known)
    return gettext(
        "Sees %(agreed)s of %(cells)s steps as they are read (%(share)s).",
        agreed=agreed,
        cells=cells,
        share=format(agreed / cells, ".0%"),
    )


def level_of(points: float) -> int:
    """Give the level some points of four stand for, 0 to 4."""
    return next(len(_HELD) - 1 - n for n, (least, _) in enumerate(_HELD) if points >= least)


def stands(points: float) -> str:
    """Say where a skill stands at some points of four."""
    return gettext(LEVELS[level_of(points)])


def _course(skill: Skill | None, points: Sequence[Point]) -> SkillCourse:
    found = course(points, CHANCE if skill is None else CHANCE_OF_ONE)
    if skill not in _TOLD:
        found = replace(found, way=Trend.UNTOLD, since=None)
    name = gettext(OVERALL if skill is None else _NAMED[skill])
    return SkillCourse(
        name=name, skill=skill, points=tuple(points), course=found, words=_words(name, found)
    )


def _words(name: str, found: Course) -> str:
    now = stands(found.level)
    match found.way:
        case Trend.UNSAID:
            return gettext("%(name)s: %(now)s on the sheets so far", name=name, now=now)
        case Trend.RISING if found.since is not None:
            return gettext(
                "%(name)s: better than at the start, %(now)s since week %(since)s",
                name=name,
                now=now,
                since=found.since,
            )
        case Trend.UNTOLD:
            return gettext(
                "%(name)s: %(now)s %(way)s", name=name, now=now, way=gettext(found.way.value)
            )
        case Trend.STEADY:
            return gettext("%(name)s: no change; still %(now)s", name=name, now=now)
    return gettext(
        "%(name)s: %(way)s, %(now)s now", name=name, way=gettext(found.way.value), now=now
    )
