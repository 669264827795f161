"""How close one sheet came in one skill, on a scale that photographs, levels and exercises don't
bend.

For every cell that counts, its drift is taken in tolerances of one level (the kind's usual
intermediate one), so that a stricter teacher doesn't look like a worse student. The mean square
drift less the reader's own mean square doubt estimates the painter's part alone (the usual
correction for error of measurement, Fuller 1987, Measurement Error Models, 1.2), so that a
poor photograph neither helps nor harms. It is held against what hands of known care would miss in
these very cells (`difficulty`), since one colour forgives more than another; that gives the
care of the hand: one sigma of the logarithm of every amount. Closeness is 4 for a hand that never
errs, 2 for a middling one and 1 for one twice as clumsy: 4 / 2^(care / middling). Its sigma holds
the reading's doubt and that a sheet has few cells: the variance of the squares, carried through
the formula.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import log, sqrt

import numpy as np

from noema.core.exercises.catalogue import usual_tolerance
from noema.core.exercises.levels import Level
from noema.core.exercises.skills import Skill
from noema.core.judging.judgement import CellJudgement, Drift, Judgement
from noema.core.judging.review import Review
from noema.core.judging.skills import uneven
from noema.core.judging.verdict import Verdict

TOP = 4.0
CARES = (0.2, 0.45, 0.9)
"""Hands whose misses are known: careful, middling and clumsy; one sigma of the logarithm of each
amount."""

_FARTHEST = 5.0  # tolerances: what lies farther tells no more
_LEAST_SHARE = 0.2  # of what a careful hand misses, as near as any reading tells
_LEAST_ASKED = 0.1
"""Squared tolerances: what a middling hand misses by at least: hands err otherwise too."""

_LEAST_STEEP = 1.0  # of the logarithm of squares over that of care, at least
_LEAST_MORE = 1.1  # by which a clumsier hand misses more, at least
_TAILS = 1.5  # by which squares of hands' errors vary more than a normal's
_SAID_HOLDS = 0.5  # tolerances, at most, of a cell a teacher says holds
_CRAFT_SPREAD = 0.05  # variance of one cell's craft where there are no others
_MOST_SIGMA = TOP / 2
_WAYS_OF_A_CAST = 2.0  # in which doubt adds to its square
_UNKNOWN = tuple((care / CARES[1]) ** 2 for care in CARES)  # where an exercise wasn't tried out

_OF_COLOUR = (Skill.HUE, Skill.VALUE, Skill.INTENSITY, Skill.EVENNESS)

Pair = tuple[float, float]
SkillDrifts = Mapping[Skill, Mapping[str, Pair]]
"""Drift and its sigma, in tolerances, by skill and cell; for craft the share that is well and 0."""
Difficulty = Mapping[Skill, Mapping[str, Sequence[float]]]
"""What hands of each of `CARES` miss by: mean square drifts by skill and cell, squared
tolerances."""


@dataclass(frozen=True, kw_only=True)
class Closeness:
    """How close a sheet came in one skill."""

    points: float  # 0 to 4
    sigma: float  # one sigma of it
    cells: int


def skill_drifts(judgement: Judgement) -> dict[Skill, dict[str, Pair]]:
    """Give every cell's drifts by skill, in tolerances of the kind's intermediate level."""
    usual = usual_tolerance(judgement.exercise, Level.INTERMEDIATE)
    found: dict[Skill, dict[str, Pair]] = {}
    for cell in judgement.cells:
        if not cell.measured:
            continue
        value = Drift(amount=cell.drift, sigma=cell.sigma, tolerance=cell.tolerance)
        own = {
            Skill.HUE: (cell.hue, usual.hue),
            Skill.VALUE: (value, usual.value),
            Skill.INTENSITY: (None if cell.lean else cell.chroma, usual.chroma),
            Skill.EVENNESS: (cell.jump, uneven(1.0, 0.0).tolerance),
            Skill.NEUTRAL: (cell.lean, usual.chroma),
        }
        for skill, (drift, tolerance) in own.items():
            if drift is not None:
                per = tolerance or drift.tolerance
                ways = _WAYS_OF_A_CAST if _is_cast(skill, cell) else 1.0
                pair = (drift.amount / per, sqrt(ways) * drift.sigma / per)
                found.setdefault(skill, {})[cell.id] = pair
        if cell.craft is not None:
            found.setdefault(Skill.CRAFT, {})[cell.id] = (cell.craft, 0.0)
    return found


def closeness(
    drifts: SkillDrifts, difficulty: Difficulty, review: Review
) -> dict[Skill, Closeness]:
    """Sum a sheet up by skill; cells a teacher left out don't count, and what one said does."""
    found: dict[Skill, Closeness] = {}
    for skill, by_cell in drifts.items():
        counted = {
            cell: _as_said(pair, review.overruled.get(cell), skill)
            for cell, pair in by_cell.items()
            if cell not in review.left_out
        }
        if not counted:
            continue
        if skill is Skill.CRAFT:
            found[skill] = _of_craft([share for share, _ in counted.values()])
        else:
            found[skill] = _of_drifts(counted, difficulty.get(skill, {}))
    return found


