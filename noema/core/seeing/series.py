"""A series: questions of one kind, each chosen by the answers before it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import Enum
from itertools import combinations

import numpy as np
from numpy.random import Generator

from noema.core.colour.axis import Axis
from noema.core.seeing.question import Ask, EyeQuestion, question
from noema.core.statistics.adaptive import Found, Quest, begin


class SeriesKind(Enum):
    """What a series trains."""

    VALUE = "value"
    HUE = "hue"
    CHROMA = "chroma"
    ROWS = "rows"
    PLACES = "places"


ASKS: Mapping[SeriesKind, tuple[Ask, ...]] = {
    SeriesKind.VALUE: (Ask.LIGHTEST,),
    SeriesKind.HUE: (Ask.OTHER_HUE,),
    SeriesKind.CHROMA: (Ask.LEANS, Ask.STRONGEST),
    SeriesKind.ROWS: (Ask.TOGETHER, Ask.UNEVEN),
    SeriesKind.PLACES: (Ask.ORDER, Ask.PLACE, Ask.STRENGTH, Ask.BETWEEN),
}
"""Questions of each series, in turn."""

LONG: Mapping[SeriesKind, int] = {
    SeriesKind.VALUE: 20,
    SeriesKind.HUE: 20,
    SeriesKind.CHROMA: 20,
    SeriesKind.ROWS: 16,
    SeriesKind.PLACES: 12,
}
"""How many questions: two to four minutes at eight seconds each."""

_RANGES: Mapping[Axis, tuple[float, float, float]] = {
    Axis.VALUE: (0.06, 2.0, 0.35),
    Axis.HUE: (0.4, 20.0, 2.5),
    Axis.CHROMA: (0.25, 4.0, 1.0),
}
"""Least and largest level asked, and what is usual, in steps. The least is what a screen of eight
bits shows; what is usual was chosen by trying, and answers soon outweigh it."""

LEAST_SHOWN: Mapping[Axis, float] = {axis: lowest for axis, (lowest, _, _) in _RANGES.items()}
MOST_SHOWN: Mapping[Axis, float] = {axis: highest for axis, (_, highest, _) in _RANGES.items()}


@dataclass(frozen=True, kw_only=True)
class Answered:
    """A question that was answered."""

    ask: Ask
    level: float
    answers: int  # how many could be chosen from
    is_right: bool
    off: int = 0  # places beside the right one; of an order, pairs that are turned round
    hue100: float | None = None


@dataclass(frozen=True, kw_only=True)
class Screen:
    """What a screen and its room were found to show."""

    dark_steps: int  # of five squares near black, told apart
    light_steps: int  # of five near white
    light_on_it: bool  # the room's light lies on the screen

    @property
    def loses_dark(self) -> bool:
        """Whether dark steps can't be trusted on it."""
        return self.dark_steps < _STEPS_SEEN or self.light_on_it

    @property
    def loses_light(self) -> bool:
        """Whether light steps can't be trusted on it."""
        return self.light_steps < _STEPS_SEEN


SCREEN_STEPS = 5
_STEPS_SEEN = 3


def quest_of(quantity: Axis, answered: Sequence[Answered], before: Found | None = None) -> Quest:
    """Weigh answers about one quantity."""
    lowest, highest, usual = _RANGES[quantity]
    quest = begin(guess=0.25, lowest=lowest, highest=highest, usual=usual, before=before)
    for one in answered:
        if one.ask.quantity is quantity and one.level > 0.0:
            by_chance = _with_guess(quest, 1.0 / one.answers)
            quest = by_chance.after(one.level, right=one.is_right)
    return quest


def next_question(
    kind: SeriesKind,
    answered: Sequence[Answered],
    rng: Generator,
    before: Mapping[Axis, Found],
    screen: Screen | None = None,
) -> EyeQuestion | None:
    """Give the next question, at the level that tells most; None at the end of the series."""
    if len(answered) >= LONG[kind]:
        return None
    asks = ASKS[kind]
    ask = asks[len(answered) % len(asks)]
    quantity, dark = ask.quantity, screen is not None and screen.loses_dark
    if quantity is None:
        return question(ask, 0.0, rng, dark_is_lost=dark)
    quest = _with_guess(
        quest_of(quantity, answered, before.get(quantity)), 1.0 / _ANSWERS.get(ask, 4)
    )
    return question(ask, quest.next_level(), rng, dark_is_lost=dark)


_ANSWERS = {Ask.TOGETHER: 6, Ask.UNEVEN: 5}


def found_by(answered: Sequence[Answered], before: Mapping[Axis, Found]) -> dict[Axis, Found]:
    """Give the smallest differences somebody sees, of what was asked."""
    asked = {one.ask.quantity for one in answered}
    return {
        quantity: quest_of(quantity, answered, before.get(quantity)).found()
        for quantity in Axis
        if quantity in asked
    }


def answer(asked: EyeQuestion, chosen: int) -> Answered:
    """Hold an answer against the right one; places on a wheel go round."""
    off = abs(chosen - asked.right)
    if asked.ask is Ask.PLACE:
        off = min(off, asked.answers - off)
    return Answered(
        ask=asked.ask,
        level=asked.level,
        answers=asked.answers,
        is_right=chosen == asked.right,
        off=off,
        hue100=asked.hue100,
    )


def answer_order(asked: EyeQuestion, placed: Sequence[int]) -> Answered:
    """Hold an order from dark to light against the right one; its last place goes unsaid."""
    left = [place for place in range(asked.answers) if place not in placed]
    order = [*placed, *left]
    rank = {place: number for number, place in enumerate(asked.order)}
    turned = sum(rank[one] > rank[other] for one, other in combinations(order, 2))
    return Answered(
        ask=asked.ask, level=0.0, answers=asked.answers, is_right=turned == 0, off=turned
    )


_LINE_HUES = 4  # quarters of the circle; two that face each other lie on one line
_FEWEST, _LOW, _HIGH = 6, 0.5, 0.8
_EASY = 2.0  # times the threshold, from which most are right


def along_one_line(answered: Sequence[Answered], found: Found) -> bool:
    """Say whether hues are mixed up along one line of the circle and hardly elsewhere.

    Then value and intensity are the way to train; it says nothing of why.
    """
    easy = [
        one
        for one in answered
        if one.ask is Ask.OTHER_HUE and one.hue100 is not None and one.level > _EASY * found.low
    ]
    lines: list[list[bool]] = [[] for _ in range(_LINE_HUES // 2)]
    for one in easy:
        assert one.hue100 is not None
        lines[int(one.hue100 // (100.0 / _LINE_HUES)) % len(lines)].append(one.is_right)
    if any(len(line) < _FEWEST for line in lines):
        return False
    shares = sorted(float(np.mean(line)) for line in lines)
    return shares[0] <= _LOW and shares[-1] >= _HIGH


def _with_guess(quest: Quest, guess: float) -> Quest:
    return Quest(guess=guess, lowest=quest.lowest, highest=quest.highest, weights=quest.weights)
