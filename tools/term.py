"""Lets 96 stand-in students paint a term of 14 exercises along known curves, and asks the method.

Every sheet is mixed from tubes as carefully as its student then is, read with a reader's usual
doubt, judged, and summed up by skill; then each student's courses are held against their curve.

Run: .venv/bin/python -m tools.term [students [seeds from]]
"""

import sys
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np

from noema.core.colour.hvc import hvc_of
from noema.core.colour.names import USUAL_HUES
from noema.core.exercises.asked import Asked, Ground
from noema.core.exercises.catalogue import kind_of, usual_tolerance
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.skills import Skill
from noema.core.judging.closeness import Closeness, closeness, skill_drifts, together
from noema.core.judging.difficulty import Held, difficulty_of
from noema.core.judging.judge import judge
from noema.core.judging.review import Review
from noema.core.photo.reading import CellReading, Reading
from noema.core.pigments.shelf import PaintSet, builtin_set
from noema.core.progress.course import CHANCE, CHANCE_OF_ONE, Course, Point, Trend, course
from noema.stand_ins.processes import own_processes
from noema.stand_ins.sitting import Sitting
from noema.stand_ins.student import paint_sheet

FIRST_SEED = 165_000  # kept apart from the seeds used while building
STUDENTS = 96  # three classes of 32
EXERCISES = (
    ("value-scale", {"steps": 7}),
    ("tint-ladder", {}),
    ("colour-wheel", {"hues": 6}),
    ("value-scale", {"steps": 9}),
    ("colour-wheel", {"hues": 12}),
    ("shade-ladder", {"steps": 5}),
    ("intensity-chart", {"steps": 5}),
    ("tone-ladder", {"steps": 6}),
    ("colour-wheel", {"hues": 12}),
    ("value-scale", {"steps": 9}),
    ("tint-ladder", {}),
    ("intensity-chart", {}),
    ("secondary-pairs", {}),
    ("colour-match", {}),
)
_SET = "split-six+black"
_LAST = len(EXERCISES) - 1
_START, _END = (0.75, 1.0), (0.16, 0.26)  # care: one sigma of the logarithm of each amount
_DAY = 0.2  # one sigma of the logarithm of care, from day to day
_DOUBT = 1.6  # of a reading, CIEDE2000


def _climb(t: float) -> float:
    return t


def _flattening(t: float) -> float:
    return min(1.0, 2.0 * t)


def _jump(t: float) -> float:
    return 0.0 if t < 0.4 else 1.0


def _flat(_t: float) -> float:
    return 0.0


def _back(t: float) -> float:
    return 1.0 - t


def _up_and_back(t: float) -> float:
    return 2.0 * t if t < 0.5 else 2.0 * (1.0 - t)


CURVES: dict[str, tuple[Callable[[float], float], Trend]] = {
    "climbs": (_climb, Trend.RISING),
    "climbs, then flattens": (_flattening, Trend.RISING),
    "jumps": (_jump, Trend.RISING),
    "stays, clumsy": (_flat, Trend.STEADY),
    "stays, middling": (_flat, Trend.STEADY),
    "stays, careful": (_flat, Trend.STEADY),
    "falls back": (_back, Trend.FALLING),
    "climbs, then falls back": (_up_and_back, Trend.FALLING),
}


ALL = "all together"


@dataclass(frozen=True, kw_only=True)
class Term:
    """One student's term."""

    curve: str
    courses: dict[str, Course]  # by skill, and of all together


@cache
def _exercise(n: int) -> tuple[Asked, PaintSet]:
    kind, chosen = EXERCISES[n]
    paints = builtin_set(_SET)
    ground = Ground(paints=paints, table=USUAL_HUES, key=Key.PAINTS)
    return kind_of(kind).asked(kind_of(kind).chosen(chosen), ground), paints


@cache
def _demand(n: int) -> dict[Skill, dict[str, list[float]]]:
    asked, paints = _exercise(n)
    held = Held(expected=asked, key=Key.PAINTS, paints=paints, table=USUAL_HUES)
    return difficulty_of(held, np.random.default_rng(n))