def together(by_skill: Mapping[Skill, Closeness]) -> Closeness | None:
    """Sum up what a sheet shows of seeing and mixing, each skill weighing as it is known.

    Craft is no question of colour, and few sheets have a neutral. None where nothing is known.
    """
    seen = [by_skill[skill] for skill in _OF_COLOUR if skill in by_skill]
    if not seen:
        return None
    weights = np.array([one.sigma**-2 for one in seen])
    points = float(np.average([one.points for one in seen], weights=weights))
    cells = max(one.cells for one in seen)
    return Closeness(points=points, sigma=float(weights.sum() ** -0.5), cells=cells)


def _as_said(pair: Pair, said: Verdict | None, skill: Skill) -> Pair:
    """Take a teacher's "holds" for a cell that drifts no more than half a tolerance."""
    if said is Verdict.HOLDS and skill is not Skill.CRAFT:
        return (min(abs(pair[0]), _SAID_HOLDS), 0.0)
    return pair


def _is_cast(skill: Skill, cell: CellJudgement) -> bool:
    """Whether a drift is a distance on the plane of hue and chroma, not along one line."""
    return skill is Skill.NEUTRAL or (skill is Skill.INTENSITY and cell.hue is None)


def square_of(pair: Pair) -> float:
    """Give the painter's squared drift, the reading's doubt taken off; may be below 0."""
    amount, sigma = pair
    return min(abs(amount), _FARTHEST) ** 2 - sigma**2


def _of_drifts(counted: Mapping[str, Pair], difficulty: Mapping[str, Sequence[float]]) -> Closeness:
    asks = np.array([difficulty.get(cell, _UNKNOWN) for cell in counted])
    doubt = np.array([sigma**2 for _, sigma in counted.values()])
    squares = np.array([square_of(pair) for pair in counted.values()])
    asks = np.maximum(asks, _LEAST_ASKED * np.array(_UNKNOWN))
    middle = asks[:, 1]
    weights = middle / (middle + doubt) ** 2
    weights /= weights.sum()
    missed, known = float(weights @ squares), _rising(weights @ asks)
    care, steep = _care(max(missed, _LEAST_SHARE * known[0]), known)
    points = TOP * 2.0 ** -(care / CARES[1])
    spread = 2.0 * _TAILS * weights**2 @ (max(missed, known[0]) / known[1] * middle + doubt) ** 2
    slope = points * log(2.0) * care / CARES[1] / (steep * max(missed, known[0]))
    sigma = min(slope * sqrt(float(spread)), _MOST_SIGMA)
    return Closeness(points=points, sigma=sigma, cells=len(counted))


def _rising(asks: np.ndarray) -> list[float]:
    """Make sure that clumsier hands miss by more."""
    known = [float(asks[0])]
    for ask in asks[1:]:
        known.append(max(float(ask), known[-1] * _LEAST_MORE))
    return known


def _care(missed: float, known: Sequence[float]) -> tuple[float, float]:
    """Find the care of a hand from what it missed; and how steeply the second goes with the first.

    Straight between the known hands on logarithmic axes, and with the square of care beyond them.
    """
    if not known[0] < missed < known[-1]:
        end = 0 if missed <= known[0] else -1
        return CARES[end] * sqrt(missed / known[end]), 2.0
    n = 0 if missed < known[1] else 1
    steep = max(log(known[n + 1] / known[n]) / log(CARES[n + 1] / CARES[n]), _LEAST_STEEP)
    return CARES[n] * (missed / known[n]) ** (1 / steep), steep


def _of_craft(shares: Sequence[float]) -> Closeness:
    n = len(shares)
    spread = float(np.var(shares, ddof=1)) if n > 1 else _CRAFT_SPREAD
    sigma = TOP * sqrt(spread / n)
    return Closeness(points=TOP * sum(shares) / n, sigma=max(sigma, 0.05), cells=n)
