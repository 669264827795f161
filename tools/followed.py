"""What is said of stand-in sheets, held against the truth; a class's tubes are learned first.

Used by tools/mistakes.py.
"""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from noema.core.coaching.advice import Advice, advise
from noema.core.coaching.moves import Act, Move, next_moves
from noema.core.colour.difference import ciede2000
from noema.core.exercises.asked import Asked
from noema.core.exercises.levels import Key
from noema.core.exercises.painted_keys import as_tubes_are
from noema.core.judging.class_tubes import SheetOfClass, tubes_of_class
from noema.core.judging.judge import judge
from noema.core.judging.judgement import Judgement
from noema.core.pigments.film import Surface
from noema.core.pigments.known_tubes import UNKNOWN, KnownTubes
from noema.core.pigments.mix import Part, lab_of_parts
from noema.core.pigments.tube import Tube
from noema.stand_ins.student import Mistake
from tools.handed_in import CLASS_OF, HandedIn

_UNTOLD = ("unsure", "some-unsure")


@dataclass(frozen=True, kw_only=True)
class Told:
    """What is said of one sheet."""

    sheet: HandedIn
    judgement: Judgement
    moves: tuple[Move, ...]
    advice: Advice

    @property
    def faults(self) -> bool:
        """Whether its sentence finds something to mend."""
        return not (self.advice.praises or self.advice.about in _UNTOLD)


def told_of(sheets: Sequence[HandedIn]) -> list[Told]:
    """Judge and coach sheets by the tubes that each class's sheets of one set tell of."""
    classes: dict[tuple[int, str], list[HandedIn]] = defaultdict(list)
    for sheet in sheets:
        name = "" if sheet.paints is None else sheet.paints.name
        classes[sheet.seed // CLASS_OF, name].append(sheet)
    return [
        _told(sheet, known) for own in classes.values() for known in [_known(own)] for sheet in own
    ]


def _known(sheets: Sequence[HandedIn]) -> KnownTubes:
    read = [SheetOfClass(asked=one.asked, cells=one.reading.cells) for one in sheets]
    return tubes_of_class(read, _surface(sheets[0])) or UNKNOWN


def _told(sheet: HandedIn, known: KnownTubes) -> Told:
    asked = _as_they_are(sheet, known)
    paints = None if sheet.paints is None else known.in_set(sheet.paints)
    key = Key.NAMED if paints is None else Key.PAINTS
    judgement = judge(sheet.reading, asked, key, sheet.level, paints=paints, known=known)
    moves = next_moves(judgement, asked, paints)
    advice = advise(judgement, {move.cell: move for move in moves})
    return Told(sheet=sheet, judgement=judgement, moves=moves, advice=advice)


def _as_they_are(sheet: HandedIn, known: KnownTubes) -> Asked:
    return sheet.asked if known is UNKNOWN else as_tubes_are(sheet.asked, known, _surface(sheet))


def _surface(sheet: HandedIn) -> Surface:
    return sheet.paints.binder.dry if sheet.paints else Surface()


def brings_nearer(sheet: HandedIn, move: Move) -> bool | None:
    """Follow a move to the letter: does the cell come nearer its step? None: not to be told.

    What is added or begun anew is the student's own tube, to what truly is in the pile.
    """
    hand, asked = sheet.painted.hand, {cell.id: cell for cell in sheet.asked.cells}
    if move.cell not in hand.meant or move.cell in hand.empty or sheet.mistake is Mistake.WET:
        return None
    cell, truth = asked[move.cell], hand.meant[move.cell]
    added = tuple(Part(tube=_tube(sheet, name), amount=v) for name, v in move.tubes.items())
    surface = _surface(sheet)
    if move.act is Act.ADD:
        laid = hand.recipes[move.cell]
        whole = sum(part.amount for part in laid)
        pile = tuple(replace(part, amount=part.amount / whole) for part in laid)
        beside = np.array(truth) - lab_of_parts(laid, surface)
        after = lab_of_parts((*pile, *added), surface) + beside
    elif move.act is Act.AGAIN:
        after = lab_of_parts(added, surface)
    else:
        return None
    return float(ciede2000(after, cell.lab)) < float(ciede2000(truth, cell.lab))


def _tube(sheet: HandedIn, name: str) -> Tube:
    if sheet.maker is not None:
        return sheet.maker[name]
    assert sheet.paints is not None
    return sheet.paints.tube(name)
