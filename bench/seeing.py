"""How near 40 answers come to the smallest difference a simulated observer sees.

Observers answer the questions the pages ask, at the levels a screen really shows. Some are of the
family the method assumes; others, held out, see by another law, with other slopes and more lapses:
they weren't looked at while it was made.
"""

from collections.abc import Callable
from math import erf, exp, sqrt

import numpy as np
from numpy.random import Generator, default_rng

from noema.core.colour.axis import Axis
from noema.core.seeing.question import question
from noema.core.seeing.series import ASKS, Answered, SeriesKind, quest_of

OBSERVERS, ANSWERS = 200, 40
_MIDDLE = {Axis.VALUE: 0.35, Axis.HUE: 2.5, Axis.CHROMA: 1.0}
_SPREAD = 0.6  # of the logarithm of observers' thresholds

Law = Callable[[float], float]  # share seen by level over threshold; 1 - 1/e at the threshold


def weibull(rng: Generator) -> Law:
    slope = rng.uniform(1.3, 3.0)
    return lambda x: 1.0 - exp(-(x**slope))


def normal(rng: Generator) -> Law:
    """A cumulative normal over the logarithm of the level."""
    spread = rng.uniform(0.35, 0.8)
    at = 0.3375  # 1 - 1/e lies so many spreads above the middle
    return lambda x: 0.5 * (1.0 + erf((np.log(max(x, 1e-9)) / spread + at) / sqrt(2.0)))


def signal(rng: Generator) -> Law:
    """A difference in noise: the share rises with the level itself, as in signal detection."""
    at, seen = erf(0.9 / sqrt(2.0)), 1.0 - exp(-1.0)

    def law(x: float) -> float:
        here = erf(0.9 * x / sqrt(2.0))
        return here / at * seen if x < 1.0 else seen + (here - at) / (1.0 - at) * (1.0 - seen)

    return law


LAWS = {
    "weibull (assumed)": (weibull, 0.02),
    "normal (held out)": (normal, 0.03),
    "signal (held out)": (signal, 0.06),
}


def found_beside(
    quantity: Axis, law_of: Callable[[Generator], Law], lapse: float, seed: int
) -> tuple[float, bool]:
    """Give the estimate over the truth, and whether the range held it."""
    rng = default_rng(seed)
    truth = _MIDDLE[quantity] * float(np.exp(rng.normal(0.0, _SPREAD)))
    law, answered = law_of(rng), []
    asks = ASKS[SeriesKind(quantity.value)]
    for number in range(ANSWERS):
        quest = quest_of(quantity, answered)
        asked = question(asks[number % len(asks)], quest.next_level(), rng)
        sees = asked.guess + (1.0 - asked.guess - lapse) * law(asked.level / truth)
        answered.append(
            Answered(
                ask=asked.ask,
                level=asked.level,
                answers=asked.answers,
                is_right=bool(rng.random() < sees),
            )
        )
    found = quest_of(quantity, answered).found()
    return found.threshold / truth, found.low <= truth <= found.high


def main() -> None:
    """Print a line a quantity and law."""
    for quantity in Axis:
        for name, (law, lapse) in LAWS.items():
            told = [found_beside(quantity, law, lapse, seed) for seed in range(OBSERVERS)]
            ratios = np.array([ratio for ratio, _ in told])
            near = float(np.mean((ratios >= 0.75) & (ratios <= 1.25)))
            covers = float(np.mean([held for _, held in told]))
            print(
                f"{quantity.value:10} {name:18} within 25%: {near:.0%} (asked: 80%)  "
                f"range holds: {covers:.0%} (asked: 85 to 99%)  "
                f"middle ratio {np.median(ratios):.2f}"
            )


if __name__ == "__main__":
    main()
