"""The next move for each cell off its step: what to add and about how much.

Paint is moved from the lighter side, because adding is easy and removing is impossible. Only what
the class has is ever added.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from enum import Enum
from functools import partial

import numpy as np

from noema.core.coaching.trial import is_worth_adding, is_worth_beginning_again
from noema.core.colour.difference import ciede2000
from noema.core.exercises.asked import Asked, AskedCell, Band
from noema.core.exercises.catalogue import has
from noema.core.exercises.cells import is_wash
from noema.core.exercises.kind import Trait
from noema.core.judging.judgement import CellJudgement, FindingKind, Judgement
from noema.core.judging.verdict import Verdict
from noema.core.pigments.drying import Binder
from noema.core.pigments.film import Surface
from noema.core.pigments.mix import Part, lab_of_parts
from noema.core.pigments.next_move import NextMove, keep_of, next_move
from noema.core.pigments.shelf import PaintSet
from noema.core.pigments.tube import Tube
from noema.core.sheet.layout import Triple

_OF_A_SHARE = (1.0, 0.6, 0.35)  # of the addition that would be best, the careful ones last
_HAND = 2.0  # CIEDE2000, nearly: one sigma of what a careful hand misses in L*, a* and b* each
_ANOTHER = 3.0  # sigmas from which a colour can't be the tube as it comes, whoever filled it
_ENOUGH = 0.4  # of the way left, with which a mix's own tubes count as good enough


class Act(Enum):
    """What is done with a cell's paint."""

    ADD = "add"  # tubes to what is kept of the pile
    AGAIN = "again"  # mix it anew from its tubes, the lightest first
    AS_IT_COMES = "as-it-comes"  # take the tube by itself, from a clean brush
    DARKER = "darker"  # by some steps, where nothing is known of its tubes
    LIGHTER = "lighter"
    WASH_OVER = "wash-over"  # another thin wash
    MORE_WATER = "more-water"  # start again: a wash can't be lightened
    THINNER = "thinner"  # start again, brushed out
    LOOK = "look"  # hold it beside the key: nothing that could be said would surely help


@dataclass(frozen=True, kw_only=True)
class Move:
    """What to do next with one cell: facts, which `core/words` says."""

    cell: str
    act: Act
    tubes: Mapping[str, float] = field(default_factory=dict)  # volumes by name, in order
    keep: float = 1.0  # of the pile, to one volume of which tubes are added
    steps: float = 0.0  # by how many it is made darker or lighter
    told: str = ""  # by an earlier coach, who kept words instead of facts


def next_moves(judgement: Judgement, printed: Asked, paints: PaintSet | None) -> tuple[Move, ...]:
    """Give a move for every cell that surely strays, or sits where it shouldn't.

    `printed` is the exercise as these paints give it.
    """
    found = partial(_cells_of, judgement)
    # In each other's place, thin or wet, a cell's colour says nothing of what is in its pile.
    silent = found(FindingKind.SWAPPED, FindingKind.THIN, FindingKind.WET)
    anew = found(FindingKind.WRONG_TUBE)  # no addition makes another tube of it
    moving = _to_move(judgement) - silent
    judged = {cell.id: cell for cell in judgement.cells}
    return tuple(
        move
        for band in printed.bands
        for cell in band.cells
        if cell.id in moving
        and (move := _move(judged[cell.id], cell, band, printed.kind, paints, anew=anew))
    )


def _cells_of(judgement: Judgement, *kinds: FindingKind) -> set[str]:
    return {cell for one in judgement.findings if one.kind in kinds for cell in one.cells}


def _to_move(judgement: Judgement) -> set[str]:
    away = (Verdict.DRIFTS, Verdict.OFF)
    straying = {cell.id for cell in judgement.cells if cell.verdict in away}
    for finding in judgement.findings:
        if finding.kind is FindingKind.TOGETHER:
            straying.add(who_moves(judgement, finding.cells))
        elif finding.kind in (FindingKind.LEANS, FindingKind.NOT_NEUTRAL, FindingKind.ORDER):
            straying |= set(finding.cells)
    return straying


def who_moves(judgement: Judgement, cells: Sequence[str]) -> str:
    """Say which of two cells is to be moved: the one that lies farther off its own step."""
    one, other = (cell for cell in judgement.cells if cell.id in cells)
    if has(judgement.exercise, Trait.ONE_SCALE):
        # Only a move outwards opens the gap: the darker cell down or the lighter cell up.
        return one.id if one.drift >= -other.drift else other.id
    apart = [float(ciede2000(cell.painted_lab, cell.expected_lab)) for cell in (one, other)]
    return one.id if apart[0] >= apart[1] else other.id


