"""Lets stand-in students follow the advice for three rounds: do they get nearer to the key?

Run: .venv/bin/python -m tools.rounds [preset] [sheets [seeds from]]
With +makers in the preset they have tubes of some maker, mixed by eye at first and when begun anew,
and what each round's sheets tell of a class's tubes moves its key, as it does in the pages; +unseen
as in tools/mistakes.py.
"""

import sys
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import partial

import numpy as np
from numpy.typing import NDArray

from noema.core.coaching.moves import Act, Move, next_moves
from noema.core.colour.difference import ciede2000
from noema.core.exercises.asked import Asked, AskedCell, Lab
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.painted_keys import as_tubes_are
from noema.core.judging.class_tubes import SheetOfClass, tubes_of_class
from noema.core.judging.judge import judge
from noema.core.photo.reading import Reading
from noema.core.pigments.film import Surface
from noema.core.pigments.known_tubes import UNKNOWN, KnownTubes
from noema.core.pigments.mix import Part, lab_of_parts, mix_labs
from noema.core.pigments.recipe import nearest_amounts
from noema.core.pigments.shelf import PaintSet
from noema.core.pigments.tube import Tube
from noema.core.sheet.layout import Layout
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


@dataclass(frozen=True, kw_only=True)
class Painter:
    """A student with one exercise, whose piles change from round to round."""

    seed: int
    asked: Asked  # as these paints are described
    paints: PaintSet
    has: PaintSet  # as the student's tubes are
    layout: Layout
    pdf: bytes
    rng: np.random.Generator
    piles: dict[str, Pile]

    @property
    def surface(self) -> Surface:
        """How the paint dries."""
        return self.paints.binder.dry

    def key(self, known: KnownTubes) -> Asked:
        """Give what is expected, by what is known of the class's tubes."""
        return as_tubes_are(self.asked, known, self.surface)


def painter_of(seed: int, preset: str) -> Painter:
    """Give a student who has mixed every cell for the first time."""
    rng = np.random.default_rng([seed, 7])
    kind, chosen = _EXERCISES[seed % len(_EXERCISES)]
    asked, paints, layout, pdf = sheet_of(
        kind, kind_of(kind).chosen(chosen), _SETS[seed // CLASS_OF % len(_SETS)]
    )
    assert paints is not None
    has = replace(paints, tubes=_as_filled(paints, seed, preset))
    mixes = [cell for cell in asked.cells if len(cell.parts) > 1 and not cell.limit]
    return Painter(
        seed=seed,
        asked=asked,
        paints=paints,
        has=has,
        layout=layout,
        pdf=pdf,
        rng=rng,
        piles={cell.id: _mixed(cell, has, rng, _AT_FIRST) for cell in mixes},
    )


def read_of(painter: Painter, n: int, preset: str) -> Reading:
    """Photograph a student's sheet as it is after some rounds, and read it."""
    asked, has = painter.asked, painter.has
    meant = {cell.id: cell.lab for cell in asked.cells} | _labs(painter.piles, has)
    recipes = {cell.id: cell.parts for cell in asked.cells} | _recipes(painter.piles, has)
    for cell in asked.cells:  # as it comes, from the tube there is
        if len(cell.parts) == 1:
            [part] = cell.parts
            own = (replace(part, tube=has.tube(part.tube.name)),)
            recipes[cell.id], meant[cell.id] = own, _triple(lab_of_parts(own, painter.surface))
    hand = Hand(missed=0.005, streaks=0.03, meant=meant, recipes=recipes)
    painted = Painted(hand=hand, mishap=Mishap(), wrong=())
    return photographed(painter.seed * 10 + n, painter.layout, painter.pdf, painted, preset)


def follow(painter: Painter, reading: Reading, known: KnownTubes) -> None:
    """Do as a student is told of a sheet that was read, nearly."""
    asked, paints = painter.key(known), known.in_set(painter.paints)
    judgement = judge(reading, asked, Key.PAINTS, Level.ADVANCED, paints=paints, known=known)
    for move in next_moves(judgement, asked, paints):
        if move.cell in painter.piles:
            pile = painter.piles[move.cell]
            painter.piles[move.cell] = _followed(move, pile, asked, painter.has, painter.rng)


def tubes_seen(painters: Sequence[Painter], readings: Sequence[Reading]) -> dict[int, KnownTubes]:
    """Give what each class's sheets tell of its tubes, by class."""
    found: dict[int, KnownTubes] = {}
    for group in {painter.seed // CLASS_OF for painter in painters}:
        own = [
            (painter, reading)
            for painter, reading in zip(painters, readings, strict=True)
            if painter.seed // CLASS_OF == group and reading.found
        ]
        sheets = [SheetOfClass(asked=p.asked, cells=reading.cells) for p, reading in own]
        surface = own[0][0].surface if own else Surface()
        found[group] = tubes_of_class(sheets, surface) or UNKNOWN
    return found


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


def _triple(lab: Floats) -> Lab:
    lightness, a, b = lab.tolist()
    return (lightness, a, b)


def _apart(painter: Painter, known: KnownTubes) -> list[float]:
    labs, key = _labs(painter.piles, painter.has), painter.key(known)
    return [float(ciede2000(labs[c.id], c.lab)) for c in key.cells if c.id in labs]


def _practised(painter: Painter, known: dict[int, KnownTubes]) -> list[float]:
    """Give how near somebody comes who mixes each cell by eye, from the tubes there are."""
    rng, key = np.random.default_rng([painter.seed, 9]), known[painter.seed // CLASS_OF]
    cells = [cell for cell in painter.key(key).cells if cell.id in painter.piles]
    piles = {cell.id: _mixed(cell, painter.has, rng, CLUMSY) for cell in cells}
    return _apart(replace(painter, piles=piles), key)


def main() -> None:
    """Let as many students as asked for paint three times more."""
    chosen = sys.argv[1:2] if sys.argv[1:2] and sys.argv[1][:1].isalpha() else []
    given = [int(text) for text in sys.argv[1 + len(chosen) :]]
    count, first = (*given, *(2 * CLASS_OF, FIRST_SEED)[len(given) :])
    preset = (*chosen, "class")[0]
    painters = [painter_of(seed, preset) for seed in range(first, first + count)]
    start = 0.0
    with own_processes() as pool:
        for n in range(ROUNDS + 1):
            readings = list(pool.map(partial(read_of, n=n, preset=preset), painters))
            known = tubes_seen(painters, readings)
            apart = [one for p in painters for one in _apart(p, known[p.seed // CLASS_OF])]
            median = float(np.median(apart))
            start = start or median
            less = f"{1 - median / start:.0%} less"
            print(f"round {n}: median CIEDE2000 to the key {median:.2f}, {less}")
            if n == 0:
                practised = [one for p in painters for one in _practised(p, known)]
                print(f"a practised hand with these tubes: {float(np.median(practised)):.2f}")
            for painter, reading in zip(painters, readings, strict=True):
                if reading.found:
                    follow(painter, reading, known[painter.seed // CLASS_OF])


if __name__ == "__main__":
    main()
