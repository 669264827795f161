"""Lets stand-in students follow the advice for three rounds: do they get nearer to the key?

Run: .venv/bin/python -m tools.rounds [preset] [sheets [seeds from]]
With +makers in the preset they have tubes of some maker, mixed by eye at first and when begun anew;
+unseen as in tools/mistakes.py.
"""

import sys
from dataclasses import dataclass, replace
from functools import partial

import numpy as np
from numpy.typing import NDArray

from noema.core.coaching.moves import Act, Move, next_moves
from noema.core.colour.difference import ciede2000
from noema.core.exercises.asked import Asked, AskedCell, Lab
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.levels import Key, Level
from noema.core.judging.judge import judge
from noema.core.pigments.mix import Part, mix_labs
from noema.core.pigments.recipe import nearest_amounts
from noema.core.pigments.shelf import PaintSet
from noema.core.pigments.tube import Tube
from noema.stand_ins.mishap import Mishap
from noema.stand_ins.painter import Hand
from noema.stand_ins.processes import own_processes
from noema.stand_ins.spectra import Recipe
from noema.stand_ins.student import Painted
from tools.handed_in import CLASS_OF, maker_of, photographed, sheet_of

FIRST_SEED = 135_000  # kept apart from the seeds used while building
ROUNDS = 3
CLUMSY = 0.2  # one sigma of the logarithm of every amount that is squeezed or added
_AT_FIRST = 0.9  # the same for a first try, before anybody has said anything
_EXERCISES = (
    ("colour-wheel", {"hues": 12}),
    ("intensity-chart", {}),
    ("tint-ladder", {}),
    ("colour-wheel", {"hues": 12, "rings": ("tint-in",)}),
    ("tone-ladder", {"steps": 6}),
    ("mixing-grid", {}),
    ("colour-match", {}),
    ("secondary-pairs", {}),
)
_SETS = ("split-six+black", "three-traditional+black", "three-printers+black")

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Pile:
    """What a student's mix for one cell holds, in volumes of every tube of the set."""

    amounts: Floats  # (tubes,)


def rounds_of(seed: int, preset: str = "class") -> list[list[float]]:
    """Give the distances to the key of every mix, round by round, CIEDE2000."""
    rng = np.random.default_rng([seed, 7])
    kind, chosen = _EXERCISES[seed % len(_EXERCISES)]
    asked, paints, layout, pdf = sheet_of(
        kind, kind_of(kind).chosen(chosen), _SETS[seed // 8 % len(_SETS)]
    )
    assert paints is not None
    has = replace(paints, tubes=_as_filled(paints, seed, preset))
    piles = {
        cell.id: _mixed(cell, has, rng, _AT_FIRST)
        for cell in asked.cells
        if len(cell.parts) > 1 and not cell.limit
    }
    apart = [_apart(asked, piles, has)]
    for n in range(ROUNDS):
        meant = {cell.id: cell.lab for cell in asked.cells} | _labs(piles, has)
        recipes = {cell.id: cell.parts for cell in asked.cells} | _recipes(piles, has)
        hand = Hand(missed=0.005, streaks=0.03, meant=meant, recipes=recipes)
        painted = Painted(hand=hand, mishap=Mishap(), wrong=())
        reading = photographed(seed * 10 + n, layout, pdf, painted, preset)
        if reading.found:
            judgement = judge(reading, asked, Key.PAINTS, Level.ADVANCED, paints=paints)
            for move in next_moves(judgement, asked, paints):
                if move.cell in piles:
                    piles[move.cell] = _followed(move, piles[move.cell], asked, has, rng)
        apart.append(_apart(asked, piles, has))
    return apart


def _as_filled(paints: PaintSet, seed: int, preset: str) -> tuple[Tube, ...]:
    """Give a set's tubes as a student has them."""
    maker = maker_of(seed // CLASS_OF, preset)
    return paints.tubes if maker is None else tuple(maker[tube.name] for tube in paints.tubes)


def _mixed(cell: AskedCell, has: PaintSet, rng: np.random.Generator, clumsy: float) -> Pile:
    """Mix a cell from the tubes there are, as near as they come but for a hand's clumsiness."""
    tubes = tuple(has.tube(part.tube.name) for part in cell.parts)
    near = [part.amount for part in cell.parts]
    if tubes != tuple(part.tube for part in cell.parts):
        near = nearest_amounts(tubes, near, cell.lab, has.binder.dry)
    amounts = np.zeros(len(has.tubes))
    for tube, amount in zip(tubes, near, strict=True):
        amounts[has.tubes.index(tube)] = amount * np.exp(rng.normal(0.0, clumsy))
    return Pile(amounts=amounts)


def _followed(
    move: Move, pile: Pile, asked: Asked, paints: PaintSet, rng: np.random.Generator
) -> Pile:
    """Do as was said, nearly; what is only to be looked at stays."""
    if move.act is Act.LOOK:
        return pile
    if move.act is not Act.ADD:
        cell = next(cell for cell in asked.cells if cell.id == move.cell)
        return _mixed(cell, paints, rng, CLUMSY)
    amounts = pile.amounts / pile.amounts.sum()
    [(name, share)] = move.tubes.items()
    amounts[paints.tubes.index(paints.tube(name))] += share * np.exp(rng.normal(0.0, CLUMSY))
    return replace(pile, amounts=amounts)


def _recipes(piles: dict[str, Pile], paints: PaintSet) -> dict[str, Recipe]:
    return {
        name: tuple(
            Part(tube=tube, amount=amount)
            for tube, amount in zip(paints.tubes, pile.amounts.tolist(), strict=True)
            if amount > 0.0
        )
        for name, pile in piles.items()
    }


def _labs(piles: dict[str, Pile], paints: PaintSet) -> dict[str, Lab]:
    rows = np.array([pile.amounts for pile in piles.values()])
    labs = mix_labs(paints.tubes, rows, paints.binder.dry).tolist()
    return {name: (lab[0], lab[1], lab[2]) for name, lab in zip(piles, labs, strict=True)}


def _apart(asked: Asked, piles: dict[str, Pile], paints: PaintSet) -> list[float]:
    labs = _labs(piles, paints)
    return [float(ciede2000(labs[c.id], c.lab)) for c in asked.cells if c.id in labs]


def main() -> None:
    """Let as many students as asked for paint three times more."""
    chosen = sys.argv[1:2] if sys.argv[1:2] and sys.argv[1][:1].isalpha() else []
    given = [int(text) for text in sys.argv[1 + len(chosen) :]]
    count, first = (*given, *(32, FIRST_SEED)[len(given) :])
    one = partial(rounds_of, preset=(*chosen, "class")[0])
    with own_processes() as pool:
        sheets = list(pool.map(one, range(first, first + count)))
    start = 0.0
    for n, apart in enumerate(zip(*sheets, strict=True)):
        median = float(np.median([one for sheet in apart for one in sheet]))
        start = start or median
        print(f"round {n}: median CIEDE2000 to the key {median:.2f}, {1 - median / start:.0%} less")


if __name__ == "__main__":
    main()
