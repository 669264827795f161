"""Questions to the eye: what is shown, what is asked, which answer is right."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import Enum

import numpy as np
from numpy.random import Generator

from noema.core.colour.axis import Axis
from noema.core.colour.hvc import HVC, hvcs_of, lab_of, lab_to_hvc
from noema.core.colour.names import USUAL_HUES
from noema.core.colour.srgb import lab_to_hex, lab_to_linear, linear_to_lab, srgb_to_linear
from noema.core.pigments.mix import mix_labs
from noema.core.pigments.qualities import strengths
from noema.core.pigments.shelf import SETS


class Ask(Enum):
    """What is asked."""

    LIGHTEST = "lightest"  # of four hues
    OTHER_HUE = "other-hue"
    LEANS = "leans"  # of four greys
    STRONGEST = "strongest"
    TOGETHER = "together"  # two neighbours of a row that sit closest
    UNEVEN = "uneven"  # a step out of its row
    ORDER = "order"  # seven hues, from dark to light
    PLACE = "place"  # on the wheel
    STRENGTH = "strength"  # from 0 to 8
    BETWEEN = "between"  # the mix of two

    @property
    def quantity(self) -> Axis | None:
        """What it measures; None for one that only trains."""
        return _MEASURES.get(self)


_MEASURES = {
    Ask.LIGHTEST: Axis.VALUE,
    Ask.TOGETHER: Axis.VALUE,
    Ask.UNEVEN: Axis.VALUE,
    Ask.OTHER_HUE: Axis.HUE,
    Ask.LEANS: Axis.CHROMA,
    Ask.STRONGEST: Axis.CHROMA,
}


@dataclass(frozen=True, kw_only=True)
class EyeQuestion:
    """Something shown and asked."""

    ask: Ask
    fills: tuple[str, ...]  # what is shown, left to right, as a screen shows it
    answers: int  # how many may be chosen from: 0, 1, …
    right: int
    level: float  # the difference really shown, in steps; 0 where nothing is measured
    hue100: float | None = None  # round which it is asked
    order: tuple[int, ...] = ()  # places from dark to light, where all are to be put in order

    @property
    def guess(self) -> float:
        """The share right by chance."""
        return 1.0 / self.answers


_CHOICES = 4
_ROW, _ROW_STEP = 7, 0.6  # steps of a row, and their distance in value
_VALUES, _DARK_VALUES = (4.0, 7.0), (5.0, 7.5)  # where a screen shows differences truly
_TRIES = 60
_STRENGTHS = 9  # 0 to 8
_STRONGEST = 8.0


def question(ask: Ask, level: float, rng: Generator, *, dark_is_lost: bool = False) -> EyeQuestion:
    """Make a question at about a level; what is given is the difference a screen really shows."""
    values = _DARK_VALUES if dark_is_lost else _VALUES
    for _ in range(_TRIES):
        colours, right, answers = _MAKERS[ask](level, rng, values)
        labs = lab_of(colours)
        if not _is_shown(labs):
            continue
        fills = tuple(lab_to_hex(labs))
        shown = _level(ask, fills, right)
        if shown > 0.0 or ask.quantity is None:
            return EyeQuestion(
                ask=ask,
                fills=fills,
                answers=answers,
                right=right,
                level=shown,
                hue100=colours[right % len(colours)].hue100,
                order=_dark_to_light(fills) if ask is Ask.ORDER else (),
            )
    raise ValueError(f"no screen shows {ask.value} at {level}")  # levels are bounded to what is


def _dark_to_light(fills: Sequence[str]) -> tuple[int, ...]:
    return tuple(int(place) for place in np.argsort(shown_hvc(fills)[:, 1]))


def shown_hvc(fills: Sequence[str]) -> np.ndarray:
    """Give the hue, value and chroma (n, 3) of colours as a screen shows them."""
    srgb = [[int(fill[n : n + 2], 16) / 255.0 for n in (1, 3, 5)] for fill in fills]
    return lab_to_hvc(linear_to_lab(srgb_to_linear(srgb)))


Made = tuple[list[HVC], int, int]
Maker = Callable[[float, Generator, tuple[float, float]], Made]


def _lightest(level: float, rng: Generator, values: tuple[float, float]) -> Made:
    """Four hues of one value and chroma, one of them lighter."""
    value, right = rng.uniform(*values), int(rng.integers(_CHOICES))
    start = rng.uniform(0.0, 100.0)
    hues = (start + 100.0 / _CHOICES * rng.permutation(_CHOICES)) % 100.0
    return (
        [
            HVC(hue100=float(hue), value=value + level * (n == right), chroma=3.0)
            for n, hue in enumerate(hues)
        ],
        right,
        _CHOICES,
    )


def _other_hue(level: float, rng: Generator, values: tuple[float, float]) -> Made:
    value, right = rng.uniform(*values), int(rng.integers(_CHOICES))
    hue, side = rng.uniform(0.0, 100.0), float(rng.choice([-1.0, 1.0]))
    turned = (hue + side * level) % 100.0
    return (
        [
            HVC(hue100=turned if n == right else hue, value=value, chroma=5.0)
            for n in range(_CHOICES)
        ],
        right,
        _CHOICES,
    )


def _leans(level: float, rng: Generator, values: tuple[float, float]) -> Made:
    value, right = rng.uniform(*values), int(rng.integers(_CHOICES))
    hue = rng.uniform(0.0, 100.0)
    grey = HVC(hue100=None, value=value, chroma=0.0)
    leaning = HVC(hue100=hue, value=value, chroma=level)
    return [leaning if n == right else grey for n in range(_CHOICES)], right, _CHOICES


def _strongest(level: float, rng: Generator, values: tuple[float, float]) -> Made:
    value, right = rng.uniform(*values), int(rng.integers(_CHOICES))
    hue = rng.uniform(0.0, 100.0)
    return (
        [HVC(hue100=hue, value=value, chroma=4.0 + level * (n == right)) for n in range(_CHOICES)],
        right,
        _CHOICES,
    )


def _together(level: float, rng: Generator, values: tuple[float, float]) -> Made:
    """A row of greys, one gap smaller than the others by a level."""
    right = int(rng.integers(_ROW - 1))
    gaps = np.full(_ROW - 1, _ROW_STEP)
    gaps[right] -= min(level, _ROW_STEP)
    return _greys(np.concatenate([[0.0], np.cumsum(gaps)]), values), right, _ROW - 1


def _uneven(level: float, rng: Generator, values: tuple[float, float]) -> Made:
    """A row of greys, one inner step off its place by a level."""
    right = int(rng.integers(_ROW - 2))
    steps = _ROW_STEP * np.arange(_ROW)
    steps[right + 1] += float(rng.choice([-1.0, 1.0])) * min(level, _ROW_STEP)
    return _greys(steps, values), right, _ROW - 2


def _order(level: float, rng: Generator, values: tuple[float, float]) -> Made:
    """Seven hues of seven values, as they come."""
    hues = rng.permutation(_ROW) * 100.0 / _ROW + rng.uniform(0.0, 10.0)
    steps = rng.permutation(values[0] + 0.5 * np.arange(_ROW))
    row = [
        HVC(hue100=float(hue % 100.0), value=float(value), chroma=3.0)
        for hue, value in zip(hues, steps, strict=True)
    ]
    return row, int(np.argmin(steps)), _ROW


def _place(level: float, rng: Generator, values: tuple[float, float]) -> Made:
    """One hue, whose place among the twelve of the teaching wheel is asked."""
    twelve = USUAL_HUES.twelve
    right = int(rng.integers(len(twelve)))
    return [HVC(hue100=twelve[right].hue100, value=6.0, chroma=6.0)], right, len(twelve)


def _strength(level: float, rng: Generator, values: tuple[float, float]) -> Made:
    right = int(rng.integers(_STRENGTHS))
    hue = rng.uniform(0.0, 100.0)
    chroma = _STRONGEST * right / (_STRENGTHS - 1)
    return [HVC(hue100=hue, value=6.0, chroma=chroma)], right, _STRENGTHS


def _between(level: float, rng: Generator, values: tuple[float, float]) -> Made:
    """Two tubes with white, then four mixes: one of both, three with another in place of one."""
    tubes = [SETS[_MIXED].colours[n] for n in rng.permutation(len(SETS[_MIXED].colours))]
    one, other, *rest = tubes
    white = SETS[_MIXED].white
    assert white is not None
    pairs = [(one, other), (one, rest[0]), (other, rest[1]), (other, rest[2])]
    order = rng.permutation(len(pairs))
    shown = [(one,), (other,), *(pairs[n] for n in order)]
    labs = [
        mix_labs([*mix, white], [*(1.0 / strengths(mix)), _LET_DOWN * len(mix)]) for mix in shown
    ]
    return hvcs_of(np.stack(labs)), int(np.argmin(order)), len(pairs)


_MIXED, _LET_DOWN = "split-six", 0.6  # white to an equal pull of each tube


def _greys(steps: np.ndarray, values: tuple[float, float]) -> list[HVC]:
    return [HVC(hue100=None, value=float(values[0] + step), chroma=0.0) for step in steps]


_MAKERS: dict[Ask, Maker] = {
    Ask.LIGHTEST: _lightest,
    Ask.OTHER_HUE: _other_hue,
    Ask.LEANS: _leans,
    Ask.STRONGEST: _strongest,
    Ask.TOGETHER: _together,
    Ask.UNEVEN: _uneven,
    Ask.ORDER: _order,
    Ask.PLACE: _place,
    Ask.STRENGTH: _strength,
    Ask.BETWEEN: _between,
}


def _is_shown(labs: np.ndarray) -> bool:
    linear = lab_to_linear(labs)
    return bool((linear >= 0.0).all() and (linear <= 1.0).all())


def _level(ask: Ask, fills: tuple[str, ...], right: int) -> float:
    """Give the difference that is shown, after colours were rounded to what a screen has."""
    if ask.quantity is None:
        return 0.0
    hvc = shown_hvc(fills)
    hue, value, chroma = hvc[:, 0], hvc[:, 1], hvc[:, 2]
    others = np.arange(len(fills)) != right
    if ask is Ask.LIGHTEST:
        return float(value[right] - value[others].max())
    if ask is Ask.OTHER_HUE:
        gap = np.abs((hue[right] - np.median(hue[others]) + 50.0) % 100.0 - 50.0)
        return float(gap)
    if ask in (Ask.LEANS, Ask.STRONGEST):
        return float(chroma[right] - chroma[others].max())
    gaps = np.diff(value)
    if ask is Ask.TOGETHER:
        return float(np.delete(gaps, right).min() - gaps[right])
    middle = (value[right] + value[right + 2]) / 2.0
    return float(abs(value[right + 1] - middle))
