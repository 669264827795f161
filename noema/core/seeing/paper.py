"""A series on paper: greys of known value, printed side by side, answered elsewhere."""

from collections.abc import Mapping

import numpy as np
from numpy.random import Generator

from noema.core.bench.seen import Lab
from noema.core.colour.value import lightness_to_value
from noema.core.errors import Refused
from noema.core.language import gettext
from noema.core.seeing.question import Ask, EyeQuestion

ROWS, _ACROSS = 16, 4
LETTERS = "ABCD"

_LEVELS = (0.12, 1.4)  # of a row, evenly in their logarithm: what most eyes stand between
_FEWEST_GREYS = 3
_EDGE = 0.3  # values from the lightest and darkest known grey that patches keep


def paper_rows(greys: Mapping[int, Lab], rng: Generator) -> tuple[EyeQuestion, ...]:
    """Draw rows of four greys, one of them lighter; `greys` are what a printer lays, by level.

    Levels sent to the printer run 0..255. Between known greys the value runs straight. The
    difference of each row is that of the levels really sent. Refuses a printer of which too
    little is known.
    """
    if len(greys) < _FEWEST_GREYS:
        raise Refused(gettext("Calibrate this printer first: its greys aren't known."))
    sent = np.array(sorted(greys), dtype=float)
    value = lightness_to_value([greys[int(level)][0] for level in sent])
    value = np.maximum.accumulate(value)
    asked = rng.permutation(np.geomspace(*_LEVELS, ROWS))
    return tuple(_row(float(level), sent, value, rng) for level in asked)


def _row(level: float, sent: np.ndarray, value: np.ndarray, rng: Generator) -> EyeQuestion:
    right = int(rng.integers(_ACROSS))
    lowest, highest = float(value[0]) + _EDGE, float(value[-1]) - _EDGE - level
    base = float(rng.uniform(lowest, max(highest, lowest)))
    dark, light = (round(float(np.interp(v, value, sent))) for v in (base, base + level))
    light = max(light, dark + 1)
    shown = float(np.interp(light, sent, value) - np.interp(dark, sent, value))
    levels = [light if n == right else dark for n in range(_ACROSS)]
    return EyeQuestion(
        ask=Ask.LIGHTEST,
        fills=tuple(f"#{one:02x}{one:02x}{one:02x}" for one in levels),
        answers=_ACROSS,
        right=right,
        level=shown,
    )