def term_of(seed: int) -> Term:
    """Let one student paint a whole term; gives how the method sees it."""
    rng = np.random.default_rng([seed, 11])
    curve = list(CURVES)[seed % len(CURVES)]
    start, end = rng.uniform(*_START), rng.uniform(*_END)
    if curve == "stays, middling":
        start = 0.45
    if curve == "stays, careful":
        start = end
    attempts = []
    for n in range(len(EXERCISES)):
        share = CURVES[curve][0](n / _LAST)
        care = start ** (1.0 - share) * end**share * np.exp(rng.normal(0.0, _DAY))
        attempts.append(_attempt(n, care, rng))
    return Term(curve=curve, courses=courses(attempts))


def courses(attempts: Sequence[dict[Skill, Closeness]]) -> dict[str, Course]:
    """Judge every skill that enough attempts show, and all together."""
    series: dict[str, list[Point]] = {}
    for n, one in enumerate(attempts):
        seen = {skill.value: close for skill, close in one.items() if skill is not Skill.CRAFT}
        for name, close in (*seen.items(), (ALL, together(one))):
            if close is not None:
                point = Point(week=n, points=close.points, sigma=close.sigma)
                series.setdefault(name, []).append(point)
    enough = len(EXERCISES) // 2
    return {
        name: course(points, CHANCE if name == ALL else CHANCE_OF_ONE)
        for name, points in series.items()
        if len(points) >= enough
    }


def _attempt(n: int, care: float, rng: np.random.Generator) -> dict[Skill, Closeness]:
    asked, paints = _exercise(n)
    tolerance = usual_tolerance(asked.kind, Level.INTERMEDIATE)
    sitting = Sitting(asked=asked, paints=paints, tolerance=tolerance, rng=rng, care=care)
    meant = paint_sheet(sitting, None).hand.meant or {}
    cells = tuple(_read(cell.id, meant[cell.id], rng) for cell in asked.cells)
    reading = Reading(sheet="K7Q2-04", found=True, flags=(), cells=cells)
    judged = judge(reading, asked, Key.PAINTS, Level.INTERMEDIATE, paints=paints)
    return closeness(skill_drifts(judged), _demand(n), Review())


def _read(name: str, lab: tuple[float, float, float], rng: np.random.Generator) -> CellReading:
    seen = tuple(np.array(lab) + rng.normal(0.0, (0.9, 0.9, 0.9)))
    hvc = hvc_of((seen[0], seen[1], seen[2]))
    return CellReading(
        id=name,
        lab=(seen[0], seen[1], seen[2]),
        hvc=hvc,
        sigma=_DOUBT,
        sigma_value=0.1,
        sigma_step=0.06,
        sigma_hue=min(10.0, 3.0 / max(hvc.chroma, 0.4)),
        sigma_chroma=0.2,
        coverage=1.0,
        unevenness=0.02,
        spill=0.0,
        flags=(),
    )


def main() -> None:
    """Let the term be painted, and say how often each way was called."""
    given = [int(text) for text in sys.argv[1:]]
    count, first = (*given, *(STUDENTS, FIRST_SEED)[len(given) :])
    with own_processes() as pool:
        terms = list(pool.map(term_of, range(first, first + count), chunksize=4))
    names = dict.fromkeys(name for term in terms for name in term.courses)
    for name in sorted(names, key=lambda name: name != ALL):
        print(name)
        for way in (Trend.RISING, Trend.FALLING):
            right, false = called(terms, name, way)
            print(f"  {way.name.lower()}: called in {right:.1%} that did, {false:.1%} that stayed")


def called(terms: Sequence[Term], name: str, way: Trend) -> tuple[float, float]:
    """Give how often a way was called where it was so, and where nothing changed."""
    so = [t for t in terms if name in t.courses and CURVES[t.curve][1] is way]
    still = [t for t in terms if name in t.courses and CURVES[t.curve][1] is Trend.STEADY]
    return tuple(  # type: ignore[return-value]
        sum(term.courses[name].way is way for term in some) / max(len(some), 1)
        for some in (so, still)
    )


if __name__ == "__main__":
    main()
