"""The next move for each cell off its step: what to add and about how much, as painters say it.

Paint is moved from the lighter side, because adding is easy and removing is impossible; a drawing
is darkened by another layer and lightened by lifting. Only what the class has is ever added.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from noema.core.colour.difference import ciede2000
from noema.core.exercises.asked import Asked, AskedCell, Band
from noema.core.exercises.catalogue import has
from noema.core.exercises.cells import is_wash
from noema.core.exercises.kind import Trait
from noema.core.exercises.media import Medium
from noema.core.judging.judgement import CellJudgement, FindingKind, Judgement
from noema.core.judging.verdict import Verdict
from noema.core.judging.words import opening, step_words
from noema.core.pigments.drying import Binder
from noema.core.pigments.mix import lab_of_parts
from noema.core.pigments.next_move import NextMove, next_move
from noema.core.pigments.says import say_addition, say_parts
from noema.core.pigments.shelf import PaintSet
from noema.core.pigments.tube import Tube
from noema.core.sheet.layout import Triple

_ENOUGH = 0.4  # of the way left, with which a mix's own tubes count as good enough


@dataclass(frozen=True, kw_only=True)
class Move:
    """What to do next with one cell."""

    cell: str
    words: str  # a sentence
    addition: NextMove | None = None  # what it rests on, where paint is added


def next_moves(
    judgement: Judgement, printed: Asked, paints: PaintSet | None, medium: Medium
) -> tuple[Move, ...]:
    """Give a move for every cell that surely strays, or sits where it shouldn't.

    `printed` is the exercise as these paints give it.
    """
    swapped = {
        cell
        for finding in judgement.findings
        if finding.kind is FindingKind.SWAPPED
        for cell in finding.cells
    }
    judged = {cell.id: cell for cell in judgement.cells}
    return tuple(
        move
        for band in printed.bands
        for cell in band.cells
        if cell.id in _to_move(judgement) - swapped
        and (move := _move(judged[cell.id], cell, band, printed.kind, paints, medium))
    )


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
    medium: Medium,
) -> Move | None:
    if paints is None or not cell.parts:
        turn = "lighter" if judged.steps < 0 else "darker"
        words = f"Make it {step_words(judged.steps)} {turn}{_by(turn, medium)}."
        return Move(cell=cell.id, words=words)
    if is_wash(cell, paints.binder.dry):
        return Move(cell=cell.id, words=_of_wash(judged, paints.binder))
    if len(cell.parts) == 1:
        tube = cell.parts[0].tube.label
        words = f"Start again with {tube} as it comes, from a clean brush."
        return Move(cell=cell.id, words=words)
    found = _best(_as_mixed(judged, cell), cell, band, kind, paints)
    if found.is_there:
        return None
    if found.add is None:
        return Move(cell=cell.id, words=_again(cell))
    return Move(cell=cell.id, words=f"{opening(say_addition(found))}.", addition=found)


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


def _as_mixed(judged: CellJudgement, cell: AskedCell) -> Triple:
    """Give the painted colour as these paints would have to show it, whatever the key."""
    moved = np.array(cell.lab) + np.array(judged.painted_lab) - np.array(judged.expected_lab)
    lightness, a, b = moved.tolist()
    return (lightness, a, b)


def _again(cell: AskedCell) -> str:
    """Say to start again, the lightest tube first."""
    parts = sorted(cell.parts, key=lambda part: -float(lab_of_parts([part])[0]))
    tubes = [part.tube.label for part in parts]
    return (
        f"Start again from {tubes[0]} and bring in {' and '.join(tubes[1:])}: "
        f"{say_parts(cell.parts)}."
    )


def _of_wash(judged: CellJudgement, binder: Binder) -> str:
    if judged.drift > 0.0:
        return "Lay another thin wash over it when it is dry."
    if binder is Binder.WATERCOLOUR:
        return "Start again with more water: a wash can be darkened, not lightened."
    return "Start again and brush it out thinner."


def _by(turn: str, medium: Medium) -> str:
    if medium.is_dry:
        return ", with another thin layer" if turn == "darker" else ", by lifting some off"
    if turn == "darker":
        return ", with a touch more black"
    return ": start again from the lighter pile and bring in less black"