def _move(
    judged: CellJudgement,
    cell: AskedCell,
    band: Band,
    kind: str,
    paints: PaintSet | None,
    *,
    anew: set[str],
) -> Move | None:
    if paints is None or not cell.parts:
        act = Act.LIGHTER if judged.steps < 0 else Act.DARKER
        return Move(cell=cell.id, act=act, steps=abs(judged.steps))
    if is_wash(cell, paints.binder.dry):
        return Move(cell=cell.id, act=_of_wash(judged, paints.binder))
    (pile, doubt), surface = _likely(judged, cell), paints.binder.dry
    if len(cell.parts) == 1:
        if judged.beyond_hand < _ANOTHER:
            return Move(cell=cell.id, act=Act.LOOK)  # it may well be the tube as it comes
        return Move(cell=cell.id, act=Act.AS_IT_COMES, tubes={cell.parts[0].tube.name: 1.0})
    found = _best(pile, cell, band, kind, paints)
    if found.is_there:
        return None
    added = None if cell.id in anew else _added(found, pile, doubt, cell, surface)
    if added is not None:
        return added
    fresh = {part.tube: part.amount for part in _lightest_first(cell)}
    if is_worth_beginning_again(pile, doubt, fresh, cell.lab, surface):
        tubes = {tube.name: amount for tube, amount in fresh.items()}
        return Move(cell=cell.id, act=Act.AGAIN, tubes=tubes)
    return Move(cell=cell.id, act=Act.LOOK)


def _added(
    found: NextMove, pile: Triple, doubt: Triple, cell: AskedCell, surface: Surface
) -> Move | None:
    """Add what would be best, or less of it where that is surer to help; None: nothing is sure."""
    tube = found.add
    for part in _OF_A_SHARE if tube is not None else ():
        share = part * found.share
        assert tube is not None
        if is_worth_adding(pile, doubt, found.contents, tube, share, cell.lab, surface):
            return Move(cell=cell.id, act=Act.ADD, tubes={tube.name: share}, keep=keep_of(share))
    return None


def _best(pile: Triple, cell: AskedCell, band: Band, kind: str, paints: PaintSet) -> NextMove:
    """Look among the row's own tubes first; where the kind leaves it free, among all."""
    surface = paints.binder.dry
    own = _tubes_of_row(cell, band, kind)
    found = next_move(pile, cell.parts, cell.lab, own, surface)
    good = found.is_there or (found.add is not None and found.after < _ENOUGH * found.before)
    if good or not has(kind, Trait.ANY_TUBE_STEERS):
        return found
    free = next_move(pile, cell.parts, cell.lab, paints.tubes, surface)
    return free if free.add is not None and free.after < found.after else found


def _tubes_of_row(cell: AskedCell, band: Band, kind: str) -> tuple[Tube, ...]:
    """Give a mix's own tubes, and in a row of steps those of the whole row."""
    alone = has(kind, Trait.ANY_TUBE_STEERS) or has(kind, Trait.OWN_TUBES_ALONE)
    row = () if alone else band.cells
    return tuple(dict.fromkeys(part.tube for one in (cell, *row) for part in one.parts))


def _likely(judged: CellJudgement, cell: AskedCell) -> tuple[Triple, Triple]:
    """Give the colour a pile most likely has, as these paints would have to show it, and its doubt.

    Of many cells the one that was misread most seems farthest off: what a careful hand misses is
    weighed against what the reading doubts, the less the farther a cell strays.
    """
    doubt = np.array(judged.doubt)
    strayed = 0.0 if np.isinf(judged.beyond_hand) else judged.beyond_hand
    by_hand = _HAND**2 * (1.0 + (strayed / 2.0) ** 2)
    share = by_hand / (by_hand + doubt**2) if np.isfinite(judged.beyond_hand) else np.ones(3)
    off = np.array(judged.painted_lab) - np.array(judged.expected_lab)
    lightness, a, b = (np.array(cell.lab) + share * off).tolist()
    left = (doubt * np.sqrt(share)).tolist()
    return (lightness, a, b), (left[0], left[1], left[2])


def _lightest_first(cell: AskedCell) -> list[Part]:
    """Give a mix's parts in the order in which a painter takes its tubes."""
    return sorted(cell.parts, key=lambda part: -float(lab_of_parts([part])[0]))


def _of_wash(judged: CellJudgement, binder: Binder) -> Act:
    if judged.drift > 0.0:
        return Act.WASH_OVER
    return Act.MORE_WATER if binder is Binder.WATERCOLOUR else Act.THINNER
